/** The shapes of the rules of sets. */
import { FINDING_KINDS } from "../../../finding-kinds";
import { KINDS } from "../../../records/kinds";
import {
  finite,
  listOf,
  name,
  notNegative,
  numbers,
  oneOf,
  pointRef,
  position,
  record,
  text,
  type Schema,
} from "../../../shape";

/** Two ends, either of which may be left open. */
const ends = (end: Schema): Schema => ({
  type: "array",
  items: { anyOf: [end, { type: "null" }] },
  minItems: 2,
  maxItems: 2,
});

/** A shape by its name among those that all shapes share. */
const shared = (called: string): Schema => ({ $ref: `#/$defs/${called}` });

/** A rule, which asks for others by the name it is shared under; `more` are conditions beside those of a recipe. */
const ruleOf = (called: string, more: Record<string, Schema> = {}): Schema => ({
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
    all: listOf(shared(called), { maxItems: 100 }),
    any: listOf(shared(called), { maxItems: 100 }),
    not: shared(called),
    ...more,
  },
});
const setOf = (rule: Schema): Schema => record({ name, rule }, ["name", "rule"]);

/** Rules by the names by which they ask for each other. */
export const RULES = {
  rule: ruleOf("rule"),
  /** As the application keeps it: chosen points by identity, which a recipe has by their numbers. */
  keptRule: ruleOf("keptRule", { points: listOf(pointRef, { maxItems: 1_000_000 }) }),
};
/** As a recipe says it, and as the application keeps it. */
export const setGivenSchema = setOf(shared("rule")),
  setSchema = setOf(shared("keptRule"));
