/**
 * The recipe of a surface carried out: points and breaklines → a finished mesh, with what was used, refused and why.
 */
import type { Tolerances } from "../math/tolerances";
import { lengthText, type Unit } from "../math/units";
import type { BuiltSurface, Refused, SurfaceRecipe } from "./model";
import { refusal } from "../errors";
import { notice, pts, say, type Noticed } from "../finding";
import type { Chains } from "../lines/flatten";
import type { Line } from "../lines/model";
import { wildcard } from "../math/words";
import { Constrainer, type Crossing, type PieceEnds } from "./constrain";
import { mergeCoincident } from "./merge";
import type { TriMesh } from "./mesh";
import type { KeptSums } from "./block-sums";
import { finish } from "./finish";
import { fixedChains, type BreakChain } from "./breaklines";
import { triangulate, type KeptPlan } from "./triangulate";

export interface SurfaceSources {
  unit: Unit;
  /** Table rows of the points the recipe chose, and where these are; all have an elevation. */
  points: Int32Array;
  e: Float64Array;
  n: Float64Array;
  z: Float64Array;
  lines: readonly Line[];
  /** The lines as chords, with unusable levels not known. */
  chains: Chains;
  tolerance: Tolerances;
  /** Kept between buildings of one surface by who builds it again and again. */
  plan?: KeptPlan;
  sums?: KeptSums;
}

/** Throws a Refusal when there is no triangle to make. */
export function buildSurface(recipe: SurfaceRecipe, sources: SurfaceSources): BuiltSurface {
  const { lines, tolerance, unit } = sources;
  const findings: Noticed[] = [];
  let lineOfVertex: Map<number, number> | undefined;
  const refused: Refused[] = [];

  // 1. Which lines are breaklines, and which points enter by their own level.
  const { draped, fixed } = breaklinesOf(recipe, lines);
  const chosenPoints = withoutDraped(sources, lines, draped, fixed);

  // 2. Vertices: the points, and the positions of breaklines where no chosen point stands.
  const origin: [number, number] = originOf(chosenPoints);
  const vertices = new VertexList(chosenPoints, origin);
  const chains = fixedChains(fixed, lines, sources.chains, refused).map((c) => ({
    ...c,
    positions: c.positions.map((p) => vertices.of(p)),
  }));
  const { x, y, z, shots: shotOf } = vertices.arrays();
  if (x.length < 3) throw refusal("surface-too-few", { surface: recipe.name, points: x.length });

  // 3. Coincident positions become one vertex.
  const merged = mergeCoincident(x, y, z, tolerance.coincident);
  coincidentFindings(merged.groups, shotOf, { x, y, z, origin }, tolerance, unit, findings);
  if (merged.x.length < 3) throw refusal("surface-too-few", { surface: recipe.name, points: merged.x.length });

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
  const constrainer = new Constrainer(mesh, split, (c) => settle(...c.levels), noise);
  insertAll(constrainer, split, refused);
  for (const c of constrainer.crossings) levelFinding(c.levels, () => c.pieces.map((k) => split[k]!.line), c);

  // 5. Draped breaklines take their levels from the surface made so far.
  const drapedUsed = draped.length ? drape(mesh, draped, split, origin, noise) : 0;

  // 6. Compact, measure, report.
  const shots = new Int32Array(mesh.vertices).fill(-1);
  for (let i = 0; i < shotOf.length; i++) shots[merged.vertexOf[i]!] = shotOf[i]!;
  for (const v of lost)
    refused.push({
      what: shots[v]! >= 0 ? say`point ${pts(shots[v]!)}` : ["a breakline's position"],
      why: ["it has no triangle"],
    });
  return {
    ...finish(
      recipe.name,
      mesh,
      origin,
      shots,
      new Set(chains.map((c) => c.line)).size + drapedUsed,
      refused,
      sources.sums,
    ),
    findings,
  };

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
    const known = [...new Set(lineIndices())].filter((l): l is number => l !== undefined);
    const what =
      known.length > 1
        ? say`Breaklines ${{ line: known[0]! }} and ${{ line: known[1]! }} cross`
        : say`Breakline ${{ line: known[0]! }} passes a point`;
    const position: [number, number] = [origin[0] + at.x, origin[1] + at.y];
    const words = say` at levels ${lengthText(levels[0], unit)} and ${lengthText(levels[1], unit)}, ${lengthText(Math.abs(levels[0] - levels[1]), unit)} apart.`;
    findings.push(
      notice("breaklines-cross", "warning", [...what, ...words], {
        lines: known,
        at: position,
        data: { levels: [...levels], surface: recipe.name },
        subject: `${recipe.name}: ${known.map((l) => lines[l]!.key).join(" and ")} at ${position.map((x) => x.toFixed(3)).join(" ")}`,
      }),
    );
  }

  /** Adds the draped lines to the finished mesh; a copy of it gives the levels. */
  function drape(
    mesh: TriMesh,
    indices: number[],
    before: PieceEnds[],
    origin: [number, number],
    noise: number,
  ): number {
    const { xyz, starts } = sources.chains;
    const base = copyOf(mesh);
    const levelAt = (x: number, y: number) => {
      const h = base.locate(x, y);
      return h < 0 ? NaN : base.levelIn(h, x, y);
    };
    const added: PieceEnds[] = [];
    let used = 0;
    for (const index of indices) {
      let previous = -1,
        outside = false;
      for (let i = starts[index]!; i < starts[index + 1]!; i++) {
        const px = xyz[3 * i]! - origin[0],
          py = xyz[3 * i + 1]! - origin[1];
        const v = vertexAt(mesh, px, py, levelAt, tolerance.coincident);
        if (v < 0) outside = true;
        else if (previous >= 0 && v !== previous) added.push({ a: previous, b: v, line: index });
        previous = v;
      }
      if (outside)
        refused.push({ what: say`breakline ${{ line: index }}`, why: ["a part of it lies outside the surface"] });
      if (added.at(-1)?.line === index) used++;
    }
    const pieces = splitAtVertices(mesh, added, noise, () => undefined);
    const all = before.concat(pieces);
    const isDraped = (k: number) => k >= before.length;
    const constrainer = new Constrainer(
      mesh,
      all,
      (c: Crossing) => (isDraped(c.pieces[1]) ? levelAt(c.x, c.y) : c.levels[1]),
      noise,
    );
    insertAll(constrainer, all, refused, before.length);
    return used;
  }
}

