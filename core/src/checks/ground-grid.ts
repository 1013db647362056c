/**
 * Ground against grid: the scale between two deliveries by the points that are common to them, from the least-squares fit
 * of one to the other with its standard error σ₀/√Σr² (r from the centroid, σ₀² = Σv²/(2n − 4)). Frames E, N.
 */
import { notice, say, type Noticed } from "../finding";
import type { IntakeInfo } from "../intake/model";
import { formatFixed } from "../math/round";
import { fitted, moveInPlan, type Fitted, type PairToFit } from "../math/similarity";
import { fromMetres, lengthText, type Unit } from "../math/units";
import { GONE_DELETED, GONE_UNPLACED, type PointTable } from "../points/table";

/** Rows that came under one number in two deliveries, those of the earlier one first. */
export interface Common {
  earlier: number;
  later: number;
  rows: [earlier: number, later: number][];
}

type Numbered = Pick<PointTable, "count" | "id" | "number" | "intake" | "deleted" | "cameAs">;

/**
 * Points common to deliveries: each against the one of the earliest delivery that came under its number, so that there are
 * no more pairs than points, whatever numbers there are. Those that gave way to others count, deleted ones do not.
 */
export function commonPoints(t: Numbered, intakes: readonly unknown[]): Common[] {
  const last = intakes.length - 1,
    earliest = new Map<string, number>(),
    pairs = new Map<string, Common>(),
    came = (i: number) => t.cameAs?.[t.id[i]!] ?? t.number[i]!,
    isThere = (i: number) => t.intake[i]! >= 0 && !(t.deleted[i]! & (GONE_DELETED | GONE_UNPLACED));
  if (last < 1) return [];
  // The last is the earliest of nothing.
  for (let i = 0; i < t.count; i++) {
    if (!isThere(i) || t.intake[i] === last) continue;
    const other = earliest.get(came(i));
    if (other === undefined || t.intake[i]! < t.intake[other]!) earliest.set(came(i), i);
  }
  for (let i = 0; i < t.count; i++) {
    const other = isThere(i) ? earliest.get(came(i)) : undefined;
    if (other === undefined || t.intake[other] === t.intake[i]) continue;
    const [earlier, later] = [t.intake[other]!, t.intake[i]!],
      key = `${earlier} ${later}`;
    let pair = pairs.get(key);
    if (!pair) pairs.set(key, (pair = { earlier, later, rows: [] }));
    pair.rows.push([other, i]);
  }
  return [...pairs.values()].sort((a, b) => a.earlier - b.earlier || a.later - b.later);
}

/** The scale from a delivery to an earlier one that it shares points with; `rows` are the pairs that it is from. */
export interface ScaleBetween extends Common {
  /** Of the later to the earlier, with one scale free. */
  fit: Fitted;
  /** Standard error of the scale. */
  sigma: number;
  /** The farthest that common points lie apart, and would move by the scale alone about their middle, and by the fit. */
  apart: number;
  byFactor: number;
  byFit: number;
}

/** Fewer common points have no standard error that says anything. */
const LEAST = 3;
/** A pair this many times the median off is another point of the same number. */
const ASTRAY = 5;
/** Between ground and grid there is less than this; what is more has another reason. */
const MOST = 0.002;
/** A fit worse than this is of points that are not common (metres). */
const WORST = 0.1;
/** Less than this at the farthest common point is nobody's concern (metres). */
const SEEN = 0.01;
const ROUNDS = 20,
  MOST_TRIED = 40;
/** Of more common points some, evenly in their order, say as much. */
const MOST_USED = 20_000,
  MOST_COMPARED = 500;
/** Standard errors by which a scale differs from one. */
const SURE = 3;

/** The scale between two deliveries, where it is known and differs from one; undefined else. */
export function scaleBetween(common: Common, t: Pick<PointTable, "e" | "n">, unit: Unit): ScaleBetween | undefined {
  const all = thinned(common.rows, MOST_USED);
  let rows = near(all, agreeing(thinned(all, MOST_COMPARED), t, unit), t, unit),
    fit: Fitted | string = "";
  for (let round = 0; round < ROUNDS; round++) {
    if (rows.length < LEAST) return undefined;
    fit = fitOf(rows, t);
    if (typeof fit === "string") return undefined;
    const kept = near(rows, fit, t, unit);
    if (kept.length === rows.length) break;
    rows = kept;
  }
  const { scale, residuals, movement } = fit as Fitted,
    free = 2 * rows.length - 4,
    sum = residuals.reduce((s, r) => s + r.dE ** 2 + r.dN ** 2, 0),
    error = Math.sqrt(sum / free),
    [ce, cn] = movement.plan.from,
    far = rows.map(([, from]) => Math.hypot(t.e[from]! - ce, t.n[from]! - cn)),
    sigma = error / Math.sqrt(far.reduce((s, r) => s + r * r, 0)),
    differs = Math.abs(scale - 1),
    byFactor = differs * Math.max(...far);
  if (error > fromMetres(WORST, unit) || differs > MOST || differs <= SURE * sigma) return undefined;
  if (byFactor < fromMetres(SEEN, unit)) return undefined;
  const moves = rows.map(([to, from]) => {
    const [e, n] = moveInPlan(movement.plan, t.e[from]!, t.n[from]!);
    return {
      fit: Math.hypot(e - t.e[from]!, n - t.n[from]!),
      apart: Math.hypot(t.e[to]! - t.e[from]!, t.n[to]! - t.n[from]!),
    };
  });
  return {
    ...common,
    rows,
    fit: fit as Fitted,
    sigma,
    byFactor,
    byFit: Math.max(...moves.map((m) => m.fit)),
    apart: Math.max(...moves.map((m) => m.apart)),
  };
}

