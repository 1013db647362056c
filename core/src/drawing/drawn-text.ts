/** Texts as they stand on the drawing at one scale. */

export interface DrawnText {
  lines: string[];
  /** Centre of the text's box. */
  e: number;
  n: number;
  /** Turned left, radians. */
  angle: number;
  /** How its lines stand within the box, whose half width follows, mm. */
  align: -1 | 0 | 1;
  halfWidth: number;
  /** Font size, mm. */
  height: number;
  color: string | undefined;
  is: "note" | "point" | "contour" | "added";
  /** Layer of the code that a note belongs to; of a contour's label its surface. */
  layer: string;
  /** Row of the point, or index of the line, that it speaks of; −1 where it speaks of none. */
  point: number;
  line: number;
  /** E, N, E, N. */
  leader?: [number, number, number, number];
  /** Of an addition, or of a text placed by hand, the addition's name. */
  added?: string;
  /** Where it belongs: its point, the middle of its stretch of a line, or of a contour where it stood by itself. */
  base?: [e: number, n: number];
  /** Of a note the code whose note it is. */
  code?: string;
  /** Of a note that is repeated along its line, which time this is; of measures along a line, that of which piece. */
  time?: number;
}

/** A text that found no place. */
export interface Unplaced {
  text: string;
  is: "note" | "point";
  point: number;
  line: number;
}

export interface Layout {
  /** Job units for one mm of paper: the scale that it was made for. */
  unitsPerMm: number;
  texts: DrawnText[];
  unplaced: Unplaced[];
  /** Notes and measures along lines in all, and labels of points in all; a repeated note counts each time. */
  notes: number;
  labels: number;
  /** Lines that additions are drawn with: E, N, E, N. */
  strokes: { added: string; way: [number, number, number, number] }[];
  /** Texts placed by hand that meet one placed before them, by the names of their additions: that one, this one. */
  collisions: [string, string][];
  /** Additions that speak of points or lines that are not there any more, by name. */
  lost: readonly string[];
  /** Notes or labels of points are left out: more than the paper could hold at this scale. */
  crowded: boolean;
}

/** What a text speaks of, as far as it speaks of anything. */
export type About = Partial<Pick<DrawnText, "point" | "line" | "added" | "time" | "base" | "code">>;