/** The lines that a recipe takes as breaklines, by their indices in the list. */
export function breaklinesOf(recipe: SurfaceRecipe, lines: readonly Line[]): { draped: number[]; fixed: number[] } {
  const named = (recipe.breaklines?.codes ?? []).map(wildcard),
    of = { draped: [] as number[], fixed: [] as number[] };
  lines.forEach((line, index) => {
    const kind = line.entry.breakline ?? "none";
    if (kind !== "none" && named.some((is) => is(line.code))) of[kind].push(index);
  });
  return of;
}

/** Chosen points by their rows in the table, with their coordinates. */
type Chosen = Pick<SurfaceSources, "points" | "e" | "n" | "z">;

/** Shots of draped lines do not enter by their own level, unless a fixed breakline has them too. */
function withoutDraped(s: Chosen, lines: readonly Line[], draped: number[], fixed: number[]): Chosen {
  if (draped.length === 0) return s;
  const out = new Set(draped.flatMap((l) => lines[l]!.shots));
  for (const l of fixed) for (const shot of lines[l]!.shots) out.delete(shot);
  const keep = (_: number, k: number) => !out.has(s.points[k]!);
  return { points: s.points.filter(keep), e: s.e.filter(keep), n: s.n.filter(keep), z: s.z.filter(keep) };
}

