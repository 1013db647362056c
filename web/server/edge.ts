/** Yup at the edge: what the browser may send. Bodies of named things go on to the one JSON schema of the recipe. */
import {
  checkCodeBookShape,
  checkCueEditsShape,
  checkPartShape,
  checkSetting,
  NAMED_PARTS,
  nameOf,
  refusal,
  repeatedPart,
  SETTING_FIELDS,
  staysInside,
  templateFields,
  UNITS,
  type CodeBook,
  type EditableChange,
  type Format,
  type IntakeOptions,
  type Layout,
  type NamedPart,
  type OneChange,
  type SettingField,
  type Unit,
} from "@bramble/core";
import {
  EDIT_FIELDS,
  fieldName,
  fieldOf,
  type ChoiceField,
  type EditField,
  type LengthField,
} from "@bramble/core/records/fields";
import type { OfficeBodies, ReportWanted } from "@bramble/db";
import { checkBook, SETTINGS } from "@bramble/core/job/model/settings";
import { intakeSchema, layoutSchema } from "@bramble/core/job/model/shapes/intake";
import { oneOf, record } from "@bramble/core/shape";
import { parseJson } from "@bramble/core/math/json";
import { isBeyondReach, REACH } from "@bramble/core/math/reach";
import { formatGrouped } from "@bramble/core/math/round";
import { encodeAttributes, type Attributes } from "@bramble/core/points/attributes";
import { OBSERVED } from "@bramble/core/points/edits";
import { array, boolean, lazy, mixed, number, object, string, type Lazy, type Schema } from "yup";
import { fieldsOf, shaped } from "./shaped";

/** The largest number that the database gives to a job or a point. */
export const LAST_ID = 2 ** 31 - 1;

const name = string()
  .trim()
  .required("A name is missing")
  .max(200, "A name has 200 letters at most")
  .test(
    "plain",
    "A name holds letters, digits and signs, no control characters",
    (s) => !s || ![...s].some((c) => c.charCodeAt(0) < 32),
  );

/** The number of a job. */
const jobNumber = number().strict().integer().positive().max(LAST_ID, "There is no job of such a number");

/** A job copied under another name. */
export const copyJobSchema = object({ name: name.label("The job's name"), copy: jobNumber.required() }).noUnknown();

/** A job put away or removed, or back again. */
export const shelfSchema = object({
  archived: boolean().strict().optional(),
  removed: boolean().strict().optional(),
}).noUnknown();

export const newJobSchema = object({
  name: name.label("The job's name"),
  unit: shaped<Unit>(oneOf(...UNITS), "unit"),
  order: shaped<"NE" | "EN">(SETTINGS.order.schema, "order"),
  date: shaped<string>(SETTINGS.date.schema, "date"),
  book: string().oneOf(["general", "empty"]).optional(),
  officeBook: name.optional(),
  template: name.optional(),
  /** Another job from which book, coordinate system and control points come. */
  like: jobNumber.optional(),
}).noUnknown();

const finite = (what: string) =>
  number()
    .strict()
    .typeError(`${what} is a number`)
    .test("finite", `${what} is a number`, (x) => x === undefined || x === null || Number.isFinite(x));
const coordinate = (what: string) =>
  finite(what).test(
    "reach",
    `${what} lies beyond ±${formatGrouped(REACH, 0)}`,
    (x) => typeof x !== "number" || !isBeyondReach(x),
  );
const text = (most: number) =>
  string()
    .strict()
    .typeError("A text is expected")
    .max(most, `A text has ${most} letters at most`)
    .test("no-nul", "A text cannot hold a zero byte", (s) => !s?.includes("\0"));

/** A coordinate, or the word that lets it follow its raw observations. */
const orObserved = (schema: Schema) => lazy((v: unknown) => (v === OBSERVED ? string().required() : schema));

function isCueEdits(s: string | undefined): boolean {
  if (!s) return true;
  try {
    return checkCueEditsShape(parseJson(s)) === undefined;
  } catch {
    return false;
  }
}

