/**
 * The settings of a job, each described once: its shape, its name in words, what holds where a job says nothing. From
 * here come the types, the fields of recipes and templates, what the server lets in, and the words of the ledger.
 */
import type { LevelPrecision } from "../../volumes/precision";
import { compileBook } from "../../codes/book";
import type { CodeBook } from "../../codes/model";
import type { DrawingSettings } from "../../drawing/model";
import { refusal } from "../../errors";
import { systemOf } from "../../intake/position";
import { ANGLE_STYLES, type AngleStyle } from "../../math/angles";
import { STATION_STYLES, type StationStyle } from "../../math/station-text";
import type { Tolerances } from "../../math/tolerances";
import { AREA_UNITS, VOLUME_UNITS, type AreaUnit, type VolumeUnit } from "../../math/units";
import type { CrewRange, NextOfKind } from "../../points/numbers";
import { DEFAULT_CURVATURE, type Curvature } from "../../points/setups";
import type { ChecksGiven } from "../../checks/limits";
import { finite, listOf, name, oneOf, positive, record, rgb, text, whole, type Schema } from "../../shape";
import { KINDS } from "../../records/kinds";
import type { Preset } from "../../construct/preset";
import { presetSchema } from "./shapes/preset";
import { codeBookSchema } from "./shapes/book";
import { checksSchema, toleranceSchema } from "./shapes/checks";

export interface Setting<T> {
  /** As it is called in a sentence: “The job's … was changed”. */
  words: string;
  schema: Schema;
  /** What holds where the job has none. */
  fallback?: T;
  /** Every job has one: it cannot be taken away. */
  must?: true;
  /** Belongs to one job alone: a template does not carry it on. */
  own?: true;
  /** Whether positions of points follow from it. */
  positions?: true;
  /** What a shape cannot say; throws a Refusal. */
  check?(value: T): void;
}

const setting = <T>(words: string, schema: Schema, more: Omit<Setting<T>, "words" | "schema"> = {}): Setting<T> => ({
  words,
  schema,
  ...more,
});
const short: Schema = { type: "string", maxLength: 200 };
const kinds = oneOf("point", "line", "area");
const plainName: Schema = {
  type: "string",
  minLength: 1,
  maxLength: 200,
  pattern: "^[^\\u0000-\\u001f]*[^\\u0000-\\u001f\\s][^\\u0000-\\u001f]*$",
  written: "a name of one line",
};
const flag: Schema = { type: "boolean" };
const pointNumber: Schema = { type: "string", minLength: 1, maxLength: 100 };

const weight = { ...finite, minimum: 0.05, maximum: 5 };
/** What a look of a surface may say. */
const lookFields = {
  hidden: flag,
  color: rgb,
  indexColor: rgb,
  weight,
  indexWeight: weight,
  labelEvery: { ...finite, minimum: 20, maximum: 2000 },
  smooth: flag,
  spots: { ...finite, minimum: 8, maximum: 1000 },
};

