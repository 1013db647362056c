/** The files that leave: what each is of, and how it is written. What is not said is as DEFAULTS and docs/formats.md say. */
import type { AreaUnit, Unit } from "../math/units";
import { EDIT_FIELDS, isPlain, type EditField, type PlainField } from "../records/fields";
import { MEASURED_FIELDS, type MeasuredField } from "../records/measured";

/** What stands in a column of points beside fields and what was measured: it follows from other things. */
export const FOLLOWING_COLUMNS = ["code", "name", "intake", "crew", "setup", "time"] as const;
export type FollowingColumn = (typeof FOLLOWING_COLUMNS)[number];

const isOwn = (f: EditField): f is PlainField | "number" => f === "number" || isPlain(f);
export type PointColumn = PlainField | "number" | MeasuredField | FollowingColumn;
export const HANDOVER_COLUMNS: readonly PointColumn[] = [
  ...EDIT_FIELDS.filter(isOwn),
  ...FOLLOWING_COLUMNS,
  ...MEASURED_FIELDS,
];
export type HandoverColumn = PointColumn | `attr:${string}`;

/** What geometry may leave in one file. */
export const HOLDS = ["points", "lines", "surfaces", "contours", "survey"] as const;
export type Holds = (typeof HOLDS)[number];

interface AnyFile {
  /** Name within the handover; may hold `{job}`, `{client}`, `{date}` and `{entry}`, see names.ts. */
  file: string;
}

interface OfPoints {
  /** A set or a number list; all when it is not said. */
  points?: string;
}

/** How rows are written as text. */
export interface TextStyle {
  delimiter?: string;
  /** The decimal sign, a point unless said otherwise. */
  decimal?: "." | ",";
  header?: boolean;
  /** A text that a spreadsheet would compute is written behind an apostrophe. */
  guard?: boolean;
  /** With a mark, programs that would guess otherwise take it for UTF-8. */
  encoding?: "utf-8" | "utf-8-mark" | "latin1";
  lineEnd?: "lf" | "crlf";
}

/** Which columns of points, with how many decimals. */
export interface PointColumns extends OfPoints {
  columns?: HandoverColumn[];
  decimals?: number;
  /** Decimals of single columns, also of attributes that are numbers. */
  decimalsOf?: Partial<Record<HandoverColumn, number>>;
  /** Only the points whose row is new or reads otherwise than when this file was last made for the job. */
  only?: "changed";
}

export interface PointsText extends AnyFile, PointColumns, TextStyle {
  format: "csv";
}

/** Points, lines and areas as sheets. */
export interface Workbook extends AnyFile, PointColumns {
  format: "xlsx";
}

export interface DxfFile extends AnyFile, OfPoints {
  format: "dxf";
  arcs?: "arcs" | "chords";
  /** Triangles of surfaces as 3D faces. */
  triangles?: boolean;
  contours?: boolean;
}

export interface LandXmlFile extends AnyFile, OfPoints {
  format: "landxml";
  holds?: Holds[];
}

export interface GeoJsonFile extends AnyFile, OfPoints {
  format: "geojson";
  holds?: Exclude<Holds, "survey">[];
  /** As the job has them, or in latitude and longitude by the job's coordinate system. */
  coordinates?: "job" | "latitude-longitude";
}

export interface KmlFile extends AnyFile, OfPoints {
  format: "kml";
  holds?: Exclude<Holds, "survey" | "surfaces">[];
}

export interface GeoPackageFile extends AnyFile, OfPoints {
  format: "gpkg";
  holds?: Exclude<Holds, "survey">[];
}

/** Lines with their lengths, areas with their sizes, setups, or positions of questions for the crew, as text. */
export interface ListFile extends AnyFile, TextStyle {
  format: "list";
  of: "lines" | "areas" | "setups" | "questions";
  /** Of lengths; the job's when it is not said. */
  unit?: Unit;
  areaUnit?: AreaUnit;
  decimals?: number;
}

export interface CodeBookFile extends AnyFile {
  format: "codebook";
}

/** What was done to the job, entry by entry. */
export interface LedgerFile extends AnyFile {
  format: "ledger";
}

/** The job written down; with its files it becomes a job in another office. */
export interface RecipeFile extends AnyFile {
  format: "recipe";
  with?: "files";
}

