/** Checks a recipe, or a part of one, against the schema; says the first thing that is wrong with its path. */
import Ajv, { type ErrorObject, type ValidateFunction } from "ajv";
import { Refusal, refusal } from "../../errors";
import { nearestName } from "../../math/words";
import { CODES, PARTS, type ThingPart } from "./parts";
import { recipeSchema } from "./schema";
import { SETTINGS, type Setting, type SettingField } from "./settings";
import { type Schema } from "../../shape";
import { bookFileSchema } from "./shapes/book";
import { layoutSchema } from "./shapes/intake";
import { cueEditsSchema } from "./shapes/points";

const ajv = new Ajv({ strict: false, strictNumbers: true, allErrors: false, verbose: true });

const compiled = new Map<object, ValidateFunction>();

function check(schema: object, data: unknown, root: string): Refusal | undefined {
  let validate = compiled.get(schema);
  if (!validate) {
    validate = ajv.compile(
      "$defs" in schema ? schema : { ...schema, $defs: (recipeSchema as { $defs: object }).$defs },
    );
    compiled.set(schema, validate);
  }
  if (validate(data)) return undefined;
  return explain(tellingError(validate.errors!, validate.schema as object), root);
}

/** Of what the alternatives of a value say, all that it may be, where none of them finds more wrong with it. */
function tellingError(errors: readonly ErrorObject[], schema: object): ErrorObject {
  const [first] = errors as [ErrorObject],
    choice = errors.at(-1)!;
  // Of a value that has one shape or another, itself and not within it: what it may be is said where both shapes are.
  const either = /^#?(.*)\/(?:then|else)\/(?:enum|type)$/.exec(first.schemaPath),
    written = either && (at(schema, either[1]!) as { written?: string } | undefined)?.written;
  if (written) return { ...first, keyword: "pattern", parentSchema: { written } };
  if (choice.keyword !== "anyOf" && choice.keyword !== "oneOf") return first;
  const own = errors.slice(0, -1),
    inner = own.find((e) => !MAY_BE[e.keyword]);
  return inner ?? { ...choice, params: { mayBe: [...new Set(own.map((e) => MAY_BE[e.keyword]!(e)))] } };
}

/** What stands at a pointer within a schema. */
function at(schema: object, pointer: string): unknown {
  return pointer
    .split("/")
    .slice(1)
    .reduce<unknown>((s, key) => (s as Record<string, unknown> | undefined)?.[key.replace(/~1/g, "/")], schema);
}

/** What a value that is wrong at the first sight might have been. */
const MAY_BE: Record<string, ((e: ErrorObject) => string) | undefined> = {
  enum: (e) => (e.params.allowedValues as unknown[]).map((v) => JSON.stringify(v)).join(", "),
  type: (e) => article(e.params.type),
  pattern: (e) => writtenAs(e),
};

const writtenAs = (e: ErrorObject) => String((e.parentSchema as { written: string }).written);

/** What is wrong with data by a description; undefined where nothing is. `root` begins the way to it. */
export function checkShape(shape: Schema, data: unknown, root: string): Refusal | undefined {
  return check(shape as object, data, root);
}

/** What is wrong with a recipe's shape; undefined when nothing is. References are checked where they are followed. */
export function checkRecipeShape(data: unknown): Refusal | undefined {
  return check(recipeSchema, data, "");
}

/** Of a book in a file or in the office. */
export function checkCodeBookShape(data: unknown, path = "codeBook"): Refusal | undefined {
  return check(bookFileSchema, data, path);
}

export function checkLayoutShape(data: unknown): Refusal | undefined {
  return check(layoutSchema, data, "layout");
}

/** Edits of cues as a point keeps them. */
export function checkCueEditsShape(data: unknown): Refusal | undefined {
  return check(cueEditsSchema, data, "cues");
}