/** A whole-numbered position near the points, so that most offsets from it are exact. */
function originOf(s: Chosen): [number, number] {
  let e = Infinity,
    n = Infinity;
  for (let k = 0; k < s.points.length; k++) {
    if (s.e[k]! < e) e = s.e[k]!;
    if (s.n[k]! < n) n = s.n[k]!;
  }
  return Number.isFinite(e) ? [Math.floor(e), Math.floor(n)] : [0, 0];
}

/** How far rounding of the coordinates may put a position beside the line it was meant to be on. */
function roundingOf(origin: [number, number], x: Float64Array, y: Float64Array): number {
  let size = Math.max(Math.abs(origin[0]), Math.abs(origin[1]), 1);
  for (let v = 0; v < x.length; v++) size = Math.max(size, Math.abs(x[v]!), Math.abs(y[v]!));
  return size * 2 ** -48;
}

/** Input positions of the mesh: chosen points once each, then breakline positions that are no chosen point. */
class VertexList {
  /** Table rows of the shots at the extra vertices. */
  private readonly extraShots: number[] = [];
  private readonly extra: number[] = [];
  /** Vertices of shots on breaklines that are no chosen points. */
  private readonly extraOf = new Map<number, number>();
  /** Rising, so that a shot is found among them by halving. */
  private readonly points: Int32Array;

  constructor(
    private readonly chosen: Chosen,
    private readonly origin: [number, number],
  ) {
    this.points = chosen.points;
  }

  private vertexOf(shot: number): number | undefined {
    const { points } = this;
    let lo = 0,
      hi = points.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if (points[mid]! < shot) lo = mid + 1;
      else hi = mid;
    }
    return points[lo] === shot ? lo : this.extraOf.get(shot);
  }

  of(position: BreakChain["positions"][number]): number {
    const known = position.shot >= 0 ? this.vertexOf(position.shot) : undefined;
    if (known !== undefined) return known;
    const index = this.points.length + this.extraShots.length;
    this.extra.push(position.e, position.n, position.z);
    this.extraShots.push(position.shot);
    if (position.own) this.extraOf.set(position.shot, index);
    return index;
  }

  /** Offsets from the origin, levels, and the shot at each vertex. */
  arrays() {
    const {
      chosen: c,
      points,
      extra,
      origin: [oe, on],
    } = this;
    const chosen = points.length,
      n = chosen + this.extraShots.length;
    const x = new Float64Array(n),
      y = new Float64Array(n),
      z = new Float64Array(n),
      shots = new Int32Array(n);
    for (let i = 0; i < chosen; i++) {
      x[i] = c.e[i]! - oe;
      y[i] = c.n[i]! - on;
      z[i] = c.z[i]!;
      shots[i] = points[i]!;
    }
    for (let i = chosen, k = 0; i < n; i++, k += 3) {
      x[i] = extra[k]! - oe;
      y[i] = extra[k + 1]! - on;
      z[i] = extra[k + 2]!;
      shots[i] = this.extraShots[k / 3]!;
    }
    return { x, y, z, shots };
  }
}

function piecesOf(chain: { line: number; positions: number[] }, vertexOf: Int32Array): PieceEnds[] {
  const pieces: PieceEnds[] = [];
  for (let i = 1; i < chain.positions.length; i++) {
    const a = vertexOf[chain.positions[i - 1]!]!,
      b = vertexOf[chain.positions[i]!]!;
    if (a !== b) pieces.push({ a, b, line: chain.line });
  }
  return pieces;
}

interface Passed {
  vertex: number;
  levels: [number, number];
  line: number;
  x: number;
  y: number;
}

/**
 * Cuts pieces at vertices that stand on them; there the breakline takes the vertex's level, and both levels are told.
 */
