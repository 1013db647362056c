/** The level at a position as weights of the shots round it. */
import type { LevelField } from "./field";

const NUGGET = 0.3,
  /** Σ c² above which weights lean too far: then a constant tail, then none. */
  LEAN = 1.2,
  TOO_FAR = 1.6;

/**
 * Weights of shots for the level at a position: a cubic radial function with nugget and linear tail, [Φ + ν I, P; Pᵀ, 0]
 * [c; μ] = [φ; p] with Φ = (d/h)³ and h the distance to the sixth shot (Wendland 2005, ch. 8: conditionally positive
 * definite of order two).
 */
export class Radial {
  private readonly a: Float64Array;
  private readonly b: Float64Array;

  /** For no more than so many shots at once. */
  constructor(most: number) {
    this.a = new Float64Array((most + 3) ** 2);
    this.b = new Float64Array(most + 3);
  }

  weights(
    field: LevelField,
    x: number,
    y: number,
    shots: number[],
  ): { shots: number[]; weights: number[] } | undefined {
    for (const tail of [3, 1]) {
      const weights = this.solve(field, x, y, shots, tail),
        square = weights?.reduce((sum, w) => sum + w * w, 0) ?? Infinity;
      if (square <= (tail === 3 ? LEAN : TOO_FAR)) return { shots, weights: weights! };
    }
    return undefined;
  }

  private solve(field: LevelField, px: number, py: number, shots: number[], tail: number): number[] | undefined {
    const { a, b } = this,
      { x, y } = field,
      n = shots.length,
      size = n + tail;
    const d = shots.map((j) => Math.hypot(x[j]! - px, y[j]! - py)),
      h = d.toSorted((u, v) => u - v)[Math.min(5, n - 1)]!;
    for (let k = 0; k < n; k++) {
      const j = shots[k]!,
        dx = (x[j]! - px) / h,
        dy = (y[j]! - py) / h;
      a[k * size + k] = NUGGET;
      for (let l = 0; l < k; l++) {
        const far = Math.hypot(x[shots[l]!]! - x[j]!, y[shots[l]!]! - y[j]!) / h;
        a[k * size + l] = a[l * size + k] = far * far * far;
      }
      a[k * size + n] = a[n * size + k] = 1;
      if (tail === 3) {
        a[k * size + n + 1] = a[(n + 1) * size + k] = dx;
        a[k * size + n + 2] = a[(n + 2) * size + k] = dy;
      }
      b[k] = (d[k]! / h) ** 3;
    }
    for (let k = n; k < size; k++) for (let l = n; l < size; l++) a[k * size + l] = 0;
    b[n] = 1;
    if (tail === 3) b[n + 1] = b[n + 2] = 0;
    return eliminate(a, b, size) ? Array.from(b.subarray(0, n)) : undefined;
  }
}

/** Solves a system in place by elimination with the largest pivot of each column; false where there is none. */
export function eliminate(a: Float64Array, b: Float64Array, size: number): boolean {
  for (let k = 0; k < size; k++) {
    let best = k;
    for (let r = k + 1; r < size; r++) if (Math.abs(a[r * size + k]!) > Math.abs(a[best * size + k]!)) best = r;
    const pivot = a[best * size + k]!;
    if (!(Math.abs(pivot) > 1e-12)) return false;
    if (best !== k) {
      for (let c = k; c < size; c++) {
        const held = a[k * size + c]!;
        a[k * size + c] = a[best * size + c]!;
        a[best * size + c] = held;
      }
      const held = b[k]!;
      b[k] = b[best]!;
      b[best] = held;
    }
    for (let r = k + 1; r < size; r++) {
      const f = a[r * size + k]! / pivot;
      if (f === 0) continue;
      for (let c = k + 1; c < size; c++) a[r * size + c]! -= f * a[k * size + c]!;
      b[r]! -= f * b[k]!;
    }
  }
  for (let k = size - 1; k >= 0; k--) {
    let sum = b[k]!;
    for (let c = k + 1; c < size; c++) sum -= a[k * size + c]! * b[c]!;
    b[k] = sum / a[k * size + k]!;
  }
  return true;
}
