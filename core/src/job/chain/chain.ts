/**
 * The chain: from a job's stored state to everything derived, in the order of the work. A pure function; run by the
 * same code in a web worker, on the server and in the command. Start reading here.
 *
 *   setups ─ points ─ codes ─ lines ─ surfaces ─ contours ─ volumes
 *               └─ constructed ones follow (standing.ts)
 *                                    └─ findings of every stage
 *
 * Incremental by stage (stages.ts): each names what it reads, which must be made before it, and runs again only when that
 * is another. Lines are incremental one by one as well (lines/assemble.ts).
 */
import { withAccepted } from "../../checks/accepted";
import { commonPoints } from "../../checks/ground-grid";
import { isLookedFor } from "../../checks/limits";
import { compileBook, type CompiledBook } from "../../codes/book";
import { readCodes, type CodedPoints } from "../../codes/read";
import { withOwnSymbols } from "../../drawing/added/symbols";
import { drawSymbols, writeNotes } from "../../drawing/content";
import { lookOfSurface } from "../../drawing/surface-look";
import { byIdentity, type Finding } from "../../finding";
import { assembleLines, type KeptLines } from "../../lines/assemble";
import { flattenLines } from "../../lines/flatten";
import { ownNames, sameNames } from "../../lines/names";
import { equalColumns } from "../../math/columns";
import { sameJson } from "../../math/json";
import type { Tolerances } from "../../math/tolerances";
import { findPoints } from "../../points/refs";
import { rowOf, type PointTable } from "../../points/table";
import { pointsOfSet, readsOfRule } from "../../sets/sets";
import { setupsOfPoints } from "../../sets/setups";
import { contourAgain, type KeptContours } from "../../surface/again";
import { smoothContours } from "../../surface/smooth";
import type { JobState } from "../model/model";
import { setupReports } from "../model/reduce";
import { CHECKS } from "./checks";
import { asBuilt, pairMade, volumeOf } from "./comparisons";
import { LevelStage, withPredicted } from "./levels";
import { Kept, Plan } from "./stages";
import { Standing } from "./standing";
import { contextOf, onSurface, surfaceOf } from "./surfaces";
import type { ChainValues, Derived, Given, Known, LevelsFound, LinePositions, Made } from "./values";

const POSITIONS_OF_SHOTS = ["count", "id", "intake", "row", "e", "n", "z", "number", "kind", "deleted"] as const,
  OF_REDUCTION = ["follows", "targetHeight", "shotAt", "cameAs", "delivered", "intakes", "setups"] as const;

/** What stands outside the values: lines of the last run, and the check of levels, which may be put off. */
interface Outside {
  keptLines(book: CompiledBook, tolerance: Tolerances): KeptLines;
  levels(values: Parameters<LevelStage["of"]>[0], found: readonly Finding[]): LevelsFound;
}

/** Codes and lines: all that constructions on lines, and the surfaces, need. */
const linesOf = (outside: Outside) =>
  Plan.from<ChainValues, Given>()
    // Codes.
    .stage("compiled", ["book"], ({ book }) => compileBook(book))
    .stage("coded", ["count", "texts", "description", "cues", "surface", "kind", "deleted", "compiled"], (v) =>
      readCodes(v, v.compiled),
    )
    .stage("pointSetups", ["count", "intake", "row", "delivered", "intakes"], (v) =>
      setupsOfPoints(v, v.delivered, v.intakes),
    )
    // Lines depend on the positions of their own shots: the level of a spot changed elsewhere leaves them as they are.
    .stage("lineShots", ["coded", "deleted"], ({ coded, deleted }) => shotsOfLines(coded, deleted))
    .stage(
      "linePositions",
      ["e", "n", "z", "lineShots", "coded", "handLines"],
      ({ e, n, z, lineShots, coded, handLines }) => ({
        e,
        n,
        z,
        at: handLines.length > 0 || namesPoints(coded) ? undefined : lineShots,
      }),
      samePositions,
    )
    .stage(
      "assembled",
      [
        ...(["linePositions", "count", "id", "number", "deleted", "time", "row", "intake", "cameAs"] as const),
        ...(["coded", "tolerance", "unit", "compiled", "handLines", "intakes"] as const),
      ],
      (v) =>
        assembleLines(
          { ...v, ...v.linePositions },
          v.coded,
          v.tolerance,
          v.unit,
          v.compiled,
          v.handLines,
          findPoints(v, v.intakes),
          outside.keptLines(v.compiled, v.tolerance),
        ),
    )
    .stage("lines", ["assembled"], ({ assembled }) => assembled.lines)
    .stage(
      "named",
      [
        ...(["names", "handLines", "lines", "count", "id", "intake", "row"] as const),
        ...(["number", "deleted", "cameAs", "intakes"] as const),
      ],
      (v) => ownNames(v.names, v.handLines, v.lines, v, v.intakes),
      sameNames,
    )
    .stage("ownNames", ["named"], ({ named }) => named.own)
    .stage("chains", ["lines", "tolerance"], (v) => flattenLines(v.lines, v.tolerance.chord))
    .stage("terrainChains", ["lines", "coded", "tolerance"], (v) =>
      flattenLines(v.lines, v.tolerance.chord, v.coded.usable),
    );

