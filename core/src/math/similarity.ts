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

/** A plan position as it becomes. */
export type PlanMap = (e: number, n: number) => [e: number, n: number];

/** Scale and rotation about a position, then the move. */
export function planMap({ move = [0, 0, 0], rotate = 0, scale = 1, about = [0, 0] }: Transform): PlanMap {
  const [s, c] = directionOf(rotate).map((x) => scale * x) as [number, number],
    [ae, an] = about,
    [de, dn] = move;
  // Nothing turned or scaled is moved alone, without a detour over the position about which it would be.
  if (rotate % 360 === 0 && scale === 1) return (e, n) => [e + de, n + dn];
  return (e, n) => {
    const [x, y] = [e - ae, n - an];
    return [ae + c * x + s * y + de, an + c * y - s * x + dn];
  };
}

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
  plan: PlanMap;
  /** What is added to a level, at a position before it is moved. */
  rise(e: number, n: number): number;
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
    plan: PlanMap = (e, n) => {
      const [x, y] = [e - ce, n - cn];
      return [we + c * x + s * y, wn + c * y - s * x];
    };
  if (factor === 0) return "its pairs leave no direction";
  const rise = riseOf(pairs, levels, ce, cn);
  if (typeof rise === "string") return rise;
  const residuals = pairs.map(({ from: [e, n, z], to }) => {
      const [x, y] = plan(e, n);
      return { dE: x - to[0], dN: y - to[1], dZ: z + rise(e, n) - to[2] };
    }),
    heights = residuals.map((r) => r.dZ).filter((x) => !Number.isNaN(x));
  return {
    rotation: (turn * 180) / Math.PI,
    scale: factor,
    plan,
    rise,
    residuals,
    rmsPlan: Math.sqrt(mean(residuals.map((r) => r.dE * r.dE + r.dN * r.dN))),
    rmsLevel: heights.length ? Math.sqrt(mean(heights.map((x) => x * x))) : NaN,
  };
}

type Rise = (e: number, n: number) => number;

function riseOf(pairs: readonly PairToFit[], levels: FitOptions["levels"], ce: number, cn: number): Rise | string {
  if (levels === "none") return () => 0;
  const known = pairs.filter((p) => !Number.isNaN(p.from[2]) && !Number.isNaN(p.to[2])),
    by = known.map((p) => p.to[2] - p.from[2]);
  if (known.length === 0) return "no pair has a level on both sides";
  const a = mean(by);
  if (levels === "shift") return () => a;
  if (known.length < 3) return "a plane of levels needs three pairs with levels";
  const [xe, xn] = [mean(known.map((p) => p.from[0])) - ce, mean(known.map((p) => p.from[1])) - cn],
    at = known.map((p) => [p.from[0] - ce - xe, p.from[1] - cn - xn] as const),
    [ee, en, nn] = [total(at.map(([x]) => x * x)), total(at.map(([x, y]) => x * y)), total(at.map(([, y]) => y * y))],
    [ze, zn] = [total(at.map(([x], k) => x * (by[k]! - a))), total(at.map(([, y], k) => y * (by[k]! - a)))],
    det = ee * nn - en * en;
  if (det <= 1e-12 * (ee + nn) ** 2) return "a plane of levels needs three pairs that are not on one line";
  const [b, c] = [(ze * nn - zn * en) / det, (zn * ee - ze * en) / det];
  return (e, n) => a + b * (e - ce - xe) + c * (n - cn - xn);
}
