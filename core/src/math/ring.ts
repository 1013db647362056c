/** Rings of the plan: what is within, and whether their sides cross. */
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

export type Corner = readonly [number, number];

/** Whether two segments meet anywhere, ends and overlaps too; decided exactly. */
export function segmentsCross(a: Corner, b: Corner, c: Corner, d: Corner): boolean {
  const turns = [
    side(...a, ...b, ...c),
    side(...a, ...b, ...d),
    side(...c, ...d, ...a),
    side(...c, ...d, ...b),
  ] as const;
  if (turns[0] * turns[1] < 0 && turns[2] * turns[3] < 0) return true;
  const on = (p: Corner, q: Corner, x: Corner, turn: number) =>
    turn === 0 &&
    x[0] >= Math.min(p[0], q[0]) &&
    x[0] <= Math.max(p[0], q[0]) &&
    x[1] >= Math.min(p[1], q[1]) &&
    x[1] <= Math.max(p[1], q[1]);
  return on(a, b, c, turns[0]) || on(a, b, d, turns[1]) || on(c, d, a, turns[2]) || on(c, d, b, turns[3]);
}

/** Whether the side from b to c runs back over the one from a to b. */
export function doublesBack(a: Corner, b: Corner, c: Corner): boolean {
  const back = (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1]) < 0;
  return back && side(...a, ...b, ...c) === 0;
}

/** Whether the side of a ring from corner k to the next meets another side than at their common corner. */
export function sideMeetsOthers(ring: readonly Corner[], k: number): boolean {
  const n = ring.length,
    at = (i: number) => ring[(i + n) % n]!,
    [a, b] = [at(k), at(k + 1)];
  for (let j = k + 2; j < k + n - 1; j++) if (segmentsCross(a, b, at(j), at(j + 1))) return true;
  return doublesBack(at(k - 1), a, b) || doublesBack(a, b, at(k + 2));
}