/** The report of comparisons, of all of them where none is named; or what the crew is asked. */
export interface ReportFile extends AnyFile {
  format: "report";
  as: "pdf" | "xlsx";
  of?: "volumes" | "crew";
  comparisons?: string[];
}

/** The drawing to scale on paper. */
export interface PlanFile extends AnyFile, OfPoints {
  format: "pdf";
  /** Under the job's name in the title block. */
  title?: string;
  paper?: Paper;
  /** Higher than it is wide. */
  upright?: boolean;
  /** 1 : scale; the largest usual one at which the job fits one sheet when it is not said. */
  scale?: number;
  /** E, N in the middle of the sheet; the middle of the job when it is not said. */
  at?: [number, number];
  /** Degrees to the right, or as it fits the paper best. */
  turn?: number | "fit";
  /** As many sheets as the job needs at its scale, with a key plan. */
  several?: boolean;
  /** Between lines of the coordinate grid; a round length when it is not said. */
  grid?: number | false;
  north?: false;
  bar?: false;
  legend?: false;
  /** As pages after the plan; of points those that the file is of. */
  tables?: ("points" | "areas")[];
}

export const PAPER_NAMES = ["A4", "A3", "A2", "A1", "A0"] as const;
export type Paper = (typeof PAPER_NAMES)[number];

/** What only that which runs the core can write. */
export type BroughtFile = LedgerFile | RecipeFile | ReportFile | PlanFile;

/** All the others of the handover in one archive, or those that are named, with a manifest. */
export interface PackageFile extends AnyFile {
  format: "package";
  files?: string[];
}

export type HandoverFile =
  | PointsText
  | Workbook
  | DxfFile
  | LandXmlFile
  | GeoJsonFile
  | KmlFile
  | GeoPackageFile
  | ListFile
  | CodeBookFile
  | BroughtFile
  | PackageFile;

/** Of which points a file is, where it is of points that may be chosen. */
export const pointsOf = (file: HandoverFile): string | undefined => ("points" in file ? file.points : undefined);

export type HandoverFormat = HandoverFile["format"];

/** What each format is called, its usual ending, and what it is to a browser. */
export const HANDOVER_FORMATS: Record<HandoverFormat, { name: string; ending: string; type: string }> = {
  csv: { name: "points as text", ending: "csv", type: "text/csv; charset=utf-8" },
  xlsx: { name: "workbook", ending: "xlsx", type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet" },
  dxf: { name: "DXF drawing", ending: "dxf", type: "image/vnd.dxf" },
  landxml: { name: "LandXML", ending: "xml", type: "application/xml" },
  geojson: { name: "GeoJSON", ending: "geojson", type: "application/geo+json" },
  kml: { name: "KML", ending: "kml", type: "application/vnd.google-earth.kml+xml" },
  gpkg: { name: "GeoPackage", ending: "gpkg", type: "application/geopackage+sqlite3" },
  list: { name: "list", ending: "csv", type: "text/csv; charset=utf-8" },
  codebook: { name: "code book", ending: "json", type: "application/json" },
  ledger: { name: "ledger", ending: "txt", type: "text/plain; charset=utf-8" },
  recipe: { name: "recipe", ending: "json", type: "application/json" },
  pdf: { name: "plan sheet", ending: "pdf", type: "application/pdf" },
  report: { name: "report of volumes", ending: "pdf", type: "application/pdf" },
  package: { name: "package", ending: "zip", type: "application/zip" },
};

export const isBrought = (file: HandoverFile): file is BroughtFile =>
  file.format === "ledger" || file.format === "recipe" || file.format === "report" || file.format === "pdf";

/** The usual ending of a file's name, and what the file is to a browser. */
export function kindOfFile(file: HandoverFile): { ending: string; type: string } {
  if (file.format === "recipe" && file.with) return HANDOVER_FORMATS.package;
  if (file.format === "report" && file.as === "xlsx") return HANDOVER_FORMATS.xlsx;
  return HANDOVER_FORMATS[file.format];
}

export const DEFAULT_COLUMNS: HandoverColumn[] = ["number", "northing", "easting", "elevation", "description"];
export const DEFAULT_DECIMALS = 3;