/** All stages in their order. */
const planOf = (lines: ReturnType<typeof linesOf>, outside: Outside) =>
  lines
    // Points: raw observations are reduced before (model/reduce.ts); here is what is said of each setup.
    .stage(
      "setupReports",
      [...POSITIONS_OF_SHOTS, ...OF_REDUCTION, "unit", "tolerance", "curvature", "scaleFactor"],
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
    )
    .stage("common", ["count", "id", "number", "intake", "deleted", "cameAs", "intakes"], (v) =>
      commonPoints(v, v.intakes),
    )
    // The drawing.
    .stage("codeSymbols", ["coded", "count", "e", "n", "attributes", "texts", "kind", "deleted", "unit"], (v) =>
      drawSymbols(v, v.coded, v.unit),
    )
    .stage("ownSymbols", ["added"], ({ added }) => added.filter((a) => "symbol" in a), sameJson)
    .stage(
      "symbols",
      [
        ...(["codeSymbols", "ownSymbols", "count", "id", "e", "n", "intake", "row", "deleted", "intakes"] as const),
        ...(["number", "cameAs"] as const),
      ],
      (v) => withOwnSymbols(v.codeSymbols, v, v.intakes, v.ownSymbols),
    )
    .stage(
      "notes",
      ["symbols", "coded", "lines", "ownNames", "number", "z", "note", "texts", "attributes", "compiled"],
      (v) => writeNotes(v, v.coded, v.symbols, v.lines, v.compiled, v.ownNames),
    )
    // Terrain.
    .group("surfaces", (v, kept) =>
      kept.list(
        "surfaces",
        v.surfaceRecipes.map((recipe) => surfaceOf(recipe, v, kept)),
      ),
    )
    .group("contours", (v, kept) =>
      v.contourRecipes.map((recipe) => {
        const key = `contours ${recipe.surface}`,
          last = kept.partly(key, (): KeptContours => ({}));
        return onSurface(key, recipe.surface, { surfaces: v.surfaces, recipe }, kept, (s) =>
          contourAgain(s.surface, recipe, last),
        );
      }),
    )
    .group("drawnContours", (v, kept) => v.contours.map((c) => drawnContours(c, v, kept)))
    // Volumes.
    .group("pairs", (v, kept) => v.volumeRecipes.map((recipe) => pairMade(recipe, v, kept)))
    .group("volumes", (v, kept) => v.volumeRecipes.map((recipe, k) => volumeOf(recipe, v.pairs[k]!, kept)))
    // Findings.
    .stage("lineKeys", ["lines"], ({ lines }) => lines.map((l) => l.key))
    .group("found", (v, kept) => {
      const noticed = CHECKS.map((c) => kept.run(`check ${c.name}`, c.reads, v, c.make as (from: typeof v) => never)),
        quick = { ...Object.fromEntries(noticed.map((n, k) => [k, n])), id: v.id, keys: v.lineKeys };
      return kept.run("found", Object.keys(quick) as never[], quick, () =>
        byIdentity(noticed.flat(), v.id, v.lineKeys),
      );
    })
    .group("levelsFound", (v) => outside.levels(v, v.found))
    .stage("levels", ["levelsFound"], (v) => v.levelsFound.checked)
    .stage("levelsToCome", ["levelsFound"], (v) => v.levelsFound.toCome)
    .stage("levelsLeftOut", ["levelsFound"], (v) => v.levelsFound.leftOut ?? false)
    .stage("findings", ["found", "levelsFound", "accepted", "lines", "checks", "unit"], (v) => {
      const wanted = [...withPredicted(v.found, v.levelsFound.predicted), ...v.levelsFound.findings].filter((f) =>
        isLookedFor(f.kind, v.checks),
      );
      return withAccepted(wanted, v.accepted, v.lines, v.unit);
    })
    .stage("findingsAt", ["findings", "count", "id"], (v) => kindsAt(v.findings, v))
    // Sets may ask for what was found; of those that surfaces ask for none does.
    .group("madeSets", (v, kept) =>
      kept.list(
        "sets",
        v.sets.map(({ name }) => setMade(name, v, kept)),
      ),
    )
    .group("differences", (v, kept) => v.differenceRecipes.map((recipe) => asBuilt(recipe, v, kept)));

