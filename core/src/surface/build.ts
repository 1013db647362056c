/**
 * The recipe of a surface carried out: points and breaklines → a finished mesh, with what was used, refused and why.
 */
import { largest, smallest } from "../math/many";
import type { Tolerances } from "../math/tolerances";
import { lengthText, type Unit } from "../math/units";
import type { BuiltSurface, Refused, RingWanted, SurfaceRecipe } from "./model";
import type { SurfaceSources } from "./sources";
import { refusal } from "../errors";
import { notice, pts, say, type Noticed, type Word } from "../finding";
import { plural, wildcard } from "../math/words";
import { Constrainer } from "./constrain";
import { dropTriangle, swapSide } from "./corrections";
import { drape } from "./drape";
import { mergeCoincident } from "./merge";
import { finish, standing } from "./finish";
import { breaklinesOf, fixedChains } from "./breaklines";
import { insertAll, insertVertex, piecesOf, splitAtVertices } from "./pieces";
import { peel } from "./peel";
import { cutAlong, type Ring } from "./rings";
import { triangulate } from "./triangulate";
import { offset, originOf, roundingOf, VertexList, withoutRows } from "./vertices";

/** Points outside the edge that a finding names at most; it counts them all. */
const MOST_TOLD = 1000;

/** Throws a Refusal when there is no triangle to make. */
export function buildSurface(recipe: SurfaceRecipe, sources: SurfaceSources): BuiltSurface {
  const { lines, tolerance, unit } = sources;
  const findings: Noticed[] = [];
  let lineOfVertex: Map<number, number> | undefined;
  const refused: Refused[] = [];

  // 1. Which lines are breaklines, and which points enter by their own level.
  const breaklines = breaklinesOf(recipe, sources, refused),
    { draped, fixed } = breaklines;
  const { chains: fixedLines, thinned, densified } = fixedChains(breaklines, sources, recipe.breaklines ?? {}, refused);
  const out = new Set(draped.flatMap((l) => lines[l]!.shots));
  // Unless a fixed breakline has them too.
  if (out.size) for (const l of fixed) for (const shot of lines[l]!.shots) out.delete(shot);
  for (const row of thinned.rows) out.add(row);
  const chosen = withoutRows(sources, out);

  // 2. Vertices: the points, and the positions of breaklines where no chosen point stands.
  const origin = originOf(chosen);
  const vertices = new VertexList(chosen, origin);
  const inputs = fixedLines.map((c) => ({ ...c, positions: c.positions.map((p) => vertices.of(p)) }));
  const { x, y, z, shots: shotOf, placed } = vertices.arrays();
  const chains = inputs.map((c) => ({ ...c, positions: c.positions.map((p) => placed[p]!) }));
  if (x.length < 3) throw refusal("surface-too-few", { surface: recipe.name, points: x.length });

  // 3. Coincident positions become one vertex.
  const merged = mergeCoincident(x, y, z, tolerance.coincident);
  coincidentFindings(merged.groups, shotOf, { x, y, z, origin }, tolerance, unit, findings);
  if (merged.x.length < 3) throw refusal("surface-too-few", { surface: recipe.name, points: merged.x.length });

  sources.begins?.("triangles");
  // 4. The bare mesh, then the fixed breaklines.
  const noise = roundingOf(origin, merged.x, merged.y);
  const mesh = triangulate(merged.x, merged.y, merged.z, noise, sources.plan);
  if (mesh.triangles === 0) throw refusal("surface-on-one-line", { surface: recipe.name, points: mesh.vertices });
  const lost = new Set<number>();
  for (let v = 0; v < mesh.vertices; v++) if (mesh.edgeOf[v]! < 0 && !insertVertex(mesh, v)) lost.add(v);
  const rule = recipe.breaklines?.crossing ?? "mean";
  const settle = (a: number, b: number) =>
    rule === "higher" ? Math.max(a, b) : rule === "lower" ? Math.min(a, b) : a + (b - a) / 2;
  const pieces = chains.flatMap((c) => piecesOf(c, merged.vertexOf)).filter((p) => !lost.has(p.a) && !lost.has(p.b));
  const split = splitAtVertices(mesh, pieces, noise, (met) =>
    levelFinding(met.levels, () => [met.line, lineAt(met.vertex)], met),
  );
  sources.begins?.("breaklines");
  const constrainer = new Constrainer(mesh, split, (c) => settle(...c.levels), noise);
  insertAll(constrainer, split, refuse);
  for (const c of constrainer.crossings) levelFinding(c.levels, () => c.pieces.map((k) => split[k]!.line), c);

  // 5. Draped breaklines take their levels from the surface made so far.
  let owners = split,
    drapedUsed = 0;
  if (draped.length) {
    const laid = drape(mesh, draped, split, sources, origin, noise, refused);
    drapedUsed = laid.used;
    owners = laid.pieces;
  }

  // 6. The edge, holes, and what is peeled and corrected.
  sources.begins?.("edge");
  const shots = new Int32Array(mesh.vertices).fill(-1);
  for (let i = 0; i < shotOf.length; i++) {
    const v = merged.vertexOf[i]!;
    if (shotOf[i]! > shots[v]!) shots[v] = shotOf[i]!;
  }
  const { edge, holes = [], longestSide } = recipe;
  const drawn = edge !== undefined && edge !== "hull" && !("fit" in edge) ? ringsOf(edge, "the edge") : [],
    holeRings = holes.flatMap((w) => ringsOf(w, "a hole")),
    // Where no line of the edge's code is closed it is told, and the hull stays.
    ringed = drawn.length ? drawn : undefined;
  if (ringed || holeRings.length) {
    const { unfollowed } = cutAlong(mesh, ringed, holeRings, owners, noise);
    for (const k of unfollowed)
      refused.push({
        what: [k < (ringed?.length ?? 0) ? "the edge" : "a hole"],
        why: ["a piece of it could not be followed"],
      });
  }
  if (typeof edge === "object" && "fit" in edge) peel(mesh, edge.fit, true);
  if (longestSide !== undefined) peel(mesh, longestSide, false);
  correct();
  if (mesh.triangles === 0) throw refusal("surface-nothing-left", { surface: recipe.name });

  // 7. Compact, measure, report.
  for (const v of lost)
    refused.push({
      what: shots[v]! >= 0 ? say`point ${pts(shots[v]!)}` : ["a breakline's position"],
      why: ["it has no triangle"],
    });
  const stands = standing(mesh),
    outside: number[] = [];
  for (let v = 0; v < merged.x.length; v++) if (stands[v] === 0) outside.push(v);
  tellOutside(outside);
  const about = {
    breaklines: new Set(chains.map((c) => c.line)).size + drapedUsed,
    thinned: { count: thinned.count, most: thinned.most },
    densified,
    outside: outside.length - lost.size,
  };
  return { ...finish(recipe.name, mesh, origin, shots, refused, sources.sums, about, stands), findings };

  /** Points that the fitted edge or the longest side left outside; what was drawn is as it was meant. */
  function tellOutside(vertices: readonly number[]): void {
    if (ringed || holeRings.length) return;
    const rows = vertices.flatMap((v) => (lost.has(v) || shots[v]! < 0 ? [] : [shots[v]!])),
      [first] = vertices;
    if (rows.length === 0) return;
    const lie = rows.length === 1 ? "lies" : "lie",
      words = [
        ...say`${plural(rows.length, "point")} of “${recipe.name}” ${lie} outside its edge, such as ${pts(rows.slice(0, 3))}: `,
        "with a wider gap or a longer side the surface reaches them.",
      ];
    findings.push(
      notice("outside-edge", "note", words, {
        points: rows.slice(0, MOST_TOLD),
        at: [origin[0] + mesh.x[first!]!, origin[1] + mesh.y[first!]!],
        data: { surface: recipe.name, count: rows.length },
        subject: recipe.name,
      }),
    );
  }

  function refuse(line: number): void {
    refused.push({ what: ["breakline ", ...lineWords(line)], why: ["a piece of it could not be followed"] });
  }

  /** A line of the job, or of a file, in a sentence. */
  function lineWords(line: number): Word<number, number>[] {
    return line < lines.length ? [{ line }] : [breaklines.ofFiles[line - lines.length]!.called];
  }

  function lineAt(vertex: number): number | undefined {
    lineOfVertex ??= new Map(
      pieces.flatMap((p) => [
        [p.a, p.line],
        [p.b, p.line],
      ]),
    );
    return lineOfVertex.get(vertex);
  }

  function levelFinding(
    levels: [number, number],
    lineIndices: () => (number | undefined)[],
    at: { x: number; y: number },
  ): void {
    if (!(Math.abs(levels[0] - levels[1]) > tolerance.crossing)) return;
    const known = [...new Set(lineIndices())].filter((l): l is number => l !== undefined),
      ofJob = known.filter((l) => l < lines.length);
    const what: Word<number, number>[] =
      known.length > 1
        ? ["Breaklines ", ...lineWords(known[0]!), " and ", ...lineWords(known[1]!), " cross"]
        : ["Breakline ", ...lineWords(known[0]!), " passes a point"];
    const position: [number, number] = [origin[0] + at.x, origin[1] + at.y];
    const words = say` at levels ${lengthText(levels[0], unit)} and ${lengthText(levels[1], unit)}, ${lengthText(Math.abs(levels[0] - levels[1]), unit)} apart.`;
    findings.push(
      notice("breaklines-cross", "warning", [...what, ...words], {
        lines: ofJob,
        at: position,
        data: { levels: [...levels], surface: recipe.name },
        subject: `${recipe.name}: ${known.map((l) => lines[l]?.key ?? lineWords(l)[0]).join(" and ")} at ${position.map((x) => x.toFixed(3)).join(" ")}`,
      }),
    );
  }

  /** Rings as drawn, or the closed lines of a code; a line of it that is open is refused by name. */
  function ringsOf(wanted: RingWanted, what: string): Ring[] {
    if ("ring" in wanted)
      return [Float64Array.from(wanted.ring.flatMap(([e, n]) => [offset(e, origin[0]), offset(n, origin[1])]))];
    const is = wildcard(wanted.code),
      rings: Ring[] = [];
    let any = false;
    lines.forEach((l, k) => {
      if (!is(l.code) || l.companion) return;
      any = true;
      const { xyz, starts } = sources.chains;
      if (!l.closed || starts[k + 1]! - starts[k]! < 4) {
        refused.push({ what: say`${{ line: k }} as ${what}`, why: ["it is not closed"] });
        return;
      }
      const ring: number[] = [];
      for (let v = starts[k]!; v < starts[k + 1]! - 1; v++)
        ring.push(offset(xyz[3 * v]!, origin[0]), offset(xyz[3 * v + 1]!, origin[1]));
      rings.push(Float64Array.from(ring));
    });
    if (!any) refused.push({ what: [`${what}, lines coded ${wanted.code}`], why: ["there is none"] });
    return rings;
  }

  /** What was corrected by hand, in order; what is not there any more is told. */
  function correct(): void {
    const { swap = [], drop = [] } = recipe;
    if (swap.length + drop.length === 0) return;
    const vertexOfRow = new Map<number, number>();
    shots.forEach((row, v) => row >= 0 && vertexOfRow.set(row, v));
    for (const numbers of [...swap, ...drop]) {
      const rows = numbers.map((n) => sources.rowOf?.(n)),
        at = rows.map((row) => (row === undefined ? undefined : vertexOfRow.get(row)));
      const what = numbers.length === 2 ? "The side" : "The triangle";
      let why: string | undefined;
      if (at.includes(undefined)) why = `point ${numbers[at.indexOf(undefined)]} is none of its points`;
      else if (numbers.length === 2) why = swapSide(mesh, at[0]!, at[1]!);
      else why = dropTriangle(mesh, at[0]!, at[1]!, at[2]!);
      if (why === undefined) continue;
      const points = rows.filter((r): r is number => r !== undefined),
        done = numbers.length === 2 ? "swapped" : "taken out";
      findings.push(
        notice(
          "correction-lost",
          "warning",
          [`${what} ${numbers.join("–")} of “${recipe.name}” cannot be ${done}: ${why}.`],
          {
            points,
            data: { surface: recipe.name, corners: [...numbers], why },
            subject: `${recipe.name}: ${done} ${numbers.join(" ")}`,
          },
        ),
      );
    }
  }
}

function coincidentFindings(
  groups: number[][],
  shots: Int32Array,
  at: { x: Float64Array; y: Float64Array; z: Float64Array; origin: [number, number] },
  tolerance: Tolerances,
  unit: Unit,
  findings: Noticed[],
): void {
  const all = groups
    .map((group) => ({
      group,
      points: [...new Set(group.map((i) => shots[i]!).filter((s) => s >= 0))].sort((a, b) => a - b),
    }))
    .filter(({ points }) => points.length > 1)
    .sort((a, b) => a.points[0]! - b.points[0]!);
  for (const { group, points } of all) {
    const levels = group.map((i) => at.z[i]!),
      apart = largest(levels) - smallest(levels);
    const first = group.find((i) => shots[i] === points[0])!;
    const words = say`Points ${pts(points, Infinity)} stand at one position${apart > 0 ? `, ${lengthText(apart, unit)} apart in level` : ""}; the surface takes their mean.`;
    findings.push(
      notice("coincident", apart > tolerance.crossing ? "warning" : "note", words, {
        points,
        at: [at.origin[0] + at.x[first]!, at.origin[1] + at.y[first]!],
        data: { apart },
      }),
    );
  }
}
