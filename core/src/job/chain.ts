/**
 * The chain: from a job's stored state to everything derived, in the order of the work. A pure function; run by the
 * same code in a web worker, on the server and in the command. Start reading here.
 *
 *   setups ─ points ─ codes ─ lines ─ surfaces ─ contours ─ volumes
 *                                    └─ findings of every stage
 *
 * Incremental by stage (job/stages.ts): each names what it reads and runs again only when that is another. Lines are
 * incremental one by one as well (lines/assemble.ts).
 */
import { withAccepted } from "../checks/accepted";
import { isLookedFor } from "../checks/limits";
import { compileBook, type CompiledBook } from "../codes/book";
import { readCodes, type CodedPoints } from "../codes/read";
import { withOwnSymbols } from "../drawing/added/symbols";
import { drawSymbols, writeNotes } from "../drawing/content";
import { lookOfSurface } from "../drawing/surface-look";
import { refusal, Refusal } from "../errors";
import { byIdentity, type Finding } from "../finding";
import { assembleLines, type KeptLines } from "../lines/assemble";
import { flattenLines } from "../lines/flatten";
import { equalColumns, gather } from "../math/columns";
import { sameJson } from "../math/json";
import type { Tolerances } from "../math/tolerances";
import { rowOf, type PointTable } from "../points/table";
import type { SetContext } from "../sets/conditions";
import { GROUND } from "../sets/model";
import { pointsOfSelection, pointsOfSet, readsOfRule, readsOfSelection } from "../sets/sets";
import { setupsOfPoints } from "../sets/setups";
import { smoothContours } from "../surface/smooth";
import { buildSurfaceAgain, contourAgain, type KeptContours, type KeptSurface } from "../surface/again";
import { surfaceOfTriangles } from "../surface/finish";
import type { BuiltSurface, SurfaceRecipe } from "../surface/model";
import { againstLine, againstSurface, type AsBuilt, type DifferenceRecipe } from "../volumes/as-built";
import type { KeptComparison } from "../volumes/compare";
import { measureVolume, pairOf, type ComparedPair } from "../volumes/measure";
import { surfacesOf, type VolumeRecipe } from "../volumes/model";
import { areasOf, areasWanted, regionsOf, toesOf, type Area, type AreaSources, type Regions } from "../volumes/regions";
import { CHECKS } from "./checks";
import { LevelStage, withPredicted } from "./levels";
import type { JobState } from "./model";
import { numberIndex } from "../points/index";
import { referencesOf, referenceSurface, setupReports } from "./reduce";
import { Memory, stage, type Stage } from "./stages";
import { waysOf } from "./design-ways";
import type { ChainValues, Derived, LinePositions, Made } from "./values";

const of = stage<ChainValues>();
/** The stages up to the drawing, in their order. What hangs on named recipes follows in `run`. */
const STAGES: readonly Stage<ChainValues>[] = [
  of(
    "setupReports",
    [
      "count",
      "id",
      "intake",
      "row",
      "e",
      "n",
      "z",
      "number",
      "kind",
      "deleted",
      "follows",
      "targetHeight",
      "shotAt",
      "cameAs",
      "delivered",
      "intakes",
      "setups",
      "unit",
      "tolerance",
      "curvature",
      "scaleFactor",
    ],
    ({ delivered, intakes, setups, unit, tolerance, curvature, scaleFactor, ...points }) =>
      delivered.some((d) => d.survey)
        ? setupReports({
            delivered,
            intakes,
            setups,
            unit,
            tolerance,
            curvature,
            scaleFactor,
            points: points as PointTable,
          })
        : [],
  ),
  of("compiled", ["book"], ({ book }) => compileBook(book)),
  of("coded", ["count", "texts", "description", "cues", "surface", "kind", "deleted", "compiled"], (v) =>
    readCodes(v, v.compiled),
  ),
  of("pointSetups", ["count", "intake", "row", "delivered", "intakes"], (v) =>
    setupsOfPoints(v, v.delivered, v.intakes),
  ),
  of("lineShots", ["coded", "deleted"], ({ coded, deleted }) => shotsOfLines(coded, deleted)),
  // Lines depend on the positions of their own shots: the level of a spot changed elsewhere leaves them as they are.
  of(
    "linePositions",
    ["e", "n", "z", "lineShots", "coded", "handLines"],
    ({ e, n, z, lineShots, coded, handLines }) => ({
      e,
      n,
      z,
      at: handLines.length > 0 || namesPoints(coded) ? undefined : lineShots,
    }),
    samePositions,
  ),
];

