/** The ground under a heap: the surface drawn through its toe (RECIPE.md, "VOLUME"). */
import { refusal } from "../errors";
import { properCrossing } from "../math/crossing";
import { boxIndex } from "../math/near";
import type { Corner } from "../math/ring";
import { SurfaceReader } from "../surface/locate";
import { next } from "../surface/mesh";
import type { Surface } from "../surface/model";
import { partsOf, ringMesh, type MeshRing } from "./ring-mesh";
import { plain } from "./regions";

/**
 * The triangulation of the toe alone: its corners and each of its crossings with a side of the surface, at the surface's
 * levels. With each vertex the ground's vertices that its level comes from. Throws a Refusal where the toe leaves the
 * surface.
 */
export interface HeapBase {
  surface: Surface;
  /** For each vertex three of the ground and their shares. */
  from: Int32Array;
  share: Float64Array;
}

export function baseOf(ground: Surface, toes: readonly Corner[][], comparison: string): HeapBase {
  const { origin } = ground,
    reader = new SurfaceReader(ground),
    rings = toes.map((toe) => alongToe(ground, toe)),
    from: number[] = [],
    share: number[] = [];
  const known = new Map<string, number>();
  const levels = rings.map((r) => ({
    ...r,
    z: r.x.map((x, k) => {
      const under = reader.at(x + origin[0], r.y[k]! + origin[1]);
      if (!under) throw refusal("toe-outside", { name: comparison, e: x + origin[0], n: r.y[k]! + origin[1] });
      known.set(`${x} ${r.y[k]}`, from.length / 3);
      const h = 3 * under.triangle;
      from.push(ground.tri[h]!, ground.tri[h + 1]!, ground.tri[h + 2]!);
      share.push(...sharesIn(ground, h, x, r.y[k]!));
      return levelBy(ground, from, share, from.length - 3);
    }),
  }));
  const mesh = ringMesh(levels, origin);
  if (!mesh)
    throw refusal("area-wrong", {
      what: `The toe of “${comparison}”`,
      why: "spans no area",
      e: toes[0]![0]![0],
      n: toes[0]![0]![1],
    });
  const { partOf, holding } = partsOf(mesh, levels);
  for (let t = mesh.triangles - 1; t >= 0; t--) if (holding[partOf[t]!]!.length === 0) mesh.removeTriangle(t);
  const arrays = plain(mesh),
    count = arrays.x.length,
    shares = { from: new Int32Array(3 * count), share: new Float64Array(3 * count) };
  for (let v = 0; v < count; v++) {
    const k = known.get(`${arrays.x[v]} ${arrays.y[v]}`);
    if (k !== undefined) {
      shares.from.set(from.slice(3 * k, 3 * k + 3), 3 * v);
      shares.share.set(share.slice(3 * k, 3 * k + 3), 3 * v);
      continue;
    }
    // Where toes cross one another.
    const under = reader.at(arrays.x[v]! + origin[0], arrays.y[v]! + origin[1]);
    if (!under) continue;
    const h = 3 * under.triangle;
    shares.from.set(ground.tri.subarray(h, h + 3), 3 * v);
    shares.share.set(sharesIn(ground, h, arrays.x[v]!, arrays.y[v]!), 3 * v);
    arrays.z[v] = under.level;
  }
  return {
    surface: {
      ...arrays,
      name: `base of ${comparison}`,
      origin,
      fixed: new Uint8Array(arrays.tri.length),
      point: new Int32Array(count).fill(-1),
    },
    ...shares,
  };
}

/** A toe in the surface's frame, with its crossings with sides of the surface between its corners. */
function alongToe(s: Surface, toe: readonly Corner[]): MeshRing {
  const { x, y, tri, twin, origin } = s,
    ring = toe.map(([e, n]): Corner => [e - origin[0], n - origin[1]]),
    boxes = ring.map((a, k) => {
      const b = ring[(k + 1) % ring.length]!;
      return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1])] as const;
    }),
    index = boxIndex(ring.length, (k) => boxes[k]!),
    stops = ring.map((): [share: number, x: number, y: number][] => []);
  const [west, south, east, north] = [0, 1, 2, 3].map((k) =>
    boxes.reduce((far, b) => (k < 2 ? Math.min(far, b[k]!) : Math.max(far, b[k]!)), k < 2 ? Infinity : -Infinity),
  ) as [number, number, number, number];
  for (let h = 0; h < tri.length; h++) {
    if (twin[h]! > h) continue;
    const p = tri[h]!,
      q = tri[next(h)]!,
      px = x[p]!,
      py = y[p]!,
      qx = x[q]!,
      qy = y[q]!;
    // Most sides are nowhere near the toe.
    if (
      (px < west && qx < west) ||
      (px > east && qx > east) ||
      (py < south && qy < south) ||
      (py > north && qy > north)
    )
      continue;
    for (const k of index.search(Math.min(px, qx), Math.min(py, qy), Math.max(px, qx), Math.max(py, qy))) {
      const [a, b] = [ring[k]!, ring[(k + 1) % ring.length]!],
        at = properCrossing(...a, ...b, px, py, qx, qy) ?? vertexBetween(a, b, px, py) ?? vertexBetween(a, b, qx, qy);
      if (at) stops[k]!.push([Math.hypot(at[0] - a[0], at[1] - a[1]), ...at]);
    }
  }
  const out: MeshRing = { x: [], y: [] };
  const add = (px: number, py: number) => {
    if (out.x.at(-1) === px && out.y.at(-1) === py) return;
    out.x.push(px);
    out.y.push(py);
  };
  ring.forEach((a, k) => {
    add(...a);
    for (const [, px, py] of stops[k]!.sort((p, q) => p[0] - q[0])) add(px, py);
  });
  return out;
}

/** A vertex of the surface that the segment runs through, not at its ends. */
function vertexBetween(a: Corner, b: Corner, x: number, y: number): Corner | undefined {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]],
    along = (x - a[0]) * dx + (y - a[1]) * dy;
  return (x - a[0]) * dy === (y - a[1]) * dx && along > 0 && along < dx * dx + dy * dy ? [x, y] : undefined;
}

/** Shares of a triangle's corners at a position. */
export function sharesIn(
  { x, y, tri }: Pick<Surface, "x" | "y" | "tri">,
  h: number,
  px: number,
  py: number,
): [number, number, number] {
  const [a, b, c] = [tri[h]!, tri[h + 1]!, tri[h + 2]!],
    cx = x[c]!,
    cy = y[c]!,
    det = (x[a]! - cx) * (y[b]! - cy) - (x[b]! - cx) * (y[a]! - cy),
    u = ((y[b]! - cy) * (px - cx) + (cx - x[b]!) * (py - cy)) / det,
    v = ((cy - y[a]!) * (px - cx) + (x[a]! - cx) * (py - cy)) / det;
  return [u, v, 1 - u - v];
}

function levelBy({ z }: Surface, from: readonly number[], share: readonly number[], at: number): number {
  const base = z[from[at + 2]!]!;
  return base + share[at]! * (z[from[at]!]! - base) + share[at + 1]! * (z[from[at + 1]!]! - base);
}
