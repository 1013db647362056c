/** Makes small jobs for tests by the way that the application takes: a recipe and the bytes of its files. */
import type { CodeEntry } from "../src/codes/model";
import { openRecipe, parseRecipe, type Recipe } from "../src/job/recipe/recipe";
import { Chain } from "../src/job/chain/chain";
import { summarizeFindings } from "../src/job/told/summary";
import type { Derived } from "../src/job/chain/values";
import { cuesByHand, type DrawnLine } from "../src/job/edit/drawn-lines";
import type { JobState } from "../src/job/model/model";
import { referringKept } from "../src/job/recipe/referred";
import type { HandLine, HandLineGiven } from "../src/lines/model";

export interface Row {
  number: string | number;
  e: number;
  n: number;
  z?: number;
  code?: string;
}

/** Rows as text in the order number, easting, northing, elevation, description; every double comes back as it was. */
export function csvOf(rows: readonly Row[]): string {
  const quoted = (s: string) => (/[",;#\n]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s);
  return rows.map((r) => `${r.number},${r.e},${r.n},${r.z ?? ""},${quoted(r.code ?? "")}`).join("\n");
}

export const CODES: CodeEntry[] = [
  { code: "SPOT", name: "Spot level" },
  { code: "HEDGE", name: "Hedge", kind: "line" },
  { code: "TOP", name: "Top of bank", kind: "line", breakline: "fixed" },
  { code: "TOE", name: "Toe of bank", kind: "line", breakline: "fixed" },
  { code: "PATH", name: "Path edge", kind: "line", breakline: "draped" },
  { code: "BED", name: "Planting bed", kind: "area" },
  { code: "ROD", name: "Rod", ground: false },
  {
    code: "TREE",
    name: "Tree",
    ground: false,
    attributes: [
      { name: "spread", type: "number", unit: "m", required: true },
      { name: "height", type: "number" },
      { name: "kind", type: "text" },
    ],
  },
];

export function stateOf(rows: readonly Row[], more: Partial<Recipe> = {}): JobState {
  return stateOfText(csvOf(rows), more);
}

export function stateOfText(text: string, more: Partial<Recipe> = {}): JobState {
  const recipe: Recipe = {
    recipe: 1,
    codeBook: { codes: CODES },
    intakes: [
      {
        id: "day1",
        file: "day1.csv",
        layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
      },
    ],
    ...more,
  };
  const checked = parseRecipe(JSON.stringify(recipe), "recipe.json");
  return openRecipe(checked, () => new TextEncoder().encode(text)).state;
}

export function derive(rows: readonly Row[], more: Partial<Recipe> = {}): { state: JobState; derived: Derived } {
  const state = stateOf(rows, more);
  return { state, derived: runOf(state) };
}

const stateOfRun = new WeakMap<Derived, JobState>();

export function runOf(state: JobState): Derived {
  const derived = new Chain().run(state);
  stateOfRun.set(derived, state);
  return derived;
}

/**
 * All findings of what derive() or runOf() made, in words: points by their numbers, lines by their indices in the list.
 */
export function told(derived: Derived) {
  return summarizeFindings(derived.findings, stateOfRun.get(derived)!.points, derived.lines);
}

/** Findings of one kind. */
export function found(derived: Derived, kind: string) {
  return told(derived).filter((f) => f.kind === kind);
}

/** A line of a job as an edit takes it: its shots with the cues of each. */
export function shown(s: JobState, k = 0): DrawnLine {
  const d = runOf(s),
    l = d.lines[k]!;
  const said = cuesByHand(s);
  const own = (i: number) =>
    d.coded.parsed[d.coded.description[i]!]!.elements.find((e) => e.code === l.code && e.run === l.run)
      ?.cues.map((c) => (c.value === undefined ? c.action : `${c.action}=${c.value}`))
      .join(" ") ?? "";
  return { ...l, cues: l.shots.map((i) => (l.hand === undefined ? own(i) : said(l.hand, i))) };
}

/** A line by hand of a job, said as a recipe says it. */
export const givenLine = (s: JobState, line: HandLineGiven): HandLine =>
  referringKept({ lines: [line], names: [], sets: [], surfaces: [], added: [] }, s).lines[0]!;
