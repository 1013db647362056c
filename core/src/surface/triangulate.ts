/** The bare mesh of positions, before breaklines: made anew, or kept from the last building. */
import { inTurn } from "./curve";
import { delaunay } from "./delaunay";
import { delaunayAgain, type Triangulated } from "./delaunay-again";
import { next, prev, TriMesh } from "./mesh";
import type { Triangles } from "./one-order";

/**
 * The mesh of positions given as offsets from a near origin. No two may be the same position (see mergeCoincident).
 * Fast where they come along a curve, as VertexList gives them. `noise` is the rounding of the coordinates: positions on
 * a straight outline but for it are taken as straight.
 * A mesh without triangles means that all positions are on one line.
 */
export function triangulate(
  x: Float64Array,
  y: Float64Array,
  z: Float64Array,
  noise: number,
  kept?: KeptPlan,
): TriMesh {
  const { tri, twin } = kept ? planOf(x, y, kept) : delaunay(x, y, inTurn(x.length)),
    // What is kept stays as it is.
    mesh = new TriMesh(x, y, z, kept ? tri.slice() : tri, kept ? twin.slice() : twin);
  peelSlivers(mesh, noise);
  return mesh;
}

/**
 * The triangles of the last building: they hang on plan positions alone, so that a changed level need not make them
 * again, and few others only change them.
 */
export interface KeptPlan {
  last?: Triangulated;
}

function planOf(x: Float64Array, y: Float64Array, kept: KeptPlan): Triangles {
  const { last } = kept;
  if (last && sameNumbers(last.x, x) && sameNumbers(last.y, y)) return last;
  const made = (last && delaunayAgain(last, x, y)) ?? delaunay(x, y, inTurn(x.length));
  kept.last = { ...made, x, y };
  return made;
}

function sameNumbers(a: Float64Array, b: Float64Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/**
 * Takes away triangles of the outline that have no height but rounding. Left there, a triangle of no area but of any
 * slope would stand upright on a straight outline, with contours and slope area of its own.
 */
function peelSlivers(mesh: TriMesh, noise: number): void {
  const isSliver = (h: number) => {
    const a = mesh.tri[h]!,
      b = mesh.tri[next(h)]!,
      c = mesh.tri[prev(h)]!;
    return mesh.side(a, b, c) <= noise * Math.hypot(mesh.x[b]! - mesh.x[a]!, mesh.y[b]! - mesh.y[a]!);
  };
  for (let again = true; again;) {
    again = false;
    // From the end, since the last triangle fills the gap.
    for (let h = 3 * mesh.triangles - 1; h >= 0; h--) {
      if (h < 3 * mesh.triangles && mesh.twin[h] === -1 && isSliver(h)) {
        mesh.removeTriangle((h - (h % 3)) / 3);
        again = true;
      }
    }
  }
}