/** Keeps each stage's last inputs and result. */
export class Chain {
  private readonly memory: Memory;
  private readonly levels = new LevelStage();
  private readonly keptSurfaces = new Map<string, KeptSurface>();
  private readonly keptContours = new Map<string, KeptContours>();
  private readonly keptSums = new Map<string, KeptComparison>();
  private keptLines: { book: CompiledBook; tolerance: Tolerances; lines: KeptLines } | undefined;

  /** `begins` is told what is made next, by the name of its stage and, within a surface, its step. */
  constructor(private readonly begins?: (what: string) => void) {
    this.memory = new Memory(begins);
  }

  /**
   * Everything derived from the state. With `putOff` the levels are checked afterwards, by `catchUp`: until then what they
   * said last stands.
   */
  run(state: JobState, putOff = false): Derived {
    const { points, surfaces, contours, volumes, differences, lines, note: _, ...rest } = state;
    const values = {
      ...rest,
      ...points,
      surfaceRecipes: surfaces,
      contourRecipes: contours,
      volumeRecipes: volumes,
      differenceRecipes: differences,
      handLines: lines,
    } as Partial<ChainValues> as ChainValues;
    const run = <N extends keyof ChainValues & string>(s: Stage<ChainValues, N>) => {
      values[s.name as N] = this.memory.run(s.name, s.reads, values, s.make, s.same);
    };
    STAGES.forEach(run);
    run(
      of(
        "assembled",
        [
          "linePositions",
          "count",
          "id",
          "number",
          "deleted",
          "time",
          "row",
          "intake",
          "cameAs",
          "coded",
          "tolerance",
          "unit",
          "compiled",
          "handLines",
        ],
        (v) =>
          assembleLines(
            { ...v, ...v.linePositions },
            v.coded,
            v.tolerance,
            v.unit,
            v.compiled,
            v.handLines,
            this.keptFor(v.compiled, v.tolerance),
          ),
      ),
    );
    run(of("lines", ["assembled"], ({ assembled }) => assembled.lines));
    run(of("chains", ["lines", "tolerance"], (v) => flattenLines(v.lines, v.tolerance.chord)));
    run(
      of("terrainChains", ["lines", "coded", "tolerance"], (v) =>
        flattenLines(v.lines, v.tolerance.chord, v.coded.usable),
      ),
    );
    run(
      of("codeSymbols", ["coded", "count", "e", "n", "attributes", "texts", "kind", "deleted", "unit"], (v) =>
        drawSymbols(v, v.coded, v.unit),
      ),
    );
    run(of("ownSymbols", ["added"], ({ added }) => added.filter((a) => "symbol" in a), sameJson));
    run(
      of(
        "symbols",
        ["codeSymbols", "ownSymbols", "count", "id", "e", "n", "intake", "row", "deleted", "intakes"],
        (v) => withOwnSymbols(v.codeSymbols, v, v.intakes, v.ownSymbols),
      ),
    );
    run(
      of("notes", ["symbols", "coded", "lines", "number", "z", "note", "texts", "attributes", "compiled"], (v) =>
        writeNotes(v, v.coded, v.symbols, v.lines, v.compiled),
      ),
    );

    values.surfaces = this.named(
      "surfaces",
      values.surfaceRecipes.map((recipe) => this.surface(recipe, values, state)),
    );
    values.contours = values.contourRecipes.map((c) =>
      this.onSurface(`contours ${c.surface}`, c.surface, c.surface, values.surfaces, c, (s) =>
        contourAgain(
          s.surface,
          c,
          keptIn(this.keptContours, c.surface, () => ({})),
        ),
      ),
    );
    values.drawnContours = values.contours.map((c) => {
      const surface = values.surfaces.find((x) => x.name === c.name),
        look = lookOfSurface(values.drawing, c.name);
      if (!c.ok || !surface?.ok || !look.smooth) return c;
      const from = { contours: c.value, ground: surface.value.surface };
      return this.make(`drawn contours ${c.name}`, c.name, () =>
        this.memory.run(`smooth contours ${c.name}`, ["contours", "ground"], from, (v) =>
          smoothContours(v.ground, v.contours),
        ),
      );
    });
    values.pairs = values.volumeRecipes.map((v) => this.pair(v, values));
    values.volumes = values.volumeRecipes.map((v, k) => {
      const pair = values.pairs[k]!;
      return this.make(`volume ${v.name}`, v.name, () => {
        if (!pair.ok) throw pair.refusal;
        return this.memory.run(`volume ${v.name}`, ["recipe", "pair"], { recipe: v, pair: pair.value }, (x) =>
          measureVolume(
            x.recipe,
            x.pair,
            keptIn(this.keptSums, v.name, () => ({})),
          ),
        );
      });
    });

    const noticed = CHECKS.map((c) => this.memory.run(`check ${c.name}`, c.reads, values, c.make));
    const keys = this.memory.run("line keys", ["lines"], values, ({ lines }) => lines.map((l) => l.key));
    const quick = { ...Object.fromEntries(noticed.map((n, k) => [k, n])), id: values.id, keys };
    const found = this.memory.run("found", Object.keys(quick) as never[], quick, () =>
      byIdentity(noticed.flat(), values.id, keys),
    );
    const levels = this.levels.of(values, found, putOff);
    values.findings = this.memory.run(
      "findings",
      ["found", "levels", "accepted", "lines", "checks", "unit"],
      { ...values, found, levels },
      (v) => {
        const wanted = [...withPredicted(v.found, v.levels.predicted), ...v.levels.findings].filter((f) =>
          isLookedFor(f.kind, v.checks),
        );
        return withAccepted(wanted, v.accepted, v.lines, v.unit);
      },
    );
    values.findingsAt = this.memory.run("findings at points", ["findings", "count", "id"], values, (v) =>
      kindsAt(v.findings, v),
    );
    // Sets may ask for what was found; of those that surfaces ask for none does.
    values.madeSets = this.named(
      "sets",
      values.sets.map((s) => this.set(s.name, values)),
    );
    values.differences = values.differenceRecipes.map((d) => this.difference(d, values, state));
    const { setupReports, compiled, coded, chains, symbols, notes, madeSets, findings, findingsAt, pointSetups } =
      values;
    return {
      setupReports,
      compiled,
      coded,
      lines: values.lines,
      chains,
      symbols,
      notes,
      madeSets,
      findingsAt,
      pointSetups,
      surfaces: values.surfaces,
      contours: values.contours,
      drawnContours: values.drawnContours,
      pairs: values.pairs,
      volumes: values.volumes,
      differences: values.differences,
      findings,
      levels: levels.checked,
      levelsToCome: levels.toCome,
      levelsLeftOut: levels.leftOut ?? false,
    };
  }

