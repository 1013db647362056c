/** The stored state of a job: everything a person gave, nothing derived. Lengths are in the job's unit. */
import type { Unit } from "../math/units";
import type { PointTable } from "../points/table";

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
  size?: { fixed?: number; attribute?: string };
  opens?: "auto" | "cue";
  ground?: boolean;
  breakline?: BreaklineKind;
  maxSegment?: number;
  attributes?: AttributeDefinition[];
  label?: string;
  companions?: { right: number; up: number; code?: string }[];
}

export interface CodeBook {
  cues?: Record<string, string[]>;
  aliases?: { from: string; to: string }[];
  codes?: CodeEntry[];
}

export const COLUMNS = [
  "number", "northing", "easting", "elevation", "description", "code", "note", "precision", "targetHeight", "time", "skip",
] as const;
/** What a column of a text means; `attr:NAME` is an attribute of the code. */
export type Column = (typeof COLUMNS)[number] | `attr:${string}`;

export interface Layout {
  delimiter?: string;
  quote?: string;
  decimal?: "." | ",";
  comment?: string;
  skipRows?: number;
  columns?: Column[];
  /** Texts that mean "no elevation"; a number among them is compared as a number. */
  noElevation?: string[];
}

export type ClashPolicy = "stop" | "keep-first" | "replace" | "add";
export const KINDS = ["measured", "control", "design", "computed", "reference"] as const;
export type PointKind = (typeof KINDS)[number];

export interface IntakeOptions {
  layout?: Layout;
  unit?: Unit;
  encoding?: "utf-8" | "latin1";
  clash?: ClashPolicy;
  add?: number;
  crew?: string;
  kind?: Exclude<PointKind, "reference">;
}

/** A row that gave no point, and why. `row` is the physical line from 1 on which the record starts. */
export interface RefusedRow { row: number; reason: string }

/** A number that was there already, and what became of the incoming point. */
export interface Clash { number: string; row: number; became: "passed over" | "replaced" | string }

/** One delivery from the field, as the job remembers it. */
export interface IntakeInfo extends IntakeOptions {
  id: string;
  file: string;
  rows: number;
  points: number;
  refused: RefusedRow[];
  clashes: Clash[];
  /** Things noticed while reading, in sentences. */
  notes: string[];
}

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

/** Everything stored about a job but its points. */
export interface JobDefinition {
  name: string;
  date?: string;
  unit: Unit;
  /** Which coordinate is shown and typed first. */
  order: "NE" | "EN";
  tolerance: Tolerances;
  book: CodeBook;
  sets: PointSet[];
  surfaces: SurfaceRecipe[];
  contours: ContoursRecipe[];
  volumes: VolumeRecipe[];
  handover: HandoverFile[];
}

/** The parts of a definition that are lists of named things, each changed one thing at a time. */
export const NAMED_PARTS = ["sets", "surfaces", "contours", "volumes", "handover"] as const;
export type NamedPart = (typeof NAMED_PARTS)[number];

/** The name by which a thing of a part is known: contours go by their surface, files by their name. */
export function nameOf(part: NamedPart, body: unknown): string {
  const key = part === "contours" ? "surface" : part === "handover" ? "file" : "name";
  return String((body as Record<string, unknown>)[key]);
}

export interface JobState extends JobDefinition {
  intakes: IntakeInfo[];
  points: PointTable;
}
