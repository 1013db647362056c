/**
 * The shapes of all that a recipe holds, as JSON schema: used to validate recipes and, part by part, what the browser
 * sends. The keyword `later` marks what RECIPE.md defines and this version cannot run.
 */
import { LABEL_PLACES } from "../../codes/model";
import { EDIT_FIELDS, fieldOf, PLAIN_FIELDS, type PointField } from "../../records/fields";
import { COLUMNS } from "../../intake/columns";
import { FORMATS } from "../../intake/model";
import { KINDS } from "../../records/kinds";
import { REACH } from "../../math/reach";
import { UNITS } from "../../math/units";
import { ACTIONS } from "../../codes/book";
import { FINDING_KINDS, kindOfFinding, type Limit } from "../../finding-kinds";

export type Schema = Record<string, unknown>;

export const text: Schema = { type: "string" };
export const name: Schema = { type: "string", minLength: 1, maxLength: 200 };
export const finite: Schema = { type: "number" };
/** A coordinate, a level or a length with a sign, in the job's unit. */
export const coordinate: Schema = { type: "number", minimum: -REACH, maximum: REACH };
export const positive: Schema = { type: "number", exclusiveMinimum: 0 };
const notNegative: Schema = { type: "number", minimum: 0 };
export const whole = (minimum: number, maximum: number): Schema => ({ type: "integer", minimum, maximum });
export const oneOf = (...values: unknown[]): Schema => ({ enum: values });
export const listOf = (items: Schema, more: Schema = {}): Schema => ({ type: "array", items, ...more });
export const record = (properties: Record<string, Schema>, required: string[] = []): Schema => ({
  type: "object",
  properties,
  required,
  additionalProperties: false,
});
/** One shape where a field is there, else another. */
export const has = (field: string, then: Schema, otherwise: Schema): Schema => ({
  if: { type: "object", required: [field] },
  then,
  else: otherwise,
});
/** Defined by the contract, not run yet; `unless` lists the values that change nothing. */
const later = (what: string, unless: unknown[] = []): Schema => ({ later: { what, unless } });
/** Points by their numbers: a list as it is written, or the exact numbers. */
const numbers: Schema = {
  if: { type: "string" },
  then: { type: "string", minLength: 1, maxLength: 1_000_000 },
  else: listOf(name, { minItems: 1, maxItems: 1_000_000 }),
  written: 'numbers such as "1-5, K7", or a list of them',
};
export const position: Schema = { type: "array", items: coordinate, minItems: 2, maxItems: 2 };

const attribute = record(
  {
    name,
    type: oneOf("number", "text", "choice"),
    unit: text,
    required: { type: "boolean" },
    choices: listOf(text, { maxItems: 500 }),
  },
  ["name"],
);

export const codeEntrySchema = record(
  {
    code: {
      type: "string",
      pattern: "^[A-Za-z][A-Za-z0-9_-]*$",
      written: "a code: a letter, then letters, digits, _ and -",
      maxLength: 60,
    },
    name: text,
    kind: oneOf("point", "line", "area"),
    group: text,
    layer: text,
    color: { type: "string", pattern: "^#[0-9a-fA-F]{6}$", written: "a colour such as #7a5a2e" },
    style: text,
    symbol: text,
    size: record({ fixed: positive, attribute: text }),
    rotation: record({ fixed: finite, attribute: text }),
    labelAt: record({
      place: oneOf(...LABEL_PLACES),
      align: oneOf("start", "middle", "end"),
      every: positive,
      height: { type: "number", minimum: 0.5, maximum: 50 },
    }),
    opens: oneOf("auto", "cue"),
    ground: { type: "boolean" },
    breakline: oneOf("fixed", "draped", "none"),
    maxSegment: positive,
    attributes: listOf(attribute, { maxItems: 50 }),
    label: text,
    companions: listOf(record({ right: coordinate, up: coordinate, code: text }, ["right", "up"]), { maxItems: 20 }),
  },
  ["code"],
);

const bookFields = {
  cues: record(
    Object.fromEntries(
      ACTIONS.map((a) => [
        a,
        listOf({
          type: "string",
          minLength: 1,
          pattern: '^[^\\s/;="]+$',
          written: "a word without blanks, quotes, /, ; and =",
        }),
      ]),
    ),
  ),
  aliases: listOf(record({ from: name, to: name }, ["from", "to"]), { maxItems: 5000 }),
  codes: listOf(codeEntrySchema, { maxItems: 5000 }),
};
/** Of a job: its lengths are in the job's unit. */
export const codeBookSchema = record(bookFields);
/** In a file, in the office or in a recipe it may say the unit of its lengths. */
export const bookFileSchema = record({ unit: oneOf(...UNITS), ...bookFields });