  /** Checks the levels that a run put off, in steps; run again afterwards to have what was found. */
  catchUp(): Generator<void, void> {
    return this.levels.catchUp();
  }

  private set(name: string, values: ChainValues): Made<Int32Array> {
    const reads = readsOfRule({ set: name }, values.sets);
    return this.make(`set ${name}`, name, () =>
      this.memory.run(`points of set ${name}`, ["sets", "count", "deleted", ...reads], values, (v) =>
        pointsOfSet(name, contextOf(v), `sets “${name}”`),
      ),
    );
  }

  private surface(recipe: SurfaceRecipe, values: ChainValues, state: JobState): Made<BuiltSurface> {
    const name = `surface ${recipe.name}`;
    return this.make(name, recipe.name, () => {
      const { triangles } = recipe;
      if (triangles)
        return this.memory.run(name, ["recipe"], { recipe }, () =>
          surfaceOfTriangles(recipe.name, Float64Array.from(triangles.points.flat()), triangles.faces.flat()),
        );
      if (recipe.file !== undefined) {
        const found = referenceSurface(state, recipe);
        return this.memory.run(name, ["recipe", "found"], { recipe, found }, () =>
          surfaceOfTriangles(recipe.name, found.points, found.faces, false),
        );
      }
      const wanted = recipe.points ?? GROUND,
        // What is found is not known yet: of a set that asks for it no surface can be made.
        reads = readsOfSelection(wanted, values.sets);
      const chosen = this.memory.run(
        `points of ${name}`,
        ["recipe", "sets", "count", "deleted", "z", ...reads],
        { ...values, recipe },
        (v) => withElevation(pointsOfSelection(wanted, contextOf(v), `surface “${recipe.name}”`), v.z),
      );
      // The terrain depends on positions and breaklines only: a note, a name or a number changed leaves it as it is.
      const column = (key: "e" | "n" | "z") =>
        this.memory.run(`${key} of ${name}`, ["from", "chosen"], { from: values[key], chosen }, (v) =>
          gather(v.from, v.chosen),
        );
      const { breaklines: { also = [], except = [] } = {}, swap, drop } = recipe;
      // Numbers matter to what names points by them alone, intakes to what names lines by theirs.
      const byNumber = swap?.length || drop?.length || except.some((x) => "pieces" in x),
        named = [...also, ...except];
      const rowOf = byNumber
        ? this.memory.run(`numbers of ${name}`, ["number", "count", "deleted"], values, (v) => {
            const index = numberIndex(v);
            return (number: string) => index.get(number);
          })
        : undefined;
      const intakes = named.some((x) => "intake" in x)
        ? this.named(
            "intakes",
            values.intakes.map((k) => k.id),
          )
        : undefined;
      const fileLines = named.some((x) => "file" in x)
        ? this.memory.run(`files of ${name}`, ["delivered", "intakes", "files"], values, (v) => {
            const all = referencesOf(v);
            return (file: string) => all.filter((r) => r.file === file).flatMap((r) => r.reference.lines);
          })
        : undefined;
      const from = {
        recipe,
        intakes,
        fileLines,
        rowOf,
        points: chosen,
        e: column("e"),
        n: column("n"),
        z: column("z"),
        lines: values.lines,
        chains: values.terrainChains,
        tolerance: values.tolerance,
        unit: values.unit,
      };
      return this.memory.run(
        name,
        ["recipe", "points", "e", "n", "z", "lines", "chains", "tolerance", "unit", "intakes", "fileLines", "rowOf"],
        from,
        (v) =>
          buildSurfaceAgain(
            v.recipe,
            { ...v, begins: (step) => this.begins?.(`${name}, ${step}`) },
            keptIn(this.keptSurfaces, recipe.name, () => ({ plan: {}, sums: {} })),
          ),
      );
    });
  }

