/** Lines as they are drawn, and what edits of them are made of: cues of a crew's shots, lines by hand. */
import type { HandLine } from "../../lines/model";
import { compileBook } from "../../codes/book";
import { parseDescription } from "../../codes/parse";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "../../points/cue-edits";
import { findPoints, refOf, settledRef, type PointRef } from "../../points/refs";
import type { EditableChange, NamedChange, OneChange, PointsChange } from "../change/change";
import type { JobState } from "../model/model";
import { AS_IT_IS, passed } from "../model/references";
import { freeLineName } from "../../lines/names";

/** A line as it is drawn: by a crew's shots (`intake` ≥ 0) or by hand. */
export interface DrawnLine {
  code: string;
  run: string;
  intake: number;
  shots: readonly number[];
  /** What each shot's element says, and what steers each shot. */
  cues: readonly string[];
  steering?: readonly string[];
  closed: boolean;
  hand?: string;
  companion?: unknown;
}

export type LineEdit = { change: EditableChange } | { refused: string };
export type One = OneChange;

export interface CueStep {
  row: number;
  add?: string[];
  remove?: string[];
}

/**
 * The change that adds and takes away cues of shots in one line drawn by a crew; several steps at one shot are one edit
 * of it.
 */
export function cueChange(
  job: JobState,
  line: Pick<DrawnLine, "code" | "run">,
  steps: readonly CueStep[],
): PointsChange {
  const t = job.points,
    element = line.code + line.run,
    said = new Map<number, CueEdit[]>();
  for (const { row, add, remove } of steps) {
    const before = said.get(row) ?? decodeCueEdits(t.texts[t.cues[row]!]!);
    said.set(row, [...before, { element, ...(add?.length ? { add } : {}), ...(remove?.length ? { remove } : {}) }]);
  }
  return {
    type: "points",
    edits: [...said].map(([row, cues]) => ({
      id: t.id[row]!,
      field: "cues" as const,
      old: t.texts[t.cues[row]!]!,
      new: encodeCueEdits(cues),
    })),
  };
}

export const several = (text: string, ...changes: One[]): LineEdit => ({
  change: changes.length === 1 ? changes[0]! : { type: "several", text, changes },
});
export const named = (old: HandLine | null, next: HandLine | null): NamedChange => ({
  type: "named",
  part: "lines",
  name: (old ?? next)!.name!,
  old,
  new: next,
});
export const gone = (job: JobState, line: HandLine): NamedChange => ({
  ...named(line, null),
  at: job.lines.indexOf(line),
});
export const refsOf = (job: JobState, line: Pick<DrawnLine, "shots">): PointRef[] =>
  line.shots.map((i) => refOf(job.points, job.intakes, i));

/** A line by hand whose points are referred to as `refsOf` does, so that what is said of them is found. */
export const settled = (job: JobState, hand: HandLine): HandLine =>
  passed("lines", hand, { ...AS_IT_IS, point: settledRef(job.points, job.intakes) });

export function handOf(job: JobState, line: DrawnLine): HandLine | undefined {
  return line.hand === undefined ? undefined : job.lines.find((l) => l.name === line.hand);
}

/** What a line drawn by hand, known by its name, says at the shot of a row. */
export function cuesByHand(job: Pick<JobState, "lines" | "points" | "intakes">): (name: string, row: number) => string {
  const { rowOf } = findPoints(job.points, job.intakes),
    known = new Map<string, ReadonlyMap<number, string>>();
  return (name, row) => {
    let said = known.get(name);
    if (!said) {
      const cues = job.lines.find((l) => l.name === name)?.cues ?? {};
      known.set(name, (said = new Map(Object.entries(cues).map(([ref, words]) => [rowOf(ref), words]))));
    }
    return said.get(row) ?? "";
  };
}

export const NO_PARALLEL = "A parallel follows its line; change that one, or its distance in the code book.";

/** What takes a line away: its name, or `lone` at each of its shots that carries the line's element. */
export function without(job: JobState, line: DrawnLine): One[] {
  const hand = handOf(job, line);
  if (hand) return [gone(job, hand)];
  // Points that another line brought in have no element of it.
  const own = ownShots(job, line).filter((i) => carries(job, job.points.texts[job.points.description[i]!]!, line));
  return [
    cueChange(
      job,
      line,
      own.map((row) => ({ row, add: ["lone"] })),
    ),
  ];
}

