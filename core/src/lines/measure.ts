/** Lengths and area of pieces, arcs and curves exactly. */
import { Sum } from "../math/sum";
import { curveLengths, curveSegment } from "./curve";
import type { Piece } from "./model";

/** Plan length along a piece. */
export function planLength(p: Piece): number {
  if (p.type === "curve") return curveLengths(p)[0];
  return p.type === "arc" ? p.radius * Math.abs(p.sweep) : Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1]);
}

/** Length along the slope; levels run linearly along an arc between the levels known. NaN when one is not known. */
export function slopeLength(p: Piece): number {
  if (p.type === "straight") return Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1], p.to[2] - p.from[2]);
  if (p.type === "curve") return curveLengths(p)[1];
  const plan = planLength(p);
  let sum = 0;
  for (let i = 1; i < p.levels.length; i++) {
    const a = p.levels[i - 1]!,
      b = p.levels[i]!;
    sum += Math.hypot(plan * (b.share - a.share), b.level - a.level);
  }
  return sum;
}

/** Plan and slope length of pieces one after another. */
export function lengthsOf(pieces: readonly Piece[]): [plan: number, slope: number] {
  const plan = new Sum(),
    slope = new Sum();
  for (const p of pieces) {
    // Of a curve both come from one count.
    const [flat, steep] = p.type === "curve" ? curveLengths(p) : [planLength(p), slopeLength(p)];
    plan.add(flat);
    slope.add(steep);
  }
  return [plan.value, slope.value];
}

/** Area inside a ring of pieces: the chords' polygon and the segment of each arc and curve. Always ≥ 0. */
export function enclosedArea(pieces: readonly Piece[]): number {
  const [oe, on] = pieces[0]!.from;
  const twice = new Sum();
  for (const p of pieces) {
    const ae = p.from[0] - oe,
      an = p.from[1] - on,
      be = p.to[0] - oe,
      bn = p.to[1] - on;
    twice.add(ae * bn - be * an);
    // Turning right the segment lies left of the chord: it counts against a ring that runs left.
    if (p.type === "curve") twice.add(curveSegment(p));
    if (p.type === "arc") twice.add(-p.radius * p.radius * (p.sweep - Math.sin(p.sweep)));
  }
  return Math.abs(twice.value) / 2;
}
