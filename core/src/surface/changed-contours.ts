/** Which contours became others: for showing a change before it is made. */
import type { Contours } from "./contour";

/** The lines of `now` that `was` has not, as ways (E, N, E, N …), until they have so many vertices. */
export function changedContours(was: readonly Contours[], now: readonly Contours[], most: number): number[][] {
  const had = new Set<string>();
  for (const c of was) for (let k = 0; k < c.level.length; k++) had.add(keyOf(c, k));
  const ways: number[][] = [];
  let left = most;
  for (const c of now) {
    for (let k = 0; k < c.level.length; k++) {
      if (had.has(keyOf(c, k))) continue;
      const way: number[] = [];
      for (let v = c.starts[k]!; v < c.starts[k + 1]!; v++)
        way.push(c.origin[0] + c.xy[2 * v]!, c.origin[1] + c.xy[2 * v + 1]!);
      left -= way.length / 2;
      if (left < 0) return ways;
      ways.push(way);
    }
  }
  return ways;
}

/** Two sums over the bits of a line's vertices, its level and its origin: alike for the same line only. */
function keyOf({ origin, level, starts, xy }: Contours, k: number): string {
  const [from, to] = [2 * starts[k]!, 2 * starts[k + 1]!],
    bits = new Uint32Array(xy.buffer, xy.byteOffset + 8 * from, 2 * (to - from));
  let [a, b] = [0x811c9dc5, 0x9747b28c];
  for (let i = 0; i < bits.length; i++) {
    a = Math.imul(a ^ bits[i]!, 0x01000193);
    a ^= a >>> 15;
    b = Math.imul(b ^ bits[i]!, 0x85ebca6b);
    b ^= b >>> 13;
  }
  return `${level[k]} ${origin[0]} ${origin[1]} ${to - from} ${a} ${b}`;
}
