/** The shapes of surfaces and contours. */
import {
  coordinate,
  has,
  listOf,
  name,
  notNegative,
  oneOf,
  pointRef,
  position,
  positive,
  record,
  text,
  type Schema,
  whole,
} from "../../../shape";
import { lineOfCode } from "./intake";

/** A line by its code, run and intake, or one of a file. */
const lineWanted = has("file", record({ file: name, line: text }), record(lineOfCode, ["code"]));
/** Of these one alone. */
const oneWay = (ways: Record<string, Schema>): Schema => ({ ...record(ways), minProperties: 1, maxProperties: 1 });
const RING = { ring: listOf(position, { minItems: 3, maxItems: 10_000 }), code: name };
/** A surface; `corner` is how the points at the corners of sides and triangles are said. */
function surfaceOf(corner: Schema): Schema {
  const corners = (count: number): Schema => listOf(corner, { minItems: count, maxItems: count });
  return record(
    {
      name,
      points: name,
      breaklines: record({
        codes: listOf(text, { maxItems: 500 }),
        crossing: oneOf("mean", "higher", "lower"),
        thin: notNegative,
        densify: notNegative,
        also: listOf(lineWanted, { maxItems: 1000 }),
        except: listOf(has("pieces", record({ pieces: listOf(corners(2), { maxItems: 10_000 }) }), lineWanted), {
          maxItems: 1000,
        }),
      }),
      edge: {
        if: { type: "string" },
        then: oneOf("hull"),
        else: oneWay({ ...RING, fit: positive }),
        written: '"hull", a fit such as { "fit": 30 }, or a ring',
      },
      holes: listOf(oneWay(RING), { maxItems: 1000 }),
      longestSide: positive,
      swap: listOf(corners(2), { maxItems: 1000 }),
      drop: listOf(corners(3), { maxItems: 1000 }),
      file: name,
      surface: name,
      triangles: record(
        {
          points: listOf({ type: "array", items: coordinate, minItems: 3, maxItems: 3 }, { minItems: 3 }),
          faces: listOf({ type: "array", items: whole(0, 2 ** 31), minItems: 3, maxItems: 3 }, { minItems: 1 }),
        },
        ["points", "faces"],
      ),
    },
    ["name"],
  );
}
/** As a recipe says it, points by their numbers; and as the application keeps it, points by identity. */
export const surfaceGivenSchema = surfaceOf(name),
  surfaceSchema = surfaceOf(pointRef);

export const contoursSchema = record({ surface: name, interval: positive, index: whole(0, 1000), base: coordinate }, [
  "surface",
  "interval",
]);
