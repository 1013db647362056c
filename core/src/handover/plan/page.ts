/**
 * Pages as lists of marks, apart from how they are put on paper: PDF and the picture on the bench draw the same.
 * Lengths in mm from the lower left corner of the paper, y upwards; angles in radians, turning left.
 */
export type Mark =
  | PathMark
  | RoundMark
  | TextMark
  /** From here on only what lies in this rectangle is drawn, until `unclip`. */
  | { is: "clip"; x: number; y: number; width: number; height: number }
  | { is: "unclip" };

/** How a mark is inked; colours as #rrggbb, weights in mm. */
export interface Ink {
  stroke?: string;
  width?: number;
  dash?: readonly number[];
  fill?: string;
}

export interface PathMark extends Ink {
  is: "path";
  /** x, y, x, y, … */
  xy: ArrayLike<number>;
  closed?: boolean;
}

/** A circle, or an arc of it from one angle to another, turning left. */
export interface RoundMark extends Ink {
  is: "round";
  x: number;
  y: number;
  radius: number;
  from?: number;
  to?: number;
}

export interface TextMark {
  is: "text";
  text: string;
  /** Where its baseline begins (−1), has its middle (0) or ends (1). */
  x: number;
  y: number;
  align: -1 | 0 | 1;
  /** Font size, and its width where it must not be wider. */
  size: number;
  angle?: number;
  color: string;
  bold?: boolean;
}

export interface Page {
  name: string;
  width: number;
  height: number;
  marks: Mark[];
}

export const INK = "#2b2326",
  SOFT = "#6f6266",
  RULE = "#b9adb0";

export const line = (x0: number, y0: number, x1: number, y1: number, width = 0.13, stroke = INK): PathMark => ({
  is: "path",
  xy: [x0, y0, x1, y1],
  stroke,
  width,
});

export const box = (b: Rectangle, width = 0.25, stroke = INK): PathMark => ({
  is: "path",
  xy: [b.x, b.y, b.x + b.width, b.y, b.x + b.width, b.y + b.height, b.x, b.y + b.height],
  closed: true,
  stroke,
  width,
});

export const label = (
  text: string,
  x: number,
  y: number,
  size: number,
  more: Partial<Pick<TextMark, "align" | "angle" | "color" | "bold">> = {},
): TextMark => ({ is: "text", text, x, y, size, align: -1, color: INK, ...more });

export interface Rectangle {
  x: number;
  y: number;
  width: number;
  height: number;
}
