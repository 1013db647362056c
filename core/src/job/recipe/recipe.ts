/** A recipe ↔ a job's state: reading one with its files, and writing one from a job. */
import { parseJson } from "../../math/json";
import { acceptedOfRecipe, type AcceptedGiven } from "../../checks/accepted";
import type { CodeBook } from "../../codes/model";
import { refusal } from "../../errors";
import type { Progress } from "../../intake/delimited";
import { guessFormat, openTables, readDelivery } from "../../intake/deliver";
import { readGeoid, type Geoid } from "../../intake/geoid";
import type { IntakeInfo, IntakeOptions } from "../../intake/model";
import { keepOnly } from "../../intake/only";
import { systemOf } from "../../intake/position";
import type { Tables } from "../../intake/tables";
import type { HandLineGiven } from "../../lines/model";
import { freeLineName } from "../../lines/names";
import { tolerancesIn, type Tolerances } from "../../math/tolerances";
import type { Unit } from "../../math/units";
import { plural } from "../../math/words";
import type { FitMade } from "../../points/moved";
import { applyRecipeEdits, type RecipeEdit } from "../../points/edits";
import { readNumberList } from "../../points/numbers";
import { asShot } from "../../points/shots";
import { emptyTable, GONE_GAVE_WAY } from "../../points/table";
import { KINDS } from "../../records/kinds";
import { takeRecords, withTaken, type Taken } from "../../points/take";
import type { Delivered } from "../../records/delivered";
import type { Reference } from "../../records/reference";
import { filesOf } from "../../surface/recipe-files";
import type { JobDefinition, JobState } from "../model/model";
import { nameOf, RECIPE_PARTS, type JobParts, type RecipePart } from "../model/parts";
import { withComputed, type ComputedPoint } from "./computed";
import { referringKept } from "./referred";
import { referencesOf, withPositions } from "../model/reduce";
import { namesIn, namesThere, REFERRED } from "../model/references";
import { checkBook, pickGiven, RECIPE_SETTINGS, type JobSettings } from "../model/settings";
import { bookIn } from "../../codes/book-units";
import { checkCodeBookShape, checkRecipeShape } from "../model/validate";

export interface RecipeIntake extends IntakeOptions {
  id: string;
  file: string;
}

export interface Recipe
  extends
    Partial<Omit<JobSettings, "book" | "tolerance">>,
    Partial<Pick<JobParts, Exclude<RecipePart, "accepted" | "lines" | "computed">>> {
  recipe: 1;
  lines?: HandLineGiven[];
  accepted?: AcceptedGiven[];
  unit?: Unit;
  tolerance?: Partial<Tolerances>;
  codeBook?: string | CodeBook;
  intakes?: RecipeIntake[];
  edits?: RecipeEdit[];
  computed?: ComputedPoint[];
}

/** Opens a file that a recipe names, relative to the recipe; throws a Refusal when it cannot. */
export type OpenFile = (name: string, path: string) => Uint8Array;

export function parseRecipe(text: string, file: string): Recipe {
  const recipe = jsonOf(text, file);
  const wrong = checkRecipeShape(recipe);
  if (wrong) throw wrong;
  checkReferences(recipe as Recipe);
  return recipe as Recipe;
}

function jsonOf(text: string, file: string): unknown {
  try {
    return parseJson(text);
  } catch (e) {
    throw refusal("recipe-json", { file, why: (e as Error).message });
  }
}

export interface OpenedRecipe {
  state: JobState;
  /** Point numbers named by edits that do not exist. */
  missingInEdits: number;
  /** How its fits came out. */
  fits: FitMade[];
}

/**
 * Opens the containers (databases, spreadsheets) among a recipe's intakes: what openRecipe then needs no waiting for.
 */
export async function openRecipeTables(recipe: Recipe, open: OpenFile): Promise<Map<string, Tables>> {
  const opened = new Map<string, Tables>();
  for (const [k, given] of (recipe.intakes ?? []).entries()) {
    const bytes = open(given.file, `intakes[${k}].file`);
    const tables = await openTables(given.file, bytes, given.format ?? guessFormat(bytes));
    if (tables) opened.set(given.file, tables);
  }
  return opened;
}

