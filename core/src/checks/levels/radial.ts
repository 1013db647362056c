/** The level at a position as weights of the shots round it. */
import type { LevelField } from "./field";

const NUGGET = 0.3,
  /** Σ c² above which weights lean too far: then a constant tail, then none. */
  LEAN = 1.2,
  TOO_FAR = 1.6;
/** Distances to the cube, in h, up to which the system is well enough conditioned for its quick way. */
const WELL = 1000;

/**
 * Weights of shots for the level at a position: a cubic radial function with nugget and linear tail, [Φ + ν I, P; Pᵀ, 0]
 * [c; μ] = [φ; p] with Φ = (d/h)³ and h the distance to the sixth shot (Wendland 2005, ch. 8: conditionally positive
 * definite of order two).
 */
export class Radial {
  private readonly a: Float64Array;
  private readonly b: Float64Array;
  private readonly d: Float64Array;
  /** Columns of P beside its ones: offsets from the position, in h. */
  private readonly u: Float64Array;
  private readonly v: Float64Array;

  /** For no more than so many shots at once. */
  constructor(most: number) {
    this.a = new Float64Array((most + 3) ** 2);
    this.b = new Float64Array(4 * (most + 3));
    this.d = new Float64Array(most);
    this.u = new Float64Array(most);
    this.v = new Float64Array(most);
  }

  weights(
    field: LevelField,
    x: number,
    y: number,
    shots: number[],
  ): { shots: number[]; weights: number[] } | undefined {
    const reach = this.measure(field, x, y, shots);
    for (const tail of [3, 1]) {
      const weights = (tail === 3 && reach < WELL && this.solveQuick(shots.length)) || this.solve(shots.length, tail);
      let square = weights ? 0 : Infinity;
      if (weights) for (const w of weights) square += w * w;
      if (square <= (tail === 3 ? LEAN : TOO_FAR)) return { shots, weights: weights as number[] };
    }
    return undefined;
  }

  /** Offsets and distances of the shots in h; returns the largest cube of a distance. */
  private measure({ x, y }: LevelField, px: number, py: number, shots: readonly number[]): number {
    const { d, u, v } = this,
      n = shots.length,
      // The six least distances, rising.
      least = [Infinity, Infinity, Infinity, Infinity, Infinity, Infinity];
    let most = 0;
    for (let k = 0; k < n; k++) {
      const dx = (u[k] = x[shots[k]!]! - px),
        dy = (v[k] = y[shots[k]!]! - py),
        far = (d[k] = Math.sqrt(dx * dx + dy * dy));
      most = Math.max(most, far);
      for (let to = 5; to >= 0 && far < least[to]!; to--) {
        if (to < 5) least[to + 1] = least[to]!;
        least[to] = far;
      }
    }
    const h = n < 6 ? most : least[5]!;
    for (let k = 0; k < n; k++) {
      d[k]! /= h;
      u[k]! /= h;
      v[k]! /= h;
    }
    return (most / h) ** 3;
  }

