/** What stands beside the plan: title block, north point and scale bar, legend, key plan. */
import type { CodeBook } from "../../codes/model";
import { lineStyle } from "../../drawing/line-styles";
import { symbolOf } from "../../drawing/symbols";
import { roundStep } from "../../math/round-step";
import { textWidth } from "../../drawing/text-width";
import type { Unit } from "../../math/units";
import { strokeMarks, wayMarks } from "./drawing";
import { box, INK, label, line, RULE, SOFT, type Mark, type Rectangle } from "./page";
import type { Sheets } from "./sheets";

/** Rows of the title block: what, and its value. */
export type TitleRows = readonly [what: string, value: string][];

const ROW = 5.2,
  HEAD = 9;

/** The title block at the bottom of a rectangle; gives how high it is. */
export function titleBlock(
  r: Rectangle,
  name: string,
  title: string,
  rows: TitleRows,
  sign: readonly string[],
  marks: Mark[],
): number {
  const height = HEAD + 6 + ROW * rows.length + 7 * sign.length;
  let y = r.y + height;
  marks.push(line(r.x, y, r.x + r.width, y, 0.5));
  y -= HEAD - 2.6;
  marks.push(label(fitted(name, r.width - 5, 4.4), r.x + 2.5, y, 4.4, { bold: true }));
  y -= 5;
  marks.push(label(fitted(title, r.width - 5, 3), r.x + 2.5, y, 3, { color: SOFT }));
  y -= 3.4;
  for (const [what, value] of rows) {
    marks.push(line(r.x, y, r.x + r.width, y, 0.13, RULE));
    marks.push(label(what, r.x + 2.5, y - ROW + 1.6, 2, { color: SOFT }));
    marks.push(label(fitted(value, r.width - 25, 2.5), r.x + 22, y - ROW + 1.5, 2.5));
    y -= ROW;
  }
  for (const what of sign) {
    marks.push(line(r.x, y, r.x + r.width, y, 0.13, RULE));
    marks.push(label(what, r.x + 2.5, y - 5.2, 2, { color: SOFT }));
    y -= 7;
  }
  return height;
}

/** A text that is no wider than so many mm; what is too long ends with an ellipsis. */
export function fitted(text: string, width: number, size: number): string {
  if (textWidth(text) * size <= width) return text;
  let end = text.length;
  while (end > 1 && textWidth(`${text.slice(0, end)}…`) * size > width) end--;
  return `${text.slice(0, end).trimEnd()}…`;
}

/** The direction of north as a split needle of our own with its letter. */
export function northPoint(x: number, y: number, turn: number, marks: Mark[]): void {
  const at = (px: number, py: number): [number, number] => [
    x + px * Math.cos(turn) + py * Math.sin(turn),
    y + py * Math.cos(turn) - px * Math.sin(turn),
  ];
  marks.push({ is: "path", xy: [...at(0, 7), ...at(-2, -5), ...at(0, -3)], closed: true, fill: INK });
  marks.push({ is: "path", xy: [...at(0, 7), ...at(2, -5), ...at(0, -3)], closed: true, stroke: INK, width: 0.18 });
  marks.push(label("N", ...at(0, 8.4), 3, { align: 0, angle: -turn, bold: true }));
}

const UNIT_WORDS: Record<Unit, string> = { m: "m", ft: "ft", ftUS: "US survey ft" };

/** A bar of round parts, every second one solid; as wide as there is room at most. */
export function scaleBar(x: number, y: number, width: number, unitsPerMm: number, unit: Unit, marks: Mark[]): void {
  const [part, count] = barParts(width * unitsPerMm),
    mm = part / unitsPerMm,
    high = 1.5;
  for (let k = 0; k < count; k++) {
    const r = { x: x + k * mm, y, width: mm, height: high };
    marks.push(box(r, 0.18));
    if (k % 2 === 0) marks.push({ ...box(r, 0.18), stroke: undefined, fill: INK });
  }
  for (const k of [0, 1, count])
    marks.push(label(plain(k * part), x + k * mm, y + high + 1, 2.2, { align: k === 0 ? -1 : 0 }));
  marks.push(label(UNIT_WORDS[unit], x + count * mm + 1.5, y, 2.2));
}

/** The longest bar of two to five round parts within a length. */
function barParts(most: number): [part: number, count: number] {
  let best: [number, number] = [most / 2, 2],
    longest = 0;
  for (let part = roundStep(most / 50); part <= most / 2; part = roundStep(part * 1.01)) {
    const count = Math.min(5, Math.floor(most / part + 1e-9));
    if (count * part > longest * (1 + 1e-9)) [best, longest] = [[part, count], count * part];
  }
  return best;
}

const plain = (x: number) => String(Number(x.toPrecision(6)));

