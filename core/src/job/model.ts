/** The stored state of a job: everything a person gave, nothing derived. Lengths are in the job's unit. */
import type { AreaUnit, Unit, VolumeUnit } from "../math/units";
import type { AngleStyle } from "../math/angles";
import type { PointTable } from "../points/table";
import type { Reference } from "../records/reference";
import type { Survey } from "../records/survey";

export interface Tolerances {
  /** Largest radial distance of a shot from its arc. */
  arc: number;
  /** Largest distance from chord to arc where arcs become chords. */
  chord: number;
  /** Points this close are one vertex of a surface. */
  coincident: number;
  /** Largest difference of two levels at one place of two breaklines. */
  crossing: number;
  precision: number;
  repeat: number;
}

/** The defaults of RECIPE.md, in metres. */
export const DEFAULT_TOLERANCES: Tolerances = {
  arc: 0.02, chord: 0.01, coincident: 0.001, crossing: 0.02, precision: 0.05, repeat: 0.02,
};

export type CodeKind = "point" | "line" | "area";
export type BreaklineKind = "fixed" | "draped" | "none";

export const LABEL_PLACES = ["auto", "right", "left", "above", "below", "centre"] as const;
/** Beside a symbol; of a line on which side of it, or on it. */
export type LabelPlace = (typeof LABEL_PLACES)[number];

export interface AttributeDefinition {
  name: string;
  type?: "number" | "text" | "choice";
  unit?: string;
  required?: boolean;
  choices?: string[];
}

export interface CodeEntry {
  code: string;
  name?: string;
  kind?: CodeKind;
  group?: string;
  layer?: string;
  color?: string;
  style?: string;
  symbol?: string;
  /** Of the symbol: mm on paper, or to scale from a measured attribute. */
  size?: { fixed?: number; attribute?: string };
  /** Of the symbol, degrees to the right from north. */
  rotation?: { fixed?: number; attribute?: string };
  opens?: "auto" | "cue";
  ground?: boolean;
  breakline?: BreaklineKind;
  maxSegment?: number;
  attributes?: AttributeDefinition[];
  /** Template of the note beside it. */
  label?: string;
  /** Where the note stands; `every`: repeated along a line, in the job's unit; `height` of the text in mm. */
  labelAt?: { place?: LabelPlace; align?: "start" | "middle" | "end"; every?: number; height?: number };
  companions?: { right: number; up: number; code?: string }[];
}

export interface CodeBook {
  cues?: Record<string, string[]>;
  aliases?: { from: string; to: string }[];
  codes?: CodeEntry[];
}

export const COLUMNS = [
  "number", "northing", "easting", "elevation", "description", "code", "note", "station", "offset", "latitude", "longitude", "height",
  "precision", "targetHeight", "time", "skip",
] as const;
/** What a column of a text means; `attr:NAME` is an attribute of the code. */
export type Column = (typeof COLUMNS)[number] | `attr:${string}`;
/** A column of fixed-width text: characters from `from`, counted from 0, to before `to`. */
export interface FixedColumn { from: number; to: number; is: Column }

export const FORMATS = ["delimited", "fixed", "landxml", "geojson", "sqlite", "dxf", "xlsx"] as const;
export type Format = (typeof FORMATS)[number];

export interface Layout {
  delimiter?: string;
  quote?: string;
  decimal?: "." | ",";
  comment?: string;
  skipRows?: number;
  /** Names for delimited text and tables; places and names for fixed-width text. */
  columns?: (Column | FixedColumn)[];
  /** Which table, layer or sheet of a file that holds several; the first by default. */
  table?: string;
  /** Texts that mean "no elevation"; a number among them is compared as a number. */
  noElevation?: string[];
}

export type ClashPolicy = "stop" | "keep-first" | "replace" | "add";
export const KINDS = ["measured", "control", "design", "computed", "reference"] as const;
export type PointKind = (typeof KINDS)[number];

/** A line that stations and offsets refer to: its own corners from station `start`, or a line of a file of the job. */
export type ReferenceLineGiven = { points: [number, number][]; start?: number } | { file: string; alignment: string };

export interface IntakeOptions {
  format?: Format;
  layout?: Layout;
  line?: ReferenceLineGiven;
  /** What an ellipsoidal height refers to. */
  heightAt?: "mark" | "antenna";
  unit?: Unit;
  encoding?: "utf-8" | "latin1";
  clash?: ClashPolicy;
  add?: number;
  /** What becomes of single numbers, where it differs from `clash`. */
  clashes?: Record<string, ClashPolicy>;
  crew?: string;
  kind?: Exclude<PointKind, "reference">;
}

/** A row that gave no point, and why. `row` is the physical line from 1 on which the record starts. */
export interface RefusedRow { row: number; reason: string }

/** A number that was there already, and what became of the incoming point. */
export interface Clash { number: string; row: number; became: "passed over" | "replaced" | string }

/** One delivery from the field, as the job remembers it. */
export interface IntakeInfo extends Omit<IntakeOptions, "clashes"> {
  id: string;
  file: string;
  rows: number;
  points: number;
  refused: RefusedRow[];
  clashes: Clash[];
  /** Answers to single numbers, as given. */
  answers?: Record<string, ClashPolicy>;
  /** Setups of raw observations. */
  setups: number;
  /** Rows whose station lies beyond an end of its reference line, and by how much. */
  beyond: { number: string; row: number; by: number }[];
  /** Names of what a file brings along as reference. */
  reference?: { lines: number; surfaces: string[] };
  /** Things noticed while reading, in sentences. */
  notes: string[];
}