const column: Schema = {
  type: "string",
  pattern: `^(${COLUMNS.join("|")}|attr:.+)$`,
  written: `one of ${COLUMNS.join(", ")}, attr:NAME`,
  maxLength: 200,
};
/** Names, or for fixed-width text the characters that a column takes with its name. */
const columns = listOf(
  {
    if: { type: "string" },
    then: column,
    else: record({ from: whole(0, 100_000), to: whole(1, 100_000), is: column }, ["from", "to", "is"]),
  },
  { maxItems: 200 },
);

export const layoutSchema = record({
  delimiter: {
    type: "string",
    minLength: 1,
    maxLength: 1,
    pattern: "^[\\x09\\x20-\\x7e]$",
    written: "one plain sign, such as a comma",
  },
  quote: {
    type: "string",
    maxLength: 1,
    pattern: "^[\\x21-\\x7e]?$",
    written: "one plain sign, such as a quote, or none",
  },
  decimal: oneOf(".", ","),
  comment: { type: "string", maxLength: 8 },
  skipRows: whole(0, 1_000_000),
  columns,
  noElevation: listOf(text, { maxItems: 50 }),
  table: name,
});

const policy = oneOf("stop", "keep-first", "replace", "add");
const lineSchema: Schema = {
  if: { required: ["points"] },
  then: record({ points: listOf(position, { minItems: 2, maxItems: 100_000 }), start: coordinate }, ["points"]),
  else: record({ file: name, alignment: name }, ["file", "alignment"]),
};

export const intakeSchema = record(
  {
    id: name,
    file: name,
    format: oneOf(...FORMATS),
    layout: layoutSchema,
    line: lineSchema,
    heightAt: oneOf("mark", "antenna"),
    unit: oneOf(...UNITS),
    encoding: oneOf("utf-8", "latin1"),
    clash: policy,
    add: whole(1, 1_000_000_000),
    clashes: { type: "object", additionalProperties: policy, maxProperties: 100_000 },
    crew: text,
    kind: oneOf(...KINDS.filter((k) => k !== "reference")),
    only: record({
      numbers: { type: "string", minLength: 1, maxLength: 100_000 },
      codes: listOf(name, { minItems: 1, maxItems: 1000 }),
      inside: listOf(position, { minItems: 3, maxItems: 1000 }),
      from: name,
      to: name,
    }),
  },
  ["id", "file"],
);

export const setupSchema = record(
  {
    intake: name,
    setup: name,
    instrumentHeight: coordinate,
    backsights: listOf(name, { minItems: 1, maxItems: 100 }),
    renamed: listOf(record({ was: name, is: name }, ["was", "is"]), { minItems: 1, maxItems: 100 }),
    out: { type: "boolean" },
  },
  ["intake", "setup"],
);

const attributesSchema: Schema = {
  type: "object",
  propertyNames: name,
  additionalProperties: { type: ["string", "number", "null"], maxLength: 4000 },
  maxProperties: 100,
};
/** What an edit may set a field to; `added`: what a point may have from the beginning, where none is not said. */
function shapeOf(field: PointField, added = false): Schema {
  switch (field.is) {
    case "number":
      return name;
    case "length": {
      const type = field.required || added ? "number" : ["number", "null"];
      return field.least === undefined ? { ...coordinate, type } : { type, minimum: field.least };
    }
    case "choice":
      return oneOf(...field.offered);
    case "deleted":
      return { type: "boolean" };
    default:
      return text;
  }
}
const editFields = Object.fromEntries(
  EDIT_FIELDS.filter((f) => f !== "cues" && f !== "attributes").map((f) => [f, shapeOf(fieldOf(f))]),
);
const editSet = record({ ...editFields, numbersFrom: name, attributes: attributesSchema });

const cueWord: Schema = {
  type: "string",
  minLength: 1,
  maxLength: 100,
  pattern: '^[^\\s/;"]+$',
  written: "a word without blanks, quotes, / and ;",
};
export const cueEditsSchema = listOf(
  record({ element: name, add: listOf(cueWord, { maxItems: 50 }), remove: listOf(cueWord, { maxItems: 50 }) }, [
    "element",
  ]),
  { minItems: 1, maxItems: 100 },
);