/** JSON of names and texts, as it is written: in order, none blank. */
function isAttributes(s: string | undefined): boolean {
  if (!s) return true;
  try {
    const given = parseJson(s);
    if (typeof given !== "object" || given === null || Array.isArray(given)) return false;
    const list = Object.entries(given);
    return (
      list.length <= 100 &&
      list.every(
        ([name, x]) => name !== "" && name.length <= 200 && (x === null || (typeof x === "string" && x.length <= 4000)),
      ) &&
      encodeAttributes(given as Attributes) === s
    );
  } catch {
    return false;
  }
}

const lengthOf = ({ least, required }: LengthField, words: string): Schema => {
  const value =
    least === undefined
      ? coordinate(`The ${words}`)
      : finite(`The ${words}`).min(least, `The ${words} cannot be below ${least}`);
  return required ? value.required(`A point needs its ${words}`) : value.nullable().defined();
};
const choiceOf = ({ offered }: ChoiceField): Schema => string().oneOf(offered).required();
const pointNumber = text(100).required("A point needs a number"),
  anyText = text(4000).defined();

/** The new value of one cell, by its field. */
function cellValue(field: EditField): Schema | Lazy<unknown> {
  const f = fieldOf(field);
  switch (f.is) {
    case "number":
      return pointNumber;
    case "length": {
      const length = lengthOf(f, fieldName(field));
      return f.coordinate ? orObserved(length) : length;
    }
    case "text":
      return anyText;
    case "choice":
      return choiceOf(f);
    case "cues":
      return anyText.test("cues", "Cues are edited as a list of elements with cues added and removed", isCueEdits);
    case "attributes":
      return text(20_000).defined().test("attributes", "Attributes are names with their texts", isAttributes);
    case "deleted":
      return boolean().strict().typeError("A point is deleted or not: true or false").required();
  }
}

const pointEdit = lazy((e: { field?: string } | undefined) =>
  object({
    id: number().integer().min(1).required(),
    field: string().oneOf(EDIT_FIELDS, "This field of a point is not known").required("An edit says its field"),
    old: mixed().nullable().defined(),
    // A field that is not known is refused by its own rule.
    new: EDIT_FIELDS.includes(e?.field as EditField) ? cellValue(e!.field as EditField) : mixed(),
  })
    .noUnknown()
    .required(),
);

const MOST_ADDED = 200_000;
const added = <S extends Schema>(each: S) => array(each).max(MOST_ADDED);

/** What a point that an office makes may have of a field from the beginning. */
function addedValue(field: EditField): Schema {
  const f = fieldOf(field);
  return f.is === "length" ? lengthOf(f, fieldName(field)) : (cellValue(field) as Schema);
}

/** Columns of points that the office makes, of one length. */
const addedPoints = object({
  id: added(number().integer().min(1).max(LAST_ID).required()).min(1, "No point is made").required(),
  ...Object.fromEntries(
    EDIT_FIELDS.flatMap((field): [string, Schema][] => {
      const column = added(addedValue(field)),
        is = fieldOf(field).added;
      return is ? [[field, is === "must" ? column.required() : column.optional()]] : [];
    }),
  ),
})
  .noUnknown()
  .test("one-length", "Each point needs a value in every column", (p) =>
    Object.values(p ?? {}).every((c) => c === undefined || c.length === p.id?.length),
  );

const changeSchema: Lazy<unknown> = lazy((c: { type?: string } | undefined): Schema => {
  if (c?.type === "points") {
    return object({
      type: string().required(),
      edits: array(pointEdit)
        .min(1, "Nothing is changed")
        .max(1_000_000)
        .required()
        .test(
          "once",
          "A change names each field of a point once",
          (list) => new Set(list?.map((e) => `${e?.id} ${e?.field}`)).size === list?.length,
        ),
    }).noUnknown();
  }
  if (c?.type === "add") return object({ type: string().required(), points: addedPoints.required() }).noUnknown();
  if (c?.type === "several")
    return object({
      type: string().required(),
      text: text(200).required(),
      changes: array(changeSchema).min(1, "Nothing is changed").max(1000).required(),
    }).noUnknown();
  if (c?.type === "named") {
    return object({
      type: string().required(),
      part: string()
        .oneOf([...NAMED_PARTS, "codes"])
        .required(),
      name,
      old: mixed().nullable().defined(),
      new: mixed().nullable().defined(),
      at: number().integer().min(0).optional(),
    }).noUnknown();
  }
  if (c?.type !== "setting")
    return object({
      type: string()
        .oneOf(["points", "add", "named", "setting"], "This kind of change is not known")
        .required("A change says its type"),
    }).required("A change is expected");
  return object({
    type: string().required(),
    field: string().oneOf(SETTING_FIELDS).required(),
    old: mixed().nullable().defined(),
    new: mixed().nullable().defined(),
  }).noUnknown();
});

