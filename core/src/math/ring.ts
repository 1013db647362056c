/** Positions within rings of the plan. */
import { side } from "./predicates";

/** Whether a position is inside a ring or on it; decided exactly. */
export function insideRing(ring: readonly (readonly [number, number])[], e: number, n: number): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [ae, an] = ring[j]!,
      [be, bn] = ring[i]!;
    const turn = side(ae, an, be, bn, e, n);
    if (turn === 0 && e >= Math.min(ae, be) && e <= Math.max(ae, be) && n >= Math.min(an, bn) && n <= Math.max(an, bn))
      return true;
    if (an > n !== bn > n && turn > 0 === bn > an) inside = !inside;
  }
  return inside;
}
