/** The shapes of files that are handed over, each format with what may be said of it. */
import { AREA_UNITS, UNITS } from "../../math/units";
import { HANDOVER_COLUMNS, HOLDS, PAPER_NAMES, type HandoverFormat, type Holds } from "../../handover/model";
import { type Schema, text, name, positive, whole, oneOf, listOf, record, position } from "./shapes";

const fileName: Schema = { type: "string", minLength: 1, maxLength: 500 };
const handoverColumn: Schema = {
  type: "string",
  pattern: `^(${HANDOVER_COLUMNS.join("|")}|attr:.+)$`,
  written: `one of ${HANDOVER_COLUMNS.join(", ")}, attr:NAME`,
  maxLength: 200,
};
const textStyle = {
  delimiter: {
    type: "string",
    minLength: 1,
    maxLength: 1,
    pattern: '^[^"\\r\\n]$',
    written: "one sign that parts columns, such as a comma",
  },
  decimal: oneOf(".", ","),
  header: { type: "boolean" },
  guard: { type: "boolean" },
  encoding: oneOf("utf-8", "utf-8-mark", "latin1"),
  lineEnd: oneOf("lf", "crlf"),
};
const pointColumns = {
  points: name,
  columns: listOf(handoverColumn, { minItems: 1, maxItems: 100 }),
  decimals: whole(0, 12),
  decimalsOf: { type: "object", propertyNames: handoverColumn, additionalProperties: whole(0, 12), maxProperties: 100 },
  only: oneOf("changed"),
};
const holds = (without: Holds[]): Schema =>
  listOf(oneOf(...HOLDS.filter((x) => !without.includes(x))), {
    minItems: 1,
    maxItems: HOLDS.length,
    uniqueItems: true,
  });

/** What each format may say beside its file's name. */
const OF_FORMAT: Record<HandoverFormat, Record<string, Schema>> = {
  csv: { ...pointColumns, ...textStyle },
  xlsx: pointColumns,
  dxf: { points: name, arcs: oneOf("arcs", "chords"), triangles: { type: "boolean" }, contours: { type: "boolean" } },
  landxml: { points: name, holds: holds([]) },
  geojson: { points: name, holds: holds(["survey"]), coordinates: oneOf("job", "latitude-longitude") },
  kml: { points: name, holds: holds(["survey", "surfaces"]) },
  gpkg: { points: name, holds: holds(["survey"]) },
  list: {
    of: oneOf("lines", "areas", "setups", "questions"),
    unit: oneOf(...UNITS),
    areaUnit: oneOf(...AREA_UNITS),
    decimals: whole(0, 12),
    ...textStyle,
  },
  codebook: {},
  ledger: {},
  recipe: { with: oneOf("files") },
  report: {
    as: oneOf("pdf", "xlsx"),
    of: oneOf("volumes", "crew"),
    comparisons: listOf(name, { minItems: 1, maxItems: 500 }),
  },
  pdf: {
    points: name,
    title: text,
    paper: oneOf(...PAPER_NAMES),
    upright: { type: "boolean" },
    scale: { type: "number", minimum: 10, maximum: 1_000_000 },
    at: position,
    turn: {
      if: { type: "string" },
      then: oneOf("fit"),
      else: { type: "number", minimum: -360, maximum: 360 },
      written: '"fit", or degrees from -360 to 360',
    },
    several: { type: "boolean" },
    grid: { if: { type: "number" }, then: positive, else: oneOf(false), written: "a step above 0, or false" },
    north: oneOf(false),
    bar: oneOf(false),
    legend: oneOf(false),
    tables: listOf(oneOf("points", "areas"), { maxItems: 2, uniqueItems: true }),
  },
  package: { files: listOf(fileName, { minItems: 1, maxItems: 1000, uniqueItems: true }) },
};
const HANDOVER_NAMES = Object.keys(OF_FORMAT) as HandoverFormat[];

export const handoverSchema: Schema = HANDOVER_NAMES.reduceRight<Schema>(
  (otherwise, format) => ({
    if: { type: "object", properties: { format: { const: format } }, required: ["format"] },
    then: record({ file: fileName, format: oneOf(format), ...OF_FORMAT[format] }, [
      "file",
      "format",
      ...(format === "list" ? ["of"] : format === "report" ? ["as"] : []),
    ]),
    else: otherwise,
  }),
  { type: "object", properties: { file: fileName, format: oneOf(...HANDOVER_NAMES) }, required: ["file", "format"] },
);
