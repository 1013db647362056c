/** Edits of single shots of a line: taken out, inserted, steered (FIELD-CODES.md, "Office edits are cues too"). */
import { nameGoesOn } from "./line-names";
import { refOf } from "../../points/refs";
import { fieldValue } from "../../points/edits";
import type { JobState } from "../model/model";
import {
  asHand,
  carries,
  cueChange,
  cueOfEnd,
  handOf,
  named,
  NO_PARALLEL,
  refsOf,
  settled,
  several,
  type CueStep,
  type DrawnLine,
  type LineEdit,
} from "./drawn-lines";
import { withElement } from "./recode-line";

/**
 * The shot stays a point; the line goes past it. What others say of it is said of its neighbour then, so that the line
 * stays one.
 */
export function takeOutShot(job: JobState, line: DrawnLine, k: number): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const hand = handOf(job, line),
    t = job.points;
  if (hand) {
    const points = refsOf(job, line).filter((_, j) => j !== k);
    return points.length < 2
      ? { refused: "A line needs two shots; remove the line instead." }
      : { change: named(hand, { ...settled(job, hand), points }) };
  }
  // An end that belongs to another line is let go, and stays where it is there.
  const end =
    k === 0 ? cueOfEnd(job, line, "first") : k === line.shots.length - 1 ? cueOfEnd(job, line, "last") : undefined;
  if (end) return { change: cueChange(job, line, [{ row: end.row, remove: [end.cue] }]) };
  const number = t.number[line.shots[k]!]!,
    before = line.shots[k - 1],
    after = line.shots[k + 1];
  const steps: CueStep[] = [{ row: line.shots[k]!, add: ["lone"] }];
  line.shots.forEach((row, j) => {
    if (j === k) return;
    for (const [cue, neighbour] of [
      ["join", after],
      ["after", before],
    ] as const) {
      const said = `${cue}=${number}`;
      if (line.cues[j]!.split(" ").includes(said))
        steps.push({
          row,
          remove: [said],
          ...(neighbour !== undefined && neighbour !== row ? { add: [`${cue}=${t.number[neighbour]}`] } : {}),
        });
    }
  });
  return { change: cueChange(job, line, steps) };
}

/** A point becomes a shot of the line, right after its k-th; −1 for before its first. */
export function insertShot(job: JobState, line: DrawnLine, row: number, k: number): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const t = job.points,
    number = t.number[row]!,
    ref = refOf(t, job.intakes, row),
    hand = handOf(job, line);
  if (line.shots.includes(row)) return { refused: `Point ${number} belongs to this line already.` };
  if (hand) {
    const points = refsOf(job, line);
    points.splice(k + 1, 0, ref);
    return { change: named(hand, { ...settled(job, hand), points }) };
  }
  if (t.intake[row] !== line.intake || k < 0) {
    // A crew's line joins shots of its own delivery in its own order: any other point needs a line by hand.
    const one = asHand(job, line),
      points = one.hand.points.slice();
    points.splice(k + 1, 0, ref);
    return several(
      `${number} inserted into ${line.code}${line.run}`,
      ...one.without,
      named(null, { ...one.hand, points }),
      ...nameGoesOn(job, line, { hand: one.hand.name! }),
    );
  }
  const element = line.code + line.run,
    old = String(fieldValue(t, row, "description")),
    says = `${element} after=${t.number[line.shots[k]!]}`;
  if (carries(job, old, line))
    return {
      change: cueChange(job, line, [
        { row, add: [`after=${t.number[line.shots[k]!]}`], remove: ["lone", "new", "end"] },
      ]),
    };
  return {
    change: { type: "points", edits: [{ id: t.id[row]!, field: "description", old, new: withElement(old, says) }] },
  };
}

/** Other steering cues for a shot of the line, as words. */
export function steerShot(job: JobState, line: DrawnLine, k: number, words: string): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const hand = handOf(job, line);
  const before = line.cues[k]?.split(" ").filter(Boolean) ?? [],
    after = words.split(/\s+/).filter(Boolean);
  if (hand) {
    const { cues: said, ...rest } = settled(job, hand),
      ref = refOf(job.points, job.intakes, line.shots[k]!),
      { [ref]: _, ...others } = said ?? {},
      cues = after.length ? { ...others, [ref]: after.join(" ") } : others;
    return { change: named(hand, Object.keys(cues).length ? { ...rest, cues } : rest) };
  }
  return {
    change: cueChange(job, line, [
      {
        row: line.shots[k]!,
        add: after.filter((w) => !before.includes(w)),
        remove: before.filter((w) => !after.includes(w)),
      },
    ]),
  };
}
