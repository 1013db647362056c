/** The shapes of comparisons and of checks of what is built. */
import {
  coordinate,
  finite,
  has,
  listOf,
  name,
  notNegative,
  numbers,
  oneOf,
  position,
  positive,
  record,
  type Schema,
} from "../../../shape";
import { lineOfCode, lineSchema } from "./intake";

const drawnRing = listOf(position, { minItems: 3, maxItems: 10_000 });
const areaWanted = has("ring", record({ name, ring: drawnRing }, ["ring"]), record({ name, ...lineOfCode }, ["code"]));
/** One shape for a list of positions, else another. */
const drawnOr = (otherwise: Schema): Schema => ({
  if: { type: "array", items: { type: "array" } },
  then: drawnRing,
  else: otherwise,
});

/** A line of the job, of a file, or drawn by its corners. */
export const designLine: Schema = has("code", record(lineOfCode, ["code"]), lineSchema);

const anyVolume = {
  name,
  within: drawnOr({
    if: { type: "array" },
    then: listOf(areaWanted, { minItems: 1, maxItems: 1000 }),
    else: areaWanted,
  }),
  deadband: notNegative,
  bulking: record({ cut: positive, fill: positive }),
  sections: {
    if: { type: "object" },
    then: has(
      "line",
      record({ spacing: positive, line: designLine, half: positive }, ["spacing", "line"]),
      record({ spacing: positive, azimuth: finite }, ["spacing"]),
    ),
    else: positive,
  },
};
const volume = (fields: Record<string, Schema>): Schema =>
  record({ ...anyVolume, ...fields }, ["name", ...Object.keys(fields)]);

/** A comparison: each way of comparing is known by one field. */
export const volumeSchema: Schema = has(
  "heap",
  volume({ heap: name, toe: drawnOr(record(lineOfCode, ["code"])) }),
  has(
    "storage",
    volume({ storage: name, from: coordinate, to: coordinate, step: positive }),
    has("from", volume({ from: name, to: name }), volume({ surface: name, level: coordinate })),
  ),
);

/** Points as built against a surface, a line or points. */
const differenceOf = (what: Record<string, Schema>, tolerance = positive): Schema =>
  record({ name, points: numbers, tolerance, ...what }, ["name", "points", "tolerance", ...Object.keys(what)]);
const pairs = (by: Record<string, Schema>): Schema => {
  const fields = {
    name,
    points: numbers,
    against: numbers,
    tolerance: record({ plan: positive, level: positive }, ["plan", "level"]),
  };
  return record({ ...fields, ...by, strip }, [...Object.keys(fields), ...Object.keys(by)]);
};
const strip: Schema = {
  type: "string",
  maxLength: 100,
  pattern: "^[^*]*\\*[^*]*$",
  written: "what is taken off, with a star for the number: AB* or *-D",
};
export const differenceSchema: Schema = has(
  "against",
  {
    if: { type: "object", properties: { by: { const: "nearest" } } },
    then: pairs({ by: oneOf("number", "nearest"), within: positive }),
    else: pairs({ by: oneOf("number", "nearest") }),
  },
  has("line", differenceOf({ line: designLine }), differenceOf({ surface: name })),
);
