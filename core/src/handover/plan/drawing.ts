/** The plan within a field of a sheet: contours, lines in their styles, symbols, texts, as marks on the paper. */
import { marksAlong, railOf } from "../../drawing/along";
import { displayList, type LineLook, type Primitive } from "../../drawing/display";
import { LabelGaps } from "../../drawing/gaps";
import type { DrawnText, Layout, LayoutSource } from "../../drawing/layout";
import type { LineStyle } from "../../drawing/line-styles";
import { baselines } from "../../drawing/stand";
import { isPath, placed, type Stroke } from "../../drawing/strokes";
import { CONTOUR_WEIGHT, INDEX_WEIGHT, lookOfSurface } from "../../drawing/surface-look";
import type { Contours } from "../../surface/contour";
import { INK, label, line, type Ink, type Mark, type Rectangle } from "./page";
import type { SheetWindow } from "./sheets";

/** The drawing turned for the paper and laid out at its scale. */
export interface Drawn {
  source: LayoutSource;
  looks: readonly LineLook[];
  closed: readonly boolean[];
  layout: Layout;
  list: readonly Primitive[];
  gaps: ReadonlyMap<string, LabelGaps>;
  unitsPerMm: number;
}

export function drawnOf(
  source: LayoutSource,
  layout: Layout,
  lines: readonly (LineLook & { closed: boolean })[],
): Drawn {
  const { unitsPerMm } = layout,
    { symbols, drawing } = source;
  return {
    source,
    looks: lines,
    closed: lines.map((l) => l.closed),
    layout,
    list: displayList({ lines, symbols, layout, drawing, unitsPerMm }),
    gaps: new Map(source.contours.map((c) => [c.surface, new LabelGaps(layout, c.surface)])),
    unitsPerMm,
  };
}

/** Weight of the lines of dimensions, mm. */
const ADDED_WEIGHT = 0.18;

/** Colours of contours where the job says nothing. */
const CONTOUR = "#9b7b4f",
  INDEX = "#7a5a2e";

/** What lies in the field, the lowest first. Yields after each thousand of things drawn. */
export function* fieldMarks(d: Drawn, at: SheetWindow, field: Rectangle): Generator<void, Mark[]> {
  const { unitsPerMm } = d,
    marks: Mark[] = [{ is: "clip", ...field }];
  const put: Put = (x, y) => [field.x + (x - at.x) / unitsPerMm, field.y + (y - at.y) / unitsPerMm];
  const isIn = (x0: number, y0: number, x1: number, y1: number, reach: number) =>
    x1 >= field.x - reach &&
    x0 <= field.x + field.width + reach &&
    y1 >= field.y - reach &&
    y0 <= field.y + field.height + reach;
  for (const c of d.source.contours) contourMarks(d, c, put, isIn, marks);
  for (const { way } of d.layout.strokes) {
    const [x0, y0] = put(way[0], way[1]),
      [x1, y1] = put(way[2], way[3]);
    if (isIn(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1), 1))
      marks.push(line(x0, y0, x1, y1, ADDED_WEIGHT));
  }
  let count = 0;
  for (const p of d.list) {
    if (++count % 1000 === 0) yield;
    if (p.is === "text") textMarks(p.text, put, isIn, marks);
    else if (p.hidden) continue;
    else if (p.is === "line") lineMarks(d, p.line, p.style, p.look.color ?? INK, put, isIn, marks);
    else if (!p.look.shot) {
      const { table: t } = d.source,
        [x, y] = put(t.e[p.point]!, t.n[p.point]!);
      if (!isIn(x, y, x, y, p.size * Math.max(1, p.aspect))) continue;
      const ink = { stroke: p.look.color ?? INK, width: p.symbol.width };
      strokeMarks(p.strokes, p.size, (-p.turn * Math.PI) / 180, x, y, ink, marks);
      if (p.symbol.heart) strokeMarks(p.symbol.heart, 1, 0, x, y, ink, marks);
    }
  }
  marks.push({ is: "unclip" });
  return marks;
}

type Put = (x: number, y: number) => [number, number];
type IsIn = (x0: number, y0: number, x1: number, y1: number, reach: number) => boolean;

/** Strokes of a small frame, larger by a factor, turned and placed. */
export function strokeMarks(
  strokes: readonly Stroke[],
  factor: number,
  angle: number,
  x: number,
  y: number,
  { stroke, width }: Ink,
  marks: Mark[],
): void {
  for (const s of strokes) {
    const p = placed(s, factor, angle, x, y),
      ink = s.filled ? { fill: stroke } : { stroke, width };
    if (isPath(p)) marks.push({ is: "path", xy: p.path, closed: p.closed ?? p.filled, ...ink });
    else {
      const { at, radius, from, to } = p,
        turn = from === undefined ? {} : { from: (from * Math.PI) / 180, to: (to! * Math.PI) / 180 };
      marks.push({ is: "round", x: at[0], y: at[1], radius, ...turn, ...ink });
    }
  }
}