/** Keeps each stage's last inputs and result. */
export class Chain {
  private readonly kept: Kept;
  private readonly levels = new LevelStage();
  private keptLines: { book: CompiledBook; tolerance: Tolerances; lines: KeptLines } | undefined;
  private putOff = false;
  private readonly outside: Outside = {
    keptLines: (book, tolerance) => this.keptFor(book, tolerance),
    levels: (values, found) => this.levels.of(values, found, this.putOff),
  };
  private readonly lines = linesOf(this.outside);
  private readonly plan = planOf(this.lines, this.outside);
  private readonly standing = new Standing((points, kept) => this.lines.make(points, kept));

  /** `begins` is told what is made next, by the name of its stage and, within a surface, its step. */
  constructor(begins?: (what: string) => void) {
    this.kept = new Kept(begins);
  }

  /** How many results are remembered: of what is gone from the job none stays for long. */
  get remembered(): number {
    return this.kept.size;
  }

  /**
   * Everything derived from the state. With `putOff` the levels are checked afterwards, by `catchUp`: until then what they
   * said last stands.
   */
  run(state: JobState, putOff = false): Derived {
    const { points, surfaces, contours, volumes, differences, lines, note: _, ...rest } = state;
    this.putOff = putOff;
    const given = {
      ...rest,
      ...points,
      surfaceRecipes: surfaces,
      contourRecipes: contours,
      volumeRecipes: volumes,
      differenceRecipes: differences,
      handLines: lines,
    };
    return derivedOf(this.plan.run({ ...given, ...this.standing.of(points, given, this.kept) }, this.kept));
  }

  /** Checks the levels that a run put off, in steps; run again afterwards to have what was found. */
  catchUp(): Generator<void, void> {
    return this.levels.catchUp();
  }

  /** The lines of the last run, as long as the book and the tolerances are the same. */
  private keptFor(book: CompiledBook, tolerance: Tolerances): KeptLines {
    if (this.keptLines?.book !== book || this.keptLines.tolerance !== tolerance)
      this.keptLines = { book, tolerance, lines: new Map() };
    return this.keptLines.lines;
  }
}

/** Everything derived, once. */
export function runChain(state: JobState): Derived {
  return new Chain().run(state);
}

/** Of all values those that are told. */
const DERIVED = [
  ...(["points", "lostPoints", "program", "movesMade"] as const),
  ...(["setupReports", "compiled", "coded", "lines", "ownNames", "chains", "symbols", "notes"] as const),
  ...(["madeSets", "findingsAt", "pointSetups", "surfaces", "contours", "drawnContours"] as const),
  ...(["pairs", "volumes", "differences", "findings", "levels", "levelsToCome", "levelsLeftOut"] as const),
];
function derivedOf(v: Known<keyof Derived>): Derived {
  const told: Known<(typeof DERIVED)[number]> = Object.fromEntries(DERIVED.map((name) => [name, v[name]])) as never;
  return told;
}

/** Contours as they are drawn: smoothed where the look of their surface says so. */
function drawnContours(
  c: ChainValues["contours"][number],
  { surfaces, drawing }: Known<"surfaces" | "drawing">,
  kept: Kept,
): ChainValues["drawnContours"][number] {
  const surface = surfaces.find((x) => x.name === c.name);
  if (!c.ok || !surface?.ok || !lookOfSurface(drawing, c.name).smooth) return c;
  const from = { contours: c.value, ground: surface.value.surface };
  return kept.make(`drawn contours ${c.name}`, c.name, () =>
    kept.run(`smooth contours ${c.name}`, ["contours", "ground"], from, (v) => smoothContours(v.ground, v.contours)),
  );
}

/** The points of a set. */
function setMade(name: string, values: Omit<ChainValues, "madeSets" | "differences">, kept: Kept): Made<Int32Array> {
  return kept.make(`set ${name}`, name, () =>
    kept.run(
      `points of set ${name}`,
      ["sets", "count", "deleted", ...readsOfRule({ set: name }, values.sets)],
      values,
      (v) => pointsOfSet(name, contextOf(v), `sets “${name}”`),
    ),
  );
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
