/** The corners that cues made of a building or a rectangle, as constructions that give the very same positions. */
import type { By, LevelBy } from "../../construct/model";
import type { Line } from "../../lines/model";
import { refOf } from "../../points/refs";
import type { JobState } from "../model/model";

export interface MadeCorner {
  at: [e: number, n: number, z: number];
  by: By;
  /** A rectangle's corner has the level of the shot that it stands beside; a parallelogram's is worked out once. */
  elevation?: number | LevelBy;
}

/** Of a line that has corners made by `quad` or `box`; none of other lines. */
export function madeCorners(line: Pick<Line, "pieces" | "shots" | "companion">, s: JobState): MadeCorner[] {
  if (line.companion) return [];
  const made = line.pieces.filter((p) => p.shots[0] === -1).map((p) => p.from),
    refs = line.shots.map((i) => refOf(s.points, s.intakes, i)),
    [a, b, c] = refs;
  if (made.length === 1 && a && b && c && refs.length === 3) {
    const [[e, n, z]] = made as [[number, number, number]];
    return [{ at: [e, n, z], by: { fourth: [a, b, c] }, ...(Number.isNaN(z) ? {} : { elevation: z }) }];
  }
  if (made.length !== 2 || !a || !b || refs.length !== 2) return [];
  const [e, n] = [s.points.e, s.points.n],
    [i, j] = line.shots as [number, number],
    [de, dn] = [e[j]! - e[i]!, n[j]! - n[i]!],
    [third, fourth] = made as [[number, number, number], [number, number, number]],
    width = ((third[0] - e[j]!) * dn - (third[1] - n[j]!) * de) / Math.hypot(de, dn);
  return [
    { at: third, by: { rectangle: [a, b], width, corner: 3 }, elevation: { of: b } },
    { at: fourth, by: { rectangle: [a, b], width, corner: 4 }, elevation: { of: a } },
  ];
}
