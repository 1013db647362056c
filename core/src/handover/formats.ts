/**
 * The formats that leave, each described once: what it is called, what may be said of a file of it (says.ts), what of
 * the geometry it holds, and as what it is offered. Types of files, the shapes of recipes and of the server's edge and
 * the forms of the screen follow. What is not said is as docs/formats.md says.
 */
import { listOf, name, oneOf, position, positive, shortText, type Schema } from "../shape";
import { DEFAULT_COLUMNS, HOLDS, PAPER_NAMES, type Holds, type Paper } from "./model";
import {
  choice,
  DEFAULT_DECIMALS,
  decimals,
  holds,
  pointColumns,
  points,
  shaped,
  textStyle,
  tick,
  wanted,
  type SaidFile,
  type SaidOf,
  type Says,
} from "./says";

/** A file as it may be added to the handover. */
export interface Kind {
  title: string;
  /** What it is good for, in one line. */
  about: string;
  /** The middle of a new one's name. */
  called: string;
  /** What is said of a new one. */
  begin: SaidFile;
  /** Most jobs hand it over. */
  usual?: true;
}

interface Format<S extends Says, M extends Says> {
  name: string;
  /** The usual ending of its name, and what it is to a browser. */
  ending: string;
  type: string;
  says: S;
  /** What every file of it says. */
  must?: M;
  kinds: readonly Kind[];
  /** What of the geometry a file holds where it does not say so by `holds`. */
  held?(file: SaidOf<S>): Holds[];
  /** Whether a file cannot be made without a coordinate system. */
  inDegrees?(file: SaidOf<S>): boolean;
}

const format = <S extends Says, M extends Says = Record<never, never>>(f: Format<S, M>) => f;
const kind = (title: string, about: string, called: string, begin: SaidFile = {}): Kind => ({
  title,
  about,
  called,
  begin,
});
const usual = (...words: Parameters<typeof kind>): Kind => ({ ...kind(...words), usual: true });

export const fileName: Schema = { type: "string", minLength: 1, maxLength: 500 };

