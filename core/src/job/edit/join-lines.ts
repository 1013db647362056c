/** Two lines joined into one, at the ends that lie nearest or at others that a person chooses. */
import { nameGoesOn } from "./line-names";
import {
  asHand,
  cueChange,
  named,
  NO_PARALLEL,
  reversedHand,
  several,
  type DrawnLine,
  type LineEdit,
  type One,
} from "./drawn-lines";
import type { JobState } from "../model/model";
import { freeLineName } from "../../lines/names";

type End = "first" | "last";

/** Where two lines meet when they are joined. */
export interface Joint {
  /** Which end of the first line, and of the second. */
  of: End;
  to: End;
  /** Table rows of the shots at these ends. */
  rows: readonly [number, number];
  /** Plan distance between them, in the job's unit. */
  apart: number;
}

/** The four ways, those that need no turning first. */
const WAYS: readonly (readonly [End, End])[] = [
  ["last", "first"],
  ["last", "last"],
  ["first", "last"],
  ["first", "first"],
];

/** All ways to join two open lines, those whose ends lie nearest first; none where one of them has no end. */
export function jointsOf({ points: t }: JobState, first: DrawnLine, second: DrawnLine): Joint[] {
  if (first.closed || second.closed || first.shots.length === 0 || second.shots.length === 0) return [];
  const shot = (line: DrawnLine, end: End) => (end === "first" ? line.shots[0]! : line.shots.at(-1)!);
  return WAYS.map(([of, to]): Joint => {
    const [a, b] = [shot(first, of), shot(second, to)];
    return { of, to, rows: [a, b], apart: Math.hypot(t.e[a]! - t.e[b]!, t.n[a]! - t.n[b]!) };
  }).sort((a, b) => a.apart - b.apart);
}

/**
 * Two lines made one, of the first one's code, at a joint; at the ends that lie nearest where none is given. Two lines of
 * one crew and one code by a cue where neither must be turned; else as one line by hand.
 */
export function joinLines(job: JobState, first: DrawnLine, second: DrawnLine, joint?: Joint): LineEdit {
  if (first.companion || second.companion) return { refused: NO_PARALLEL };
  if (first.closed || second.closed) return { refused: "A closed line has no end to join; open it first." };
  const at = joint ?? jointsOf(job, first, second)[0];
  if (!at) return { refused: "A line without shots cannot be joined." };
  if (!first.hand && !second.hand && first.intake === second.intake) {
    if (at.of === "last") return byCue(job, first, second, at.to);
    if (at.to === "last" && first.code === second.code) return byCue(job, second, first, "first");
  }
  return byHand(job, first, second, at);
}

/** A crew's line goes on with another from its last shot. */
function byCue(job: JobState, one: DrawnLine, other: DrawnLine, end: End): LineEdit {
  const t = job.points,
    last = one.shots.at(-1)!,
    to = end === "first" ? other.shots[0]! : other.shots.at(-1)!,
    next = other.shots[1],
    from = `from=${t.number[last]}`;
  // What was split at a shot is one again without the cues that split it.
  if (to === last && end === "first" && next !== undefined && other.cues[1]?.split(" ").includes(from))
    return {
      change: cueChange(job, one, [
        { row: last, remove: ["end", "to"] },
        { row: next, remove: ["new", from] },
      ]),
    };
  return { change: cueChange(job, one, [{ row: last, add: [`join=${t.number[to]}`], remove: ["end", "to"] }]) };
}

function byHand(job: JobState, first: DrawnLine, second: DrawnLine, { of, to }: Joint): LineEdit {
  // The first keeps its direction; the second is turned where both end, or both begin, at the joint.
  const one = asHand(job, first),
    other = of === to ? reversedHand(job, second) : asHand(job, second);
  if ("refused" in other) return other;
  const lists = [one.hand.points, other.hand.points] as const,
    [before, after] = of === "last" ? lists : [lists[1], lists[0]],
    // Where both meet at one shot it is there once.
    list = [...before, ...(before.at(-1) === after[0] ? after.slice(1) : after)];
  // The second is taken away when the first has gone already.
  const row = (c: One[]) => (c[0]?.type === "named" ? (c[0].at ?? -1) : -1),
    earlier = row(one.without),
    others = other.without.map((c): One =>
      c.type === "named" && earlier >= 0 && c.at! > earlier ? { ...c, at: c.at! - 1 } : c,
    );
  const name = freeLineName(new Set(job.lines.map((l) => l.name))),
    calledFirst = nameGoesOn(job, first, { hand: name });
  return several(
    `${first.code}${first.run} and ${second.code}${second.run} joined`,
    ...one.without,
    ...others,
    named(null, { ...one.hand, name, points: list, cues: { ...other.hand.cues, ...one.hand.cues } }),
    ...(calledFirst.length ? calledFirst : nameGoesOn(job, second, { hand: name })),
  );
}
