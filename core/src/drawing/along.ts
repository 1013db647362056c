/** A line's way on paper, in mm: where its marks stand, its parallel strokes, and positions along it. */
import type { LineStyle } from "./line-styles";

/** x, y, x, y, … of a chain of vertices. */
export type Way = Float64Array | readonly number[];

export interface OnWay {
  x: number;
  y: number;
  /** Direction, radians turning left from the x axis. */ angle: number;
}

export function wayLength(way: Way): number {
  let sum = 0;
  for (let i = 2; i < way.length; i += 2) sum += Math.hypot(way[i]! - way[i - 2]!, way[i + 1]! - way[i - 1]!);
  return sum;
}

/** Marks of one way that anybody could tell apart; what was typed a thousand times too far away has none. */
const MOST_MARKS = 200_000;

/**
 * Where marks of a style stand along the way; every second one is told apart. A way shorter than two marks takes one in
 * its middle, one of more than MOST_MARKS none.
 */
export function marksAlong(way: Way, style: LineStyle, each: (at: OnWay, second: boolean) => void): void {
  if (!style.marks) return;
  const { every, first = every / 2 } = style.marks,
    length = wayLength(way);
  if (length < 1e-9) return;
  if (length < first + every / 2) return positionsAlong(way, [length / 2], (at) => each(at, false));
  const count = Math.floor((length - first) / every + 1e-9) + 1;
  if (count > MOST_MARKS) return;
  positionsAlong(
    way,
    Array.from({ length: count }, (_, k) => first + k * every),
    (at, k) => each(at, k % 2 === 1),
  );
}

/** Positions at rising distances along the way. */
export function positionsAlong(way: Way, distances: readonly number[], each: (at: OnWay, k: number) => void): void {
  let k = 0,
    gone = 0;
  for (let i = 2; i < way.length && k < distances.length; i += 2) {
    const dx = way[i]! - way[i - 2]!,
      dy = way[i + 1]! - way[i - 1]!,
      step = Math.hypot(dx, dy);
    if (step === 0) continue;
    while (k < distances.length && distances[k]! <= gone + step + 1e-9) {
      const t = Math.min(1, Math.max(0, (distances[k]! - gone) / step));
      each({ x: way[i - 2]! + t * dx, y: way[i - 1]! + t * dy, angle: Math.atan2(dy, dx) }, k);
      k++;
    }
    gone += step;
  }
}

/** The way moved `left` mm to the left, for drawing only: corners by mitres, those too sharp cut short. */
export function railOf(way: Way, left: number, closed: boolean): number[] {
  // Vertices at one position have no direction.
  const clean: number[] = [];
  for (let i = 0; i < way.length; i += 2)
    if (i === 0 || way[i] !== clean.at(-2) || way[i + 1] !== clean.at(-1)) clean.push(way[i]!, way[i + 1]!);
  const count = clean.length / 2;
  if (left === 0 || count < 2) return clean;
  const normal = (a: number, b: number): [number, number] => {
    const dx = clean[2 * b]! - clean[2 * a]!,
      dy = clean[2 * b + 1]! - clean[2 * a + 1]!,
      size = Math.hypot(dx, dy) || 1;
    return [-dy / size, dx / size];
  };
  const out: number[] = [];
  for (let v = 0; v < count; v++) {
    const before = v > 0 ? normal(v - 1, v) : closed ? normal(count - 2, count - 1) : normal(0, 1);
    const after = v < count - 1 ? normal(v, v + 1) : closed ? normal(0, 1) : normal(count - 2, count - 1);
    const bx = before[0] + after[0],
      by = before[1] + after[1],
      size2 = bx * bx + by * by;
    // The bisector's length for a mitre is 2 / |sum|; beyond three times the distance it is cut.
    const factor = size2 < 0.2 ? 1.4 / Math.sqrt(size2 || 1) : 2 / size2;
    out.push(clean[2 * v]! + bx * factor * left, clean[2 * v + 1]! + by * factor * left);
  }
  return out;
}
