/** Which part of the job stands on which sheet of paper: paper, scale, turn, and the windows of the sheets. */
import { PLAN_SCALES } from "../../drawing/scales";
import { refusal } from "../../errors";
import type { Paper } from "../model";
import type { PlanFile } from "../files";
import type { Rectangle } from "./page";

/** Paper in mm, upright. */
export const PAPERS: Record<Paper, readonly [short: number, long: number]> = {
  A4: [210, 297],
  A3: [297, 420],
  A2: [420, 594],
  A1: [594, 841],
  A0: [841, 1189],
};

/** Round the frame of a sheet, and within it round the field for the labels of the grid. */
const MARGIN = 10,
  BAND = 6,
  /** What stands beside the field, or under it where the paper is narrow. */
  COLUMN = 62,
  NARROW = 280,
  FOOT = 74,
  /** Sheets of one plan show this much of one another. */
  OVERLAP = 10,
  MOST_SHEETS = 100;

export interface SheetFrame {
  width: number;
  height: number;
  /** Round all that is printed. */
  frame: Rectangle;
  /** The plan itself. */
  field: Rectangle;
  /** Title block, legend, key plan. */
  aside: Rectangle;
  /** The aside is a band under the field. */
  below: boolean;
}

export function frameOf({ paper = "A3", upright = false }: Pick<PlanFile, "paper" | "upright">): SheetFrame {
  const [short, long] = PAPERS[paper],
    [width, height] = upright ? [short, long] : [long, short],
    frame = { x: MARGIN, y: MARGIN, width: width - 2 * MARGIN, height: height - 2 * MARGIN },
    below = width < NARROW;
  const aside = below ? { ...frame, height: FOOT } : { ...frame, x: frame.x + frame.width - COLUMN, width: COLUMN },
    room = below
      ? { ...frame, y: frame.y + FOOT, height: frame.height - FOOT }
      : { ...frame, width: frame.width - COLUMN };
  const field = { x: room.x + BAND, y: room.y + BAND, width: room.width - 2 * BAND, height: room.height - 2 * BAND };
  return { width, height, frame, field, aside, below };
}

/** East and north of what the plan is of, pairs; enough of them to know how far it reaches. */
export type Reach = Float64Array;

/** A plan turned about a position: x to the right and y up the paper, in the job's unit. */
export interface Turned {
  /** Clockwise, radians. */
  turn: number;
  about: readonly [e: number, n: number];
}

export function onPaper({ turn, about: [oe, on] }: Turned): (e: number, n: number) => [x: number, y: number] {
  const cos = Math.cos(turn),
    sin = Math.sin(turn);
  return (e, n) => [(e - oe) * cos + (n - on) * sin, (n - on) * cos - (e - oe) * sin];
}

/** The way back: the job's coordinates of a position on the turned plan. */
export function fromPaper({ turn, about: [oe, on] }: Turned): (x: number, y: number) => [e: number, n: number] {
  const cos = Math.cos(turn),
    sin = Math.sin(turn);
  return (x, y) => [oe + x * cos - y * sin, on + x * sin + y * cos];
}

interface Box {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

function boxOn(reach: Reach, turned: Turned): Box {
  const put = onPaper(turned),
    b: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (let k = 0; k < reach.length; k += 2) {
    const [x, y] = put(reach[k]!, reach[k + 1]!);
    b.minX = Math.min(b.minX, x);
    b.maxX = Math.max(b.maxX, x);
    b.minY = Math.min(b.minY, y);
    b.maxY = Math.max(b.maxY, y);
  }
  return b;
}

/** A field of the plan on one sheet: its lower left corner on the turned plan, in the job's unit. */
export interface SheetWindow {
  x: number;
  y: number;
}

export interface Sheets {
  frame: SheetFrame;
  turned: Turned;
  scale: number;
  /** Job units for a millimetre of paper. */
  unitsPerMm: number;
  windows: SheetWindow[];
}

/** Air round the job where it is fitted, as a share of its size. */
const AIR = 1.03;

/**
 * The sheets of a plan. `metres` are those in the job's unit; `isThere` tells whether a field has anything in it, so
 * that no empty sheet is printed.
 */
export function sheetsOf(
  file: PlanFile,
  reach: Reach,
  metres: number,
  isThere: (x: number, y: number, width: number, height: number, turned: Turned) => boolean,
): Sheets {
  const frame = frameOf(file),
    plain = boxOn(reach, { turn: 0, about: [0, 0] });
  if (plain.minX > plain.maxX) throw refusal("plan-empty", { file: file.file });
  const about = file.at ?? ([(plain.minX + plain.maxX) / 2, (plain.minY + plain.maxY) / 2] as const);
  const needed = (turn: number) => {
    const b = boxOn(reach, { turn, about });
    return AIR * Math.max((b.maxX - b.minX) / frame.field.width, (b.maxY - b.minY) / frame.field.height);
  };
  const turn = file.turn === "fit" ? bestTurn(needed) : ((file.turn ?? 0) * Math.PI) / 180,
    turned: Turned = { turn, about };
  const fits = needed(turn) * 1000 * metres,
    scale = file.scale ?? PLAN_SCALES.find((s) => s >= fits) ?? Math.ceil(fits / 1000) * 1000,
    unitsPerMm = scale / 1000 / metres,
    [width, height] = [frame.field.width * unitsPerMm, frame.field.height * unitsPerMm];
  const sheets = { frame, turned, scale, unitsPerMm };
  if (!file.several) {
    // In the middle of the job, or where it was put.
    const b = boxOn(reach, turned),
      [x, y] = file.at ? [0, 0] : [(b.minX + b.maxX) / 2, (b.minY + b.maxY) / 2];
    return { ...sheets, windows: [{ x: x - width / 2, y: y - height / 2 }] };
  }
  const b = boxOn(reach, turned),
    step = [width - OVERLAP * unitsPerMm, height - OVERLAP * unitsPerMm] as const,
    // What lies in the last millimetres needs no sheet more.
    count = (size: number, whole: number, by: number) => Math.max(1, Math.ceil((size - whole) / by - 1e-6) + 1),
    across = count(b.maxX - b.minX, width, step[0]),
    down = count(b.maxY - b.minY, height, step[1]);
  if (across * down > MOST_SHEETS)
    throw refusal("plan-sheets", { file: file.file, sheets: across * down, limit: MOST_SHEETS, scale });
  const from = {
      x: (b.minX + b.maxX) / 2 - ((across - 1) * step[0] + width) / 2,
      y: (b.minY + b.maxY) / 2 - ((down - 1) * step[1] + height) / 2,
    },
    windows: SheetWindow[] = [];
  // As one reads: rows from the top, each from the left.
  for (let row = down - 1; row >= 0; row--)
    for (let column = 0; column < across; column++) {
      const [x, y] = [from.x + column * step[0], from.y + row * step[1]];
      if (isThere(x, y, width, height, turned)) windows.push({ x, y });
    }
  return { ...sheets, windows };
}

/** The turn of whole degrees within a quarter either way that needs the least paper; the smallest of equals. */
function bestTurn(needed: (turn: number) => number): number {
  let best = 0,
    least = needed(0);
  for (let degrees = 1; degrees < 90; degrees++)
    for (const sign of [1, -1]) {
      const turn = (sign * degrees * Math.PI) / 180,
        paper = needed(turn);
      if (paper < least * (1 - 1e-6)) [best, least] = [turn, paper];
    }
  return best;
}
