/** Sides swapped and triangles taken out by hand, by the vertices at their corners. */
import { next, prev, type TriMesh } from "./mesh";
import type { SurfaceRecipe } from "./model";
import type { SurfaceSources } from "./sources";
import type { BuildTold } from "./told";

/** Exchanges the side between two vertices for the other diagonal; why not, where it cannot be. */
export function swapSide(mesh: TriMesh, a: number, b: number): string | undefined {
  const h = sideBetween(mesh, a, b);
  if (h < 0) return "there is no such side any more";
  const o = mesh.twin[h]!;
  if (mesh.owner[h] !== 0) return "it belongs to a breakline";
  if (o < 0) return "it lies on the edge";
  const [u, v, w, x] = [mesh.tri[h]!, mesh.tri[o]!, mesh.tri[prev(h)]!, mesh.tri[prev(o)]!];
  if (!(mesh.side(x, v, w) > 0 && mesh.side(w, u, x) > 0)) return "its two triangles have no other diagonal";
  mesh.flip(h);
  return undefined;
}

/** Takes the triangle between three vertices out; why not, where it cannot be. */
export function dropTriangle(mesh: TriMesh, a: number, b: number, c: number): string | undefined {
  const h = sideBetween(mesh, a, b);
  for (const k of h < 0 ? [] : [h, mesh.twin[h]!])
    if (k >= 0 && mesh.tri[prev(k)] === c) {
      mesh.removeTriangle((k - (k % 3)) / 3);
      return undefined;
    }
  return "there is no such triangle any more";
}

/** A half-edge between two vertices, either way; −1 where there is none. */
function sideBetween({ tri, triangles }: TriMesh, a: number, b: number): number {
  // Few are made by hand, and a vertex where parts of the surface meet has no single turn of triangles.
  for (let h = 0; h < 3 * triangles; h++) {
    const [p, q] = [tri[h]!, tri[next(h)]!];
    if ((p === a && q === b) || (p === b && q === a)) return h;
  }
  return -1;
}

/** What was corrected by hand, in order; `shots` are the rows of the vertices. What is not there any more is told. */
export function correct(
  mesh: TriMesh,
  { swap = [], drop = [] }: SurfaceRecipe,
  { found }: SurfaceSources,
  shots: Int32Array,
  told: BuildTold,
): void {
  if (!found || swap.length + drop.length === 0) return;
  const vertexOfRow = new Map<number, number>();
  shots.forEach((row, v) => row >= 0 && vertexOfRow.set(row, v));
  for (const corners of [...swap, ...drop]) {
    const rows = corners.map((ref) => found.rowOf(ref)),
      numbers = corners.map(found.numberOf),
      at = rows.map((row) => vertexOfRow.get(row));
    let why: string | undefined;
    if (at.includes(undefined)) why = `point ${numbers[at.indexOf(undefined)]} is none of its points`;
    else if (corners.length === 2) why = swapSide(mesh, at[0]!, at[1]!);
    else why = dropTriangle(mesh, at[0]!, at[1]!, at[2]!);
    if (why !== undefined)
      told.correctionLost(
        numbers,
        rows.filter((r) => r >= 0),
        why,
      );
  }
}