/** A change that may be stored; throws what is wrong with it. */
export async function readChange(body: unknown): Promise<EditableChange> {
  const change = (await changeSchema.validate(body, { strict: true })) as EditableChange;
  if (change.type === "several" && change.changes.some((c) => (c as EditableChange).type === "several"))
    throw refusal("request-wrong", { why: "Changes that belong together hold no others that do" });
  for (const c of change.type === "several" ? change.changes : [change]) checkOne(c);
  return change;
}

function checkOne(change: OneChange): void {
  const wrong =
    change.type === "named" && change.new !== null
      ? checkPartShape(change.part, change.new)
      : change.type === "setting"
        ? checkSetting(change.field, change.new)
        : undefined;
  if (wrong) throw wrong;
  if (change.type === "named" && change.new !== null && nameOf(change.part, change.new) !== change.name)
    throw refusal("request-wrong", { why: "The name within differs from the name of the change" });
  if (change.type === "named" && change.part === "handover" && change.new !== null && !staysInside(change.name))
    throw refusal("request-wrong", {
      why: `A file that leaves cannot be called “${change.name}”: the name leads out of its folder, or systems reserve it`,
    });
}

/**
 * The name that a window gives a request which stores something: one sent twice is stored once, and one whose answer
 * was lost can be looked up. A request without one is given its own.
 */
export function requestName(header: string | null): string {
  if (header === null) return crypto.randomUUID();
  if (!/^[\w-]{8,64}$/.test(header))
    throw refusal("request-wrong", { why: "The name of a change has 8 to 64 letters and digits" });
  return header;
}

export async function readIdCount(body: unknown): Promise<number> {
  const { count } = await object({ count: number().integer().min(1).max(MOST_ADDED).required() })
    .noUnknown()
    .validate(body, { strict: true });
  return count;
}

/** Numbers of entries of the ledger, as an address has them: the states after them are compared. */
export async function readStatesAsked(asked: Record<string, string>): Promise<{ from: number; to?: number }> {
  const seq = () =>
    string().matches(/^\d{1,9}$/, ({ path }) => `${path} is the number of an entry of the ledger, or 0`);
  const { from, to } = await object({ from: seq().required(), to: seq() })
    .noUnknown()
    .validate(asked, { strict: true });
  return { from: Number(from), ...(to === undefined ? {} : { to: Number(to) }) };
}

const handoverWantedSchema = object({
  what: string()
    .oneOf(["handover"] as const)
    .required(),
  name: string().min(1).max(500).required("The file's name in the handover is missing"),
}).noUnknown();

const fileWantedSchema = object({
  what: string()
    .oneOf(["volumes"] as const)
    .required(),
  format: string()
    .oneOf(["pdf", "xlsx"] as const)
    .required("A format is missing: pdf or xlsx"),
  file: string().required("A file's name is missing"),
  comparisons: array(name).min(1, "A report tells of one comparison at least").max(500).required(),
}).noUnknown();

/** A file that the queue is to make: one of the handover by its name there, or a report and what it is called. */
export async function readFileWanted(
  body: unknown,
): Promise<{ what: "handover"; name: string } | (ReportWanted & { file: string })> {
  if ((body as { what?: unknown } | null)?.what === "handover")
    return handoverWantedSchema.validate(body, { strict: true });
  const wanted = await fileWantedSchema.validate(body, { strict: true }),
    file = fileName(wanted.file);
  if (!file.toLowerCase().endsWith(`.${wanted.format}`))
    throw refusal("request-wrong", { why: `The file's name ends with .${wanted.format}` });
  return { ...wanted, file };
}

