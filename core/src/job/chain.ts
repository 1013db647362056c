/**
 * The chain: from a job's stored state to everything derived, in the order of the work. A pure function; run by the
 * same code in a web worker, on the server and in the command. Start reading here.
 *
 *   setups ─ points ─ codes ─ lines ─ surfaces ─ contours ─ volumes
 *                                    └─ findings of every stage
 *
 * Incremental by stage: a stage whose inputs are the same as last time gives last time's result.
 */
import type { Tolerances } from "../math/tolerances";
import type { BuiltSurface, ContoursRecipe, SurfaceRecipe } from "../surface/model";
import type { VolumeRecipe } from "../volumes/model";
import { axesFindings } from "../checks/axes";
import { intakeFindings, numbersOutsideRange } from "../checks/intakes";
import { crossingThemselves, longSegments } from "../checks/lines";
import { setupFindings } from "../checks/setups";
import { missingElevations, poorPrecision, zeroElevations } from "../checks/elevations";
import { compileBook, type CompiledBook } from "../codes/book";
import { ignoredPast } from "../codes/past";
import { codeFindings, readCodes, type CodedPoints } from "../codes/read";
import { drawSymbols, writeNotes, type DrawnSymbols, type Note } from "../drawing/content";
import { refusal, Refusal } from "../errors";
import type { Finding } from "../finding";
import { assembleLines, type KeptLines, type Lines } from "../lines/assemble";
import { flattenLines, type Chains } from "../lines/flatten";
import { lineName } from "../lines/model";
import { pointsOfSet, pointsOfSelection, GROUND, type SetContext } from "../sets/sets";
import { buildSurface } from "../surface/build";
import { contour, type Contours } from "../surface/contour";
import { surfaceOfTriangles } from "../surface/finish";
import type { KeptPlan } from "../surface/triangulate";
import { volumeToLevel, type VolumeResult } from "../volumes/level";
import type { SetupReport } from "../points/reduce";
import { referenceSurface, setupReports } from "./reduce";
import type { JobState } from "./model";

/** Something made from the job, or the sentence why it could not be. */
export type Made<T> = { name: string } & ({ ok: true; value: T } | { ok: false; refusal: Refusal });

export interface Derived {
  /** Reduction of raw observations, setup by setup. */
  setups: SetupReport[];
  book: CompiledBook;
  coded: CodedPoints;
  lines: Lines["lines"];
  /** Lines as chords, for drawing and for formats without arcs. */
  chains: Chains;
  /** What stands on the drawing beside lines. */
  symbols: DrawnSymbols;
  notes: Note[];
  sets: Made<Int32Array>[];
  surfaces: Made<BuiltSurface>[];
  contours: Made<Contours>[];
  volumes: Made<VolumeResult>[];
  findings: Finding[];
}

/** Keeps each stage's last inputs and result. */
export class Chain {
  private readonly kept = new Map<string, { inputs: unknown[]; result: unknown }>();
  private readonly plans = new Map<string, KeptPlan>();
  private keptLines: { book: CompiledBook; tolerance: Tolerances; lines: KeptLines } | undefined;

