/**
 * Office edits of lines (FIELD-CODES.md, "Office edits are cues too"): every one is a change of cues or of a line drawn
 * by hand, so that it is kept in the ledger, undone, and carried out again on corrected data. What cannot be done is
 * told in a sentence.
 */
import type { HandLine } from "../../lines/model";
import { refOf, type PointRef } from "../../points/refs";
import type { JobState } from "../model/model";
import { freeLineName } from "../../lines/names";
import { nameGoesOn } from "./line-names";
import {
  cueChange,
  handOf,
  named,
  NO_PARALLEL,
  refsOf,
  reversedHand,
  settled,
  several,
  without,
  type CueStep,
  type DrawnLine,
  type LineEdit,
} from "./drawn-lines";

/** A line drawn by hand: made new, or in the place of the one of its name. */
export function keepHandLine(job: JobState, line: HandLine): LineEdit {
  const old = job.lines.find((l) => l.name === line.name) ?? null;
  return { change: named(old, { ...line, name: line.name ?? freeLineName(new Set(job.lines.map((l) => l.name))) }) };
}

/** A line drawn by hand as several, one for each stretch of its points; the first of them takes the name that it has. */
export function keepStretches(
  job: JobState,
  line: HandLine,
  stretches: readonly (readonly [from: number, to: number])[],
): LineEdit {
  const taken = new Set(job.lines.map((l) => l.name)),
    old = job.lines.find((l) => l.name === line.name) ?? null,
    { cues, ...rest } = line;
  const lines = stretches.map(([from, to], k): HandLine => {
    const points = line.points.slice(from, to),
      own = Object.fromEntries(Object.entries(cues ?? {}).filter(([ref]) => points.includes(ref))),
      name = k === 0 && line.name !== undefined ? line.name : freeLineName(taken);
    taken.add(name);
    return { ...rest, name, points, ...(Object.keys(own).length ? { cues: own } : {}) };
  });
  return several(
    `${line.code} drawn in ${lines.length} stretches`,
    ...lines.map((l, k) => named(k === 0 ? old : null, l)),
  );
}

/**
 * Ends the line at its k-th shot; the rest is a line of its own. Both meet at that shot, so that no piece is lost; with
 * `gap` the rest begins at the next shot.
 */
export function splitLine(job: JobState, line: DrawnLine, k: number, gap = false): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (line.closed) return { refused: "A closed line has no two ends; open it first." };
  if (k < 1 || k > line.shots.length - (gap ? 3 : 2)) return { refused: "Each part needs two shots at least." };
  const hand = handOf(job, line);
  if (!hand)
    return {
      change: cueChange(job, line, [
        { row: line.shots[k]!, add: ["end"], remove: ["to", "join"] },
        { row: line.shots[k + 1]!, add: gap ? ["new"] : ["new", `from=${job.points.number[line.shots[k]!]}`] },
      ]),
    };
  const points = refsOf(job, line),
    own = settled(job, hand),
    name = freeLineName(new Set(job.lines.map((l) => l.name)));
  return several(
    `${line.code}${line.run} split ${gap ? "after" : "at"} ${job.points.number[line.shots[k]!]}`,
    named(hand, { ...own, points: points.slice(0, k + 1) }),
    named(null, { ...own, name, points: points.slice(gap ? k + 1 : k) }),
  );
}

export function closeLine(job: JobState, line: DrawnLine, closed: boolean): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (closed && line.shots.length < 3)
    return { refused: "A line of fewer than three shots cannot return to its first." };
  const hand = handOf(job, line),
    last = line.shots.at(-1)!;
  if (hand) {
    const { closed: _, ...open } = hand;
    return { change: named(hand, closed ? { ...open, closed: true } : withoutCue(open, "loop")) };
  }
  if (!closed && !line.cues.at(-1)?.split(" ").includes("loop"))
    return { refused: "It closes by its code or its corners: give it the code of a line instead." };
  return {
    change: cueChange(job, line, [
      closed
        ? { row: last, add: ["loop"], remove: ["end", "to", "join"] }
        : { row: last, add: ["end"], remove: ["loop"] },
    ]),
  };
}

/** A line by hand with one cue more at a point. */
const withCue = (line: HandLine, at: PointRef, cue: string): HandLine => ({
  ...line,
  cues: { ...line.cues, [at]: [line.cues?.[at], cue].filter(Boolean).join(" ") },
});

