/** How a delivery is read, and how the job remembers it. */
import type { Unit } from "../math/units";
import type { PointKind } from "../records/kinds";
import type { RefusedRow } from "../records/records";
import type { NamedColumn } from "./columns";

/** What a column of a text means; `attr:NAME` is an attribute of the code. */
export type Column = NamedColumn | `attr:${string}`;
/** A column of fixed-width text: characters from `from`, counted from 0, to before `to`. */
export interface FixedColumn {
  from: number;
  to: number;
  is: Column;
}

export const FORMATS = ["delimited", "fixed", "landxml", "geojson", "sqlite", "dxf", "xlsx"] as const;
export type Format = (typeof FORMATS)[number];

export interface Layout {
  delimiter?: string;
  quote?: string;
  decimal?: "." | ",";
  comment?: string;
  skipRows?: number;
  /** Names for delimited text and tables; positions and names for fixed-width text. */
  columns?: (Column | FixedColumn)[];
  /** Which table, layer or sheet of a file that holds several; the first by default. */
  table?: string;
  /** Texts that mean "no elevation"; a number among them is compared as a number. */
  noElevation?: string[];
}

export type ClashPolicy = "stop" | "keep-first" | "replace" | "add";

/** A line that stations and offsets refer to: its own corners from station `start`, or a line of a file of the job. */
export type ReferenceLineGiven = { points: [number, number][]; start?: number } | { file: string; alignment: string };

/** All that is given must hold. */
export interface OnlyRows {
  /** A number list such as `12, 40-52`. */
  numbers?: string;
  /** Codes as the descriptions write them, without their runs; `*` and `?` stand for any letters. */
  codes?: string[];
  /** A ring in the job's coordinates, E, N; a row on it is inside. */
  inside?: [number, number][];
  /** The first and the last time, as they are written in files; rows without a time are left out. */
  from?: string;
  to?: string;
}

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
  /** Some of the rows alone. */
  only?: OnlyRows;
}

/** A number that was there already, and what became of the incoming point. */
export interface Clash {
  number: string;
  row: number;
  became: "passed over" | "replaced" | string;
}

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
