/** Yup at the edge: what the browser may send. Bodies of named things go on to the one JSON schema of the recipe. */
import { KINDS, NAMED_PARTS, refusal, Refusal, UNITS, checkBook, checkCodeBookShape, checkLayoutShape, checkPartShape, checkToleranceShape, nameOf, type CodeBook, type EditableChange } from "@bramble/core";
import { EDIT_FIELDS } from "@bramble/core/points/edits";
import { array, boolean, lazy, mixed, number, object, string } from "yup";

const name = string().trim().required("A name is missing").max(200, "A name has 200 letters at most").test(
  "plain", "A name holds letters, digits and signs, no control characters", (s) => !s || ![...s].some((c) => c.charCodeAt(0) < 32));

export const newJobSchema = object({
  name: name.label("The job's name"), unit: string().oneOf(UNITS).required(), order: string().oneOf(["NE", "EN"]).required(),
  date: string().matches(/^\d{4}-\d{2}-\d{2}$/, "The date is written as 2031-04-17").optional(), book: string().oneOf(["general", "empty"]).required(),
}).noUnknown();

const finite = (what: string) => number().strict().typeError(`${what} is a number`).test("finite", `${what} is a number`, (x) => x === undefined || x === null || Number.isFinite(x));
const text = (most: number) => string().strict().typeError("A text is expected").max(most, `A text has ${most} letters at most`).test("no-nul", "A text cannot hold a zero byte", (s) => !s?.includes("\0"));

/** The new value of one cell, by its field. */
const cellValue = (field: string) => {
  switch (field) {
    case "number": return text(100).required("A point needs a number");
    case "northing": case "easting": return finite(`The ${field}`).required(`A point needs its ${field}`);
    case "elevation": case "targetHeight": return finite("A level").nullable().defined();
    case "precision": return finite("A precision").min(0).nullable().defined();
    case "description": case "note": return text(4000).defined();
    case "kind": return string().oneOf(KINDS.filter((k) => k !== "reference")).required();
    case "surface": return string().oneOf(["auto", "in", "out"]).required();
    case "deleted": return boolean().strict().typeError("A point is deleted or not: true or false").required();
    // The field itself is refused by its own rule.
    default: return mixed();
  }
};

const pointEdit = lazy((e: { field?: string } | undefined) => object({
  id: number().integer().min(1).required(), field: string().oneOf(EDIT_FIELDS, "This field of a point is not known").required("An edit says its field"), old: mixed().nullable().defined(), new: cellValue(e?.field ?? ""),
}).noUnknown().required());

const changeSchema = lazy((c: { type?: string } | undefined) => {
  if (c?.type === "points") return object({ type: string().required(), edits: array(pointEdit).min(1, "Nothing is changed").max(1_000_000).required() }).noUnknown();
  if (c?.type === "named") {
    return object({ type: string().required(), part: string().oneOf(NAMED_PARTS).required(), name, old: mixed().nullable().defined(), new: mixed().nullable().defined() }).noUnknown();
  }
  if (c?.type !== "setting") return object({ type: string().oneOf(["points", "named", "setting"], "This kind of change is not known").required("A change says its type") }).required("A change is expected");
  return object({
    type: string().required(), field: string().oneOf(["name", "date", "order", "tolerance", "book"]).required(),
    old: mixed().nullable().defined(), new: mixed().nullable().defined(),
  }).noUnknown();
});

/** A change that may be stored; throws what is wrong with it. */
export async function readChange(body: unknown): Promise<EditableChange> {
  const change = (await changeSchema.validate(body, { strict: true })) as EditableChange;
  const wrong = change.type === "named" && change.new !== null ? checkPartShape(change.part, change.new) : change.type === "setting" ? checkSetting(change.field, change.new) : undefined;
  if (wrong) throw wrong;
  if (change.type === "named" && change.new !== null && nameOf(change.part, change.new) !== change.name) throw refusal("request-wrong", { why: "The name within differs from the name of the change" });
  return change;
}

function checkSetting(field: string, value: unknown): Refusal | undefined {
  if (field === "book") {
    const wrong = checkCodeBookShape(value);
    if (!wrong) checkBook(value as CodeBook, "codeBook");
    return wrong;
  }
  if (field === "tolerance") return checkToleranceShape(value);
  const allowed = field === "name" ? typeof value === "string" && value.trim().length > 0 && value.length <= 200
    : field === "order" ? value === "NE" || value === "EN"
      : value === null || (typeof value === "string" && /^\d{4}-\d{2}-\d{2}$/.test(value));
  return allowed ? undefined : refusal("request-wrong", { why: `The job's ${field} cannot be ${JSON.stringify(value)}` });
}

export const intakeOptionsSchema = object({
  file: name, layout: mixed().optional(), unit: string().oneOf(UNITS).optional(), encoding: string().oneOf(["utf-8", "latin1"]).optional(),
  clash: string().oneOf(["stop", "keep-first", "replace", "add"]).optional(), add: number().integer().min(1).max(1_000_000_000).optional(),
  crew: text(80).optional(), kind: string().oneOf(KINDS.filter((k) => k !== "reference")).optional(),
}).noUnknown();

export async function readIntakeOptions(body: unknown) {
  const options = await intakeOptionsSchema.validate(body, { strict: true });
  if (/[/\\]/.test(options.file)) throw refusal("request-wrong", { why: "A file's name has no folders in it" });
  if (options.layout !== undefined) {
    const wrong = checkLayoutShape(options.layout);
    if (wrong) throw wrong;
  }
  return options;
}
