/** The positions that a surface is made from: chosen points, and what breaklines add to them. */
import type { BreakChain } from "./breaklines";
import { alongCurve } from "./curve";
import { withRoom } from "./mesh";
import type { SurfaceSources } from "./sources";

/** Chosen points by their rows in the table, with their coordinates. */
export type Chosen = Pick<SurfaceSources, "points" | "e" | "n" | "z">;

/** The chosen points without some, by their rows. */
export function withoutRows(s: Chosen, out: ReadonlySet<number>): Chosen {
  if (out.size === 0) return s;
  const keep = (_: number, k: number) => !out.has(s.points[k]!);
  return { points: s.points.filter(keep), e: s.e.filter(keep), n: s.n.filter(keep), z: s.z.filter(keep) };
}

/** A whole-numbered position near the points, so that most offsets from it are exact. */
export function originOf(s: Chosen): [number, number] {
  let e = Infinity,
    n = Infinity;
  for (let k = 0; k < s.points.length; k++) {
    if (s.e[k]! < e) e = s.e[k]!;
    if (s.n[k]! < n) n = s.n[k]!;
  }
  return Number.isFinite(e) ? [Math.floor(e), Math.floor(n)] : [0, 0];
}

/** Nearer to the origin than this is on it: products of four lengths must not be too small for a double to be exact. */
const NOTHING = 1e-30;

/** An offset from the origin, either way. */
export function offset(coordinate: number, origin: number): number {
  const d = coordinate - origin;
  return Math.abs(d) < NOTHING ? 0 : d;
}

/** How far rounding of the coordinates may put a position beside the line it was meant to be on. */
export function roundingOf(origin: [number, number], x: Float64Array, y: Float64Array): number {
  let size = Math.max(Math.abs(origin[0]), Math.abs(origin[1]), 1);
  for (let v = 0; v < x.length; v++) size = Math.max(size, Math.abs(x[v]!), Math.abs(y[v]!));
  return size * 2 ** -48;
}

function sorted<T extends Float64Array | Int32Array>(list: T, order: Uint32Array): T {
  const out = withRoom(list.constructor as typeof Float64Array, list.length) as T;
  for (let k = 0; k < out.length; k++) out[k] = list[order[k]!]!;
  return out;
}

/** Input positions of the mesh: chosen points once each, then breakline positions that are no chosen point. */
export class VertexList {
  /** Table rows of the shots at the extra vertices. */
  private readonly extraShots: number[] = [];
  private readonly extra: number[] = [];
  /** Vertices of shots on breaklines that are no chosen points. */
  private readonly extraOf = new Map<number, number>();
  /** Rising, so that a shot is found among them by halving. */
  private readonly points: Int32Array;

  constructor(
    private readonly chosen: Chosen,
    private readonly origin: [number, number],
  ) {
    this.points = chosen.points;
  }

  private vertexOf(shot: number): number | undefined {
    const { points } = this;
    let lo = 0,
      hi = points.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if (points[mid]! < shot) lo = mid + 1;
      else hi = mid;
    }
    return points[lo] === shot ? lo : this.extraOf.get(shot);
  }

  of(position: BreakChain["positions"][number]): number {
    const known = position.shot >= 0 ? this.vertexOf(position.shot) : undefined;
    if (known !== undefined) return known;
    const index = this.points.length + this.extraShots.length;
    this.extra.push(position.e, position.n, position.z);
    this.extraShots.push(position.shot);
    if (position.own) this.extraOf.set(position.shot, index);
    return index;
  }

  /**
   * Offsets from the origin, levels, and the shot at each vertex, along a curve: what is near in plan is near in memory,
   * for all that is done with a mesh of them. `placed` tells where each vertex came.
   */
  arrays() {
    const {
      chosen: c,
      points,
      extra,
      origin: [oe, on],
    } = this;
    const chosen = points.length,
      n = chosen + this.extraShots.length;
    const x = new Float64Array(n),
      y = new Float64Array(n),
      z = new Float64Array(n),
      shots = new Int32Array(n);
    for (let i = 0; i < chosen; i++) {
      x[i] = offset(c.e[i]!, oe);
      y[i] = offset(c.n[i]!, on);
      z[i] = c.z[i]!;
      shots[i] = points[i]!;
    }
    for (let i = chosen, k = 0; i < n; i++, k += 3) {
      x[i] = offset(extra[k]!, oe);
      y[i] = offset(extra[k + 1]!, on);
      z[i] = extra[k + 2]!;
      shots[i] = this.extraShots[k / 3]!;
    }
    const order = alongCurve(x, y),
      placed = new Int32Array(n);
    for (let k = 0; k < n; k++) placed[order[k]!] = k;
    return { x: sorted(x, order), y: sorted(y, order), z: sorted(z, order), shots: sorted(shots, order), placed };
  }
}
