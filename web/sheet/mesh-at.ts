/** Which side or triangle of a surface a position means. */
import { next, prev } from "@bramble/core/surface/mesh";
import type { Surface } from "@bramble/core/surface/model";
import { readerOf } from "./surface-reader";

/** The side, or the triangle, that a position means: its vertices, and why it cannot be taken where it cannot. */
export function meshAt(
  s: Surface,
  what: "side" | "triangle",
  e: number,
  n: number,
): { vertices: number[]; problem: string } | undefined {
  const under = readerOf(s).at(e, n);
  if (!under) return undefined;
  const first = 3 * under.triangle,
    [px, py] = [e - s.origin[0], n - s.origin[1]];
  let vertices = [s.tri[first]!, s.tri[first + 1]!, s.tri[first + 2]!],
    problem = "";
  if (what === "side") {
    const h = [first, first + 1, first + 2].sort((a, b) => distance(s, a, px, py) - distance(s, b, px, py))[0]!;
    vertices = [s.tri[h]!, s.tri[next(h)]!];
    if (s.fixed[h] === 1) problem = "This side belongs to a breakline: it stays.";
    else if (s.twin[h]! < 0) problem = "This side lies on the edge: it has no other diagonal.";
    else if (!hasOtherDiagonal(s, h)) problem = "Its two triangles have no other diagonal.";
  }
  if (vertices.some((v) => s.point[v]! < 0))
    problem = "A corner there is no point of the job: it cannot be named, so nothing can be kept of it.";
  return { vertices, problem };
}

function distance(s: Surface, h: number, px: number, py: number): number {
  const [a, b] = [s.tri[h]!, s.tri[next(h)]!],
    [dx, dy] = [s.x[b]! - s.x[a]!, s.y[b]! - s.y[a]!],
    t = Math.min(1, Math.max(0, ((px - s.x[a]!) * dx + (py - s.y[a]!) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(s.x[a]! + t * dx - px, s.y[a]! + t * dy - py);
}

function hasOtherDiagonal(s: Surface, h: number): boolean {
  const o = s.twin[h]!,
    [u, v, w, x] = [s.tri[h]!, s.tri[o]!, s.tri[prev(h)]!, s.tri[prev(o)]!];
  const turn = (a: number, b: number, c: number) =>
    (s.x[b]! - s.x[a]!) * (s.y[c]! - s.y[a]!) - (s.y[b]! - s.y[a]!) * (s.x[c]! - s.x[a]!);
  return turn(x, v, w) > 0 && turn(w, u, x) > 0;
}
