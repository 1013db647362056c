/** The colours that points and lines have now: faint where others are shown alone, by meaning where one is chosen. */
import type { SheetState } from "./state";
import { meaningOf } from "./meaning";
import { hex, onSheet, rgbText, type SheetColors } from "../lib/theme";

type Rgb = [number, number, number];

export interface LookNow {
  /** The colour of a row or line in place of its code's; undefined for that. */
  point(row: number): Rgb | undefined;
  line(index: number): Rgb | undefined;
  /** Whether it is among those that are shown alone; all are where nothing is. */
  isPointShown(row: number): boolean;
  isLineShown(index: number): boolean;
  /** Some are shown alone. */
  isAlone: boolean;
  /** The colour of what belongs to no point or line, where some are shown alone. */
  faint: string | undefined;
}

/** How much of what is faint is the sheet itself. */
const FAINT = 0.82;

function faint(color: Rgb, sheet: Rgb): Rgb {
  return color.map((c, k) => c * (1 - FAINT) + sheet[k]! * FAINT) as Rgb;
}

/** Contours and edges behind what is shown alone. */
export function faintGround(colors: SheetColors): SheetColors {
  const sheet = hex(colors.sheet) as Rgb,
    of = (color: string) => rgbText(faint(hex(color) as Rgb, sheet));
  return { ...colors, contour: of(colors.contour), contourIndex: of(colors.contourIndex), edge: of(colors.edge) };
}

/** Undefined where everything looks as its code says. */
export function lookOf(
  s: Pick<SheetState, "job" | "view" | "onlyRows" | "colorBy" | "setRows">,
  colors: SheetColors,
): LookNow | undefined {
  const meaning = meaningOf(s.colorBy, s),
    rows = s.onlyRows?.length === s.job.points.count ? s.onlyRows : undefined;
  if (!meaning && !rows) return undefined;
  const sheet = hex(colors.sheet) as Rgb,
    grey = faint(hex(colors.soft) as Rgb, sheet),
    palette = meaning?.classes.map((c) => onSheet(c.color, colors.dark));
  const isPointShown = (i: number) => !rows || rows[i] === 1,
    isLineShown = (l: number) => !rows || s.view.lines[l]!.shots.some((i) => rows[i] === 1);
  return {
    point: (i) => (isPointShown(i) ? palette?.[meaning!.of[i]!] : grey),
    line: (l) => (isLineShown(l) ? palette?.[meaning!.ofLine(l)] : grey),
    isPointShown,
    isLineShown,
    isAlone: rows !== undefined,
    faint: rows && rgbText(grey),
  };
}
