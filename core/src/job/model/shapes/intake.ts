/** The shapes of deliveries and of what is corrected of their setups. */
import { FORMATS } from "../../../intake/model";
import { UNITS } from "../../../math/units";
import { KINDS } from "../../../records/kinds";
import { COLUMNS } from "../../../intake/columns";
import { coordinate, listOf, name, oneOf, position, record, text, type Schema, whole } from "../../../shape";

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
export const lineSchema: Schema = {
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

/** Fields by which a line of the job is named. */
export const lineOfCode = { code: name, run: text, intake: name };

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
