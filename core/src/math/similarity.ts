/**
 * Moving, turning and scaling in plan, and the least-squares fit of positions to others: in plan a similarity (Helmert,
 * equal weights, by centroids), in level a shift or a plane. Frames E, N, Z; angles in degrees clockwise.
 */
import { directionOf } from "./angles";
import { Sum } from "./sum";

export interface Transform {
  move?: readonly [dE: number, dN: number, dZ: number];
  rotate?: number;
  scale?: number;
  about?: readonly [e: number, n: number];
}

/** In plan: turned by the direction `sin`, `cos` (which carry the scale) about `from`, which comes to `to`. */
export interface Similarity {
  from: readonly [e: number, n: number];
  to: readonly [e: number, n: number];
  sin: number;
  cos: number;
}

/** What levels gain: `up` at a position, and so much on each unit to the east and to the north of it. */
export interface Rise {
  at: readonly [e: number, n: number];
  up: number;
  east: number;
  north: number;
}

/** How positions become others. Levels gain by where they were before. */
export interface Movement {
  plan: Similarity;
  /** Not there where levels stay. */
  rise?: Rise;
}

/** Scale and rotation about a position, then the move. */
export function movementOf({ move = [0, 0, 0], rotate = 0, scale = 1, about = [0, 0] }: Transform): Movement {
  const [de, dn, dz] = move,
    turns = rotate % 360 !== 0 || scale !== 1,
    // Nothing turned or scaled is moved alone, without a detour over the position about which it would be.
    from = turns ? about : ([0, 0] as const),
    [sin, cos] = turns ? (directionOf(rotate).map((x) => scale * x) as [number, number]) : [0, 1];
  return {
    plan: { from, to: [from[0] + de, from[1] + dn], sin, cos },
    ...(dz === 0 ? {} : { rise: { at: [0, 0], up: dz, east: 0, north: 0 } }),
  };
}

export function moveInPlan({ from, to, sin, cos }: Similarity, e: number, n: number): [e: number, n: number] {
  const [x, y] = [e - from[0], n - from[1]];
  return [to[0] + cos * x + sin * y, to[1] + cos * y - sin * x];
}

/** Where a position comes from. */
export function moveBackInPlan({ from, to, sin, cos }: Similarity, e: number, n: number): [e: number, n: number] {
  const [u, v] = [e - to[0], n - to[1]],
    size = sin * sin + cos * cos;
  return [from[0] + (cos * u - sin * v) / size, from[1] + (sin * u + cos * v) / size];
}

/** What the level at a position gains. */
export const riseAt = (rise: Rise | undefined, e: number, n: number): number =>
  rise ? rise.up + rise.east * (e - rise.at[0]) + rise.north * (n - rise.at[1]) : 0;

export interface PairToFit {
  from: readonly [e: number, n: number, z: number];
  to: readonly [e: number, n: number, z: number];
}

export interface FitOptions {
  scale: 1 | "free";
  levels: "none" | "shift" | "plane";
}

export interface Fitted {
  /** Degrees clockwise. */
  rotation: number;
  scale: number;
  movement: Movement;
  /** After − wanted for each pair; dZ is NaN where one of both has no level. */
  residuals: { dE: number; dN: number; dZ: number }[];
  rmsPlan: number;
  /** NaN where no pair has both levels. */
  rmsLevel: number;
}

const mean = (values: readonly number[]) => {
  const sum = new Sum();
  for (const v of values) sum.add(v);
  return sum.value / values.length;
};
const total = (values: readonly number[]) => mean(values) * values.length;

/** The fit, or why it cannot be made. */
export function fitted(pairs: readonly PairToFit[], { scale, levels }: FitOptions): Fitted | string {
  if (pairs.length < 2) return "it needs two pairs at least";
  const [fe, fn, te, tn] = [
      pairs.map((p) => p.from[0]),
      pairs.map((p) => p.from[1]),
      pairs.map((p) => p.to[0]),
      pairs.map((p) => p.to[1]),
    ],
    [ce, cn, we, wn] = [mean(fe), mean(fn), mean(te), mean(tn)],
    local = pairs.map((_, k) => [fe[k]! - ce, fn[k]! - cn, te[k]! - we, tn[k]! - wn] as const),
    along = total(local.map(([x, y, u, v]) => x * u + y * v)),
    across = total(local.map(([x, y, u, v]) => y * u - x * v)),
    size = total(local.map(([x, y]) => x * x + y * y)),
    least = 2 ** -40 * Math.max(...fe.map(Math.abs), ...fn.map(Math.abs), 1);
  if (size <= least * least) return "its pairs stand at one position";
  const turn = Math.atan2(across, along),
    factor = scale === 1 ? 1 : Math.hypot(along, across) / size,
    [s, c] = [factor * Math.sin(turn), factor * Math.cos(turn)],
    plan: Similarity = { from: [ce, cn], to: [we, wn], sin: s, cos: c };
  if (factor === 0) return "its pairs leave no direction";
  const rise = riseOf(pairs, levels, ce, cn);
  if (typeof rise === "string") return rise;
  const residuals = pairs.map(({ from: [e, n, z], to }) => {
      const [x, y] = moveInPlan(plan, e, n);
      return { dE: x - to[0], dN: y - to[1], dZ: z + riseAt(rise, e, n) - to[2] };
    }),
    heights = residuals.map((r) => r.dZ).filter((x) => !Number.isNaN(x));
  return {
    rotation: (turn * 180) / Math.PI,
    scale: factor,
    movement: { plan, ...(rise ? { rise } : {}) },
    residuals,
    rmsPlan: Math.sqrt(mean(residuals.map((r) => r.dE * r.dE + r.dN * r.dN))),
    rmsLevel: heights.length ? Math.sqrt(mean(heights.map((x) => x * x))) : NaN,
  };
}

/** None where levels stay; a sentence where they cannot be fitted. */
function riseOf(
  pairs: readonly PairToFit[],
  levels: FitOptions["levels"],
  ce: number,
  cn: number,
): Rise | string | undefined {
  if (levels === "none") return undefined;
  const known = pairs.filter((p) => !Number.isNaN(p.from[2]) && !Number.isNaN(p.to[2])),
    by = known.map((p) => p.to[2] - p.from[2]);
  if (known.length === 0) return "no pair has a level on both sides";
  const a = mean(by);
  if (levels === "shift") return { at: [ce, cn], up: a, east: 0, north: 0 };
  if (known.length < 3) return "a plane of levels needs three pairs with levels";
  const [xe, xn] = [mean(known.map((p) => p.from[0])) - ce, mean(known.map((p) => p.from[1])) - cn],
    at = known.map((p) => [p.from[0] - ce - xe, p.from[1] - cn - xn] as const),
    [ee, en, nn] = [total(at.map(([x]) => x * x)), total(at.map(([x, y]) => x * y)), total(at.map(([, y]) => y * y))],
    [ze, zn] = [total(at.map(([x], k) => x * (by[k]! - a))), total(at.map(([, y], k) => y * (by[k]! - a)))],
    det = ee * nn - en * en;
  if (det <= 1e-12 * (ee + nn) ** 2) return "a plane of levels needs three pairs that are not on one line";
  const [east, north] = [(ze * nn - zn * en) / det, (zn * ee - ze * en) / det];
  return { at: [ce + xe, cn + xn], up: a, east, north };
}
