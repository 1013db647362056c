/**
 * A surface in patches of triangles that follow one another, and so mostly lie together: whether a whole patch lies above
 * or below another surface is told from planes, long before single triangles are looked at.
 */
import { boxIndex, type BoxIndex } from "../math/near";
import { alongCurve } from "../surface/curve";
import type { Surface } from "../surface/model";

/** Triangles of a patch. */
export const PATCH = 48;
/** So many times larger than the middle one a patch is loose. */
const LOOSE = 8;

type Mesh = Pick<Surface, "x" | "y" | "tri">;

/** The patches of a mesh in plan, in its own frame. */
export class Patches {
  readonly count: number;
  /** West, south, east, north of each. */
  readonly boxes: Float64Array;
  private readonly index: BoxIndex;

  /** Triangles, patch by patch. */
  private readonly order: Int32Array;
  /** The patch of each triangle. */
  readonly of: Int32Array;

  constructor(readonly mesh: Mesh) {
    const triangles = mesh.tri.length / 3;
    this.count = Math.ceil(triangles / PATCH);
    this.order = new Int32Array(triangles);
    this.of = new Int32Array(triangles);
    this.boxes = new Float64Array(4 * this.count);
    for (let t = 0; t < triangles; t++) this.order[t] = t;
    for (let p = 0; p < this.count; p++) this.take(p);
    this.gather();
    const { boxes } = this;
    this.index = boxIndex(this.count, (p) => [boxes[4 * p]!, boxes[4 * p + 1]!, boxes[4 * p + 2]!, boxes[4 * p + 3]!]);
  }

  /** The triangles of a patch. */
  trianglesOf(p: number): Int32Array {
    return this.order.subarray(PATCH * p, PATCH * (p + 1));
  }

  /** Notes whose triangles are those that stand in a patch's turn, and their box. */
  private take(p: number): void {
    const { x, y, tri } = this.mesh,
      list = this.trianglesOf(p);
    let west = Infinity,
      south = Infinity,
      east = -Infinity,
      north = -Infinity;
    for (let k = 0; k < list.length; k++) {
      this.of[list[k]!] = p;
      for (let h = 3 * list[k]!, end = h + 3; h < end; h++) {
        const v = tri[h]!;
        if (x[v]! < west) west = x[v]!;
        if (x[v]! > east) east = x[v]!;
        if (y[v]! < south) south = y[v]!;
        if (y[v]! > north) north = y[v]!;
      }
    }
    this.boxes[4 * p] = west;
    this.boxes[4 * p + 1] = south;
    this.boxes[4 * p + 2] = east;
    this.boxes[4 * p + 3] = north;
  }

  /**
   * Triangles follow one another along the points' curve, but those between vertices that came last, along breaklines,
   * do not: where they make patches much larger than others are, these are made anew along a curve of their own.
   */
  private gather(): void {
    const { boxes, count } = this,
      { x, y, tri } = this.mesh,
      size = Float64Array.from({ length: count }, (_, p) => {
        return (boxes[4 * p + 2]! - boxes[4 * p]!) * (boxes[4 * p + 3]! - boxes[4 * p + 1]!);
      }),
      most = LOOSE * size.slice().sort()[count >> 1]!,
      loose = Array.from(size.keys()).filter((p) => size[p]! > most),
      // Only the last patch may be short: it stays where it is.
      whole = loose.filter((p) => this.trianglesOf(p).length === PATCH),
      taken = new Int32Array(PATCH * whole.length);
    whole.forEach((p, k) => taken.set(this.trianglesOf(p), PATCH * k));
    const middle = (v: Float64Array) =>
      Float64Array.from(taken, (t) => v[tri[3 * t]!]! + v[tri[3 * t + 1]!]! + v[tri[3 * t + 2]!]!);
    const along = alongCurve(middle(x), middle(y));
    whole.forEach((p, k) => {
      const list = this.trianglesOf(p);
      for (let i = 0; i < PATCH; i++) list[i] = taken[along[PATCH * k + i]!]!;
      this.take(p);
    });
  }

  /** Patches whose boxes meet a rectangle, in no order. */
  meeting(west: number, south: number, east: number, north: number): number[] {
    return this.index.search(west, south, east, north);
  }

  /** A triangle near a position; undefined where no patch is. */
  triangleNear(px: number, py: number): number | undefined {
    const p = this.index.search(px, py, px, py)[0];
    return p === undefined ? undefined : this.order[PATCH * p];
  }
}

/** Level = at + east·x + north·y. */
export interface Plane {
  at: number;
  east: number;
  north: number;
}

/** The plane through the corners of triangles by least squares; level where they do not tell a slope. */
export function planeOf({ x, y, z, tri }: Surface, triangles: Int32Array): Plane {
  const n = 3 * triangles.length,
    first = 3 * triangles[0]!,
    x0 = x[tri[first]!]!,
    y0 = y[tri[first]!]!;
  let sx = 0,
    sy = 0,
    sz = 0,
    sxx = 0,
    sxy = 0,
    syy = 0,
    sxz = 0,
    syz = 0;
  for (let k = 0; k < triangles.length; k++)
    for (let h = 3 * triangles[k]!, end = h + 3; h < end; h++) {
      const v = tri[h]!,
        dx = x[v]! - x0,
        dy = y[v]! - y0,
        dz = z[v]!;
      sx += dx;
      sy += dy;
      sz += dz;
      sxx += dx * dx;
      sxy += dx * dy;
      syy += dy * dy;
      sxz += dx * dz;
      syz += dy * dz;
    }
  const a = sxx - (sx * sx) / n,
    b = sxy - (sx * sy) / n,
    c = syy - (sy * sy) / n,
    p = sxz - (sx * sz) / n,
    q = syz - (sy * sz) / n,
    det = a * c - b * b,
    flat = !(det > 1e-9 * a * c),
    east = flat ? 0 : (p * c - q * b) / det,
    north = flat ? 0 : (q * a - p * b) / det;
  return { at: sz / n - east * (x0 + sx / n) - north * (y0 + sy / n), east, north };
}

/** Lowest and highest that triangles lie over a plane of another frame, whose origin is (−oe, −on) in their own. */
export function overPlane(
  { x, y, z, tri }: Surface,
  { at, east, north }: Plane,
  triangles: Int32Array,
  oe: number,
  on: number,
): [low: number, high: number] {
  const base = at + east * oe + north * on;
  let low = Infinity,
    high = -Infinity;
  for (let k = 0; k < triangles.length; k++)
    for (let h = 3 * triangles[k]!, end = h + 3; h < end; h++) {
      const v = tri[h]!,
        over = z[v]! - base - east * x[v]! - north * y[v]!;
      if (over < low) low = over;
      if (over > high) high = over;
    }
  return [low, high];
}