function splitAtVertices(
  mesh: TriMesh,
  pieces: PieceEnds[],
  noise: number,
  told: (passed: Passed) => void,
): PieceEnds[] {
  const finder = new Constrainer(mesh, pieces, () => NaN);
  const out: PieceEnds[] = [];
  const passed: Passed[] = [];
  for (const p of pieces) {
    let from = p.a;
    for (const w of finder.verticesOn(p.a, p.b, noise)) {
      const t =
        Math.hypot(mesh.x[w]! - mesh.x[p.a]!, mesh.y[w]! - mesh.y[p.a]!) /
        Math.hypot(mesh.x[p.b]! - mesh.x[p.a]!, mesh.y[p.b]! - mesh.y[p.a]!);
      passed.push({
        vertex: w,
        levels: [mesh.z[p.a]! + t * (mesh.z[p.b]! - mesh.z[p.a]!), mesh.z[w]!],
        line: p.line,
        x: mesh.x[w]!,
        y: mesh.y[w]!,
      });
      out.push({ a: from, b: w, line: p.line });
      from = w;
    }
    out.push({ a: from, b: p.b, line: p.line });
  }
  passed.forEach(told);
  // Lines that run over one another have pieces in common; one of each will do.
  const seen = new Set<number>();
  return out.filter((p) => {
    const key = Math.min(p.a, p.b) * mesh.vertices + Math.max(p.a, p.b);
    return !seen.has(key) && seen.add(key);
  });
}

function insertAll(constrainer: Constrainer, pieces: PieceEnds[], refused: Refused[], from = 0): void {
  for (let k = from; k < pieces.length; k++) {
    if (!constrainer.insert(k))
      refused.push({ what: say`breakline ${{ line: pieces[k]!.line }}`, why: ["a piece of it could not be followed"] });
  }
}

/** Puts a vertex that the bare triangulation left out where it belongs. False when it lies outside. */
function insertVertex(mesh: TriMesh, v: number): boolean {
  const x = mesh.x[v]!,
    y = mesh.y[v]!;
  const h = mesh.locate(x, y);
  if (h < 0) return false;
  for (const c of [h, h - (h % 3), h - (h % 3) + 1, h - (h % 3) + 2]) {
    const d = c % 3 === 2 ? c - 2 : c + 1;
    if (mesh.side(mesh.tri[c]!, mesh.tri[d]!, v) === 0) {
      mesh.splitEdge(c, v);
      return true;
    }
  }
  mesh.splitTriangle(h, v);
  return true;
}

/** The vertex at a position, made if there is none within the tolerance; −1 outside the mesh. */
function vertexAt(
  mesh: TriMesh,
  x: number,
  y: number,
  levelAt: (x: number, y: number) => number,
  tolerance: number,
): number {
  const h = mesh.locate(x, y);
  if (h < 0) return -1;
  const t = h - (h % 3);
  for (let k = t; k < t + 3; k++) {
    const v = mesh.tri[k]!;
    if (Math.hypot(mesh.x[v]! - x, mesh.y[v]! - y) <= tolerance) return v;
  }
  const z = levelAt(x, y);
  if (Number.isNaN(z)) return -1;
  const v = mesh.addVertex(x, y, z);
  return insertVertex(mesh, v) ? v : -1;
}

function copyOf(mesh: TriMesh): TriMesh {
  const used = 3 * mesh.triangles,
    n = mesh.vertices;
  return new (mesh.constructor as typeof TriMesh)(
    mesh.x.slice(0, n),
    mesh.y.slice(0, n),
    mesh.z.slice(0, n),
    mesh.tri.slice(0, used),
    mesh.twin.slice(0, used),
  );
}

function coincidentFindings(
  groups: number[][],
  shots: Int32Array,
  at: { x: Float64Array; y: Float64Array; z: Float64Array; origin: [number, number] },
  tolerance: Tolerances,
  unit: Unit,
  findings: Noticed[],
): void {
  for (const group of groups) {
    const points = [...new Set(group.map((i) => shots[i]!).filter((s) => s >= 0))];
    if (points.length < 2) continue;
    const levels = group.map((i) => at.z[i]!),
      apart = Math.max(...levels) - Math.min(...levels);
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
