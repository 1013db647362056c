/** A recipe ↔ a job's state: reading one with its files, and writing one from a job. */
import { compileBook } from "../codes/book";
import { refusal } from "../errors";
import { readDelimited, checkText, type Progress } from "../intake/delimited";
import { guessEncoding } from "../intake/bytes";
import { guessLayout } from "../intake/guess";
import { fromMetres, type Unit } from "../math/units";
import { applyRecipeEdit, type RecipeEdit } from "../points/edits";
import { emptyTable, type PointTable } from "../points/table";
import { takeRecords, withTaken, type Taken } from "../points/take";
import { GROUND } from "../sets/sets";
import {
  DEFAULT_TOLERANCES, nameOf, NAMED_PARTS, type CodeBook, type ContoursRecipe, type HandoverFile, type IntakeInfo, type IntakeOptions, type JobState,
  type PointSet, type SurfaceRecipe, type Tolerances, type VolumeRecipe,
} from "./model";
import { checkCodeBookShape, checkRecipeShape } from "./validate";

export interface RecipeIntake extends IntakeOptions { id: string; file: string; format?: string }

export interface Recipe {
  recipe: 1;
  name?: string;
  date?: string;
  unit?: Unit;
  tolerance?: Partial<Tolerances>;
  codeBook?: string | CodeBook;
  intakes?: RecipeIntake[];
  edits?: RecipeEdit[];
  sets?: PointSet[];
  surfaces?: SurfaceRecipe[];
  contours?: ContoursRecipe[];
  volumes?: VolumeRecipe[];
  handover?: HandoverFile[];
}

/** Opens a file that a recipe names, relative to the recipe; throws a Refusal when it cannot. */
export type OpenFile = (name: string, path: string) => Uint8Array;

export function parseRecipe(text: string, file: string): Recipe {
  const recipe = parseJson(text, file);
  const wrong = checkRecipeShape(recipe);
  if (wrong) throw wrong;
  checkReferences(recipe as Recipe);
  return recipe as Recipe;
}

function parseJson(text: string, file: string): unknown {
  try {
    return JSON.parse(text.replace(/^\ufeff/, ""));
  } catch (e) {
    throw refusal("recipe-json", { file, why: (e as Error).message });
  }
}

/** Default tolerances in the unit, with those given. */
export function tolerancesIn(unit: Unit, given: Partial<Tolerances> = {}): Tolerances {
  const defaults = Object.fromEntries(Object.entries(DEFAULT_TOLERANCES).map(([k, metres]) => [k, fromMetres(metres, unit)]));
  return { ...(defaults as unknown as Tolerances), ...given };
}

export interface OpenedRecipe {
  state: JobState;
  /** Point numbers named by edits that do not exist. */
  missingInEdits: number;
}

/** Takes all intakes in and makes all edits. */
export function openRecipe(recipe: Recipe, open: OpenFile, progress?: (intake: string, fraction: number) => void): OpenedRecipe {
  const unit = recipe.unit ?? "m";
  let book = recipe.codeBook ?? {};
  if (typeof book === "string") {
    const file = book;
    book = parseJson(new TextDecoder().decode(open(file, "codeBook")), file) as CodeBook;
    const wrong = checkCodeBookShape(book, file);
    if (wrong) throw wrong;
  }
  checkBook(book, "codeBook");
  let points = emptyTable();
  const intakes: IntakeInfo[] = [];
  for (const [k, given] of (recipe.intakes ?? []).entries()) {
    const bytes = open(given.file, `intakes[${k}].file`);
    const { info, taken } = readIntake(points, bytes, given, {
      unit, order: "NE", intakeIndex: k, firstId: points.count + 1, progress: progress && ((f) => progress(given.id, f)),
    });
    points = withTaken(points, taken);
    intakes.push(info);
  }
  let missingInEdits = 0;
  for (const [k, edit] of (recipe.edits ?? []).entries()) {
    const { table, missing } = applyRecipeEdit(points, edit, intakes, `edits[${k}]`);
    points = table;
    missingInEdits += missing;
  }
  const state: JobState = {
    name: recipe.name ?? "", date: recipe.date, unit, order: "NE", tolerance: tolerancesIn(unit, recipe.tolerance), book, intakes, points,
    sets: recipe.sets ?? [], surfaces: recipe.surfaces ?? [], contours: recipe.contours ?? [], volumes: recipe.volumes ?? [], handover: recipe.handover ?? [],
  };
  return { state, missingInEdits };
}