export interface LegendEntry {
  name: string;
  color: string;
  /** Style of a line, or symbol of a point. */
  style?: string;
  symbol?: string;
  /** A sample of a contour: its weight. */
  weight?: number;
}

/** Entries of the codes that are drawn, in the book's order; lines first. */
export function legendEntries(book: CodeBook, lines: ReadonlySet<string>, points: ReadonlySet<string>): LegendEntry[] {
  const of = (kind: "line" | "point") =>
    (book.codes ?? []).flatMap((c): LegendEntry[] => {
      const isLine = (c.kind ?? "point") !== "point";
      if (isLine !== (kind === "line") || !(isLine ? lines : points).has(c.code.toUpperCase())) return [];
      return [
        {
          name: c.name ?? c.code,
          color: c.color ?? INK,
          ...(isLine ? { style: c.style ?? "solid" } : { symbol: c.symbol ?? "spot" }),
        },
      ];
    });
  return [...of("line"), ...of("point")];
}

const LEGEND_ROW = 5.2,
  LEAST_ROW = 3.6,
  LEAST_COLUMN = 38;

/** Entries from the top of a rectangle down, in columns; gives how many found room, and how high they are together. */
export function legend(
  r: Rectangle,
  entries: readonly LegendEntry[],
  marks: Mark[],
): { shown: number; height: number } {
  if (entries.length === 0 || r.height < 2 * LEAST_ROW) return { shown: 0, height: 0 };
  marks.push(label("Legend", r.x + 2.5, r.y + r.height - 4.4, 2.8, { bold: true }));
  const top = r.y + r.height - 7,
    most = Math.max(1, Math.floor((top - r.y) / LEAST_ROW)),
    columns = Math.max(1, Math.min(Math.ceil(entries.length / most), Math.floor(r.width / LEAST_COLUMN))),
    perColumn = Math.ceil(entries.length / columns),
    row = Math.max(LEAST_ROW, Math.min(LEGEND_ROW, (top - r.y) / perColumn)),
    room = Math.max(0, Math.floor((top - r.y) / row)),
    each = Math.min(room, perColumn),
    width = r.width / columns;
  const shown = Math.min(entries.length, each * columns);
  for (let k = 0; k < shown; k++) {
    const x = r.x + Math.floor(k / each) * width,
      y = top - (k % each) * row - row / 2;
    sample(entries[k]!, x + 2.5, y, marks);
    marks.push(label(fitted(entries[k]!.name, width - 20, 2.3), x + 18, y - 0.8, 2.3));
  }
  return { shown, height: 7 + Math.min(each, shown) * row };
}

function sample({ style, symbol, color, weight }: LegendEntry, x: number, y: number, marks: Mark[]): void {
  if (weight !== undefined) marks.push(line(x, y, x + 12, y, weight, color));
  else if (style !== undefined) wayMarks([x, y, x + 12, y], lineStyle(style), false, color, marks);
  else {
    const s = symbolOf(symbol!) ?? symbolOf("spot")!,
      ink = { stroke: color, width: s.width };
    strokeMarks(s.strokes, Math.min(3.4, s.size), 0, x + 6, y, ink, marks);
    if (s.heart) strokeMarks(s.heart, 1, 0, x + 6, y, ink, marks);
  }
}

/** All sheets beside one another, this one marked; from the top of a rectangle down. Gives how high it is. */
export function keyPlan(r: Rectangle, { windows, frame, unitsPerMm }: Sheets, current: number, marks: Mark[]): number {
  const [w, h] = [frame.field.width * unitsPerMm, frame.field.height * unitsPerMm],
    minX = Math.min(...windows.map((v) => v.x)),
    minY = Math.min(...windows.map((v) => v.y)),
    maxX = Math.max(...windows.map((v) => v.x)) + w,
    maxY = Math.max(...windows.map((v) => v.y)) + h,
    factor = Math.min((r.width - 8) / (maxX - minX), 40 / (maxY - minY)),
    height = (maxY - minY) * factor;
  marks.push(label("Sheets", r.x + 2.5, r.y + r.height - 4.4, 2.8, { bold: true }));
  const bottom = r.y + r.height - 7 - height;
  windows.forEach((v, k) => {
    const b = {
      x: r.x + 4 + (v.x - minX) * factor,
      y: bottom + (v.y - minY) * factor,
      width: w * factor,
      height: h * factor,
    };
    if (k === current) marks.push({ ...box(b), stroke: undefined, fill: "#ecd3df" });
    marks.push(box(b, 0.18, k === current ? INK : SOFT));
    marks.push(
      label(String(k + 1), b.x + b.width / 2, b.y + b.height / 2 - 1, 2.6, {
        align: 0,
        bold: k === current,
        color: k === current ? INK : SOFT,
      }),
    );
  });
  return height + 10;
}