function withoutCue(line: HandLine, cue: string): HandLine {
  const cues = Object.fromEntries(
    Object.entries(line.cues ?? {})
      .map(([n, words]) => [
        n,
        words
          .split(/\s+/)
          .filter((w) => w !== cue)
          .join(" "),
      ])
      .filter(([, w]) => w),
  );
  const { cues: _, ...rest } = line;
  return Object.keys(cues).length ? { ...rest, cues } : rest;
}

/** The shots stay points; the line is drawn no more. */
export function removeLine(job: JobState, line: DrawnLine): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  return several(`Line ${line.code}${line.run} removed`, ...without(job, line));
}

/** The same line from its other end; parallels stay on their side. */
export function reverseLine(job: JobState, line: DrawnLine): LineEdit {
  const turned = reversedHand(job, line);
  return "refused" in turned
    ? turned
    : several(
        `${line.code}${line.run} reversed`,
        ...(line.hand
          ? [named(handOf(job, line)!, turned.hand)]
          : [...turned.without, named(null, turned.hand), ...nameGoesOn(job, line, { hand: turned.hand.name! })]),
      );
}

/** A parallelogram from three corners, or a rectangle of a width to the right from two. */
export function completeLine(job: JobState, line: DrawnLine, width?: number): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const needs = width === undefined ? 3 : 2;
  const made = line.cues.some((c) => /(^| )(quad|box=)/.test(c));
  // An area returns to its first shot by its code; it is completed all the same.
  if ((line.closed && (made || line.shots.length !== 3)) || line.shots.length !== needs)
    return {
      refused:
        width === undefined
          ? "A parallelogram is completed from exactly three corners."
          : "A rectangle is completed from exactly two corners.",
    };
  if (width !== undefined && !(Number.isFinite(width) && width !== 0))
    return { refused: "The width is a length other than zero; to the left it is negative." };
  const last = line.shots.at(-1)!,
    cue = width === undefined ? "quad" : `box=${width}`,
    hand = handOf(job, line);
  if (!hand) return { change: cueChange(job, line, [{ row: last, add: [cue], remove: ["end", "loop"] }]) };
  const { closed: _, ...open } = withoutCue(settled(job, hand), "loop");
  return { change: named(hand, withCue(open, refOf(job.points, job.intakes, last), cue)) };
}

/** A parallel of the line at a distance to the right (negative: left) and up, drawn as another code if one is given. */
export function addParallel(job: JobState, line: DrawnLine, right: number, up: number, code?: string): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (!Number.isFinite(right) || right === 0 || !Number.isFinite(up))
    return { refused: "The distance is a length other than zero; to the left it is negative." };
  const cue = `off=${right},${up}${code ? `,${code.toUpperCase()}` : ""}`,
    first = line.shots[0]!,
    hand = handOf(job, line);
  if (!hand) return { change: cueChange(job, line, [{ row: first, add: [cue] }]) };
  return { change: named(hand, withCue(settled(job, hand), refOf(job.points, job.intakes, first), cue)) };
}

/**
 * Ends the line at a point of the job that lies on its piece after the k-th shot: what comes before it stays, or what
 * comes after.
 */
export function trimLine(
  job: JobState,
  line: DrawnLine,
  k: number,
  at: { number: string; ref: PointRef },
  keep: "before" | "after",
): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (line.closed) return { refused: "A closed line is opened before it is trimmed." };
  if (k < 0 || k > line.shots.length - 2) return { refused: "The line has no piece between two of its shots there." };
  const steered = [k, k + 1].some((j) => line.steering?.[j]);
  if (steered)
    return { refused: "The crossing lies on an arc or a smooth curve, whose shape hangs on the shots beyond it." };
  const hand = handOf(job, line),
    refs = refsOf(job, line);
  if (hand)
    return {
      change: named(hand, {
        ...settled(job, hand),
        points: keep === "before" ? [...refs.slice(0, k + 1), at.ref] : [at.ref, ...refs.slice(k + 1)],
      }),
    };
  const gone = keep === "before" ? line.shots.slice(k + 1) : line.shots.slice(0, k + 1);
  const edge: CueStep =
    keep === "before"
      ? { row: line.shots[k]!, add: [`to=${at.number}`], remove: ["end", "join"] }
      : { row: line.shots[k + 1]!, add: ["new", `from=${at.number}`] };
  return { change: cueChange(job, line, [edge, ...gone.map((row) => ({ row, add: ["lone"] }))]) };
}