  /** What a comparison compares: its surfaces, areas and toe. */
  private pair(recipe: VolumeRecipe, values: ChainValues): Made<ComparedPair> {
    const name = `pair of ${recipe.name}`;
    return this.make(name, recipe.name, () => {
      const surfaces = surfacesOf(recipe).map((s) => builtSurface(values.surfaces, s, recipe.name).surface);
      const { lines, chains } = values,
        intakes = this.named(
          "intakes",
          values.intakes.map((k) => k.id),
        ),
        sources = { recipe, lines, chains, intakes };
      const read = <T extends Area[]>(what: string, make: (v: AreaSources & { recipe: VolumeRecipe }) => T) =>
        this.memory.run(`${what} of ${name}`, ["recipe", "lines", "chains", "intakes"], sources, make, sameJson);
      const areas =
          recipe.within === undefined
            ? undefined
            : read("areas", (v) => areasOf(areasWanted(v.recipe)!, v, v.recipe.name)),
        toes = recipe.toe === undefined ? undefined : read("toe", (v) => [toesOf(v.recipe, v)]);
      const within = this.memory.run(
        `regions of ${name}`,
        ["areas"],
        { areas },
        (v): Regions | undefined => v.areas && regionsOf(v.areas),
      );
      const [first, second] = surfaces;
      return this.memory.run(
        name,
        ["recipe", "first", "second", "within", "toes"],
        { recipe, first, second, within, toes },
        (v) =>
          pairOf(
            v.recipe,
            [v.first, v.second].filter((x) => x !== undefined),
            v.within,
            v.toes?.[0]!.rings,
          ),
      );
    });
  }

  /** Points as built against a surface or a line; their sets may ask for what was found. */
  private difference(recipe: DifferenceRecipe, values: ChainValues, state: JobState): Made<AsBuilt> {
    const name = `as built ${recipe.name}`;
    return this.make(name, recipe.name, () => {
      const rows = this.memory.run(
        `points of ${name}`,
        ["recipe", "sets", "count", "deleted", ...readsOfSelection(recipe.points, values.sets)],
        { ...values, recipe },
        (v) => pointsOfSelection(v.recipe.points, contextOf(v), `as-built check “${recipe.name}”`),
      );
      if (recipe.surface !== undefined) {
        const { surface } = builtSurface(values.surfaces, recipe.surface, recipe.name);
        return this.memory.run(
          name,
          ["recipe", "rows", "e", "n", "z", "surface"],
          { ...values, recipe, rows, surface },
          (v) => againstSurface(v.recipe, v.rows, v, v.surface),
        );
      }
      const ways = this.memory.run(
        `ways of ${name}`,
        ["recipe", "lines", "delivered", "intakes", "files"],
        { ...values, recipe, files: state.files },
        (v) => waysOf(v.recipe, v.lines, v),
      );
      return this.memory.run(
        name,
        ["recipe", "rows", "e", "n", "z", "ways", "tolerance"],
        { ...values, recipe, rows, ways },
        (v) => againstLine(v.recipe, v.rows, v, v.ways, v.tolerance.chord),
      );
    });
  }

