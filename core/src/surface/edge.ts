/** The edge of a surface and its holes: drawn, by closed lines of a code, fitted, or by the longest side. */
import { say } from "../finding";
import { wildcard } from "../math/words";
import type { TriMesh } from "./mesh";
import type { RingWanted, SurfaceRecipe } from "./model";
import { peel } from "./peel";
import { cutAlong, type Ring } from "./rings";
import type { SurfaceSources } from "./sources";
import type { BuildTold } from "./told";
import { offset } from "./vertices";

type Owners = Parameters<typeof cutAlong>[3];

/** Lays the edge and the holes while the mesh still covers its hull, then peels; whether anything of it was drawn. */
export function layEdge(
  mesh: TriMesh,
  recipe: SurfaceRecipe,
  sources: SurfaceSources,
  owners: Owners,
  origin: [number, number],
  noise: number,
  told: BuildTold,
): { isDrawn: boolean } {
  const { edge, holes = [], longestSide } = recipe,
    rings = (wanted: RingWanted, what: string) => ringsOf(wanted, what, sources, origin, told);
  const drawn = edge !== undefined && edge !== "hull" && !("fit" in edge) ? rings(edge, "the edge") : [],
    holeRings = holes.flatMap((w) => rings(w, "a hole")),
    // Where no line of the edge's code is closed it is told, and the hull stays.
    ringed = drawn.length ? drawn : undefined;
  if (ringed || holeRings.length) {
    const { unfollowed } = cutAlong(mesh, ringed, holeRings, owners, noise);
    for (const k of unfollowed)
      told.refuse([k < (ringed?.length ?? 0) ? "the edge" : "a hole"], "a piece of it could not be followed");
  }
  if (typeof edge === "object" && "fit" in edge) peel(mesh, edge.fit, true);
  if (longestSide !== undefined) peel(mesh, longestSide, false);
  return { isDrawn: ringed !== undefined || holeRings.length > 0 };
}

/** Rings as drawn, or the closed lines of a code; a line of it that is open is refused by name. */
function ringsOf(
  wanted: RingWanted,
  what: string,
  { lines, chains }: SurfaceSources,
  origin: [number, number],
  told: BuildTold,
): Ring[] {
  if ("ring" in wanted)
    return [Float64Array.from(wanted.ring.flatMap(([e, n]) => [offset(e, origin[0]), offset(n, origin[1])]))];
  const is = wildcard(wanted.code),
    rings: Ring[] = [];
  let any = false;
  lines.forEach((l, k) => {
    if (!is(l.code) || l.companion) return;
    any = true;
    const { xyz, starts } = chains;
    if (!l.closed || starts[k + 1]! - starts[k]! < 4)
      return told.refuse(say`${{ line: k }} as ${what}`, "it is not closed");
    const ring: number[] = [];
    for (let v = starts[k]!; v < starts[k + 1]! - 1; v++)
      ring.push(offset(xyz[3 * v]!, origin[0]), offset(xyz[3 * v + 1]!, origin[1]));
    rings.push(Float64Array.from(ring));
  });
  if (!any) told.refuse([`${what}, lines coded ${wanted.code}`], "there is none");
  return rings;
}