  /**
   * The same by Cholesky's way: with τ P Pᵀ added to Φ + ν I the system is positive definite, and where Pᵀ c = p the
   * weights are the same. Undefined where it is not positive definite by much.
   */
  private solveQuick(n: number): number[] | undefined {
    const { a, b, d, u, v } = this;
    // Of the size of Φ, so that neither drowns the other.
    let tau = 1;
    for (let k = 0; k < n; k++) {
      const uk = u[k]!,
        vk = v[k]!;
      for (let l = 0; l < k; l++) {
        const du = u[l]! - uk,
          dv = v[l]! - vk,
          far = du * du + dv * dv,
          cube = far * Math.sqrt(far);
        a[k * n + l] = cube;
        if (cube > tau) tau = cube;
      }
    }
    for (let k = 0; k < n; k++) {
      const uk = u[k]!,
        vk = v[k]!,
        row = k * n;
      // L of L Lᵀ, row by row, with L⁻¹ of the right sides [φ, P] beside it; the diagonal as its inverse.
      let pivot = NUGGET + tau * (1 + uk * uk + vk * vk),
        r0 = d[k]! ** 3,
        r1 = 1,
        r2 = uk,
        r3 = vk;
      for (let l = 0; l < k; l++) {
        const other = l * n;
        let sum = a[row + l]! + tau * (1 + u[l]! * uk + v[l]! * vk),
          more = 0,
          m = 0;
        // Two sums, neither of which waits for the other.
        for (; m + 1 < l; m += 2) {
          sum -= a[row + m]! * a[other + m]!;
          more -= a[row + m + 1]! * a[other + m + 1]!;
        }
        if (m < l) sum -= a[row + m]! * a[other + m]!;
        sum = (sum + more) * a[other + l]!;
        a[row + l] = sum;
        pivot -= sum * sum;
        r0 -= sum * b[4 * l]!;
        r1 -= sum * b[4 * l + 1]!;
        r2 -= sum * b[4 * l + 2]!;
        r3 -= sum * b[4 * l + 3]!;
      }
      if (!(pivot > NUGGET / 100)) return undefined;
      const inverse = (a[row + k] = 1 / Math.sqrt(pivot));
      b[4 * k] = r0 * inverse;
      b[4 * k + 1] = r1 * inverse;
      b[4 * k + 2] = r2 * inverse;
      b[4 * k + 3] = r3 * inverse;
    }
    // μ of Pᵀ A⁻¹ P μ = Pᵀ A⁻¹ φ − p, p being the first unit vector.
    let s11 = 0,
      s12 = 0,
      s13 = 0,
      s22 = 0,
      s23 = 0,
      s33 = 0,
      t1 = -1,
      t2 = 0,
      t3 = 0;
    for (let k = 0; k < n; k++) {
      const g = b[4 * k]!,
        w1 = b[4 * k + 1]!,
        w2 = b[4 * k + 2]!,
        w3 = b[4 * k + 3]!;
      s11 += w1 * w1;
      s12 += w1 * w2;
      s13 += w1 * w3;
      s22 += w2 * w2;
      s23 += w2 * w3;
      s33 += w3 * w3;
      t1 += w1 * g;
      t2 += w2 * g;
      t3 += w3 * g;
    }
    // By the determinants of its positive definite 3 by 3.
    const c11 = s22 * s33 - s23 * s23,
      c12 = s13 * s23 - s12 * s33,
      c13 = s12 * s23 - s13 * s22,
      det = s11 * c11 + s12 * c12 + s13 * c13;
    // Shots that stand in one line, or nearly, leave it without one.
    if (!(det > 1e-6 * s11 * s22 * s33)) return undefined;
    const c22 = s11 * s33 - s13 * s13,
      c23 = s12 * s13 - s11 * s23,
      c33 = s11 * s22 - s12 * s12,
      m1 = (c11 * t1 + c12 * t2 + c13 * t3) / det,
      m2 = (c12 * t1 + c22 * t2 + c23 * t3) / det,
      m3 = (c13 * t1 + c23 * t2 + c33 * t3) / det,
      c: number[] = Array.from(d.subarray(0, n));
    for (let k = n - 1; k >= 0; k--) {
      let sum = b[4 * k]! - m1 * b[4 * k + 1]! - m2 * b[4 * k + 2]! - m3 * b[4 * k + 3]!;
      for (let l = k + 1; l < n; l++) sum -= a[l * n + k]! * c[l]!;
      c[k] = sum * a[k * n + k]!;
    }
    return c;
  }

  private solve(n: number, tail: number): number[] | undefined {
    const { a, b, d, u, v } = this,
      size = n + tail;
    for (let k = 0; k < n; k++) {
      a[k * size + k] = NUGGET;
      for (let l = 0; l < k; l++) {
        const far = Math.hypot(u[l]! - u[k]!, v[l]! - v[k]!);
        a[k * size + l] = a[l * size + k] = far * far * far;
      }
      a[k * size + n] = a[n * size + k] = 1;
      if (tail === 3) {
        a[k * size + n + 1] = a[(n + 1) * size + k] = u[k]!;
        a[k * size + n + 2] = a[(n + 2) * size + k] = v[k]!;
      }
      b[k] = d[k]! ** 3;
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