export const HANDOVER_FORMATS = {
  csv: format({
    name: "points as text",
    ending: "csv",
    type: "text/csv; charset=utf-8",
    says: { ...pointColumns, ...textStyle },
    kinds: [
      usual("Points as text", "columns and order by choice, for any program", "points", {
        columns: DEFAULT_COLUMNS,
        decimals: DEFAULT_DECIMALS,
      }),
    ],
  }),
  /** Points, lines and areas as sheets. */
  xlsx: format({
    name: "workbook",
    ending: "xlsx",
    type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    says: pointColumns,
    kinds: [kind("Workbook", "points, lines and areas as sheets", "points")],
  }),
  /** The drawing to scale on paper. */
  pdf: format({
    name: "plan sheet",
    ending: "pdf",
    type: "application/pdf",
    says: {
      points: shaped<string>(name),
      /** Under the job's name in the title block. */
      title: shaped<string>(shortText),
      paper: shaped<Paper>(oneOf(...PAPER_NAMES)),
      /** Higher than it is wide. */
      upright: shaped<boolean>({ type: "boolean" }),
      /** 1 : scale; the largest usual one at which the job fits one sheet when it is not said. */
      scale: shaped<number>({ type: "number", minimum: 10, maximum: 1_000_000 }),
      /** E, N in the middle of the sheet; the middle of the job when it is not said. */
      at: shaped<[number, number]>(position),
      /** Degrees to the right, or as it fits the paper best. */
      turn: shaped<number | "fit">({
        if: { type: "string" },
        then: oneOf("fit"),
        else: { type: "number", minimum: -360, maximum: 360 },
        written: '"fit", or degrees from -360 to 360',
      }),
      /** As many sheets as the job needs at its scale, with a key plan. */
      several: shaped<boolean>({ type: "boolean" }),
      /** Between lines of the coordinate grid; a round length when it is not said. */
      grid: shaped<number | false>({
        if: { type: "number" },
        then: positive,
        else: oneOf(false),
        written: "a step above 0, or false",
      }),
      north: shaped<false>(oneOf(false)),
      bar: shaped<false>(oneOf(false)),
      legend: shaped<false>(oneOf(false)),
      /** As pages after the plan; of points those that the file is of. */
      tables: shaped<("points" | "areas")[]>(listOf(oneOf("points", "areas"), { maxItems: 2, uniqueItems: true })),
    },
    kinds: [usual("Plan sheet", "PDF to scale with title block, grid and legend", "sheet")],
    held: () => ["points", "lines", "contours"],
  }),
  dxf: format({
    name: "DXF drawing",
    ending: "dxf",
    type: "image/vnd.dxf",
    says: {
      points,
      arcs: choice("Arcs", [
        ["arcs", "as arcs"],
        ["chords", "as chords"],
      ]),
      triangles: tick("Triangles as 3D faces", true),
      contours: tick("Contours", true),
    },
    kinds: [usual("DXF drawing", "lines, symbols, notes, contours, triangles for drafting", "plan")],
    held: ({ triangles = true, contours = true }) => [
      "points",
      "lines",
      ...(triangles ? (["surfaces"] as const) : []),
      ...(contours ? (["contours"] as const) : []),
    ],
  }),
  landxml: format({
    name: "LandXML",
    ending: "xml",
    type: "application/xml",
    says: { points, holds: holds(...HOLDS) },
    kinds: [usual("LandXML", "points, lines, surfaces, raw observations for design", "survey")],
  }),
  gpkg: format({
    name: "GeoPackage",
    ending: "gpkg",
    type: "application/geopackage+sqlite3",
    says: { points, holds: holds("points", "lines", "surfaces", "contours") },
    kinds: [kind("GeoPackage", "points, lines, areas, contours as tables for mapping", "survey")],
  }),
  geojson: format({
    name: "GeoJSON",
    ending: "geojson",
    type: "application/geo+json",
    says: {
      points,
      holds: holds("points", "lines", "surfaces", "contours"),
      /** As the job has them, or by the job's coordinate system. */
      coordinates: choice("Coordinates", [
        ["job", "as the job has them"],
        ["latitude-longitude", "latitude and longitude"],
      ]),
    },
    kinds: [kind("GeoJSON", "the same as one text for the web", "survey")],
    inDegrees: ({ coordinates }) => coordinates === "latitude-longitude",
  }),
  kml: format({
    name: "KML",
    ending: "kml",
    type: "application/vnd.google-earth.kml+xml",
    says: { points, holds: holds("points", "lines", "contours") },
    kinds: [kind("KML", "for a globe; needs a coordinate system", "survey")],
    inDegrees: () => true,
  }),
  gpx: format({
    name: "GPX",
    ending: "gpx",
    type: "application/gpx+xml",
    says: { points, holds: holds("points", "lines") },
    kinds: [kind("GPX", "waypoints and tracks for a handheld receiver; needs a coordinate system", "survey")],
    inDegrees: () => true,
  }),
  /** Lines with their lengths, areas with their sizes, setups, or positions of questions for the crew, as text. */
  list: format({
    name: "list",
    ending: "csv",
    type: "text/csv; charset=utf-8",
    must: { of: shaped<"lines" | "areas" | "setups" | "questions">(oneOf("lines", "areas", "setups", "questions")) },
    says: {
      /** Of lengths. */
      unit: choice(
        "Lengths in",
        [
          ["m", "metres"],
          ["ft", "international feet"],
          ["ftUS", "US survey feet"],
        ],
        { usual: ({ unit }) => unit, when: ({ of }) => of !== "questions" },
      ),
      areaUnit: choice(
        "Areas in",
        [
          ["unit", "squares of that unit"],
          ["ha", "hectares"],
          ["acre", "acres"],
        ],
        { usual: ({ areaUnit }) => areaUnit ?? "unit", when: ({ of }) => of === "areas" },
      ),
      decimals,
      ...textStyle,
    },
    kinds: [
      usual("List of lines", "lengths and slope lengths", "lines", { of: "lines" }),
      kind("List of areas", "areas and perimeters", "areas", { of: "areas" }),
      kind("Setup report", "backsights, faces and checks of each setup", "setups", { of: "setups" }),
      kind("Questions as points", "the positions to measure again, as text", "questions", { of: "questions" }),
    ],
  }),
  /** Of comparisons, of all of them where none is named; or what the crew is asked. */
  report: format({
    name: "report of volumes",
    ending: "pdf",
    type: "application/pdf",
    must: {
      as: choice("As", [
        ["pdf", "PDF"],
        ["xlsx", "spreadsheet"],
      ]),
    },
    says: {
      of: shaped<"volumes" | "crew">(oneOf("volumes", "crew")),
      comparisons: shaped<string[]>(listOf(name, { minItems: 1, maxItems: 500 })),
    },
    kinds: [
      kind("Report of volumes", "figures, maps and sections of the comparisons", "volumes", { as: "pdf" }),
      kind("Back to the crew", "one page of what is open and where", "questions", { as: "pdf", of: "crew" }),
    ],
  }),
  codebook: format({
    name: "code book",
    ending: "json",
    type: "application/json",
    says: {},
    kinds: [usual("Code book", "codes, layers and notes as the job has them", "codes")],
  }),
  /** What was done to the job, entry by entry. */
  ledger: format({
    name: "ledger",
    ending: "txt",
    type: "text/plain; charset=utf-8",
    says: {},
    kinds: [kind("Ledger", "what was done to the job, entry by entry", "ledger")],
  }),
  /** The job written down; with its files it becomes a job in another office. */
  recipe: format({
    name: "recipe",
    ending: "json",
    type: "application/json",
    says: { with: wanted("With the files that it names, in one archive", "files") },
    kinds: [kind("Recipe", "the job written down; runs without the application", "recipe")],
  }),
  /** All the others of the handover in one archive, or those that are named, with a manifest. */
  package: format({
    name: "package",
    ending: "zip",
    type: "application/zip",
    says: { files: shaped<string[]>(listOf(fileName, { minItems: 1, maxItems: 1000, uniqueItems: true })) },
    kinds: [usual("Package", "all files in one archive with a manifest", "handover")],
  }),
};
