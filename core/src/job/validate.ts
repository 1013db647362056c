/** Checks a recipe, or a part of one, against the schema; says the first thing that is wrong with its path. */
import Ajv, { type ErrorObject, type ValidateFunction } from "ajv";
import { refusal, type Refusal } from "../errors";
import { nearestName } from "../math/words";
import { sameJson } from "./change";
import type { NamedPart } from "./model";
import {
  codeBookSchema, codeEntrySchema, contoursSchema, cueEditsSchema, handoverSchema, intakeSchema, layoutSchema, namedLineSchema, recipeSchema, setSchema, settingSchemas, setupSchema, surfaceSchema, toleranceSchema, volumeSchema,
} from "./schema";

const ajv = new Ajv({ strict: false, allErrors: false, verbose: true });
ajv.addKeyword({
  keyword: "later",
  validate: (rule: { unless: unknown[] }, data: unknown) => rule.unless.some((u) => sameJson(u, data)),
});

const compiled = new Map<object, ValidateFunction>();

function check(schema: object, data: unknown, root: string): Refusal | undefined {
  let validate = compiled.get(schema);
  if (!validate) {
    validate = ajv.compile("$defs" in schema ? schema : { ...schema, $defs: (recipeSchema as { $defs: object }).$defs });
    compiled.set(schema, validate);
  }
  if (validate(data)) return undefined;
  return explain(validate.errors![0]!, root);
}

/** What is wrong with a recipe's shape; undefined when nothing is. References are checked where they are followed. */
export function checkRecipeShape(data: unknown): Refusal | undefined {
  return check(recipeSchema, data, "");
}

export function checkCodeBookShape(data: unknown, path = "codeBook"): Refusal | undefined {
  return check(codeBookSchema, data, path);
}

export function checkLayoutShape(data: unknown): Refusal | undefined {
  return check(layoutSchema, data, "layout");
}

/** What the browser says about an intake; its id is the server's to give. */
export function checkIntakeShape(data: Record<string, unknown>): Refusal | undefined {
  return check(intakeSchema, { id: "intake", ...data }, "intake");
}

/** Edits of cues as a point keeps them. */
export function checkCueEditsShape(data: unknown): Refusal | undefined {
  return check(cueEditsSchema, data, "cues");
}

/** A setting of the job that has a schema of its own; null takes it away. */
export function checkSettingShape(field: string, data: unknown): Refusal | undefined {
  const schema = settingSchemas[field];
  return schema && data !== null ? check(schema, data, field) : undefined;
}

export function checkToleranceShape(data: unknown): Refusal | undefined {
  return check(toleranceSchema, data, "tolerance");
}

const PARTS: Record<NamedPart | "codes", object> = {
  codes: codeEntrySchema, setups: setupSchema, lines: namedLineSchema, sets: setSchema, surfaces: surfaceSchema, contours: contoursSchema, volumes: volumeSchema, handover: handoverSchema,
};

export function checkPartShape(part: NamedPart | "codes", data: unknown): Refusal | undefined {
  return check(PARTS[part], data, part);
}

function explain(error: ErrorObject, root: string): Refusal {
  const path = pathOf(root, error.instancePath);
  const parent = error.parentSchema as Record<string, unknown>;
  const { params } = error as { params: Record<string, unknown> };
  switch (error.keyword) {
    case "later": return refusal("recipe-later", { path, what: (parent.later as { what: string }).what });
    case "additionalProperties": {
      const field = String(params.additionalProperty);
      return refusal("recipe-field", {
        path: pathOf(path, `/${field}`), why: "there is no such field", nearest: nearestName(field, Object.keys(parent.properties as object)),
      });
    }
    case "required": return refusal("recipe-field", { path: pathOf(path, `/${params.missingProperty}`), why: "this field is missing" });
    case "enum": {
      const allowed = params.allowedValues as unknown[];
      const nearest = typeof error.data === "string" ? nearestName(error.data, allowed.map(String)) : undefined;
      return refusal("recipe-field", { path, why: `${shown(error.data)} is not one of ${allowed.map((v) => JSON.stringify(v)).join(", ")}`, nearest });
    }
    case "type": return refusal("recipe-field", { path, why: `${shown(error.data)} is not ${article(params.type)}` });
    case "pattern": return refusal("recipe-field", { path, why: `${shown(error.data)} is not written as it must be` });
    default: return refusal("recipe-field", { path, why: `${shown(error.data)} ${error.message}` });
  }
}

/** `/volumes/0/name` → `volumes[0].name`. */
function pathOf(root: string, pointer: string): string {
  return pointer.split("/").slice(1).reduce(
    (path, key) => (/^\d+$/.test(key) ? `${path}[${key}]` : path ? `${path}.${key.replace(/~1/g, "/").replace(/~0/g, "~")}` : key.replace(/~1/g, "/").replace(/~0/g, "~")), root);
}

function article(type: unknown): string {
  return [type].flat().map((t) => (t === "object" || t === "integer" || t === "array" ? `an ${t}` : t === "null" ? "null" : `a ${t}`)).join(" or ");
}

function shown(data: unknown): string {
  const s = JSON.stringify(data) ?? "nothing";
  return s.length > 50 ? `${s.slice(0, 47)}…` : s;
}
