/**
 * The recipe of a surface carried out: points and breaklines → a finished mesh, with what was used, refused and why.
 */
import { refusal } from "../errors";
import { say, pts } from "../finding";
import { breaklinesOf, fixedChains } from "./breaklines";
import { Constrainer, type PieceEnds } from "./constrain";
import { correct } from "./corrections";
import { drape } from "./drape";
import { layEdge } from "./edge";
import { finish, standing } from "./finish";
import { mergeCoincident } from "./merge";
import type { TriMesh } from "./mesh";
import type { BuiltSurface, SurfaceRecipe } from "./model";
import { insertAll, insertVertex, piecesOf, splitAtVertices } from "./pieces";
import type { SurfaceSources } from "./sources";
import { BuildTold } from "./told";
import { triangulate } from "./triangulate";
import { originOf, roundingOf, VertexList, withoutRows } from "./vertices";

/** Throws a Refusal when there is no triangle to make. */
export function buildSurface(recipe: SurfaceRecipe, sources: SurfaceSources): BuiltSurface {
  const told = new BuildTold(recipe, sources),
    { refused, findings } = told;

  // 1. Which lines are breaklines, and which points enter by their own level.
  const breaklines = breaklinesOf(recipe, sources, refused),
    entering = fixedChains(breaklines, sources, recipe.breaklines ?? {}, refused),
    { thinned, densified } = entering,
    chosen = withoutRows(sources, rowsOut(breaklines, thinned.rows, sources));
  told.ofFiles = breaklines.ofFiles;

  // 2. Vertices: the points, and the positions of breaklines where no chosen point stands.
  const origin = originOf(chosen),
    vertices = new VertexList(chosen, origin),
    inputs = entering.chains.map((c) => ({ ...c, positions: c.positions.map((p) => vertices.of(p)) })),
    { x, y, z, shots: shotOf, placed } = vertices.arrays(),
    chains = inputs.map((c) => ({ ...c, positions: c.positions.map((p) => placed[p]!) }));
  if (x.length < 3) throw refusal("surface-too-few", { surface: recipe.name, points: x.length });

  // 3. Coincident positions become one vertex.
  const merged = mergeCoincident(x, y, z, sources.tolerance.coincident);
  told.coincident(merged.groups, shotOf, { x, y, z, origin });
  if (merged.x.length < 3) throw refusal("surface-too-few", { surface: recipe.name, points: merged.x.length });

  // 4. The bare mesh, then the fixed breaklines.
  sources.begins?.("triangles");
  const noise = roundingOf(origin, merged.x, merged.y),
    mesh = triangulate(merged.x, merged.y, merged.z, noise, sources.plan);
  if (mesh.triangles === 0) throw refusal("surface-on-one-line", { surface: recipe.name, points: mesh.vertices });
  const lost = new Set<number>();
  for (let v = 0; v < mesh.vertices; v++) if (mesh.edgeOf[v]! < 0 && !insertVertex(mesh, v)) lost.add(v);
  const pieces = chains.flatMap((c) => piecesOf(c, merged.vertexOf)).filter((p) => !lost.has(p.a) && !lost.has(p.b));
  const split = layFixed(mesh, pieces, recipe, sources, origin, noise, told);

  // 5. Draped breaklines take their levels from the surface made so far.
  const { draped } = breaklines,
    laid = draped.length ? drape(mesh, draped, split, sources, origin, noise, refused) : { pieces: split, used: 0 };

  // 6. The edge, holes, and what is peeled and corrected.
  sources.begins?.("edge");
  const shots = rowsOfVertices(mesh.vertices, shotOf, merged.vertexOf),
    { isDrawn } = layEdge(mesh, recipe, sources, laid.pieces, origin, noise, told);
  correct(mesh, recipe, sources, shots, told);
  if (mesh.triangles === 0) throw refusal("surface-nothing-left", { surface: recipe.name });

  // 7. Compact, measure, report.
  for (const v of lost)
    told.refuse(shots[v]! >= 0 ? say`point ${pts(shots[v]!)}` : ["a breakline's position"], "it has no triangle");
  const stands = standing(mesh),
    outside = [...merged.x.keys()].filter((v) => stands[v] === 0);
  // What was drawn is as it was meant.
  if (!isDrawn && outside.length)
    told.outside(
      outside.flatMap((v) => (lost.has(v) || shots[v]! < 0 ? [] : [shots[v]!])),
      [origin[0] + mesh.x[outside[0]!]!, origin[1] + mesh.y[outside[0]!]!],
    );
  const about = {
    breaklines: new Set(chains.map((c) => c.line)).size + laid.used,
    thinned: { count: thinned.count, most: thinned.most },
    densified,
    outside: outside.length - lost.size,
  };
  return { ...finish(recipe.name, mesh, origin, shots, refused, sources.sums, about, stands), findings };
}

/** Rows that do not enter by their own level: shots of draped breaklines, unless a fixed one has them too, and thinned ones. */
function rowsOut(
  { draped, fixed }: ReturnType<typeof breaklinesOf>,
  thinned: Iterable<number>,
  { lines }: SurfaceSources,
): Set<number> {
  const out = new Set(draped.flatMap((l) => lines[l]!.shots));
  if (out.size) for (const l of fixed) for (const shot of lines[l]!.shots) out.delete(shot);
  for (const row of thinned) out.add(row);
  return out;
}

/** Puts the pieces of fixed breaklines into the mesh, split where they meet a vertex; gives them as they are then. */
function layFixed(
  mesh: TriMesh,
  pieces: PieceEnds[],
  recipe: SurfaceRecipe,
  sources: SurfaceSources,
  origin: [number, number],
  noise: number,
  told: BuildTold,
): PieceEnds[] {
  const rule = recipe.breaklines?.crossing ?? "mean",
    settle = (a: number, b: number) =>
      rule === "higher" ? Math.max(a, b) : rule === "lower" ? Math.min(a, b) : a + (b - a) / 2,
    at = (met: { x: number; y: number }): [number, number] => [origin[0] + met.x, origin[1] + met.y];
  // Which line a vertex is of is asked only where levels differ.
  let lineOfVertex: Map<number, number> | undefined;
  const lineAt = (vertex: number) =>
    (lineOfVertex ??= new Map(
      pieces.flatMap((p) => [
        [p.a, p.line],
        [p.b, p.line],
      ]),
    )).get(vertex);
  const split = splitAtVertices(mesh, pieces, noise, (met) =>
    told.levels(met.levels, () => [met.line, lineAt(met.vertex)], at(met)),
  );
  sources.begins?.("breaklines");
  const constrainer = new Constrainer(mesh, split, (c) => settle(...c.levels), noise);
  insertAll(constrainer, split, (line) => told.refuseLine(line));
  for (const c of constrainer.crossings) told.levels(c.levels, () => c.pieces.map((k) => split[k]!.line), at(c));
  return split;
}

/** The row of each vertex's point, the last of those that are merged; −1 where only a breakline stands. */
function rowsOfVertices(count: number, shotOf: Int32Array, vertexOf: ArrayLike<number>): Int32Array {
  const rows = new Int32Array(count).fill(-1);
  for (let i = 0; i < shotOf.length; i++) {
    const v = vertexOf[i]!;
    if (shotOf[i]! > rows[v]!) rows[v] = shotOf[i]!;
  }
  return rows;
}
