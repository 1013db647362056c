/** The shapes of the rules of sets. */
import { FINDING_KINDS } from "../../../finding-kinds";
import { KINDS } from "../../../records/kinds";
import { finite, listOf, name, notNegative, numbers, oneOf, position, record, text, type Schema } from "../../../shape";

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
