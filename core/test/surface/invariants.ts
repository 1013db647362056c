/** What must hold of any finished surface; used by the tests of several stages. */
import { inCircle, side } from "../../src/math/predicates";
import type { Surface } from "../../src/surface/model";

/** Throws with a reason when triangles or their sides are not those of a constrained Delaunay triangulation. */
export function checkSides(s: Surface): void {
  const nextOf = (h: number) => (h % 3 === 2 ? h - 2 : h + 1);
  const used = new Set<number>();
  for (let h = 0; h < s.tri.length; h++) {
    used.add(s.tri[h]!);
    const a = s.tri[h]!,
      b = s.tri[nextOf(h)]!,
      c = s.tri[nextOf(nextOf(h))]!;
    if (h % 3 === 0 && !(side(s.x[a]!, s.y[a]!, s.x[b]!, s.y[b]!, s.x[c]!, s.y[c]!) > 0))
      throw new Error(`triangle ${h / 3} is not counter-clockwise`);
    const t = s.twin[h]!;
    if (t < 0) continue;
    if (s.twin[t] !== h) throw new Error(`half-edge ${h} and its twin ${t} do not name each other`);
    if (s.tri[t] !== b || s.tri[nextOf(t)] !== a)
      throw new Error(`half-edge ${h} and its twin ${t} have different ends`);
    if (s.fixed[h] !== s.fixed[t]) throw new Error(`half-edge ${h} is fixed on one side only`);
    if (s.fixed[h]) continue;
    const d = s.tri[nextOf(nextOf(t))]!;
    if (inCircle(s.x[a]!, s.y[a]!, s.x[b]!, s.y[b]!, s.x[c]!, s.y[c]!, s.x[d]!, s.y[d]!) > 0)
      throw new Error(`side ${h} is free and not Delaunay`);
  }
  if (used.size !== s.x.length) throw new Error(`${s.x.length - used.size} vertices have no triangle`);
}

/** Throws with a reason when the mesh is not a valid constrained Delaunay triangulation over one simple outline. */
export function checkMesh(s: Surface): void {
  checkSides(s);
  // Euler: a mesh without overlap over one simply connected part.
  const outline = s.twin.reduce((n, t) => n + (t < 0 ? 1 : 0), 0);
  if (s.tri.length / 3 !== 2 * s.x.length - 2 - outline) throw new Error("the mesh is not one simply connected part");
}

/** Area of the convex hull of places (Andrew 1979). */
export function hullArea(x: ArrayLike<number>, y: ArrayLike<number>): number {
  const order = Array.from({ length: x.length }, (_, i) => i).sort((a, b) => x[a]! - x[b]! || y[a]! - y[b]!);
  const chain = (list: number[]) => {
    const hull: number[] = [];
    for (const p of list) {
      while (
        hull.length > 1 &&
        side(x[hull.at(-2)!]!, y[hull.at(-2)!]!, x[hull.at(-1)!]!, y[hull.at(-1)!]!, x[p]!, y[p]!) <= 0
      )
        hull.pop();
      hull.push(p);
    }
    return hull.slice(0, -1);
  };
  const ring = [...chain(order), ...chain(order.reverse())];
  return ring.reduce((s, p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return s + (x[p]! * y[q]! - x[q]! * y[p]!) / 2;
  }, 0);
}