/** Takes all intakes in and makes all edits. `tables` holds the opened containers, see openRecipeTables. */
export function openRecipe(
  recipe: Recipe,
  open: OpenFile,
  progress?: (intake: string, fraction: number) => void,
  tables: ReadonlyMap<string, Tables> = new Map(),
): OpenedRecipe {
  const unit = recipe.unit ?? "m";
  let book = recipe.codeBook ?? {};
  if (typeof book === "string") {
    const file = book;
    book = jsonOf(new TextDecoder().decode(open(file, "codeBook")), file) as CodeBook;
    const wrong = checkCodeBookShape(book, file);
    if (wrong) throw wrong;
  }
  checkBook(book, "codeBook");
  book = bookIn(book, unit).book;
  if (recipe.system !== undefined) systemOf(recipe.system);
  const geoid = recipe.geoid === undefined ? undefined : readGeoid(recipe.geoid, open(recipe.geoid, "geoid"));
  const parts = Object.fromEntries(RECIPE_PARTS.map((p) => [p, recipe[p] ?? []])) as unknown as JobParts;
  parts.states = [];
  parts.moves = [];
  parts.lines = [];
  parts.names = [];
  // Which points these are, and those that others refer to, is known after all edits.
  parts.accepted = [];
  parts.computed = [];
  let state: JobState = {
    ...pickGiven(recipe as Partial<JobSettings>, RECIPE_SETTINGS),
    ...parts,
    name: recipe.name ?? "",
    unit,
    order: recipe.order ?? "NE",
    tolerance: tolerancesIn(unit, recipe.tolerance),
    book,
    intakes: [],
    delivered: [],
    points: emptyTable(),
  };
  for (const [k, given] of (recipe.intakes ?? []).entries()) {
    const bytes = open(given.file, `intakes[${k}].file`);
    const { info, taken, delivered } = readIntake(state, bytes, given, {
      firstId: state.points.count + 1,
      geoid,
      tables: tables.get(given.file),
      progress: progress && ((f) => progress(given.id, f)),
    });
    state = {
      ...state,
      points: withTaken(state.points, taken),
      intakes: [...state.intakes, info],
      delivered: [...state.delivered, delivered],
    };
  }
  for (const [k, s] of state.setups.entries()) {
    const at = state.intakes.findIndex((x) => x.id === s.intake);
    if (at < 0) throw refusal("reference-missing", { path: `setups[${k}].intake`, what: "intake", name: s.intake });
    if (!state.delivered[at]!.survey?.setups.some((x) => x.id === s.setup))
      throw refusal("reference-missing", { path: `setups[${k}].setup`, what: "setup", name: s.setup });
  }
  state = withPositions({ ...state, ...surfaceFiles(state, open) });
  const before = state,
    { table, missing, fits } = applyRecipeEdits(
      state.points,
      recipe.edits ?? [],
      state.intakes,
      "edits",
      (points) => withPositions({ ...before, points }).points,
    );
  const made = withComputed(table, recipe.computed ?? [], state.intakes);
  const accepted = acceptedOfRecipe(recipe.accepted ?? [], made.points);
  const referring = referringKept(
    { ...state, lines: named(recipe.lines ?? []), names: recipe.names ?? [] },
    { ...state, ...made },
  );
  return { state: withPositions({ ...state, ...referring, ...made, accepted }), missingInEdits: missing, fits };
}

/** Hand lines without a name take the next that is free. */
function named(lines: readonly HandLineGiven[]): HandLineGiven[] {
  const taken = new Set(lines.map((l) => l.name));
  return lines.map((l) => {
    if (l.name) return l;
    const name = freeLineName(taken);
    taken.add(name);
    return { ...l, name };
  });
}

/** Files that only surfaces name, read for their surfaces. */
function surfaceFiles(state: JobState, open: OpenFile): Pick<JobState, "files"> {
  const files: { file: string; reference: Reference }[] = [];
  for (const [file, path] of state.surfaces.flatMap((s, k) => filesOf(s).map((f) => [f, `surfaces[${k}]`] as const))) {
    if ([...referencesOf(state), ...files].some((r) => r.file === file)) continue;
    const bytes = open(file, `${path}.file`);
    const { reference } = readDelivery(file, bytes, {}, undefined, {
      unit: state.unit,
      order: state.order,
      references: [],
      isControl: () => false,
    });
    files.push({ file, reference: reference ?? { lines: [], surfaces: [] } });
  }
  return files.length ? { files } : {};
}

/** The job as an intake finds it. */
export type IntakeJob = Pick<
  JobState,
  | "unit"
  | "order"
  | "tolerance"
  | "curvature"
  | "scaleFactor"
  | "system"
  | "setups"
  | "book"
  | "intakes"
  | "delivered"
  | "points"
>;
export interface IntakeContext {
  firstId: number;
  geoid?: Geoid;
  tables?: Tables;
  progress?: Progress;
  /** Clashing numbers are listed and let in as they are: for the look before commit. */
  lookOnly?: boolean;
}
export interface ReadIntake {
  info: IntakeInfo;
  taken: Taken;
  delivered: Delivered;
}

