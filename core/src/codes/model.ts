/** The code book as a person writes it: what each code is, and how it is drawn. */
import type { Unit } from "../math/units";

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
  /** Of its lengths, where it stands outside of a job: in a file or in the office. In a job they are in the job's. */
  unit?: Unit;
  cues?: Record<string, string[]>;
  aliases?: { from: string; to: string }[];
  codes?: CodeEntry[];
}