/** A line drawn by hand: a code with its run, points in order, cues by point number. */
export const handLineSchema = record(
  {
    name,
    code: name,
    points: numbers,
    cues: { type: "object", additionalProperties: { type: "string", maxLength: 200 }, maxProperties: 100_000 },
    closed: { type: "boolean" },
  },
  ["code", "points"],
);

/** As the application keeps it: with the name that it gave. */
export const namedLineSchema: Schema = { ...handLineSchema, required: ["name", "code", "points"] };

export const editSchema = record(
  {
    points: numbers,
    intake: name,
    set: editSet,
    cues: cueEditsSchema,
    transform: later("moving and rotating points"),
    fit: later("fitting points to others"),
  },
  ["points"],
);

const BY_OTHERS = [
  "from",
  "to",
  "azimuth",
  "distance",
  "forward",
  "right",
  "between",
  "ratio",
  "foot",
  "on",
  "centre",
  "fourth",
  "line",
  "station",
  "offset",
  "meet",
  "near",
];

/** A point that the office makes. */
export const computedSchema = record(
  {
    number: name,
    ...Object.fromEntries(
      PLAIN_FIELDS.filter((f) => f !== "northing" && f !== "easting").map((f) => [f, shapeOf(fieldOf(f), true)]),
    ),
    by: record({
      at: position,
      ...Object.fromEntries(BY_OTHERS.map((k) => [k, later("a point computed from others")])),
    }),
    elevation: { if: { type: "object" }, then: later("an elevation taken from others"), else: coordinate },
    attributes: attributesSchema,
    cues: cueEditsSchema,
  },
  ["number", "by"],
);

/** Two ends, either of which may be left open. */
const ends = (end: Schema): Schema => ({
  type: "array",
  items: { anyOf: [end, { type: "null" }] },
  minItems: 2,
  maxItems: 2,
});

export const ruleSchema: Schema = {
  type: "object",
  minProperties: 1,
  maxProperties: 1,
  additionalProperties: false,
  properties: {
    codes: listOf(text),
    numbers,
    kind: listOf(oneOf(...KINDS)),
    intake: listOf(text),
    elevation: ends(finite),
    inside: listOf(position, { minItems: 3, maxItems: 10_000 }),
    text: name,
    attribute: {
      if: { type: "object", required: ["is"] },
      then: record({ name, is: name }, ["name", "is"]),
      else: record({ name, from: finite, to: finite }, ["name"]),
    },
    crew: listOf(text),
    setup: listOf(text),
    time: ends(name),
    precision: ends(notNegative),
    finding: listOf(oneOf(...FINDING_KINDS)),
    deleted: { const: true },
    set: text,
    all: listOf({ $ref: "#/$defs/rule" }, { maxItems: 100 }),
    any: listOf({ $ref: "#/$defs/rule" }, { maxItems: 100 }),
    not: { $ref: "#/$defs/rule" },
  },
};

export const setSchema = record({ name, rule: { $ref: "#/$defs/rule" } }, ["name", "rule"]);

/** A line by its code, run and intake, or one of a file. */
const lineWanted = has(
  "file",
  record({ file: name, line: text }),
  record({ code: name, run: text, intake: name }, ["code"]),
);
/** Of these one alone. */
const oneWay = (ways: Record<string, Schema>): Schema => ({ ...record(ways), minProperties: 1, maxProperties: 1 });
const RING = { ring: listOf(position, { minItems: 3, maxItems: 10_000 }), code: name };
/** Numbers of the points at the corners of a side or a triangle. */
const corners = (count: number): Schema => listOf(name, { minItems: count, maxItems: count });

export const surfaceSchema = record(
  {
    name,
    points: name,
    breaklines: record({
      codes: listOf(text, { maxItems: 500 }),
      crossing: oneOf("mean", "higher", "lower"),
      thin: notNegative,
      densify: notNegative,
      also: listOf(lineWanted, { maxItems: 1000 }),
      except: listOf(has("pieces", record({ pieces: listOf(corners(2), { maxItems: 10_000 }) }), lineWanted), {
        maxItems: 1000,
      }),
    }),
    edge: {
      if: { type: "string" },
      then: oneOf("hull"),
      else: oneWay({ ...RING, fit: positive }),
      written: '"hull", a fit such as { "fit": 30 }, or a ring',
    },
    holes: listOf(oneWay(RING), { maxItems: 1000 }),
    longestSide: positive,
    swap: listOf(corners(2), { maxItems: 1000 }),
    drop: listOf(corners(3), { maxItems: 1000 }),
    file: name,
    surface: name,
    triangles: record(
      {
        points: listOf({ type: "array", items: coordinate, minItems: 3, maxItems: 3 }, { minItems: 3 }),
        faces: listOf({ type: "array", items: whole(0, 2 ** 31), minItems: 3, maxItems: 3 }, { minItems: 1 }),
      },
      ["points", "faces"],
    ),
  },
  ["name"],
);

