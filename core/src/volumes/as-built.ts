/** Points as they were built against what was designed: a surface, or a line (RECIPE.md, "DIFFERENCE"). */
import { refusal } from "../errors";
import type { Piece, Position } from "../lines/model";
import { nearestOn } from "../lines/snap";
import { Sum } from "../math/sum";
import type { Numbers } from "../points/numbers";
import type { ReferenceLine } from "../records/reference";
import { SurfaceReader } from "../surface/locate";
import type { Surface } from "../surface/model";
import { planLength } from "../lines/measure";
import { curveLengthTo, wayAt, type DesignLine, type DesignWay } from "./along-way";

export interface DifferenceRecipe {
  name: string;
  points: Numbers;
  surface?: string;
  line?: DesignLine;
  /** The points that were designed; pairs by number, one prefix or suffix taken off, or the nearest within a distance. */
  against?: Numbers;
  by?: "number" | "nearest";
  strip?: string;
  within?: number;
  /** Of points against points one in plan and one in level. */
  tolerance: number | { plan: number; level: number };
}

/** What points against points have beside levels: columns by the pairs. */
export interface PairColumns {
  /** Table rows of the points as designed. */
  designed: Int32Array;
  dE: Float64Array;
  dN: Float64Array;
  plan: Float64Array;
  /** In plan. */
  tolerance: number;
  /** Rows of points that found no other. */
  unmatched: { points: Int32Array; against: Int32Array };
}

/** What was measured against the design: measured − designed. Columns by the points, NaN where there is nothing to tell. */
export interface AsBuilt {
  name: string;
  /** Of levels, and of offsets. */
  tolerance: number;
  against: "surface" | "line" | "points";
  /** Table rows. */
  rows: Int32Array;
  level: Float64Array;
  station: Float64Array;
  /** To the right of the line. */
  offset: Float64Array;
  /** 1 beyond the tolerance, in level or offset. */
  outside: Uint8Array;
  pairs?: PairColumns;
  /** Of level; of offset, or of the distance in plan, where no point has a level. */
  figures: { mean: number; rms: number; min: number; max: number; count: number };
}

export interface Measured {
  e: Float64Array;
  n: Float64Array;
  z: Float64Array;
}

/** Levels of points above a surface. */
export function againstSurface(r: DifferenceRecipe, rows: Int32Array, p: Measured, surface: Surface): AsBuilt {
  const reader = new SurfaceReader(surface),
    out = emptyFor(r, rows, "surface");
  rows.forEach((row, k) => {
    const under = reader.at(p.e[row]!, p.n[row]!);
    if (under) out.level[k] = p.z[row]! - under.level;
  });
  return judged(out);
}

/**
 * Stations and offsets of points by their nearest position on some ways, and levels against the way's own where it has one.
 * `chord` is how near to a smooth curve the search begins.
 */
export function againstLine(
  r: DifferenceRecipe,
  rows: Int32Array,
  p: Measured,
  ways: readonly DesignWay[],
  chord: number,
): AsBuilt {
  const out = emptyFor(r, rows, "line");
  rows.forEach((row, k) => {
    const [e, n] = [p.e[row]!, p.n[row]!];
    let nearest = Infinity;
    for (const { pieces, start } of ways) {
      let begin = start;
      pieces.forEach((piece, i) => {
        const length = planLength(piece),
          { position, share } = nearestOn(piece, e, n, chord),
          far = Math.hypot(e - position[0], n - position[1]);
        if (far < nearest) {
          nearest = far;
          out.station[k] = begin + (piece.type === "curve" ? curveLengthTo(piece, share) : share * length);
          out.offset[k] = isLeftOf(wayAt(pieces, i, share), e, n, position) ? -far : far;
          out.level[k] = p.z[row]! - position[2];
        }
        begin += length;
      });
    }
  });
  return judged(out);
}

/**
 * Whether a position is to the left of the way on which its nearest position lies; not where it is on neither side: on the
 * prolongation beyond an end, to what rounding of coordinates makes of it.
 */
function isLeftOf([de, dn]: readonly [number, number], e: number, n: number, nearest: Position): boolean {
  const right = (e - nearest[0]) * dn - (n - nearest[1]) * de;
  return right < -(2 ** -46) * Math.max(Math.abs(e), Math.abs(n)) * Math.hypot(de, dn);
}

/** A line of a file as pieces. Levels run evenly along each leg. */
export function piecesOfReference({ xyz, sweep }: Pick<ReferenceLine, "xyz" | "sweep">): Piece[] {
  const count = xyz.length / 3,
    at = (k: number): Position => [xyz[3 * (k % count)]!, xyz[3 * (k % count) + 1]!, xyz[3 * (k % count) + 2]!];
  return Array.from(sweep, (turn, k): Piece => {
    const [from, to] = [at(k), at(k + 1)];
    if (turn === 0) return { type: "straight", from, to, shots: [] };
    const half = 1 / (2 * Math.tan(turn / 2)),
      center: [number, number] = [
        (from[0] + to[0]) / 2 + half * (to[1] - from[1]),
        (from[1] + to[1]) / 2 - half * (to[0] - from[0]),
      ];
    return {
      type: "arc",
      from,
      to,
      center,
      radius: Math.hypot(from[0] - center[0], from[1] - center[1]),
      sweep: turn,
      levels: [
        { share: 0, level: from[2] },
        { share: 1, level: to[2] },
      ],
      shots: [],
    };
  });
}

function emptyFor(r: DifferenceRecipe, rows: Int32Array, against: AsBuilt["against"]): AsBuilt {
  const none = () => new Float64Array(rows.length).fill(NaN);
  return {
    name: r.name,
    tolerance: typeof r.tolerance === "number" ? r.tolerance : r.tolerance.level,
    against,
    rows,
    level: none(),
    station: none(),
    offset: none(),
    outside: new Uint8Array(rows.length),
    figures: { mean: NaN, rms: NaN, min: NaN, max: NaN, count: 0 },
  };
}

/** Marks what is beyond the tolerance and sums up; throws a Refusal where no point has anything to tell. */
export function judged(a: AsBuilt): AsBuilt {
  const beyond = (x: number) => Math.abs(x) > a.tolerance,
    { pairs } = a;
  for (let k = 0; k < a.rows.length; k++)
    if (beyond(a.level[k]!) || beyond(a.offset[k]!) || (pairs && pairs.plan[k]! > pairs.tolerance)) a.outside[k] = 1;
  const hasLevel = a.level.some((x) => !Number.isNaN(x)),
    values = (hasLevel ? a.level : (pairs?.plan ?? a.offset)).filter((x) => !Number.isNaN(x));
  if (values.length === 0)
    throw refusal("difference-apart", { name: a.name, points: a.rows.length, against: a.against });
  const sum = new Sum(),
    squares = new Sum();
  let [min, max] = [Infinity, -Infinity];
  for (const x of values) {
    sum.add(x);
    squares.add(x * x);
    min = Math.min(min, x);
    max = Math.max(max, x);
  }
  const count = values.length;
  return { ...a, figures: { mean: sum.value / count, rms: Math.sqrt(squares.value / count), min, max, count } };
}