export const SETTINGS = {
  name: setting<string>("name", plainName, { must: true, own: true }),
  date: setting<string>(
    "date",
    { type: "string", pattern: "^\\d{4}-\\d{2}-\\d{2}$", written: "a day such as 2031-04-17" },
    { own: true },
  ),
  client: setting<string>("client", short),
  crew: setting<string>("crew", short),
  note: setting<string>("note", { type: "string", maxLength: 10_000 }),
  /** Which coordinate is shown and typed first. */
  order: setting<"NE" | "EN">("coordinate order", oneOf("NE", "EN"), { must: true }),
  tolerance: setting<Tolerances>(
    "tolerance",
    { ...toleranceSchema, required: Object.keys(toleranceSchema.properties as object) },
    { must: true, positions: true },
  ),
  angle: setting<AngleStyle>("angle style", oneOf(...ANGLE_STYLES), { fallback: "azimuth-dms" }),
  areaUnit: setting<AreaUnit>("unit of areas", oneOf(...AREA_UNITS), { fallback: "unit" }),
  volumeUnit: setting<VolumeUnit>("unit of volumes", oneOf(...VOLUME_UNITS), { fallback: "unit" }),
  /** As 1560.10, or with a plus as 15+60.10. */
  stations: setting<StationStyle>("way of writing stations", oneOf(...STATION_STYLES), { fallback: "plain" }),
  curvature: setting<Curvature>(
    "curvature and refraction",
    {
      if: { type: "object" },
      then: record({ k: { type: "number", minimum: -5, maximum: 5 }, radius: positive }),
      else: oneOf(false),
    },
    { fallback: DEFAULT_CURVATURE, positions: true },
  ),
  /** Plan distances of raw observations are multiplied by it. */
  scaleFactor: setting<number>(
    "scale factor",
    { type: "number", minimum: 0.5, maximum: 2 },
    { fallback: 1, positions: true },
  ),
  /** EPSG code of the coordinates, as `EPSG:25832`; none for a plain local grid. */
  system: setting<string>(
    "coordinate system",
    { type: "string", pattern: "^EPSG:\\d+$", written: "a system such as EPSG:25832", maxLength: 20 },
    { check: (code) => void systemOf(code) },
  ),
  /** The geoid grid: its file's name; the bytes are kept beside. */
  geoid: setting<string>("geoid grid", name),
  crews: setting<CrewRange[]>(
    "number ranges",
    listOf(record({ crew: name, from: whole(0, 2 ** 40), to: whole(0, 2 ** 40) }, ["crew", "from", "to"]), {
      maxItems: 100,
    }),
  ),
  /** From where the office numbers its points; behind the highest number where it is not said. */
  nextNumber: setting<string>("next number", pointNumber),
  /** The same for single kinds of points. */
  nextNumbers: setting<NextOfKind[]>(
    "next numbers",
    listOf(record({ kind: oneOf(...KINDS), next: pointNumber }, ["kind", "next"]), { maxItems: KINDS.length }),
  ),
  /** What points that the office makes have in common, under a name. */
  presets: setting<Preset[]>("presets", listOf(presetSchema, { maxItems: 200 }), {
    check: (presets) => checkNames(presets, "presets"),
  }),
  /** What the levels of shots without a precision of their own are taken for, and an error that all of them share. */
  levelPrecision: setting<LevelPrecision>(
    "precision of levels",
    record({ shot: { type: "number", minimum: 0 }, common: { type: "number", minimum: 0 } }),
  ),
  book: setting<CodeBook>("code book", codeBookSchema, {
    must: true,
    positions: true,
    check: (book) => checkBook(book, "codeBook"),
  }),
  checks: setting<ChecksGiven>("checks", checksSchema),
  /** Whether layers that are hidden on the sheet leave switched off, or not at all. */
  hiddenLayers: setting<"off" | "out">("answer about hidden layers", oneOf("off", "out"), { fallback: "off" }),
  drawing: setting<DrawingSettings>(
    "drawing",
    record({
      scale: { type: "number", minimum: 10, maximum: 1_000_000 },
      points: listOf(
        record(
          {
            set: name,
            number: flag,
            elevation: flag,
            code: flag,
            height: { ...finite, minimum: 0.5, maximum: 50 },
            decimals: whole(0, 6),
          },
          ["set"],
        ),
        { maxItems: 100 },
      ),
      hidden: record({
        groups: listOf(text, { maxItems: 1000 }),
        layers: listOf(text, { maxItems: 5000 }),
        kinds: listOf(kinds, { maxItems: 3 }),
      }),
      kindOrder: listOf(kinds, { maxItems: 3, uniqueItems: true }),
      order: listOf(text, { maxItems: 1000 }),
      layerOrder: listOf(text, { maxItems: 5000 }),
      surfaces: listOf(record({ surface: name, ...lookFields }, ["surface"]), { maxItems: 1000 }),
      looks: listOf(record({ name, ...lookFields }, ["name"]), { maxItems: 100 }),
    }),
  ),
};

export type SettingField = keyof typeof SETTINGS;
type ValueOf<K extends SettingField> = (typeof SETTINGS)[K] extends Setting<infer T> ? T : never;
type Must = "name" | "order" | "tolerance" | "book";
/** Every job has the first; the others may be left out. */
export type JobSettings = { [K in Must]: ValueOf<K> } & { [K in Exclude<SettingField, Must>]?: ValueOf<K> };

export const SETTING_FIELDS = Object.keys(SETTINGS) as SettingField[];

/** Settings that a recipe holds under the same name as the job, apart from the book. */
export const RECIPE_SETTINGS = SETTING_FIELDS.filter((f) => f !== "book");

/** What holds for a job: its own setting, else what holds where it says nothing. */
export function settingOf<K extends SettingField>(job: Partial<JobSettings>, field: K): ValueOf<K> {
  return (job[field] ?? (SETTINGS[field] as Setting<ValueOf<K>>).fallback) as ValueOf<K>;
}

/** The fields of an object that are given. */
export function pickGiven<T extends object, K extends keyof T>(from: T, fields: readonly K[]): Pick<T, K> {
  return Object.fromEntries(fields.filter((k) => from[k] !== undefined).map((k) => [k, from[k]])) as Pick<T, K>;
}

function checkNames(things: readonly { name: string }[], path: string): void {
  const seen = new Set<string>();
  for (const [k, { name }] of things.entries()) {
    if (seen.has(name)) throw refusal("recipe-field", { path: `${path}[${k}].name`, why: `“${name}” is there twice` });
    seen.add(name);
  }
}

/** Codes twice, and aliases to codes that the book does not have. */
export function checkBook(book: CodeBook, path: string): void {
  const seen = new Set<string>();
  for (const [k, c] of (book.codes ?? []).entries()) {
    if (seen.has(c.code.toUpperCase()))
      throw refusal("recipe-field", { path: `${path}.codes[${k}].code`, why: `“${c.code}” is there twice` });
    seen.add(c.code.toUpperCase());
  }
  const { codes } = compileBook(book);
  for (const [k, a] of (book.aliases ?? []).entries()) {
    if (!codes.has(a.to.toUpperCase()))
      throw refusal("reference-missing", { path: `${path}.aliases[${k}].to`, what: "code", name: a.to });
  }
}