/** One delivery read and taken in: the same step for the command, the server and the look before commit. */
export function readIntake(job: IntakeJob, bytes: Uint8Array, given: RecipeIntake, context: IntakeContext): ReadIntake {
  const table = job.points;
  const control = KINDS.indexOf("control");
  const controls = new Set<string>();
  for (let i = 0; i < table.count; i++)
    // Also what gives way, or comes later, is known to be control.
    if (!(table.deleted[i]! & ~GONE_GAVE_WAY) && table.kind[i] === control) controls.add(table.number[i]!);
  const {
    records: all,
    survey,
    reference,
    layout,
    encoding,
    beyond,
    format,
  } = readDelivery(given.file, bytes, given, context.tables, {
    unit: job.unit,
    order: job.order,
    system: job.system,
    geoid: context.geoid,
    references: referencesOf(job),
    isControl: (number) => controls.has(number),
    progress: context.progress,
  });
  const { records, left } = keepOnly(all, given.only, readNumberList);
  if (all.rows === 0 && !reference && !survey) throw refusal("file-no-rows", { file: given.file });
  const delivered: Delivered = { ...(survey ? { survey } : {}), ...(reference ? { reference } : {}) };
  let taken = takeRecords(table, records, {
    ...given,
    intakeIndex: job.intakes.length,
    firstId: context.firstId,
    lookOnly: context.lookOnly,
  });
  if (survey) taken = placeObserved(job, given, delivered, taken);
  const info: IntakeInfo = {
    id: given.id,
    file: given.file,
    format,
    ...(layout ? { layout } : {}),
    ...(encoding ? { encoding } : {}),
    line: given.line,
    heightAt: given.heightAt,
    unit: given.unit,
    clash: given.clash ?? "stop",
    add: given.add,
    ...(given.clashes && Object.keys(given.clashes).length ? { answers: given.clashes } : {}),
    crew: given.crew,
    kind: given.kind ?? "measured",
    ...(given.only && Object.keys(given.only).length ? { only: given.only } : {}),
    rows: records.rows,
    points: taken.added.deleted.reduce((sum, d) => sum + (d & GONE_GAVE_WAY ? 0 : 1), 0),
    refused: records.refused.slice().sort((a, b) => a.row - b.row),
    clashes: taken.clashes,
    setups: survey?.setups.length ?? 0,
    beyond,
    ...(reference
      ? { reference: { lines: reference.lines.length, surfaces: reference.surfaces.map((s) => s.name) } }
      : {}),
    notes: left ? [...records.notes, `${plural(left, "row was", "rows were")} left out, as chosen.`] : records.notes,
  };
  return { info, taken, delivered };
}

/** The observed points at their positions; those that no reduced setup sees have none yet. */
function placeObserved(job: IntakeJob, given: RecipeIntake, delivered: Delivered, taken: Taken): Taken {
  const after = withTaken(job.points, taken);
  // As shot: where `past` puts objects follows from the descriptions each time anew.
  const points = asShot(
    withPositions({
      ...job,
      points: after,
      intakes: [...job.intakes, { id: given.id } as IntakeInfo],
      delivered: [...job.delivered, delivered],
    }).points,
  );
  const first = job.points.count;
  return {
    ...taken,
    added: {
      ...taken.added,
      e: points.e.slice(first),
      n: points.n.slice(first),
      z: points.z.slice(first),
      deleted: points.deleted.slice(first),
    },
  };
}

/** Two things of one name, and references to what is not there. */
function checkReferences(r: Recipe): void {
  for (const part of [...RECIPE_PARTS, "intakes"] as const) {
    const seen = new Set<string>();
    for (const [k, body] of (r[part] ?? []).entries()) {
      if (part === "accepted" || part === "computed" || (part === "lines" && !(body as HandLineGiven).name)) continue;
      const key = part === "intakes" ? (body as RecipeIntake).id : nameOf(part, body);
      if (seen.has(key)) throw refusal("recipe-field", { path: `${part}[${k}]`, why: `“${key}” is there twice` });
      seen.add(key);
    }
  }
  const there = namesThere(r as Partial<JobDefinition>);
  // What the drawing names and is not there is not drawn.
  const { drawing: _, ...parts } = r as Partial<JobDefinition>;
  for (const { of, name, part, at, path } of namesIn(parts, (x) => there.sets.has(x)))
    if (!there[of].has(name))
      throw refusal("reference-missing", {
        path: part === "presets" ? path : `${part}[${at}].${path}`,
        what: of === "sets" ? "point set" : REFERRED[of],
        name,
      });
}
