/** The ± of a comparison: what the precision of the shots' levels makes of its figures. */
import { Sum } from "../math/sum";
import type { Unit } from "../math/units";
import { levelPrecision } from "../points/precision";
import type { PointTable } from "../points/table";
import type { ComparedPair } from "./measure";
import { restsOf } from "./shots";
import { weightsOf } from "./weights";

/** A shot's level and what it does to the figures: its weights, in volume for one unit of level. */
export interface ShotWeight {
  /** Table row. */
  row: number;
  cut: number;
  fill: number;
  /** fill − cut */
  net: number;
  sigma: number;
}

export interface Sigma {
  /** √(Σ w² s²): each shot errs on its own. */
  independent: number;
  /** |Σ w| × common: all shots err by the same. */
  common: number;
  /** Both together. */
  total: number;
}

export interface Precision {
  net: Sigma;
  cut: Sigma;
  fill: Sigma;
  /** Shots that the figures rest on, and how many of them have no precision of their own. */
  shots: number;
  assumed: number;
  /** Names of surfaces without shots: they count as exact. */
  exact: string[];
  /** Those whose precision moves the net most, the first the most. */
  most: ShotWeight[];
}

/** What precision a shot's level has, by its row; NaN where it has none. */
export interface ShotPrecision {
  of(row: number): number;
  /** For those that have none. */
  assumed: number;
  /** An error that all shots of a surface share. */
  common: number;
}

/** As a job says it, in its unit. */
export interface LevelPrecision {
  shot?: number;
  common?: number;
}

/** What holds where a job says nothing: round figures of the unit. */
const DEFAULTS: Record<Unit, Required<LevelPrecision>> = {
  m: { shot: 0.02, common: 0.01 },
  ft: { shot: 0.07, common: 0.03 },
  ftUS: { shot: 0.07, common: 0.03 },
};

/** A job's precision of levels in its unit. */
export function levelPrecisionOf(given: LevelPrecision | undefined, unit: Unit): Required<LevelPrecision> {
  return { ...DEFAULTS[unit], ...given };
}

/** What the levels of a job's points are held to be. */
export function shotPrecision(
  points: Pick<PointTable, "precision" | "measured">,
  given: LevelPrecision | undefined,
  unit: Unit,
): ShotPrecision {
  const { shot, common } = levelPrecisionOf(given, unit);
  return { of: (row) => levelPrecision(points, row), assumed: shot, common };
}

/** How many shots are told. */
const MOST = 10;

/**
 * σ² = Σ w² s² + (area × common)², with w = ∂V/∂z of each shot (COMPUTATION.md, "Volumes"). A common error moves one
 * surface against what it is compared with; a heap rests on its own surface, so that it moves by nothing.
 * Undefined where no shot is under the figures. `area` takes one of the areas alone.
 */
export function precisionOf(
  pair: ComparedPair,
  shots: ShotPrecision,
  deadband = 0,
  area?: number,
): Precision | undefined {
  const byRow = new Map<number, { cut: number; fill: number }>(),
    exact: string[] = [];
  // Of two measured surfaces the common error of one against the other counts once.
  let sums: { cut: number; fill: number } | undefined;
  for (const { surface, cut, fill } of weightsOf(pair, deadband, area)) {
    const rests = restsOf(surface),
      total = { cut: new Sum(), fill: new Sum() };
    let any = false;
    for (let v = 0; v < cut.length; v++) {
      if (cut[v] === 0 && fill[v] === 0) continue;
      for (const [row, share] of rests(v)) {
        any = true;
        const known = byRow.get(row) ?? { cut: 0, fill: 0 };
        known.cut += share * cut[v]!;
        known.fill += share * fill[v]!;
        byRow.set(row, known);
      }
      total.cut.add(cut[v]!);
      total.fill.add(fill[v]!);
    }
    if (!any) exact.push(surface.name);
    else sums ??= { cut: total.cut.value, fill: total.fill.value };
  }
  if (!sums) return undefined;
  const { of, assumed, common } = shots,
    squares = { net: new Sum(), cut: new Sum(), fill: new Sum() },
    all: ShotWeight[] = [];
  let without = 0;
  for (const [row, w] of byRow) {
    const own = of(row),
      sigma = Number.isNaN(own) ? assumed : own;
    if (Number.isNaN(own)) without++;
    const net = w.fill - w.cut;
    squares.net.add((net * sigma) ** 2);
    squares.cut.add((w.cut * sigma) ** 2);
    squares.fill.add((w.fill * sigma) ** 2);
    all.push({ row, ...w, net, sigma });
  }
  const sigma = (kind: "net" | "cut" | "fill"): Sigma => {
    const independent = Math.sqrt(squares[kind].value),
      shift = Math.abs(kind === "net" ? sums.fill - sums.cut : sums[kind]) * common;
    return { independent, common: shift, total: Math.hypot(independent, shift) };
  };
  all.sort((a, b) => Math.abs(b.net * b.sigma) - Math.abs(a.net * a.sigma) || a.row - b.row);
  return {
    net: sigma("net"),
    cut: sigma("cut"),
    fill: sigma("fill"),
    shots: byRow.size,
    assumed: without,
    exact,
    most: all.slice(0, MOST),
  };
}
