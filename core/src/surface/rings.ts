/**
 * A surface cut along drawn rings: the edge, within the hull, and holes (RECIPE.md, "SURFACE"). Rings are laid on the mesh
 * as breaklines are, with levels of the surface; what lies on their wrong side is taken away.
 */
import { boxIndex } from "../math/near";
import { side } from "../math/predicates";
import { Constrainer, type Crossing, type PieceEnds } from "./constrain";
import { next, prev, RING, type TriMesh } from "./mesh";
import { copyOf, splitAtVertices, vertexAt } from "./pieces";

/** Corners of a ring (x, y, x, y …), offsets from the surface's origin; the first is not repeated. */
export type Ring = Float64Array;

export interface Cut {
  /** Rings that could not be followed to their end, by index: those of the edge, then holes. */
  unfollowed: number[];
}

/**
 * Cuts a mesh over a convex hull: kept is what lies within any ring of `edge` (all of it where there is none) and in no
 * hole. `pieces` are those that own sides so far.
 */
export function cutAlong(
  mesh: TriMesh,
  edge: readonly Ring[] | undefined,
  holes: readonly Ring[],
  pieces: readonly PieceEnds[],
  noise: number,
): Cut {
  const rings = [...(edge ?? []), ...holes],
    levels = copyOf(mesh);
  let near = 0;
  const levelAt = (x: number, y: number) => {
    const h = levels.locate(x, y, near);
    if (h < 0) return NaN;
    near = h;
    return levels.levelIn(h, x, y);
  };
  const laid = layOut(mesh, rings, levelAt, noise),
    all = pieces.concat(splitAtVertices(mesh, laid, noise, () => undefined)),
    // Where a ring crosses a breakline it lies on that.
    level = (c: Crossing) => (c.pieces[1] < pieces.length ? c.levels[1] : levelAt(c.x, c.y)),
    constrainer = new Constrainer(mesh, all, level, noise, RING);
  const outer = (edge ?? []).map(tester),
    inner = holes.map(tester);
  const unfollowed = new Set<number>();
  for (let k = pieces.length; k < all.length; k++) if (!constrainer.insert(k)) unfollowed.add(all[k]!.line);
  removeTriangles(mesh, (x, y) => (!edge || outer.some((is) => is(x, y))) && !inner.some((is) => is(x, y)));
  return { unfollowed: [...unfollowed] };
}

/** A position on a ring where the mesh has a vertex, at a share of the ring's piece. */
interface Stop {
  share: number;
  vertex: number;
}

/** Puts the rings' corners and where they cross the outline on the mesh; returns their pieces within it, `line` the ring. */
function layOut(
  mesh: TriMesh,
  rings: readonly Ring[],
  levelAt: (x: number, y: number) => number,
  noise: number,
): PieceEnds[] {
  const stops = rings.map((r) => Array.from({ length: r.length / 2 }, (): Stop[] => []));
  crossOutline(mesh, rings, stops, noise);
  const pieces: PieceEnds[] = [];
  rings.forEach((ring, k) => {
    const count = ring.length / 2,
      corners = Array.from({ length: count }, (_, i) => vertexAt(mesh, ring[2 * i]!, ring[2 * i + 1]!, levelAt, noise));
    for (let i = 0; i < count; i++) {
      const j = (i + 1) % count,
        way = [
          { share: 0, vertex: corners[i]! },
          ...stops[k]![i]!.sort((a, b) => a.share - b.share),
          { share: 1, vertex: corners[j]! },
        ];
      for (let s = 1; s < way.length; s++) {
        const [a, b] = [way[s - 1]!.vertex, way[s]!.vertex];
        if (a < 0 || b < 0 || a === b) continue;
        // Between two crossings a piece may lie outside.
        if (mesh.locate((mesh.x[a]! + mesh.x[b]!) / 2, (mesh.y[a]! + mesh.y[b]!) / 2, mesh.edgeOf[a]) < 0) continue;
        pieces.push({ a, b, line: k });
      }
    }
  });
  return pieces;
}

