/** Lines as geometry: straight pieces and exact arcs between shots. Lengths in the job's unit, angles in radians. */
import type { CodeEntry } from "../codes/model";
import type { Numbers } from "../points/numbers";
import type { PointRef } from "../points/refs";

/** East, north, level; the level is NaN when it is not known. */
export type Position = readonly [number, number, number];

export interface StraightPiece {
  type: "straight";
  from: Position;
  to: Position;
  shots: number[];
}

export interface ArcPiece {
  type: "arc";
  from: Position;
  to: Position;
  center: readonly [number, number];
  radius: number;
  /** Signed angle in radians, + to the right (clockwise); ±2π for a full circle. */
  sweep: number;
  /** Levels known on the way, at their share of the sweep in [0, 1], rising; both ends included. */
  levels: readonly KnownLevel[];
  /** Table rows of the shots on the piece, both anchors included. */
  shots: number[];
}

/**
 * A level known on an arc, at a share of its sweep; with the shot that stands exactly on the arc there, if one does.
 */
export interface KnownLevel {
  share: number;
  level: number;
  shot?: { position: Position; index: number };
}

/** A piece of a smooth curve: position = from + c₁u + c₂u² + c₃u³ for u from 0 to 1, for east, north and level. */
export interface CurvePiece {
  type: "curve";
  from: Position;
  to: Position;
  cubic: readonly [CubicOf, CubicOf, CubicOf];
  shots: number[];
}
export type CubicOf = readonly [number, number, number];

/** `shots` of a piece are table rows; −1 stands for a corner that no shot made. */
export type Piece = StraightPiece | ArcPiece | CurvePiece;

export interface Line {
  /** Tells the line from all others of the job, and stays while its first shot and its run stay. */
  key: string;
  code: string;
  entry: CodeEntry;
  /** "" when the crew gave none. */
  run: string;
  /** Index of the intake. */
  intake: number;
  /**
   * Table rows of its shots in order; a closed line does not repeat the first. Made corners and parallels have none.
   */
  shots: number[];
  /** What steers each shot (`via`, `flow` …) as it was carried out or asked for; none when no shot is steered. */
  steering?: string[];
  /** Of a line drawn by hand its name. */
  hand?: string;
  closed: boolean;
  pieces: Piece[];
  length: number;
  /** NaN when a level on the way is not known. */
  slopeLength: number;
  area?: number;
  /** Of a parallel: the line that it runs beside. */
  companion?: { of: Line; right: number; up: number };
}

/** `HEDGE 2`, or `HEDGE` for the run without a number. */
export function lineName(line: Pick<Line, "code" | "run">): string {
  return line.run ? `${line.code} ${line.run}` : line.code;
}

/** A line drawn by hand: its code with the run, its points in order, cue words by point. The name tells it from others. */
export interface HandLine {
  name?: string;
  code: string;
  points: readonly PointRef[];
  cues?: Record<PointRef, string>;
  closed?: boolean;
  /** Its own, as `#8a5a2b`. */
  color?: string;
}

/** As a recipe says it: a list of numbers, cue words by number. */
export type HandLineGiven = Omit<HandLine, "points"> & { points: Numbers };
