/** The shapes of the code book. */
import { LABEL_PLACES } from "../../../codes/model";
import { UNITS } from "../../../math/units";
import { ACTIONS } from "../../../codes/book";
import { coordinate, finite, listOf, name, oneOf, positive, record, rgb, text } from "../../../shape";

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
    color: rgb,
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
