/** The shapes of points that the office makes: every way of constructing one, from the one list of ways. */
import { neededFields, WAY_NAMES, wayNamed, type FieldKind, type WayName } from "../../../construct/model";
import { PLAIN_FIELDS, fieldOf } from "../../../records/fields";
import {
  coordinate,
  finite,
  has,
  listOf,
  name,
  oneOf,
  pointRef,
  position,
  positive,
  record,
  text,
  whole,
  type Schema,
} from "../../../shape";
import { attributesSchema, cueEditsSchema, shapeOf } from "./points";
import { lineOfCode } from "./intake";
import { designLine } from "./volumes";

const byHand = record({ hand: name }, ["hand"]),
  /** A line by its first shot, where one is said. */
  fromShot = (point: Schema, otherwise: Schema) =>
    has("from", record({ code: name, run: text, from: point }, ["code", "run", "from"]), otherwise),
  lineRef = (point: Schema) => has("hand", byHand, fromShot(point, record(lineOfCode, ["code"]))),
  lineAsked = (point: Schema) => has("hand", byHand, fromShot(point, designLine)),
  up = { up: coordinate };

/** What stands in the fields of ways; `point` is how a point is named. */
function fieldShapes(point: Schema): Record<FieldKind, Schema> {
  const refs = (count: number): Schema => listOf(point, { minItems: count, maxItems: count }),
    ray = has(
      "line",
      record({ line: refs(2), right: coordinate }, ["line"]),
      has(
        "azimuth",
        record({ from: point, azimuth: finite }, ["from", "azimuth"]),
        record({ from: point, distance: positive }, ["from", "distance"]),
      ),
    );
  return {
    position,
    point,
    two: refs(2),
    three: refs(3),
    azimuth: finite,
    angle: finite,
    length: coordinate,
    ratio: coordinate,
    corner: oneOf(3, 4),
    line: lineAsked(point),
    "line of the job": lineRef(point),
    rays: listOf(ray, { minItems: 2, maxItems: 2 }),
    near: { if: { type: "array" }, then: position, else: point },
  };
}

/** One shape where all of some fields are there, else another. */
const hasAll = (fields: string[], then: Schema, otherwise: Schema): Schema => ({
  if: { type: "object", required: fields },
  then,
  else: otherwise,
});

function byShape(point: Schema, ways: readonly WayName[]): Schema {
  const shapes = fieldShapes(point),
    shapeOfWay = (way: WayName) =>
      record(
        Object.fromEntries(Object.entries(wayNamed(way).fields).map(([key, f]) => [key, shapes[f.is]])),
        neededFields(way),
      );
  const known = ways.map((w) => neededFields(w).join(" and ")).join("; "),
    none: Schema = { not: {}, written: `one way of making a point: ${known}` };
  return ways.reduceRight((otherwise, way) => hasAll(neededFields(way), shapeOfWay(way), otherwise), none);
}

const levelShape = (point: Schema, otherwise: Schema): Schema => ({
  if: { type: "object" },
  then: has(
    "surface",
    record({ surface: name, ...up }, ["surface"]),
    has("of", record({ of: point, ...up }, ["of"]), record({ along: oneOf(true), ...up }, ["along"])),
  ),
  else: otherwise,
});

/** As the application keeps what a point follows: points by identity. */
export const constructionSchema: Schema = {
  ...record(
    {
      point: whole(1, 2 ** 31),
      by: byShape(
        pointRef,
        WAY_NAMES.filter((w) => w !== "at"),
      ),
      elevation: levelShape(pointRef, { not: {} }),
    },
    ["point"],
  ),
  minProperties: 2,
};

/** A point that the office makes, as a recipe says it. */
export const computedSchema: Schema = record(
  {
    number: name,
    ...Object.fromEntries(
      PLAIN_FIELDS.filter((f) => f !== "northing" && f !== "easting").map((f) => [f, shapeOf(fieldOf(f), true)]),
    ),
    by: byShape(name, WAY_NAMES),
    elevation: levelShape(name, coordinate),
    attributes: attributesSchema,
    cues: cueEditsSchema,
  },
  ["number", "by"],
);
