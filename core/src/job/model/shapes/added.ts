/** The shapes of what a person adds to the drawing. */
import { MEASURES } from "../../../drawing/added/model";
import {
  pointRef,
  type Schema,
  text,
  name,
  coordinate,
  whole,
  oneOf,
  listOf,
  record,
  has,
  position,
} from "../../../shape";

const anchor: Schema = has("at", record({ at: position }, ["at"]), record({ point: pointRef }, ["point"]));
const lineRef: Schema = has(
  "hand",
  record({ hand: name }, ["hand"]),
  record({ code: name, run: text, from: pointRef }, ["code", "run", "from"]),
);
const textRef: Schema = has(
  "note",
  record({ note: pointRef, code: name }, ["note"]),
  has(
    "noteOf",
    record({ noteOf: lineRef, time: whole(0, 100_000) }, ["noteOf"]),
    has(
      "label",
      record({ label: pointRef }, ["label"]),
      record({ contour: name, level: coordinate, near: position }, ["contour", "level", "near"]),
    ),
  ),
);
const letters = { height: { type: "number", minimum: 0.5, maximum: 50 } };
const groundSize: Schema = { type: "number", minimum: 0.001, maximum: 10_000 };
const turned = { turn: { type: "number", minimum: -360, maximum: 360 } };

/** What a person adds to the drawing: each kind is known by one field. */
export const addedSchema: Schema = has(
  "measures",
  record(
    { name, measures: lineRef, show: listOf(oneOf(...MEASURES), { minItems: 1, uniqueItems: true }), ...letters },
    ["name", "measures", "show"],
  ),
  has(
    "dimension",
    record({ name, dimension: listOf(anchor, { minItems: 2, maxItems: 2 }), right: coordinate, ...letters }, [
      "name",
      "dimension",
      "right",
    ]),
    has(
      "words",
      record(
        {
          name,
          words: { type: "string", minLength: 1, maxLength: 2000 },
          to: anchor,
          by: position,
          ...turned,
          ...letters,
          leader: oneOf(true),
        },
        ["name", "words", "to"],
      ),
      has(
        "symbol",
        record({ name, symbol: pointRef, size: listOf(groundSize, { minItems: 2, maxItems: 2 }), toward: anchor }, [
          "name",
          "symbol",
        ]),
        record({ name, text: textRef, by: position, ...turned, ...letters, hidden: oneOf(true) }, ["name", "text"]),
      ),
    ),
  ),
);