/** Vertices on the outline where rings cross it, and those of the outline that stand on rings. */
function crossOutline(mesh: TriMesh, rings: readonly Ring[], stops: Stop[][][], noise: number): void {
  const { x, y } = mesh,
    ends: number[] = [];
  for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.twin[h] === -1) ends.push(mesh.tri[h]!, mesh.tri[next(h)]!);
  const index = boxIndex(ends.length / 2, (k) => {
    const [p, q] = [ends[2 * k]!, ends[2 * k + 1]!];
    return [
      Math.min(x[p]!, x[q]!) - noise,
      Math.min(y[p]!, y[q]!) - noise,
      Math.max(x[p]!, x[q]!) + noise,
      Math.max(y[p]!, y[q]!) + noise,
    ];
  });
  /** Crossings of outline sides, by their first vertex. */
  const onSide = new Map<number, { k: number; share: number; stop: Stop }[]>();
  rings.forEach((ring, r) => {
    for (let i = 0; i < ring.length / 2; i++) {
      const j = (i + 1) % (ring.length / 2),
        [ax, ay, bx, by] = [ring[2 * i]!, ring[2 * i + 1]!, ring[2 * j]!, ring[2 * j + 1]!],
        length = Math.hypot(bx - ax, by - ay);
      if (length === 0) continue;
      const near = index.search(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
      for (const k of near) {
        const [p, q] = [ends[2 * k]!, ends[2 * k + 1]!],
          sp = side(ax, ay, bx, by, x[p]!, y[p]!),
          sq = side(ax, ay, bx, by, x[q]!, y[q]!);
        const along = (px: number, py: number) => ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / length ** 2;
        if (Math.abs(sp) <= noise * length) {
          const share = along(x[p]!, y[p]!);
          if (share > 0 && share < 1) stops[r]![i]!.push({ share, vertex: p });
        }
        if (Math.abs(sp) <= noise * length || Math.abs(sq) <= noise * length || sp > 0 === sq > 0) continue;
        const sa = side(x[p]!, y[p]!, x[q]!, y[q]!, ax, ay),
          sb = side(x[p]!, y[p]!, x[q]!, y[q]!, bx, by);
        if (sa > 0 === sb > 0 || sa === 0 || sb === 0) continue;
        const stop: Stop = { share: sa / (sa - sb), vertex: -1 };
        stops[r]![i]!.push(stop);
        const known = onSide.get(p),
          crossing = { k, share: sp / (sp - sq), stop };
        if (known) known.push(crossing);
        else onSide.set(p, [crossing]);
      }
    }
  });
  for (const [p, crossings] of onSide) {
    const q = ends[2 * crossings[0]!.k + 1]!;
    const [px, py, pz, qx, qy, qz] = [mesh.x[p]!, mesh.y[p]!, mesh.z[p]!, mesh.x[q]!, mesh.y[q]!, mesh.z[q]!];
    let from = p;
    for (const { share, stop } of crossings.sort((a, b) => a.share - b.share))
      from = stop.vertex = onOutline(
        mesh,
        from,
        px + share * (qx - px),
        py + share * (qy - py),
        pz + share * (qz - pz),
      );
  }
}

/** A vertex on the outline's side from a vertex onward; that vertex, or the side's other end, where there is no room. */
function onOutline(mesh: TriMesh, from: number, x: number, y: number, z: number): number {
  let h = mesh.edgeOf[from]!;
  while (mesh.twin[h]! >= 0) h = next(mesh.twin[h]!);
  const to = mesh.tri[next(h)]!,
    apex = mesh.tri[prev(h)]!,
    v = mesh.addVertex(x, y, z);
  if (mesh.side(from, v, apex) > 0 && mesh.side(v, to, apex) > 0) {
    mesh.splitEdge(h, v);
    return v;
  }
  mesh.vertices--;
  const far = (w: number) => Math.hypot(mesh.x[w]! - x, mesh.y[w]! - y);
  return far(from) <= far(to) ? from : to;
}

/** Takes away the parts, bounded by sides of rings, that are not wanted; asked of a position within each. */
function removeTriangles(mesh: TriMesh, wanted: (x: number, y: number) => boolean): void {
  const { tri, twin, owner, x, y } = mesh,
    count = mesh.triangles,
    part = new Int32Array(count).fill(-1),
    stack = new Int32Array(count),
    unwanted: boolean[] = [];
  for (let first = 0; first < count; first++) {
    if (part[first]! >= 0) continue;
    const id = unwanted.length;
    let top = 0,
      largest = -1,
      at = first;
    stack[top++] = first;
    part[first] = id;
    while (top > 0) {
      const t = stack[--top]!,
        area = mesh.side(tri[3 * t]!, tri[3 * t + 1]!, tri[3 * t + 2]!);
      if (area > largest) [largest, at] = [area, t];
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const o = twin[h]!;
        if (o < 0 || owner[h]! & RING) continue;
        const u = (o - (o % 3)) / 3;
        if (part[u]! >= 0) continue;
        part[u] = id;
        stack[top++] = u;
      }
    }
    const [a, b, c] = [tri[3 * at]!, tri[3 * at + 1]!, tri[3 * at + 2]!];
    unwanted.push(!wanted((x[a]! + x[b]! + x[c]!) / 3, (y[a]! + y[b]! + y[c]!) / 3));
  }
  // From the end, since the last triangle fills the gap.
  for (let t = count - 1; t >= 0; t--) if (unwanted[part[t]!]) mesh.removeTriangle(t);
}

/** Tells whether positions lie within a ring; most are seen to lie beside its box. */
function tester(ring: Ring): (x: number, y: number) => boolean {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < ring.length; i += 2) {
    west = Math.min(west, ring[i]!);
    east = Math.max(east, ring[i]!);
    south = Math.min(south, ring[i + 1]!);
    north = Math.max(north, ring[i + 1]!);
  }
  return (x, y) => x >= west && x <= east && y >= south && y <= north && holds(ring, x, y);
}

/** Whether a position lies within a ring, by how often a way to the east crosses it. */
function holds(ring: Ring, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [ring[j]!, ring[j + 1]!, ring[i]!, ring[i + 1]!];
    if (ay > y === by > y) continue;
    if (by > ay ? side(ax, ay, bx, by, x, y) > 0 : side(ax, ay, bx, by, x, y) < 0) inside = !inside;
  }
  return inside;
}
