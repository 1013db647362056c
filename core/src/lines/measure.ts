/** Lengths and area of pieces, arcs and curves exactly. */
import { Sum } from "../math/sum";
import { curveLength, curveSegment } from "./curve";
import type { Piece } from "./model";

/** Plan length along a piece. */
export function planLength(p: Piece): number {
  if (p.type === "curve") return curveLength(p, false);
  return p.type === "arc" ? p.radius * Math.abs(p.sweep) : Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1]);
}

/** Length along the slope; levels run linearly along an arc between the levels known. NaN when one is not known. */
export function slopeLength(p: Piece): number {
  if (p.type === "straight") return Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1], p.to[2] - p.from[2]);
  if (p.type === "curve") return curveLength(p, true);
  const plan = planLength(p);
  let sum = 0;
  for (let i = 1; i < p.levels.length; i++) {
    const a = p.levels[i - 1]!, b = p.levels[i]!;
    sum += Math.hypot(plan * (b.share - a.share), b.level - a.level);
  }
  return sum;
}

/** Area inside a ring of pieces: the chords' polygon and the segment of each arc and curve. Always ≥ 0. */
export function enclosedArea(pieces: readonly Piece[]): number {
  const [oe, on] = pieces[0]!.from;
  const twice = new Sum();
  for (const p of pieces) {
    const ae = p.from[0] - oe, an = p.from[1] - on, be = p.to[0] - oe, bn = p.to[1] - on;
    twice.add(ae * bn - be * an);
    // Turning right the segment lies left of the chord: it counts against a ring that runs left.
    if (p.type === "curve") twice.add(curveSegment(p));
    if (p.type === "arc") twice.add(-p.radius * p.radius * (p.sweep - Math.sin(p.sweep)));
  }
  return Math.abs(twice.value) / 2;
}
