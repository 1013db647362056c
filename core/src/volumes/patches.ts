/**
 * A surface in patches of triangles that follow one another, and so mostly lie together: whether a whole patch lies above
 * or below another surface is told from planes, long before single triangles are looked at.
 */
import { boxIndex, type BoxIndex } from "../math/near";
import type { Surface } from "../surface/model";

/** Triangles of a patch. */
export const PATCH = 64;

type Mesh = Pick<Surface, "x" | "y" | "tri">;

/** The patches of a mesh in plan, in its own frame. */
export class Patches {
  readonly count: number;
  /** West, south, east, north of each. */
  readonly boxes: Float64Array;
  private readonly index: BoxIndex;

  constructor(readonly mesh: Mesh) {
    const { x, y, tri } = mesh;
    this.count = Math.ceil(tri.length / (3 * PATCH));
    const boxes = (this.boxes = new Float64Array(4 * this.count));
    for (let p = 0; p < this.count; p++) {
      let west = Infinity,
        south = Infinity,
        east = -Infinity,
        north = -Infinity;
      for (let h = 3 * PATCH * p, end = Math.min(tri.length, h + 3 * PATCH); h < end; h++) {
        const v = tri[h]!;
        if (x[v]! < west) west = x[v]!;
        if (x[v]! > east) east = x[v]!;
        if (y[v]! < south) south = y[v]!;
        if (y[v]! > north) north = y[v]!;
      }
      boxes[4 * p] = west;
      boxes[4 * p + 1] = south;
      boxes[4 * p + 2] = east;
      boxes[4 * p + 3] = north;
    }
    this.index = boxIndex(this.count, (p) => [boxes[4 * p]!, boxes[4 * p + 1]!, boxes[4 * p + 2]!, boxes[4 * p + 3]!]);
  }

  /** Patches whose boxes meet a rectangle, in no order. */
  meeting(west: number, south: number, east: number, north: number): number[] {
    return this.index.search(west, south, east, north);
  }

  /** A triangle near a position; undefined where no patch is. */
  triangleNear(px: number, py: number): number | undefined {
    const p = this.index.search(px, py, px, py)[0];
    return p === undefined ? undefined : PATCH * p;
  }
}

/** Level = at + east·x + north·y. */
export interface Plane {
  at: number;
  east: number;
  north: number;
}

/** The plane through a patch's corners by least squares; level where they do not tell a slope. */
export function planeOf({ x, y, z, tri }: Surface, patch: number): Plane {
  const first = 3 * PATCH * patch,
    end = Math.min(tri.length, first + 3 * PATCH),
    n = end - first,
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
  for (let h = first; h < end; h++) {
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