export interface IntakeContext { unit: Unit; order: "NE" | "EN"; intakeIndex: number; firstId: number; progress?: Progress }

/** One delivery read and taken in: the same step for the command and the server. */
export function readIntake(
  table: PointTable, bytes: Uint8Array, given: RecipeIntake, context: IntakeContext,
): { info: IntakeInfo; taken: Taken } {
  checkText(given.file, bytes);
  const layout = guessLayout(bytes, context.order, given.layout);
  const encoding = given.encoding ?? guessEncoding(bytes);
  const records = readDelimited(given.file, bytes, layout, given.encoding, context.progress);
  if (records.rows === 0) throw refusal("file-no-rows", { file: given.file });
  const taken = takeRecords(table, records, {
    ...given, jobUnit: context.unit, intakeIndex: context.intakeIndex, firstId: context.firstId,
  });
  const info: IntakeInfo = {
    id: given.id, file: given.file, layout, unit: given.unit, encoding, clash: given.clash ?? "stop", add: given.add, crew: given.crew, kind: given.kind ?? "measured",
    rows: records.rows, points: taken.added.count, refused: records.refused, clashes: taken.clashes, notes: records.notes,
  };
  return { info, taken };
}

/** Two things of one name, and references to what is not there. */
function checkReferences(r: Recipe): void {
  for (const part of [...NAMED_PARTS, "intakes"] as const) {
    const seen = new Set<string>();
    for (const [k, body] of (r[part] ?? []).entries()) {
      const key = part === "intakes" ? (body as RecipeIntake).id : nameOf(part, body);
      if (seen.has(key)) throw refusal("recipe-field", { path: `${part}[${k}]`, why: `“${key}” is there twice` });
      seen.add(key);
    }
  }
  const surfaces = new Set((r.surfaces ?? []).map((s) => s.name));
  const needSurface = (name: string, path: string) => {
    if (!surfaces.has(name)) throw refusal("reference-missing", { path, what: "surface", name });
  };
  const sets = new Set([GROUND, ...(r.sets ?? []).map((s) => s.name)]);
  (r.surfaces ?? []).forEach((s, k) => {
    if (s.points !== undefined && !sets.has(s.points)) throw refusal("reference-missing", { path: `surfaces[${k}].points`, what: "point set", name: s.points });
  });
  (r.contours ?? []).forEach((c, k) => needSurface(c.surface, `contours[${k}].surface`));
  (r.volumes ?? []).forEach((v, k) => {
    for (const field of ["surface", "level"] as const) if (v[field] === undefined) throw refusal("recipe-field", { path: `volumes[${k}].${field}`, why: "this field is missing" });
    needSurface(v.surface, `volumes[${k}].surface`);
  });
}

/** Codes twice, and aliases to codes that the book does not have. */
export function checkBook(book: CodeBook, path: string): void {
  const seen = new Set<string>();
  for (const [k, c] of (book.codes ?? []).entries()) {
    if (seen.has(c.code.toUpperCase())) throw refusal("recipe-field", { path: `${path}.codes[${k}].code`, why: `“${c.code}” is there twice` });
    seen.add(c.code.toUpperCase());
  }
  const { codes } = compileBook(book);
  for (const [k, a] of (book.aliases ?? []).entries()) {
    if (!codes.has(a.to.toUpperCase())) throw refusal("reference-missing", { path: `${path}.aliases[${k}].to`, what: "code", name: a.to });
  }
}