/** The number of something in an address. */
export function idOf(text: string): number {
  if (!/^\d{1,15}$/.test(text)) throw refusal("request-wrong", { why: "The address has no such number" });
  return Number(text);
}

/** What a window says of an intake; its id is the server's to give. */
const intakeOptionsSchema = object({ ...fieldsOf(intakeSchema, "intake", ["id", "file"]), file: name }).noUnknown();

/** How a file is to be read, as a recipe describes it. */
export async function readIntakeOptions(body: unknown): Promise<IntakeOptions & { file: string }> {
  const options = await intakeOptionsSchema.validate(body, { strict: true });
  fileName(options.file as string);
  return options as unknown as IntakeOptions & { file: string };
}

/** A file's plain name: no folders, no way out of one. */
export function fileName(file: string): string {
  if (file.trim() === "" || file.length > 200)
    throw refusal("request-wrong", { why: "A file needs a name of 200 letters at most" });
  if (file.includes("/") || !staysInside(file))
    throw refusal("request-wrong", { why: "A file's name has no folders in it, and is none that systems reserve" });
  return file;
}

export function officeKind(kind: string): keyof OfficeBodies {
  if (kind !== "template" && kind !== "layout" && kind !== "book")
    throw refusal("request-wrong", { why: `The office keeps templates, layouts and code books, not “${kind}”` });
  return kind;
}

const keptLayoutSchema = object({
  ...fieldsOf(record({ unit: oneOf(...UNITS), layout: layoutSchema }), "layout"),
  format: string().oneOf(["delimited", "fixed"]).required(),
  likeness: text(2000).defined(),
}).noUnknown();

/** A thing that the office is to keep, checked by the schemas of its parts. */
export async function readKept(
  kind: keyof OfficeBodies,
  data: unknown,
): Promise<{ name: string; body: OfficeBodies[typeof kind]; from?: number | undefined }> {
  const body = mixed<Record<string, unknown>>()
    .required()
    .test("object", "What is kept is an object", (x) => typeof x === "object" && x !== null && !Array.isArray(x));
  const kept = await object({ name, body, from: jobNumber.optional() }).noUnknown().validate(data, { strict: true });
  if (kind === "layout") {
    const body = await keptLayoutSchema.validate(kept.body, { strict: true });
    if (!("layout" in body)) throw refusal("request-wrong", { why: "A kept layout says how files are laid out" });
    return { name: kept.name, body: body as { format: Format; layout: Layout; unit?: Unit; likeness: string } };
  }
  if (kind === "book") {
    const wrong = checkCodeBookShape(kept.body, "book");
    if (wrong) throw wrong;
    checkBook(kept.body as CodeBook, "book");
    return { name: kept.name, body: kept.body as CodeBook };
  }
  for (const [field, value] of Object.entries(kept.body)) {
    if (!templateFields().includes(field))
      throw refusal("request-wrong", { why: `A template has no field “${field}”` });
    if (field === "unit" && !UNITS.includes(value as Unit))
      throw refusal("request-wrong", { why: "A template's unit is m, ft or ftUS" });
    const things = NAMED_PARTS.includes(field as NamedPart);
    if (things && !Array.isArray(value)) throw refusal("request-wrong", { why: `A template's ${field} are a list` });
    const wrong = things
      ? ((value as unknown[]).map((v) => checkPartShape(field as NamedPart, v)).find(Boolean) ??
        repeatedPart(field as NamedPart, value as unknown[]))
      : field === "unit"
        ? undefined
        : checkSetting(field as SettingField, value);
    if (wrong) throw wrong;
  }
  if (kept.body.geoid !== undefined && kept.from === undefined)
    throw refusal("request-wrong", { why: "A template with a geoid names the job from which its grid comes" });
  return { name: kept.name, body: kept.body as unknown as OfficeBodies["template"], from: kept.from };
}