  /** Everything derived from the state. */
  run(state: JobState): Derived {
    const t = state.points;
    const setups = this.stage("setups", [t.e, t.n, t.z, t.number, t.kind, t.deleted, t.targetHeight, state.delivered, state.setups, state.tolerance, state.curvature, state.scaleFactor],
      () => setupReports(state));
    const book = this.stage("book", [state.book], () => compileBook(state.book));
    const coded = this.stage("codes", [t.texts, t.description, t.cues, t.surface, t.kind, t.deleted, book], () => readCodes(t, book));
    // Lines depend on the places of their own shots: the level of a spot changed elsewhere leaves them as they are.
    const shots = this.stage("line shots", [coded, t.deleted], () => lineShots(coded, t.deleted));
    const { lines, findings: lineFindings } = this.stage(
      "lines", [coded, gather(t.e, shots), gather(t.n, shots), gather(t.z, shots), t.number, t.deleted, t.time, t.row, t.intake, state.tolerance, state.lines, ...(namesPoints(coded) || state.lines.length ? [t.e, t.n, t.z] : [])],
      () => assembleLines(t, coded, state.tolerance, state.unit, book, state.lines, this.keptFor(book, state.tolerance)));
    const chains = this.stage("chains", [lines, state.tolerance], () => flattenLines(lines, state.tolerance.chord));
    const terrainChains = this.stage("terrain", [lines, coded, state.tolerance], () => flattenLines(lines, state.tolerance.chord, coded.usable));

    const symbols = this.stage("symbols", [coded, t.e, t.n, t.attributes, t.kind, t.deleted, state.unit], () => drawSymbols(t, coded, state.unit));
    const notes = this.stage("notes", [symbols, coded, lines, t.number, t.z, t.note, t.texts, book], () => writeNotes(t, coded, symbols, lines, book));

    const context: SetContext = { table: t, coded, intakes: state.intakes, sets: state.sets };
    const sets = state.sets.map((s) => made(s.name, () => pointsOfSet(s.name, context, `sets “${s.name}”`)));
    const surfaces = state.surfaces.map((recipe) => this.surface(recipe, context, lines, terrainChains, state));
    const contours = state.contours.map((recipe) => this.onSurface(`contours ${recipe.surface}`, recipe.surface, recipe, surfaces, recipe.surface, makeContours));
    const volumes = state.volumes.map((recipe) => this.onSurface(`volume ${recipe.name}`, recipe.surface, recipe, surfaces, recipe.name, makeVolume));

    const findings = [
      ...this.stage("intake findings", [state.intakes], () => intakeFindings(state.intakes)),
      ...this.stage("ranges", [t.number, t.deleted, state.intakes, state.crews], () => (state.crews ? numbersOutsideRange(t, state.intakes, state.crews) : [])),
      ...this.stage("axes", [t.e, t.n, t.deleted, t.number, state.intakes], () => axesFindings(t, state.intakes)),
      ...this.stage("setup findings", [setups, state.intakes], () => setupFindings(setups, state.intakes)),
      ...this.stage("past", [coded, t.shotAt], () => ignoredPast(t, coded)),
      ...this.stage("code findings", [coded, t.number, book], () => codeFindings(t, coded, book)),
      ...this.stage("level findings", [t.z, t.precision, t.number, t.deleted, t.e, t.n, state.tolerance], () => [
        ...zeroElevations(t), ...missingElevations(t), ...poorPrecision(t, state.tolerance.precision),
      ]),
      ...lineFindings,
      ...this.stage("line checks", [lines, t.number, state.tolerance, state.unit], () => [...longSegments(lines, t, state.unit), ...crossingThemselves(lines, t, state.tolerance.chord)]),
      ...surfaces.flatMap((s) => (s.ok ? s.value.findings : [])),
    ];
    return { setups, book, coded, lines, chains, symbols, notes, sets, surfaces, contours, volumes, findings };
  }

  private surface(recipe: SurfaceRecipe, context: SetContext, lines: Lines["lines"], chains: Chains, state: JobState): Made<BuiltSurface> {
    const t = context.table;
    return made(recipe.name, () => {
      const { triangles } = recipe;
      if (triangles) return this.stage(`surface ${recipe.name}`, [recipe], () => surfaceOfTriangles(recipe.name, Float64Array.from(triangles.points.flat()), triangles.faces.flat()));
      if (recipe.file !== undefined) {
        const found = referenceSurface(state, recipe);
        return this.stage(`surface ${recipe.name}`, [recipe.name, found], () => surfaceOfTriangles(recipe.name, found.points, found.faces, false));
      }
      const points = withElevation(pointsOfSelection(recipe.points ?? GROUND, context, `surface “${recipe.name}”`), t.z);
      // The terrain depends on positions and breaklines only: a note or a name changed elsewhere leaves it as it is.
      const breaking = lines.map((l) => `${lineName(l)} ${l.entry.breakline ?? ""}`).join();
      const inputs = [recipe, points, gather(t.e, points), gather(t.n, points), gather(t.z, points), chains.xyz, chains.starts, chains.shot, breaking, state.tolerance, t.number];
      return this.stage(`surface ${recipe.name}`, inputs, () => {
        const plan = this.plans.get(recipe.name) ?? {};
        this.plans.set(recipe.name, plan);
        return buildSurface(recipe, { table: t, points, lines, chains, tolerance: state.tolerance, plan });
      });
    });
  }