type Plan = Pick<PointTable, "e" | "n">;
type Rows = Common["rows"];

function fitOf(rows: Rows, t: Plan): Fitted | string {
  const at = (row: number) => [t.e[row]!, t.n[row]!, NaN] as const,
    pairs = rows.map(([to, from]): PairToFit => ({ from: at(from), to: at(to) }));
  return fitted(pairs, { scale: "free", levels: "none" });
}

/** At most so many, evenly in their order. */
function thinned(rows: Rows, most: number): Rows {
  const step = Math.ceil(rows.length / most);
  return step <= 1 ? rows : rows.filter((_, k) => k % step === 0);
}

/** How far each pair is off a fit. */
const offBy = (rows: Rows, { movement }: Fitted, t: Plan) =>
  rows.map(([to, from]) => {
    const [e, n] = moveInPlan(movement.plan, t.e[from]!, t.n[from]!);
    return Math.hypot(e - t.e[to]!, n - t.n[to]!);
  });
const median = (values: readonly number[]) => values.toSorted((a, b) => a - b)[values.length >> 1]!;

/** The pairs that a fit does not leave astray. */
function near(rows: Rows, fit: Fitted | undefined, t: Plan, unit: Unit): Rows {
  if (!fit) return [];
  const off = offBy(rows, fit, t),
    limit = Math.max(ASTRAY * median(off), fromMetres(0.003, unit));
  return rows.filter((_, k) => off[k]! <= limit);
}

/**
 * A fit by pairs that agree with one another, so that none which is another point spoils the first fit: of the fits by two pairs
 * far apart in their order the one from which the median pair is least off (least median of squares, Rousseeuw 1984).
 */
function agreeing(rows: Rows, t: Plan, unit: Unit): Fitted | undefined {
  let best: { fit: Fitted; off: number } | undefined;
  const step = Math.max(1, Math.floor(rows.length / MOST_TRIED));
  for (let k = 0; k < rows.length; k += step)
    for (const part of [2, 3]) {
      const other = (k + Math.floor(rows.length / part)) % rows.length,
        fit = other === k ? "" : fitOf([rows[k]!, rows[other]!], t);
      if (typeof fit === "string") continue;
      const off = median(offBy(rows, fit, t));
      if (!best || off < best.off) best = { fit, off };
    }
  return best && best.off <= fromMetres(WORST, unit) ? best.fit : undefined;
}

const ppm = (x: number) => formatFixed(1e6 * x, Math.abs(x) < 1e-5 ? 1 : 0);

/** One finding for two deliveries whose common points say that one has another scale. */
export function scaleFindings(
  common: readonly Common[],
  t: Pick<PointTable, "e" | "n" | "deleted">,
  intakes: readonly Pick<IntakeInfo, "id" | "file">[],
  unit: Unit,
): Noticed[] {
  return common.flatMap((c) => {
    const s = scaleBetween(c, t, unit);
    if (!s) return [];
    const { scale, rotation } = s.fit,
      [earlier, later] = [intakes[s.earlier]!, intakes[s.later]!],
      // Of two that came under one number the one that is there.
      rows = s.rows.map(([first, row]) => (t.deleted[row] ? first : row)),
      length = (x: number) => lengthText(x, unit);
    return [
      notice(
        "scale-differs",
        "warning",
        say`Distances of “${later.file}” are ${scale < 1 ? "longer" : "shorter"} than those of “${earlier.file}” by ${ppm(Math.abs(1 / scale - 1))} ppm (± ${ppm(s.sigma)}), by ${String(s.rows.length)} common points: ground against grid. As it is these lie up to ${length(s.apart)} apart; a factor of ${formatFixed(scale, 7)} on distances moves them by up to ${length(s.byFactor)} about their middle, a fit with scale by up to ${length(s.byFit)}.`,
        {
          points: rows,
          at: [t.e[rows[0]!]!, t.n[rows[0]!]!],
          subject: `${later.id} against ${earlier.id}`,
          data: {
            intake: later.id,
            against: earlier.id,
            scale,
            sigma: s.sigma,
            rotation,
            from: [...s.fit.movement.plan.from],
            to: [...s.fit.movement.plan.to],
            apart: s.apart,
            byFactor: s.byFactor,
            byFit: s.byFit,
          },
        },
      ),
    ];
  });
}
