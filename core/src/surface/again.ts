/**
 * A surface and its contours made again after few levels changed: exactly what a whole making gives, at the cost of
 * what changed. A level on no breakline moves its vertex and nothing else; contours change where a triangle beside it
 * has them, then or now.
 */
import { contour, firstAbove, levelsOf, trace, type Contours } from "./contour";
import { breaklinesOf } from "./breaklines";
import { buildSurface } from "./build";
import { measure } from "./finish";
import { movedVertices, type KeptSums } from "./block-sums";
import { next, prev } from "./mesh";
import type { BuiltSurface, ContoursRecipe, Surface, SurfaceRecipe } from "./model";
import type { SurfaceSources } from "./sources";
import type { KeptPlan } from "./triangulate";

/** What is kept between makings of one surface. */
export interface KeptSurface {
  plan: KeptPlan;
  sums: KeptSums;
  last?: { recipe: SurfaceRecipe; sources: SurfaceSources; built: BuiltSurface };
}

/** More levels than this are as quickly made all anew. */
const FEW = 1000;

/** buildSurface, by way of the last one where only few levels are others. Throws as that does. */
export function buildSurfaceAgain(recipe: SurfaceRecipe, sources: SurfaceSources, kept: KeptSurface): BuiltSurface {
  const built =
    (kept.last && relevelled(kept.last, recipe, sources, kept.sums)) ??
    buildSurface(recipe, { ...sources, plan: kept.plan, sums: kept.sums });
  kept.last = { recipe, sources, built };
  return built;
}

const SAME = [
  "points",
  "e",
  "n",
  "lines",
  "chains",
  "tolerance",
  "unit",
  "intakes",
  "fileLines",
  "found",
] as const satisfies readonly (keyof SurfaceSources)[];

const hasRings = ({ edge, holes }: SurfaceRecipe) =>
  (typeof edge === "object" && !("fit" in edge)) || (holes?.length ?? 0) > 0;

function relevelled(
  { recipe: was, sources: old, built }: NonNullable<KeptSurface["last"]>,
  recipe: SurfaceRecipe,
  now: SurfaceSources,
  sums: KeptSums,
): BuiltSurface | undefined {
  const same = SAME.every((k) => old[k] === now[k]);
  // Draped lines and drawn rings take their levels from the ground that changes under them.
  if (recipe !== was || !same || hasRings(recipe) || breaklinesOf(recipe, now).draped.length) return undefined;
  const levels = new Map<number, number>();
  for (let k = 0; k < now.z.length; k++) {
    if (Object.is(now.z[k], old.z[k])) continue;
    if (levels.set(now.points[k]!, now.z[k]!).size > FEW) return undefined;
  }
  // Where points stand at one position the surface takes their mean, and says how far they are apart.
  if (built.findings.some((f) => f.kind === "coincident" && f.points.some((p) => levels.has(p)))) return undefined;
  const { surface } = built,
    z = surface.z.slice(),
    isChanged = new Uint8Array(1 + (now.points.at(-1) ?? 0));
  for (const p of levels.keys()) isChanged[p] = 1;
  let found = 0;
  for (let v = 0; v < z.length; v++) {
    const p = surface.point[v]!;
    if (p < 0 || isChanged[p] !== 1) continue;
    z[v] = levels.get(p)!;
    found++;
  }
  if (found !== levels.size) return undefined;
  const { tri, fixed } = surface,
    moved = movedVertices(surface.z, z);
  for (let h = 0; h < tri.length; h++)
    if (fixed[h] === 1 && (moved[tri[h]!] === 1 || moved[tri[next(h)]!] === 1)) return undefined;
  const levelled = { ...surface, z };
  return { surface: levelled, report: { ...built.report, ...measure(levelled, sums) }, findings: built.findings };
}

/** What is kept between makings of one surface's contours. */
export interface KeptContours {
  last?: { recipe: ContoursRecipe; surface: Surface; contours: Contours };
}

/**
 * Contours, by way of the last ones where the mesh is the same and only few levels are others. Throws as contour does.
 */
export function contourAgain(surface: Surface, recipe: ContoursRecipe, kept: KeptContours): Contours {
  const contours = (kept.last && recontoured(kept.last, surface, recipe)) ?? contour(surface, recipe);
  kept.last = { recipe, surface, contours };
  return contours;
}

function recontoured(
  { recipe: was, surface: old, contours }: NonNullable<KeptContours["last"]>,
  surface: Surface,
  recipe: ContoursRecipe,
): Contours | undefined {
  if (recipe !== was || old.tri !== surface.tri || old.x !== surface.x || old.y !== surface.y) return undefined;
  const { levels, isIndex } = levelsOf(surface, recipe),
    touched = new Uint8Array(levels.length);
  const { tri } = surface,
    moved = movedVertices(old.z, surface.z);
  let count = 0;
  for (let h = 0; h < tri.length; h++) {
    if (moved[tri[h]!] === 0) continue;
    const corners = [tri[h]!, tri[next(h)]!, tri[prev(h)]!];
    const low = Math.min(...corners.map((v) => Math.min(surface.z[v]!, old.z[v]!))),
      high = Math.max(...corners.map((v) => Math.max(surface.z[v]!, old.z[v]!)));
    for (let k = firstAbove(levels, low); k < levels.length && levels[k]! <= high; k++) {
      if (!touched[k]) count++;
      touched[k] = 1;
    }
  }
  if (2 * count > levels.length) return undefined;
  const which = Array.from(levels.keys()).filter((k) => touched[k]);
  const renewed = trace(
    surface,
    Float64Array.from(which, (k) => levels[k]!),
    (k) => isIndex(which[k]!),
    recipe.interval,
  );
  return inOrder(levels, touched, contours, renewed);
}

/**
 * Lines of two makings in the order of their levels: those of touched levels from the second, all others from the
 * first.
 */
function inOrder(levels: Float64Array, touched: Uint8Array, first: Contours, second: Contours): Contours {
  const parts: { from: Contours; begin: number; end: number }[] = [];
  const at = [0, 0];
  levels.forEach((level, k) => {
    const source = touched[k]!,
      from = source ? second : first;
    let begin = at[source]!;
    while (begin < from.level.length && from.level[begin]! < level) begin++;
    let end = begin;
    while (end < from.level.length && from.level[end] === level) end++;
    if (end > begin) parts.push({ from, begin, end });
    at[source] = end;
  });
  const lines = parts.reduce((sum, p) => sum + p.end - p.begin, 0),
    vertices = parts.reduce((sum, p) => sum + p.from.starts[p.end]! - p.from.starts[p.begin]!, 0);
  const out: Contours = {
    ...second,
    xy: new Float64Array(2 * vertices),
    sides: new Int32Array(vertices),
    starts: new Uint32Array(lines + 1),
    level: new Float64Array(lines),
    index: new Uint8Array(lines),
    closed: new Uint8Array(lines),
  };
  let line = 0,
    vertex = 0;
  for (const { from, begin, end } of parts) {
    const base = from.starts[begin]!;
    out.xy.set(from.xy.subarray(2 * base, 2 * from.starts[end]!), 2 * vertex);
    out.sides.set(from.sides.subarray(base, from.starts[end]!), vertex);
    for (const key of ["level", "index", "closed"] as const) out[key].set(from[key].subarray(begin, end), line);
    for (let l = begin; l < end; l++) out.starts[++line] = vertex + from.starts[l + 1]! - base;
    vertex += from.starts[end]! - base;
  }
  return out;
}
