/** Closed rings as a mesh whose triangles lie each within or without every one of them. */
import { properCrossing } from "../math/crossing";
import { boxIndex } from "../math/near";
import { doublesBack, segmentsCross, type Corner } from "../math/ring";
import { refusal } from "../errors";
import { Constrainer } from "../surface/constrain";
import { alongCurve } from "../surface/curve";
import { mergeCoincident } from "../surface/merge";
import { RING, type TriMesh } from "../surface/mesh";
import { splitAtVertices } from "../surface/pieces";
import { triangulate } from "../surface/triangulate";
import { roundingOf } from "../surface/vertices";

/** Corners of a ring as offsets from an origin, with levels where they matter. */
export interface MeshRing {
  x: number[];
  y: number[];
  z?: number[];
}

/** The mesh over the hull of some rings, their sides marked RING; undefined where they span no area. */
export function ringMesh(rings: readonly MeshRing[], origin: [number, number]): TriMesh | undefined {
  const at = rings.flatMap((r) => r.x.map((x, k) => [x, r.y[k]!, r.z?.[k] ?? 0] as const)),
    flat = (k: 0 | 1 | 2) => Float64Array.from(at, (p) => p[k]);
  const order = alongCurve(flat(0), flat(1)),
    placed = new Int32Array(order.length);
  order.forEach((i, k) => (placed[i] = k));
  const sorted = (k: 0 | 1 | 2) => Float64Array.from(order, (i) => at[i]![k]);
  const [sx, sy, sz] = [sorted(0), sorted(1), sorted(2)],
    noise = roundingOf(origin, sx, sy),
    merged = mergeCoincident(sx, sy, sz, noise);
  if (merged.x.length < 3) return undefined;
  const mesh = triangulate(merged.x, merged.y, merged.z, noise);
  if (mesh.triangles === 0) return undefined;
  const pieces: { a: number; b: number; line: number }[] = [];
  let first = 0;
  rings.forEach((r, line) => {
    const count = r.x.length,
      vertex = (k: number) => merged.vertexOf[placed[first + (k % count)]!]!;
    for (let k = 0; k < count; k++)
      if (vertex(k) !== vertex(k + 1)) pieces.push({ a: vertex(k), b: vertex(k + 1), line });
    first += count;
  });
  const split = splitAtVertices(mesh, pieces, noise, () => undefined),
    constrainer = new Constrainer(mesh, split, (c) => c.levels[1], noise, RING);
  for (let k = 0; k < split.length; k++)
    if (!constrainer.insert(k))
      throw refusal("area-lost", { e: origin[0] + mesh.x[split[k]!.a]!, n: origin[1] + mesh.y[split[k]!.a]! });
  return mesh;
}

/**
 * Which part each triangle of such a mesh belongs to: 0 for what lies in no ring, else one for each different list of
 * rings that hold it.
 */
export function partsOf(mesh: TriMesh, rings: readonly MeshRing[]): { partOf: Int32Array; holding: number[][] } {
  const { tri, twin, owner, x, y } = mesh,
    count = mesh.triangles,
    partOf = new Int32Array(count).fill(-1),
    holding: number[][] = [[]],
    known = new Map<string, number>([["", 0]]);
  for (let first = 0; first < count; first++) {
    if (partOf[first]! >= 0) continue;
    const members = [first];
    partOf[first] = 0;
    let widest = first,
      area = -1;
    for (let k = 0; k < members.length; k++) {
      const t = members[k]!,
        turn = mesh.side(tri[3 * t]!, tri[3 * t + 1]!, tri[3 * t + 2]!);
      if (turn > area) [widest, area] = [t, turn];
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        if (twin[h]! < 0 || owner[h]! & RING) continue;
        const u = Math.floor(twin[h]! / 3);
        if (partOf[u]! >= 0) continue;
        partOf[u] = 0;
        members.push(u);
      }
    }
    const [a, b, c] = [tri[3 * widest]!, tri[3 * widest + 1]!, tri[3 * widest + 2]!],
      px = (x[a]! + x[b]! + x[c]!) / 3,
      py = (y[a]! + y[b]! + y[c]!) / 3;
    const holds = rings.flatMap((r, k) => (within(r, px, py) ? [k] : [])),
      key = holds.join(" ");
    let part = known.get(key);
    if (part === undefined) {
      part = holding.push(holds) - 1;
      known.set(key, part);
    }
    for (const t of members) partOf[t] = part;
  }
  return { partOf, holding };
}

/** Whether a position that is not on a ring lies within it. */
function within({ x, y }: MeshRing, px: number, py: number): boolean {
  let inside = false;
  for (let i = 0, j = x.length - 1; i < x.length; j = i++)
    if (y[i]! > py !== y[j]! > py && px < x[i]! + ((py - y[i]!) / (y[j]! - y[i]!)) * (x[j]! - x[i]!)) inside = !inside;
  return inside;
}

/** Corners E, N without those that repeat the one before, or the first. */
export function openRing(corners: readonly (readonly [number, number])[]): Corner[] {
  const out = corners.filter((c, k) => {
    const before = corners[(k + corners.length - 1) % corners.length]!;
    return corners.length === 1 || c[0] !== before[0] || c[1] !== before[1];
  });
  return out;
}

/** Throws a Refusal with the position where a ring crosses itself or runs back over itself, or where it has no three corners. */
export function checkRing(ring: readonly Corner[], what: string): void {
  const n = ring.length;
  const wrong = (why: string, [e, at]: Corner) => refusal("area-wrong", { what, why, e, n: at });
  if (n < 3) throw wrong("has fewer than three corners", ring[0] ?? [NaN, NaN]);
  const box = (k: number) => {
    const [a, b] = [ring[k]!, ring[(k + 1) % n]!];
    return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1])] as const;
  };
  const index = boxIndex(n, box);
  for (let k = 0; k < n; k++) {
    const [a, b] = [ring[k]!, ring[(k + 1) % n]!];
    if (doublesBack(a, b, ring[(k + 2) % n]!)) throw wrong("runs back over itself", b);
    for (const j of index.search(...box(k))) {
      if (j <= k + 1 || (k === 0 && j === n - 1)) continue;
      const [c, d] = [ring[j]!, ring[(j + 1) % n]!];
      if (segmentsCross(a, b, c, d))
        throw wrong("crosses itself", properCrossing(...a, ...b, ...c, ...d) ?? touch(a, b, c, d));
    }
  }
}

/** An end of one segment that lies on the other. */
function touch(a: Corner, b: Corner, c: Corner, d: Corner): Corner {
  const far = (p: Corner, q: Corner, x: Corner) =>
    Math.abs(
      Math.hypot(x[0] - p[0], x[1] - p[1]) +
        Math.hypot(x[0] - q[0], x[1] - q[1]) -
        Math.hypot(q[0] - p[0], q[1] - p[1]),
    );
  return ([c, d] as const).reduce(
    (best, x) => (far(a, b, x) < far(a, b, best) ? x : best),
    far(c, d, a) < far(c, d, b) ? a : b,
  );
}
