/** The shapes of edits and of lines drawn by hand. */
import { EDIT_FIELDS, fieldOf, type PointField } from "../../../records/fields";
import {
  coordinate,
  finite,
  has,
  listOf,
  name,
  numbers,
  oneOf,
  pointRef,
  position,
  record,
  rgb,
  text,
  type Schema,
} from "../../../shape";

export const attributesSchema: Schema = {
  type: "object",
  propertyNames: name,
  additionalProperties: { type: ["string", "number", "null"], maxLength: 4000 },
  maxProperties: 100,
};
/** What an edit may set a field to; `added`: what a point may have from the beginning, where none is not said. */
export function shapeOf(field: PointField, added = false): Schema {
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

/** A line drawn by hand: a code with its run, points in order, cues by point. */
const handLineOf = (points: Schema, hasName = false): Schema =>
  record(
    {
      name,
      code: name,
      points,
      cues: { type: "object", additionalProperties: { type: "string", maxLength: 200 }, maxProperties: 100_000 },
      closed: { type: "boolean" },
      color: rgb,
    },
    [...(hasName ? ["name"] : []), "code", "points"],
  );
/** As a recipe says it: points by their numbers. */
export const handLineSchema = handLineOf(numbers);

/** As the application keeps it: with the name that it gave, its points by identity. */
export const namedLineSchema: Schema = handLineOf(listOf(pointRef, { maxItems: 1_000_000 }), true);

/** A name or a colour of its own for a line. */
const lineNameOf = (point: Schema): Schema => ({
  ...record(
    {
      line: has(
        "hand",
        record({ hand: name }, ["hand"]),
        has(
          "from",
          record({ code: name, run: text, from: point }, ["code", "run", "from"]),
          record({ code: name, run: text, intake: name }, ["code", "run"]),
        ),
      ),
      name,
      color: rgb,
    },
    ["line"],
  ),
  minProperties: 2,
});
export const lineNameSchema = lineNameOf(pointRef);
/** As a recipe says it: the line's first shot by its number. */
export const lineNameGivenSchema = lineNameOf(name);

export const transformSchema: Schema = {
  ...record({
    move: listOf(coordinate, { minItems: 3, maxItems: 3 }),
    rotate: finite,
    scale: { type: "number", minimum: 1e-6, maximum: 1e6 },
    about: position,
  }),
  minProperties: 1,
};
/** A least-squares fit to pairs. */
export const fitOf = (pair: Schema): Schema =>
  record(
    {
      pairs: listOf(pair, { minItems: 2, maxItems: 10_000 }),
      scale: oneOf(1, "free"),
      levels: oneOf("none", "shift", "plane"),
    },
    ["pairs"],
  );

export const editSchema = record(
  {
    points: numbers,
    intake: name,
    set: editSet,
    cues: cueEditsSchema,
    transform: transformSchema,
    fit: fitOf(listOf(name, { minItems: 2, maxItems: 2 })),
  },
  ["points"],
);
