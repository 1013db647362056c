/** Which points the table shows, and in which order. */
import { KINDS, type JobState, type SetRule } from "@bramble/core";
import { wildcard } from "@bramble/core/math/words";
import { filterWords } from "@bramble/core/points/filter";
import { compareNumbers } from "@bramble/core/points/numbers";
import type { PointRef } from "@bramble/core/points/refs";
import type { View } from "../../lib/view";
import { attributeNames, attributeText } from "@bramble/core/job/edit/attributed";
import type { Column, TableData } from "./columns";

export interface RowFilter {
  text: string;
  /** A code, or * for every one. */
  code: string;
  /** The key of an intake, or *. */
  intake: string;
  only: "all" | "findings" | "selected";
  /** Conditions as a set has them. */
  rule?: SetRule;
}

export const EVERY_POINT: RowFilter = { text: "", code: "*", intake: "*", only: "all" };

export interface Rows {
  /** Rows of the table of points. */
  rows: Int32Array;
  /** Words of the filter that no point is like. */
  missing: string[];
}

/** `ruled`: the rows that the filter's rule takes, deleted ones too where it asks for them. */
export function filterRows(
  job: JobState,
  view: View,
  f: RowFilter,
  selected: ReadonlySet<number>,
  ruled?: Int32Array,
): Rows {
  const t = job.points,
    words = filterWords(f.text),
    hits = words.map(() => 0);
  const found =
    f.only === "findings"
      ? new Set(view.findings.flatMap((x) => (x.accepted === undefined ? x.points : [])))
      : undefined;
  const code = f.code === "*" ? -1 : view.codes.indexOf(f.code),
    intake = f.intake === "*" ? -1 : job.intakes.findIndex((k) => k.id === f.intake);
  const rows = new Int32Array(t.count),
    named: number[] = [];
  let count = 0;
  for (let k = 0; k < (ruled?.length ?? t.count); k++) {
    const i = ruled ? ruled[k]! : k;
    if (!ruled && t.deleted[i]) continue;
    if (f.code !== "*" && view.code[i] !== code) continue;
    if (f.intake !== "*" && t.intake[i] !== intake) continue;
    if (found && !found.has(t.id[i]!)) continue;
    if (f.only === "selected" && !selected.has(t.id[i]!)) continue;
    if (words.length) {
      const number = t.number[i]!,
        itsCode = view.codes[view.code[i] ?? 0] ?? "",
        description = t.texts[t.description[i]!]!;
      let any = false;
      words.forEach((w, m) => {
        if (!w.means(number, itsCode, description)) return;
        hits[m]!++;
        any = true;
      });
      if (!any) continue;
      if (words.length === 1 && words[0]!.isNamed(number)) {
        named.push(i);
        continue;
      }
    }
    rows[count++] = i;
  }
  // The very point that is named comes first.
  const rest = rows.subarray(0, count);
  const all = named.length ? Int32Array.from([...named, ...rest]) : rest.slice();
  return { rows: all, missing: words.length > 1 ? words.filter((_, k) => hits[k] === 0).map((w) => w.text) : [] };
}

/** A column that the table is sorted by. */
export interface Sorted {
  key: string;
  down: boolean;
}

/**
 * The rows by columns, the first of them first: numbers by their size, texts as people sort point numbers; equal ones
 * stay as they were.
 */
export function sortRows(
  of: TableData,
  rows: Int32Array,
  columns: readonly Column[],
  sort: readonly Sorted[],
): Int32Array {
  const steps = sort.flatMap(({ key, down }) => {
    const by = columns.find((c) => c.key === key);
    if (!by) return [];
    const keys = Array.from(rows, (i) => by.sort(of, i)),
      turn = down ? -1 : 1;
    return typeof keys[0] === "string"
      ? [(a: number, b: number) => turn * compareNumbers(keys[a] as string, keys[b] as string)]
      : [(a: number, b: number) => turn * ((keys[a] as number) - (keys[b] as number) || 0)];
  });
  if (steps.length === 0) return rows;
  const order = Int32Array.from(rows.keys());
  order.sort((a, b) => {
    for (const step of steps) {
      const one = step(a, b);
      if (one !== 0) return one;
    }
    return a - b;
  });
  return order.map((k) => rows[k]!);
}

/** What a click on a heading makes of the sorting: up, down, none; with `more` the other columns stay. */
export function sortedBy(sort: readonly Sorted[], key: string, more: boolean): Sorted[] {
  const now = sort.find((s) => s.key === key),
    next = !now ? { key, down: false } : now.down ? undefined : { key, down: true };
  if (!more) return next ? [next] : [];
  if (!now) return [...sort, next!];
  return sort.flatMap((s) => (s.key !== key ? [s] : next ? [next] : []));
}

/** The filter as the rule of a set; `selected` are the points selected. Words that name nothing by a rule are left out. */
export function ruleOfFilter(f: RowFilter, selected: readonly PointRef[], kinds: readonly string[]): SetRule {
  const parts: SetRule[] = [];
  const words = filterWords(f.text).map((w): SetRule => {
    if (w.numbers !== undefined) return { numbers: w.numbers };
    const like = /[*?]/.test(w.text) ? w.text : `*${w.text}*`;
    return { any: [{ numbers: [w.text] }, { codes: [/[*?]/.test(w.text) ? w.text : like] }, { text: like }] };
  });
  if (words.length) parts.push(words.length === 1 ? words[0]! : { any: words });
  if (f.code !== "*") parts.push({ codes: [f.code] });
  if (f.intake !== "*") parts.push({ intake: [f.intake] });
  if (f.only === "findings") parts.push({ finding: [...kinds] });
  if (f.only === "selected") parts.push({ points: [...selected] });
  if (f.rule) parts.push(...("all" in f.rule ? f.rule.all : [f.rule]));
  return { all: parts };
}

/** Columns beside number, code and description in which a word stands, with the rule that takes those points. */
export function elsewhere(of: TableData, text: string): { where: string; count: number; rule: SetRule }[] {
  const { job } = of,
    t = job.points,
    word = text.trim().toLowerCase();
  if (!word || /[,"]/.test(word)) return [];
  const like = /[*?]/.test(word) ? word : `*${word}*`,
    fits = wildcard(like),
    known = t.texts.map(fits);
  const counted = (where: string, rule: SetRule, has: (i: number) => boolean) => {
    let count = 0;
    for (let i = 0; i < t.count; i++) if (!t.deleted[i] && has(i)) count++;
    return { where, count, rule };
  };
  const intakes = job.intakes.map((k) => fits(k.id)),
    kinds = KINDS.map(fits);
  return [
    counted("the note", { text: like }, (i) => known[t.note[i]!]!),
    ...attributeNames(of).map((name) =>
      counted(name, { attribute: { name, is: like } }, (i) => {
        const is = attributeText(of, i, name);
        return is !== "" && fits(is);
      }),
    ),
    counted(
      "the intake",
      { intake: job.intakes.filter((_, k) => intakes[k]).map((k) => k.id) },
      (i) => intakes[t.intake[i]!] === true,
    ),
    counted("the kind", { kind: KINDS.filter((_, k) => kinds[k]) }, (i) => kinds[t.kind[i]!]!),
  ].filter((p) => p.count > 0);
}