/** What an intake brought beside its points, kept as it was read. */
export interface Delivered { survey?: Survey; reference?: Reference }

/** What the office has corrected about a setup; the observations stay as received. */
export interface SetupEdit {
  intake: string;
  setup: string;
  instrumentHeight?: number;
  /** Numbers of the backsights that give the orientation, in place of those of the file. */
  backsights?: string[];
  /** Taken out: its observations make and move no point. */
  out?: boolean;
}

/** The settings for the reduction of raw observations: refraction coefficient and earth radius in metres; false for neither. */
export type Curvature = { k?: number; radius?: number } | false;
export const DEFAULT_CURVATURE = { k: 0.13, radius: 6_371_000 } as const;

export interface CrewRange { crew: string; from: number; to: number }

export type SetRule =
  | { codes: string[] } | { numbers: string } | { kind: string[] } | { intake: string[] }
  | { elevation: [number, number] } | { inside: [number, number][] } | { set: string }
  | { all: SetRule[] } | { any: SetRule[] } | { not: SetRule };

export interface PointSet { name: string; rule: SetRule }

export interface SurfaceRecipe {
  name: string;
  points?: string;
  breaklines?: { codes?: string[]; crossing?: "mean" | "higher" | "lower" };
  edge?: "hull";
  triangles?: { points: [number, number, number][]; faces: [number, number, number][] };
  /** A surface that a file brings, by the file's name and the surface's name in it. */
  file?: string;
  surface?: string;
}

export interface ContoursRecipe { surface: string; interval: number; index?: number; base?: number }

export interface VolumeRecipe {
  name: string;
  surface: string;
  level: number;
  deadband?: number;
  bulking?: { cut?: number; fill?: number };
}

export type HandoverColumn = "number" | "northing" | "easting" | "elevation" | "description" | "code" | "note"
  | "kind" | "intake" | "precision" | `attr:${string}`;

export interface HandoverFile {
  file: string;
  format: "csv" | "dxf";
  columns?: HandoverColumn[];
  delimiter?: string;
  decimals?: number;
  points?: string;
  header?: boolean;
}

/** A line drawn by hand: its code with the run, a number list in its order, cue words by point number. The name tells it from others. */
export interface HandLine { name?: string; code: string; points: string; cues?: Record<string, string>; closed?: boolean }

/** What is written beside the points of a set (`*` for all): the first entry that holds a point speaks for it. Text height in mm. */
export interface PointLabels { set: string; number?: boolean; elevation?: boolean; code?: boolean; height?: number; decimals?: number }

/** How the job is drawn. */
export interface DrawingSettings {
  /** Scale of the plan, 1 : scale, that sizes on paper speak of; as the sheet is seen when there is none. */
  scale?: number;
  points?: PointLabels[];
  /** What is not drawn. */
  hidden?: { groups?: string[]; layers?: string[]; kinds?: CodeKind[] };
  /** Kinds, within them groups, within them layers, each from the lowest to the uppermost; those not named lie below. */
  kindOrder?: CodeKind[];
  order?: string[];
  layerOrder?: string[];
}

/** Everything stored about a job but its points. */
export interface JobDefinition {
  name: string;
  date?: string;
  unit: Unit;
  /** Which coordinate is shown and typed first. */
  order: "NE" | "EN";
  tolerance: Tolerances;
  client?: string;
  crew?: string;
  note?: string;
  angle?: AngleStyle;
  areaUnit?: AreaUnit;
  volumeUnit?: VolumeUnit;
  curvature?: Curvature;
  /** Plan distances of raw observations are multiplied by it. */
  scaleFactor?: number;
  /** EPSG code of the coordinates, as `EPSG:25832`; none for a plain local grid. */
  system?: string;
  /** The geoid grid: its file's name; the bytes are kept beside. */
  geoid?: string;
  crews?: CrewRange[];
  nextNumber?: string;
  drawing?: DrawingSettings;
  book: CodeBook;
  setups: SetupEdit[];
  /** Lines drawn by hand. */
  lines: HandLine[];
  sets: PointSet[];
  surfaces: SurfaceRecipe[];
  contours: ContoursRecipe[];
  volumes: VolumeRecipe[];
  handover: HandoverFile[];
}

/** The parts of a definition that are lists of named things, each changed one thing at a time. */
export const NAMED_PARTS = ["setups", "lines", "sets", "surfaces", "contours", "volumes", "handover"] as const;
export type NamedPart = (typeof NAMED_PARTS)[number];
/** Parts that belong to one job's points and files and mean nothing in another. */
export const OWN_PARTS: readonly NamedPart[] = ["setups", "lines"];

export function setupName(s: { intake: string; setup: string }): string {
  return `${s.intake} / ${s.setup}`;
}

/** The name by which a thing of a part is known: contours go by their surface, files by their name, setups by intake and id. */
export function nameOf(part: NamedPart | "codes", body: unknown): string {
  const b = body as Record<string, unknown>;
  if (part === "setups") return setupName(b as unknown as SetupEdit);
  return String(b[part === "contours" ? "surface" : part === "handover" ? "file" : part === "codes" ? "code" : "name"]);
}

export interface JobState extends JobDefinition {
  intakes: IntakeInfo[];
  /** What each intake brought beside points, in the order of `intakes`. */
  delivered: Delivered[];
  /** Files that only surfaces name, with their reference. */
  files?: { file: string; reference: Reference }[];
  /** Places that follow from observations are reduced; see points/reduce.ts. */
  points: PointTable;
}