/** The line as one by hand, and what takes the present one away. */
export function asHand(job: JobState, line: DrawnLine): { hand: HandLine; without: One[] } {
  const hand = handOf(job, line);
  if (hand) return { hand: settled(job, hand), without: [gone(job, hand)] };
  const points = refsOf(job, line),
    cues: Record<string, string> = {};
  line.shots.forEach((_, k) => {
    const off =
      line.cues[k]?.split(" ").filter((w) => w.startsWith("off=") || w.startsWith("box=") || w === "quad") ?? [];
    const words = [line.steering?.[k] ?? "", ...off].filter(Boolean).join(" ");
    if (words) cues[points[k]!] = words;
  });
  return {
    hand: {
      name: freeLineName(new Set(job.lines.map((l) => l.name))),
      code: line.code + line.run,
      points,
      ...(Object.keys(cues).length ? { cues } : {}),
      // An area closes by itself, as its code says; corners that are made close it too.
      ...(line.cues.at(-1)?.split(" ").includes("loop") ? { closed: true } : {}),
    },
    without: without(job, line),
  };
}

export function reversedHand(job: JobState, line: DrawnLine): { hand: HandLine; without: One[] } | { refused: string } {
  if (line.companion) return { refused: NO_PARALLEL };
  const { hand, without: away } = asHand(job, line),
    { points } = hand;
  const says = (ref: PointRef) => (hand.cues?.[ref] ?? "").split(/\s+/).filter(Boolean);
  if (points.some((p) => says(p).some((w) => w === "swing")))
    return {
      refused: "An arc by “swing” takes its direction from the piece before it, which another direction would change.",
    };
  if (points.some((p) => says(p).some((w) => w === "quad" || w.startsWith("box="))))
    return { refused: "Its corners were made by its cues, which need this direction." };
  const cues: Record<string, string> = {};
  let flowing: number | undefined;
  const add = (k: number, word: string) =>
    (cues[points[k]!] = [...(cues[points[k]!] ?? "").split(" ").filter(Boolean), word].join(" "));
  points.forEach((p, k) => {
    for (const w of says(p)) {
      if (w === "via") add(k, w);
      else if (w.startsWith("off=")) {
        const [right, ...more] = w.slice(4).split(",");
        add(k, `off=${[-Number(right), ...more].join(",")}`);
      } else if (w === "still" && flowing !== undefined) {
        add(k, "flow");
        if (flowing > 0) add(flowing, "still");
        flowing = undefined;
      } else if (w === "flow" && flowing === undefined) flowing = k;
    }
  });
  if (flowing !== undefined && (line.closed || flowing < points.length - 1)) {
    // A curve that was not ended runs on to the line's end; of a closed line to its first shot.
    add(line.closed ? 0 : points.length - 1, "flow");
    if (flowing > 0) add(flowing, "still");
  }
  const { cues: _, ...rest } = hand;
  // A closed line keeps its first shot, so that a curve over its closing stays one.
  const turned = line.closed ? [points[0]!, ...points.slice(1).reverse()] : points.slice().reverse();
  return { hand: { ...rest, points: turned, ...(Object.keys(cues).length ? { cues } : {}) }, without: away };
}

/** The shots of the line itself, each once: not an end that it only comes from or goes on to, which is another line's. */
export function ownShots(job: JobState, line: DrawnLine): number[] {
  const from = cueOfEnd(job, line, "first") ? 1 : 0,
    to = line.shots.length - (cueOfEnd(job, line, "last") ? 1 : 0);
  return [...new Set(line.shots.slice(from, to))];
}

/** Whether a description, or one element of it, is of the line. */
export function carries(job: JobState, text: string, line: Pick<DrawnLine, "code" | "run">): boolean {
  return parseDescription(text, compileBook(job.book)).elements.some((e) => e.code === line.code && e.run === line.run);
}

/** The cue, on the shot beside an end of the line, by which it only comes from that end's point or goes on to it. */
export function cueOfEnd(
  job: JobState,
  line: DrawnLine,
  end: "first" | "last",
): { row: number; cue: string } | undefined {
  const k = end === "first" ? 1 : line.shots.length - 2,
    beside = line.shots[k],
    at = line.shots.at(end === "first" ? 0 : -1);
  if (beside === undefined || at === undefined || line.shots.length < 2) return undefined;
  const cue = `${end === "first" ? "from" : "to"}=${job.points.number[at]}`;
  return line.cues[k]?.split(" ").includes(cue) ? { row: beside, cue } : undefined;
}
