/** A string of courses as points and a line through them: each point follows the one before it. */
import type { Corner } from "../../construct/courses/run";
import type { InPlan } from "../../construct/solve";
import { freeLineName, lineNamed, type LineName } from "../../lines/names";
import type { HandLine } from "../../lines/model";
import { azimuthOf } from "../../math/angles";
import type { PointRef } from "../../points/refs";
import type { OneChange, SeveralChange } from "../change/change";
import type { JobState } from "../model/model";
import { Making } from "./making";

export interface StringWanted {
  /** A point of the job, or a position at which one is made. */
  start: { point: PointRef; at: InPlan } | { at: InPlan };
  corners: readonly Corner[];
  /** Where it ends: at a corner of its own, at its start, or at a point of the job. */
  ends: "open" | "start" | { point: PointRef };
  /** Of the line, with its run. */
  code: string;
  /** What the line is called; "" for nothing. */
  name: string;
  /** Of the first point made; the others count on from it. */
  number: string;
  description: string;
}

interface Stand {
  at: InPlan;
  ref?: PointRef;
  isMiddle: boolean;
}

/** The positions of the string in their order; those without a reference are to be made. */
function standsOf({ start, corners, ends }: StringWanted): Stand[] {
  const out: Stand[] = [{ at: start.at, isMiddle: false, ...("point" in start ? { ref: start.point } : {}) }];
  corners.forEach(({ at, middle }, k) => {
    if (middle) out.push({ at: middle, isMiddle: true });
    const isLast = k === corners.length - 1;
    if (isLast && ends === "start") return;
    out.push({ at, isMiddle: false, ...(isLast && typeof ends === "object" ? { ref: ends.point } : {}) });
  });
  return out;
}

/** The points, what each follows, and the line, as one change of all of it; without ids it is a trial of how many it takes. */
export function stringMade(
  job: Pick<JobState, "points" | "intakes" | "lines" | "nextNumber" | "nextNumbers">,
  wanted: StringWanted,
  ids?: readonly number[],
): { change: SeveralChange; count: number } {
  const stands = standsOf(wanted),
    making = new Making(job, ids, wanted.number),
    { description } = wanted;
  let corner: { ref: PointRef; at: InPlan } | undefined;
  const refs = stands.map(({ at, ref: own, isMiddle }): PointRef => {
    const ref =
      own ??
      making.put(at, { description, ...(corner ? { by: { from: corner.ref, ...wayTo(corner.at, at) } } : {}) }).ref;
    if (!isMiddle) corner = { ref, at };
    return ref;
  });
  const cues = Object.fromEntries(refs.filter((_, k) => stands[k]!.isMiddle).map((ref) => [ref, "via"])),
    line: HandLine & { name: string } = {
      name: freeLineName(new Set(job.lines.map((l) => l.name))),
      code: wanted.code,
      points: refs,
      ...(Object.keys(cues).length ? { cues } : {}),
      ...(wanted.ends === "start" ? { closed: true } : {}),
    },
    called: LineName | undefined = wanted.name ? { line: { hand: line.name }, name: wanted.name } : undefined;
  const changes: OneChange[] = [
    ...making.changes(),
    { type: "named", part: "lines", name: line.name, old: null, new: line },
    ...(called
      ? [{ type: "named" as const, part: "names" as const, name: lineNamed(called.line), old: null, new: called }]
      : []),
  ];
  const text = `${wanted.name ? `“${wanted.name}”` : wanted.code} made of ${wanted.corners.length} courses`;
  return { change: { type: "several", text, changes }, count: making.count };
}

/** Azimuth in degrees and distance in plan. */
function wayTo([e1, n1]: InPlan, [e2, n2]: InPlan): { azimuth: number; distance: number } {
  return { azimuth: (azimuthOf(e1, n1, e2, n2) * 180) / Math.PI, distance: Math.hypot(e2 - e1, n2 - n1) };
}
