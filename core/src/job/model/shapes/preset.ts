/** The shape of presets for points that the office makes. */
import { KINDS } from "../../../records/kinds";
import { coordinate, has, name, oneOf, record, shortText, type Schema } from "../../../shape";

const up = { up: coordinate };

export const presetSchema: Schema = record(
  {
    name,
    kind: oneOf(...KINDS.filter((k) => k !== "reference")),
    number: { type: "string", minLength: 1, maxLength: 100 },
    description: shortText,
    ask: oneOf(true),
    attributes: { type: "object", propertyNames: name, additionalProperties: shortText, maxProperties: 50 },
    level: {
      if: { type: "object" },
      then: has(
        "surface",
        record({ surface: name, ...up }, ["surface"]),
        record({ along: oneOf(true), ...up }, ["along"]),
      ),
      else: coordinate,
    },
    setOut: oneOf(true),
  },
  ["name"],
);