  private onSurface<R, T>(
    key: string, source: string, recipe: R, surfaces: Made<BuiltSurface>[], name: string, make: (s: BuiltSurface, recipe: R) => T,
  ): Made<T> {
    return made(name, () => {
      const surface = surfaces.find((s) => s.name === source);
      if (!surface) throw refusal("reference-missing", { path: name, what: "surface", name: source });
      if (!surface.ok) throw refusal("source-failed", { name, source });
      return this.stage(key, [surface.value, recipe], () => make(surface.value, recipe));
    });
  }

  /** The lines of the last run, as long as the book and the tolerances are the same. */
  private keptFor(book: CompiledBook, tolerance: Tolerances): KeptLines {
    if (this.keptLines?.book !== book || this.keptLines.tolerance !== tolerance) this.keptLines = { book, tolerance, lines: new Map() };
    return this.keptLines.lines;
  }

  private stage<T>(name: string, inputs: unknown[], make: () => T): T {
    const last = this.kept.get(name);
    if (last && last.inputs.length === inputs.length && last.inputs.every((x, i) => sameInput(x, inputs[i]))) return last.result as T;
    const result = make();
    this.kept.set(name, { inputs, result });
    return result;
  }
}

/** Everything derived, once. */
export function runChain(state: JobState): Derived {
  return new Chain().run(state);
}

function makeContours(s: BuiltSurface, recipe: ContoursRecipe): Contours {
  return contour(s.surface, recipe);
}

function makeVolume(s: BuiltSurface, recipe: VolumeRecipe): VolumeResult {
  return volumeToLevel(s.surface, recipe);
}

function made<T>(name: string, make: () => T): Made<T> {
  try {
    return { name, ok: true, value: make() };
  } catch (e) {
    if (e instanceof Refusal) return { name, ok: false, refusal: e };
    throw e;
  }
}

/** Whether a line goes to or comes from a point by its number: any point may be meant then. */
function namesPoints(coded: CodedPoints): boolean {
  return coded.parsed.some((p) => p?.elements.some((e) => e.cues.some((c) => c.action === "from" || c.action === "to")));
}

/** Places of the living points that a code with lines or areas names. */
function lineShots(coded: CodedPoints, deleted: Uint8Array): Int32Array {
  const makesLine = coded.parsed.map((p) => p.elements.some((e) => (e.entry?.kind ?? "point") !== "point"));
  const shots = new Int32Array(deleted.length);
  let count = 0;
  for (let i = 0; i < deleted.length; i++) if (!deleted[i] && makesLine[coded.description[i]!]) shots[count++] = i;
  return shots.slice(0, count);
}

function withElevation(points: Int32Array, z: Float64Array): Int32Array {
  let count = 0;
  const kept = new Int32Array(points.length);
  for (let k = 0; k < points.length; k++) if (!Number.isNaN(z[points[k]!]!)) kept[count++] = points[k]!;
  return count === points.length ? points : kept.slice(0, count);
}

function gather(of: Float64Array, places: Int32Array): Float64Array {
  const out = new Float64Array(places.length);
  for (let k = 0; k < places.length; k++) out[k] = of[places[k]!]!;
  return out;
}

/** The very same thing, or columns of the same numbers. */
function sameInput(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (ArrayBuffer.isView(a) && ArrayBuffer.isView(b)) {
    const x = a as Float64Array, y = b as Float64Array;
    if (x.length !== y.length) return false;
    for (let i = 0; i < x.length; i++) if (!Object.is(x[i], y[i])) return false;
    return true;
  }
  return false;
}
