/** How lines are drawn, in millimetres on paper: the one definition for the sheet, for plans and for drawing files. */
import { reach, type Stroke } from "./strokes";

export interface LineStyle {
  name: string;
  /** What it looks like, in a few words. */
  about: string;
  /** Line weight, mm. */
  width: number;
  /** Lengths drawn and left out in turn, mm. */
  dash?: readonly number[];
  /** Parallel strokes at these distances to the left, mm; one on the line itself by default. */
  rails?: readonly number[];
  marks?: Marks;
}

/** Strokes repeated along the line: x ahead, y to the left, mm. */
export interface Marks {
  every: number;
  /** Distance of the first from the line's start; half of `every` by default. */
  first?: number;
  strokes: readonly Stroke[];
  /** Drawn instead of `strokes` at every second position. */
  second?: readonly Stroke[];
}

const tick = (length: number): Stroke => ({ path: [0, 0, 0, -length] });

export const LINE_STYLES: readonly LineStyle[] = [
  { name: "solid", about: "an unbroken line", width: 0.35 },
  { name: "fine", about: "an unbroken thin line", width: 0.18 },
  { name: "heavy", about: "an unbroken thick line", width: 0.6 },
  { name: "dash", about: "short dashes", width: 0.3, dash: [2, 1.2] },
  { name: "long-dash", about: "long dashes", width: 0.3, dash: [5, 1.5] },
  { name: "dot", about: "dots", width: 0.35, dash: [0.35, 1.1] },
  { name: "dash-dot", about: "a dash and a dot in turn", width: 0.3, dash: [4, 1, 0.4, 1] },
  { name: "dash-dot-dot", about: "a dash and two dots in turn", width: 0.3, dash: [4, 0.9, 0.4, 0.9, 0.4, 0.9] },
  { name: "double", about: "two lines side by side", width: 0.3, rails: [0.5, -0.5] },
  { name: "double-dash", about: "two broken lines side by side", width: 0.3, dash: [2, 1], rails: [0.5, -0.5] },
  {
    name: "stones",
    about: "two lines with cross strokes, as courses of a wall",
    width: 0.25,
    rails: [0.6, -0.6],
    marks: { every: 2.6, strokes: [{ path: [0, 0.6, 0, -0.6] }] },
  },
  { name: "ticks", about: "short ticks to the right", width: 0.3, marks: { every: 2.5, strokes: [tick(1.2)] } },
  {
    name: "slope",
    about: "long and short strokes to the right, down the slope",
    width: 0.3,
    marks: { every: 1.6, first: 0.8, strokes: [tick(2.6)], second: [tick(1.2)] },
  },
  {
    name: "teeth",
    about: "solid teeth to the right",
    width: 0.3,
    marks: { every: 3, strokes: [{ path: [-0.6, 0, 0.6, 0, 0, -1.1], closed: true, filled: true }] },
  },
  {
    name: "bars",
    about: "bars across the line",
    width: 0.3,
    marks: { every: 3, strokes: [{ path: [0, 0.8, 0, -0.8] }] },
  },
  {
    name: "crosses",
    about: "slanted crosses on the line",
    width: 0.3,
    marks: { every: 5, strokes: [{ path: [-0.6, 0.6, 0.6, -0.6] }, { path: [-0.6, -0.6, 0.6, 0.6] }] },
  },
  {
    name: "posts",
    about: "solid posts on the line",
    width: 0.3,
    marks: { every: 5, strokes: [{ at: [0, 0], radius: 0.4, filled: true }] },
  },
  {
    name: "beads",
    about: "open rings on the line",
    width: 0.3,
    dash: [4, 1.2],
    marks: { every: 5.2, first: 4.6, strokes: [{ at: [0, 0], radius: 0.5 }] },
  },
  {
    name: "leaves",
    about: "lobes on either side in turn, as of a hedge",
    width: 0.3,
    marks: {
      every: 2,
      first: 1,
      strokes: [{ at: [0, 0], radius: 0.95, from: 0, to: 180 }],
      second: [{ at: [0, 0], radius: 0.95, from: 180, to: 360 }],
    },
  },
  {
    name: "ripples",
    about: "small waves to the right, as of water",
    width: 0.3,
    marks: { every: 4, strokes: [{ path: [-0.9, -0.7, -0.45, -0.45, 0, -0.7, 0.45, -0.95, 0.9, -0.7] }] },
  },
  {
    name: "flow",
    about: "arrows along the line's direction",
    width: 0.3,
    marks: { every: 8, strokes: [{ path: [-0.7, 0.55, 0.7, 0, -0.7, -0.55] }] },
  },
  {
    name: "spans",
    about: "long dashes with a ring between, as of a cable overhead",
    width: 0.25,
    dash: [7, 2],
    marks: { every: 9, first: 8, strokes: [{ at: [0, 0], radius: 0.45 }] },
  },
];

const byName = new Map(LINE_STYLES.map((s) => [s.name, s]));

/** How far a style's strokes stand out beside the line, mm. */
export function styleReach(s: LineStyle): number {
  return Math.max(
    0,
    ...(s.rails ?? []).map(Math.abs),
    reach([...(s.marks?.strokes ?? []), ...(s.marks?.second ?? [])]),
  );
}

export function isLineStyle(name: string): boolean {
  return byName.has(name);
}

/** The style of a name; a plain line for one that is not known. */
export function lineStyle(name: string | undefined): LineStyle {
  return byName.get(name ?? "solid") ?? LINE_STYLES[0]!;
}