/** A setting of the job; null takes it away, where a job may be without. */
export function checkSetting(field: SettingField, data: unknown): Refusal | undefined {
  const setting = SETTINGS[field] as Setting<unknown>;
  if (data === null)
    return setting.must ? refusal("request-wrong", { why: `A job cannot be without its ${setting.words}` }) : undefined;
  const wrong = check(setting.schema, data, field);
  if (wrong || !setting.check) return wrong;
  try {
    setting.check(data);
    return undefined;
  } catch (e) {
    if (e instanceof Refusal) return e;
    throw e;
  }
}

export function checkPartShape(part: ThingPart, data: unknown): Refusal | undefined {
  return check(part === "codes" ? CODES.schema : PARTS[part].schema, data, part);
}

function explain(error: ErrorObject, root: string): Refusal {
  const path = pathOf(root, error.instancePath);
  const parent = error.parentSchema as Record<string, unknown>;
  const { params } = error as { params: Record<string, unknown> };
  switch (error.keyword) {
    case "additionalProperties":
      return unknownField(path, String(params.additionalProperty), parent);
    case "required": {
      // A field that is mistyped is missing under its own name.
      const fields = (parent.properties ?? {}) as object,
        mistyped = Object.keys(error.data as object).find((f) => !Object.hasOwn(fields, f));
      if (mistyped !== undefined && Object.keys(fields).length) return unknownField(path, mistyped, parent);
      return refusal("recipe-field", {
        path: pathOf(path, `/${params.missingProperty}`),
        why: "this field is missing",
      });
    }
    case "anyOf":
    case "oneOf":
      return refusal("recipe-field", {
        path,
        why: `${shown(error.data)} is not one of these: ${(params.mayBe as string[]).join("; ")}`,
      });
    case "enum": {
      const allowed = params.allowedValues as unknown[];
      const nearest = typeof error.data === "string" ? nearestName(error.data, allowed.map(String)) : undefined;
      return refusal("recipe-field", {
        path,
        why: `${shown(error.data)} is not one of ${allowed.map((v) => JSON.stringify(v)).join(", ")}`,
        nearest,
      });
    }
    case "type":
      if (typeof error.data === "number" && !Number.isFinite(error.data))
        return refusal("recipe-field", { path, why: "this number is too large to be held" });
      return refusal("recipe-field", { path, why: `${shown(error.data)} is not ${article(params.type)}` });
    case "minProperties":
    case "maxProperties": {
      const fields = Object.keys(parent.properties as object)
        .map((f) => `“${f}”`)
        .join(" or ");
      return refusal("recipe-field", { path, why: `it says one thing: ${fields}` });
    }
    case "pattern":
      return refusal("recipe-field", { path, why: `${shown(error.data)} is not ${writtenAs(error)}` });
    default:
      return refusal("recipe-field", { path, why: `${shown(error.data)} ${error.message}` });
  }
}

function unknownField(path: string, field: string, { properties }: Record<string, unknown>): Refusal {
  const fields = Object.keys(properties as object),
    nearest = nearestName(field, fields);
  return refusal("recipe-field", {
    path: pathOf(path, `/${field}`),
    why: `there is no such field${nearest || fields.length === 0 ? "" : `; there are ${fields.join(", ")}`}`,
    nearest,
  });
}

/** `/volumes/0/name` → `volumes[0].name`. */
function pathOf(root: string, pointer: string): string {
  return pointer
    .split("/")
    .slice(1)
    .reduce(
      (path, key) =>
        /^\d+$/.test(key)
          ? `${path}[${key}]`
          : path
            ? `${path}.${key.replace(/~1/g, "/").replace(/~0/g, "~")}`
            : key.replace(/~1/g, "/").replace(/~0/g, "~"),
      root,
    );
}

function article(type: unknown): string {
  return [type]
    .flat()
    .map((t) => (t === "object" || t === "integer" || t === "array" ? `an ${t}` : t === "null" ? "null" : `a ${t}`))
    .join(" or ");
}

function shown(data: unknown): string {
  const s = JSON.stringify(data) ?? "nothing";
  return s.length > 50 ? `${s.slice(0, 47)}…` : s;
}