  /** Something that hangs on a surface. */
  private onSurface<R, T>(
    key: string,
    name: string,
    source: string,
    surfaces: Made<BuiltSurface>[],
    recipe: R,
    make: (s: BuiltSurface) => T,
  ): Made<T> {
    return this.make(key, name, () => {
      const surface = builtSurface(surfaces, source, name);
      return this.memory.run(key, ["surface", "recipe"], { surface, recipe }, (v) => make(v.surface));
    });
  }

  /** The same wrapping for the same value, so that what reads it sees that nothing changed. */
  private make<T>(key: string, name: string, make: () => T): Made<T> {
    const now = made(name, make);
    if (!now.ok) return now;
    return this.memory.run(`made ${key}`, ["value"], { value: now.value }, () => now);
  }

  private named<T>(key: string, list: T[]): T[] {
    return this.memory.run(
      `all ${key}`,
      list.map((_, k) => k),
      list as unknown as Record<number, T>,
      () => list,
    );
  }

  /** The lines of the last run, as long as the book and the tolerances are the same. */
  private keptFor(book: CompiledBook, tolerance: Tolerances): KeptLines {
    if (this.keptLines?.book !== book || this.keptLines.tolerance !== tolerance)
      this.keptLines = { book, tolerance, lines: new Map() };
    return this.keptLines.lines;
  }
}

/** A surface by its name; throws a Refusal for `asker` where it is not there or could not be made. */
function builtSurface(surfaces: readonly Made<BuiltSurface>[], source: string, asker: string): BuiltSurface {
  const surface = surfaces.find((s) => s.name === source);
  if (!surface) throw refusal("reference-missing", { path: asker, what: "surface", name: source });
  if (!surface.ok) throw refusal("source-failed", { name: asker, source });
  return surface.value;
}

function keptIn<T>(all: Map<string, T>, name: string, make: () => T): T {
  let kept = all.get(name);
  if (!kept) all.set(name, (kept = make()));
  return kept;
}

/** Everything derived, once. */
export function runChain(state: JobState): Derived {
  return new Chain().run(state);
}

function made<T>(name: string, make: () => T): Made<T> {
  try {
    return { name, ok: true, value: make() };
  } catch (e) {
    if (e instanceof Refusal) return { name, ok: false, refusal: e };
    throw e;
  }
}

/** Whether a line goes to or comes from a point by its number. */
function namesPoints(coded: CodedPoints): boolean {
  return coded.parsed.some((p) =>
    p?.elements.some((e) => e.cues.some((c) => c.action === "from" || c.action === "to")),
  );
}

/** Whether two sets of positions agree where it matters. */
function samePositions(a: LinePositions, b: LinePositions): boolean {
  const { at } = a;
  if (at !== b.at) return false;
  return (["e", "n", "z"] as const).every((k) =>
    at ? at.every((i) => Object.is(a[k][i], b[k][i])) : equalColumns(a[k], b[k]),
  );
}

/** What a rule is tested on: of the values those that it reads are there. */
const contextOf = (v: ChainValues): SetContext => ({ table: v, ...v });

function kindsAt(findings: readonly Finding[], t: Pick<PointTable, "count" | "id">): Map<number, Set<string>> {
  const at = new Map<number, Set<string>>();
  for (const f of findings)
    if (f.accepted === undefined)
      for (const id of f.points) {
        const row = rowOf(t, id),
          kinds = at.get(row);
        if (row < 0) continue;
        if (kinds) kinds.add(f.kind);
        else at.set(row, new Set([f.kind]));
      }
  return at;
}

function shotsOfLines(coded: CodedPoints, deleted: Uint8Array): Int32Array {
  const makesLine = coded.parsed.map((p) =>
    p.elements.some((e) => (e.entry?.kind ?? "point") !== "point" || e.cues.length > 0),
  );
  const shots = new Int32Array(deleted.length);
  let count = 0;
  for (let i = 0; i < deleted.length; i++) if (!deleted[i] && makesLine[coded.description[i]!]) shots[count++] = i;
  return shots.slice(0, count);
}

function withElevation(points: Int32Array, z: Float64Array): Int32Array {
  return points.every((i) => !Number.isNaN(z[i]!)) ? points : points.filter((i) => !Number.isNaN(z[i]!));
}
