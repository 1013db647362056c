/**
 * What a person adds to the drawing. It names points and lines by what outlives another reading of their delivery, and
 * follows them: nothing of it is a position where it can be a relation. Offsets are in the job's unit, so that what was
 * put beside something stands there at every scale; heights in mm on paper; turns in degrees to the right.
 */
import type { LineRef } from "../../lines/refs";
import type { PointRef } from "../../points/refs";

/** A position that follows a point, or one of its own (E, N). */
export type Anchor = { point: PointRef } | { at: readonly [e: number, n: number] };

export const MEASURES = ["bearing", "distance", "area", "name"] as const;
export type Measure = (typeof MEASURES)[number];

/** What is written along a line: bearing and distance beside each piece, area and name within it or along it. */
export interface LineMeasures {
  name: string;
  measures: LineRef;
  show: readonly Measure[];
  height?: number;
}

/** A distance between two positions, its line so far to the right of the way from the first to the second. */
export interface Dimension {
  name: string;
  dimension: readonly [Anchor, Anchor];
  right: number;
  height?: number;
}

/** Words beside a position, with a leader to it if wanted. */
export interface Words {
  name: string;
  words: string;
  to: Anchor;
  by?: readonly [e: number, n: number];
  turn?: number;
  height?: number;
  leader?: true;
}

/** A text of the drawing: a note of a point or line, a point's label, or a contour's label. */
export type TextRef =
  | { note: PointRef; code?: string }
  | { noteOf: LineRef; time?: number }
  | { label: PointRef }
  | { contour: string; level: number; near: readonly [e: number, n: number] };

/** A text that was moved, turned, resized or hidden by hand. */
export interface PlacedText {
  name: string;
  text: TextRef;
  /** From where its point, or the middle of its line, is. */
  by?: readonly [e: number, n: number];
  turn?: number;
  height?: number;
  hidden?: true;
}

/** A symbol of a point with a size of its own on the ground, or turned towards a second shot. */
export interface OwnSymbol {
  name: string;
  symbol: PointRef;
  /** Along where it is turned to, and across, in the job's unit. */
  size?: readonly [length: number, width: number];
  toward?: Anchor;
}

export type Added = LineMeasures | Dimension | Words | PlacedText | OwnSymbol;