/** A way on the paper in a style: rails, dashes, marks. */
export function wayMarks(
  way: readonly number[],
  style: LineStyle,
  closed: boolean,
  color: string,
  marks: Mark[],
  isIn?: IsIn,
): void {
  const ink = { stroke: color, width: style.width, ...(style.dash ? { dash: style.dash } : {}) };
  for (const left of style.rails ?? [0])
    marks.push({ is: "path", xy: left === 0 ? way : railOf(way, left, closed), closed, ...ink });
  marksAlong(way, style, ({ x, y, angle }, second) => {
    if (isIn && !isIn(x, y, x, y, 5)) return;
    const strokes = second ? (style.marks!.second ?? style.marks!.strokes) : style.marks!.strokes;
    strokeMarks(strokes, 1, angle, x, y, ink, marks);
  });
}

function lineMarks(
  { source, closed }: Drawn,
  k: number,
  style: LineStyle,
  color: string,
  put: Put,
  isIn: IsIn,
  marks: Mark[],
): void {
  const { xyz, starts } = source.chains,
    way: number[] = [];
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let v = starts[k]!; v < starts[k + 1]!; v++) {
    const [x, y] = put(xyz[3 * v]!, xyz[3 * v + 1]!);
    way.push(x, y);
    [x0, x1] = [Math.min(x0, x), Math.max(x1, x)];
    [y0, y1] = [Math.min(y0, y), Math.max(y1, y)];
  }
  if (way.length >= 4 && isIn(x0, y0, x1, y1, 5)) wayMarks(way, style, closed[k]!, color, marks, isIn);
}

/** Contours are left open behind their labels. */
function contourMarks(d: Drawn, c: Contours, put: Put, isIn: IsIn, marks: Mark[]): void {
  const look = lookOfSurface(d.source.drawing, c.surface),
    gaps = d.gaps.get(c.surface)!;
  if (look.hidden) return;
  const inks = [
    { stroke: look.color ?? CONTOUR, width: look.weight ?? CONTOUR_WEIGHT },
    { stroke: look.indexColor ?? INDEX, width: look.indexWeight ?? INDEX_WEIGHT },
  ];
  const [ox, oy] = c.origin;
  for (let k = 0; k < c.level.length; k++) {
    const ink = inks[c.index[k]!]!;
    let way: number[] = [],
      [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    const flush = () => {
      if (way.length >= 4 && isIn(x0, y0, x1, y1, 1)) marks.push({ is: "path", xy: way, ...ink });
      way = [];
      [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    };
    const add = (x: number, y: number) => {
      way.push(x, y);
      [x0, x1] = [Math.min(x0, x), Math.max(x1, x)];
      [y0, y1] = [Math.min(y0, y), Math.max(y1, y)];
    };
    for (let v = c.starts[k]! + 1; v < c.starts[k + 1]!; v++) {
      const [ax, ay, bx, by] = [ox + c.xy[2 * v - 2]!, oy + c.xy[2 * v - 1]!, ox + c.xy[2 * v]!, oy + c.xy[2 * v + 1]!];
      for (const [from, to] of gaps.areNone ? WHOLE : gaps.outside(ax, ay, bx, by)) {
        if (from > 0 || way.length === 0) {
          flush();
          add(...put(ax + from * (bx - ax), ay + from * (by - ay)));
        }
        add(...put(ax + to * (bx - ax), ay + to * (by - ay)));
        if (to < 1) flush();
      }
    }
    flush();
  }
}
const WHOLE = [[0, 1]] as const;

function textMarks(t: DrawnText, put: Put, isIn: IsIn, marks: Mark[]): void {
  const [x, y] = put(t.e, t.n);
  if (!isIn(x, y, x, y, t.halfWidth + t.height * t.lines.length)) return;
  const color = t.color ?? (t.is === "contour" ? INDEX : INK);
  if (t.leader) marks.push(line(...put(t.leader[0], t.leader[1]), ...put(t.leader[2], t.leader[3]), 0.13, color));
  const c = Math.cos(t.angle),
    s = Math.sin(t.angle),
    side = t.align * t.halfWidth;
  baselines(t.lines.length, t.height).forEach((up, k) =>
    marks.push(
      label(t.lines[k]!, x + side * c - up * s, y + side * s + up * c, t.height, {
        align: t.align,
        angle: t.angle,
        color,
      }),
    ),
  );
}