export const contoursSchema = record({ surface: name, interval: positive, index: whole(0, 1000), base: coordinate }, [
  "surface",
  "interval",
]);

const drawnRing = listOf(position, { minItems: 3, maxItems: 10_000 });
const lineOfCode = { code: name, run: text, intake: name };
const areaWanted = has("ring", record({ name, ring: drawnRing }, ["ring"]), record({ name, ...lineOfCode }, ["code"]));
/** One shape for a list of positions, else another. */
const drawnOr = (otherwise: Schema): Schema => ({
  if: { type: "array", items: { type: "array" } },
  then: drawnRing,
  else: otherwise,
});

/** A line of the job, of a file, or drawn by its corners. */
const designLine: Schema = has("code", record(lineOfCode, ["code"]), lineSchema);

const anyVolume = {
  name,
  within: drawnOr({
    if: { type: "array" },
    then: listOf(areaWanted, { minItems: 1, maxItems: 1000 }),
    else: areaWanted,
  }),
  deadband: notNegative,
  bulking: record({ cut: positive, fill: positive }),
  sections: {
    if: { type: "object" },
    then: has(
      "line",
      record({ spacing: positive, line: designLine, half: positive }, ["spacing", "line"]),
      record({ spacing: positive, azimuth: finite }, ["spacing"]),
    ),
    else: positive,
  },
};
const volume = (fields: Record<string, Schema>): Schema =>
  record({ ...anyVolume, ...fields }, ["name", ...Object.keys(fields)]);

/** A comparison: each way of comparing is known by one field. */
export const volumeSchema: Schema = has(
  "heap",
  volume({ heap: name, toe: drawnOr(record(lineOfCode, ["code"])) }),
  has(
    "storage",
    volume({ storage: name, from: coordinate, to: coordinate, step: positive }),
    has("from", volume({ from: name, to: name }), volume({ surface: name, level: coordinate })),
  ),
);

/** Points as built against a surface or a line. */
const differenceOf = (what: Record<string, Schema>): Schema =>
  record({ name, points: numbers, tolerance: positive, ...what }, [
    "name",
    "points",
    "tolerance",
    ...Object.keys(what),
  ]);
export const differenceSchema: Schema = has(
  "line",
  differenceOf({ line: designLine }),
  differenceOf({ surface: name }),
);

/** What a limit may be. */
const limitShape = ({ is, zero }: Limit): Schema =>
  is === "count" ? whole(2, 1_000_000) : zero ? notNegative : positive;
/** Limits of checks; `false` for those that are not made. */
export const checksSchema = record(
  Object.fromEntries(
    FINDING_KINDS.map((k) => {
      const { limits } = kindOfFinding(k);
      if (!limits) return [k, oneOf(false)];
      const own = Object.entries(limits).map(([name, limit]) => [name, limitShape(limit)]);
      return [k, { if: { type: "object" }, then: record(Object.fromEntries(own)), else: oneOf(false) }];
    }),
  ),
);

const acceptedFields = (points: Schema) => ({
  kind: oneOf(...FINDING_KINDS),
  points,
  lines: listOf(text, { maxItems: 1000 }),
  reason: { type: "string", minLength: 1, maxLength: 1000 },
});
/** As a recipe says it: points by their numbers, lines by their names. */
export const acceptedGivenSchema = record(acceptedFields(numbers), ["kind", "reason"]);
/** As the application keeps it: points by their ids, lines by their keys, with what the finding said. */
export const acceptedSchema = record(
  {
    name,
    ...acceptedFields(listOf(whole(0, 2 ** 31 - 1), { maxItems: 1_000_000 })),
    named: listOf(text, { maxItems: 1000 }),
    facts: listOf({ type: ["string", "number", "boolean", "null"] }, { maxItems: 100_000 }),
  },
  ["name", "kind", "points", "lines", "reason"],
);

/** A state is the number of an entry of the ledger; 0: before the first. */
export const stateSchema = record({ name, seq: whole(0, 2 ** 31 - 1) }, ["name", "seq"]);

export const toleranceSchema = record({
  arc: positive,
  chord: positive,
  coincident: notNegative,
  crossing: notNegative,
  precision: positive,
  repeat: positive,
});
