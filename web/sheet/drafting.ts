/**
 * The drawing as a drafter would have it: lines in their styles, symbols, notes. On a 2D canvas, from the core's one
 * definition of appearance.
 */
import { marksAlong, railOf, wayLength } from "@bramble/core/drawing/along";
import { displayList, type LinePrimitive, type SymbolPrimitive } from "@bramble/core/drawing/display";
import type { DrawnText, Layout } from "@bramble/core/drawing/layout";
import { isDrawn } from "@bramble/core/drawing/order";
import type { LineStyle, Marks } from "@bramble/core/drawing/line-styles";
import { lookOfSurface } from "@bramble/core/drawing/surface-look";
import { baselines } from "@bramble/core/drawing/stand";
import { isPath, type Stroke } from "@bramble/core/drawing/strokes";
import type { DrawingSettings } from "@bramble/core";
import type { PointTable } from "@bramble/core/points/table";
import type { View } from "../lib/view";
import { isWhole, toPixel, toPlan, type PlanView } from "./camera";
import { linesNear } from "./pick";
import type { LookNow } from "./look-now";
import { onSheet, type SheetColors } from "../lib/theme";

/** Beyond these numbers in sight lines and symbols are drawn plainly. */
const MOST_SYMBOLS = 6000,
  MOST_VERTICES = 40_000;

export interface Drafting {
  plan: PlanView;
  colors: SheetColors;
  table: PointTable;
  view: View;
  drawing: DrawingSettings;
  /** Job units for a millimetre of paper. */
  unitsPerMm: number;
  layout: Layout | undefined;
  show: { points: boolean; lines: boolean; shots: boolean };
  /** Colours other than those of the codes, and what is faint. */
  look: LookNow | undefined;
  /** Texts that the window or its margin would cut are left out; else they are cut. */
  onlyWhole: boolean;
}

export interface InSight {
  symbols: Int32Array;
  lines: number[];
  fineSymbols: boolean;
  fineLines: boolean;
  /** Of the lines in the window. */
  vertices: number;
}

/** What of the drawing is in the window, and whether it is little enough to be drawn finely. */
export function inSight(view: View, t: PointTable, plan: PlanView, drawing: DrawingSettings): InSight {
  const margin = 30,
    [minE, maxN] = toPlan(plan, -margin, -margin),
    [maxE, minN] = toPlan(plan, plan.width + margin, plan.height + margin);
  const { symbols } = view,
    drawn = symbols.looks.map((l) => isDrawn(l, drawing.hidden));
  const found = new Int32Array(MOST_SYMBOLS);
  let count = 0,
    fineSymbols = true;
  for (let k = 0; k < symbols.point.length; k++) {
    const i = symbols.point[k]!,
      e = t.e[i]!,
      n = t.n[i]!;
    // A crown may reach into the window from outside.
    const r = symbols.ground[k]! > 0 ? (symbols.ground[k]! / 2) * Math.max(1, symbols.aspect?.get(k) ?? 1) : 0;
    if (!(e >= minE - r && e <= maxE + r && n >= minN - r && n <= maxN + r) || !drawn[symbols.look[k]!]) continue;
    if (count === MOST_SYMBOLS) {
      fineSymbols = false;
      break;
    }
    found[count++] = k;
  }
  const lines = linesNear(view.chains)
    .search(minE, minN, maxE, maxN)
    .filter((k) => isDrawn(view.lines[k]!, drawing.hidden))
    .sort((a, b) => a - b);
  const vertices = lines.reduce((sum, k) => sum + view.chains.starts[k + 1]! - view.chains.starts[k]!, 0);
  // Until the codes are read points are plain.
  if (symbols.point.length === 0) fineSymbols = false;
  return { symbols: found.subarray(0, count), lines, fineSymbols, fineLines: vertices <= MOST_VERTICES, vertices };
}

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

export function drawDrafting(ctx: Context, d: Drafting, sight: InSight): void {
  const steps = draftSteps(ctx, d, sight);
  while (!steps.next().done);
}

/** The same, one primitive after another. */
export function* draftSteps(ctx: Context, d: Drafting, sight: InSight): Generator<void, void> {
  const pxPerMm = d.unitsPerMm * d.plan.scale;
  const list = displayList(
    { lines: d.view.lines, symbols: d.view.symbols, layout: d.layout, drawing: d.drawing, unitsPerMm: d.unitsPerMm },
    d.show.lines && sight.fineLines ? sight.lines : [],
    d.show.points && sight.fineSymbols ? sight.symbols : [],
  );
  const spots = new Spots(ctx);
  ctx.lineCap = ctx.lineJoin = "round";
  drawStrokesOf(ctx, d, pxPerMm);
  for (const p of list) {
    if (p.is !== "symbol") spots.stroke();
    if (p.is === "text") drawText(ctx, d, p.text, d.layout!);
    else if (p.hidden) continue;
    else if (p.is === "line") drawLine(ctx, d, p, pxPerMm);
    else if (!p.look.shot || d.show.shots) drawSymbol(ctx, d, p, pxPerMm, spots);
    yield;
  }
  spots.stroke();
  ctx.setLineDash([]);
}

/** The lines of dimensions. */
function drawStrokesOf(ctx: Context, d: Drafting, pxPerMm: number): void {
  const strokes = d.layout?.strokes ?? [];
  if (strokes.length === 0) return;
  ctx.setLineDash([]);
  ctx.strokeStyle = d.look?.faint ?? d.colors.ink;
  ctx.lineWidth = Math.max(0.7, 0.18 * pxPerMm);
  ctx.beginPath();
  for (const { way } of strokes) {
    ctx.moveTo(...toPixel(d.plan, way[0], way[1]));
    ctx.lineTo(...toPixel(d.plan, way[2], way[3]));
  }
  ctx.stroke();
}

const cssOf = (color: string, dark: boolean) => cssOfRgb(onSheet(color, dark));

function cssOfRgb([r, g, b]: readonly [number, number, number]): string {
  return `rgb(${Math.round(r * 255)} ${Math.round(g * 255)} ${Math.round(b * 255)})`;
}

function drawLine(ctx: Context, d: Drafting, p: LinePrimitive, pxPerMm: number): void {
  const { xyz, starts } = d.view.chains,
    from = starts[p.line]!,
    to = starts[p.line + 1]!;
  if (to - from < 2) return;
  const way = new Float64Array(2 * (to - from));
  for (let v = from; v < to; v++) {
    const [x, y] = toPixel(d.plan, xyz[3 * v]!, xyz[3 * v + 1]!);
    way[2 * (v - from)] = x;
    way[2 * (v - from) + 1] = y;
  }
  const { closed, color } = d.view.lines[p.line]!,
    own = d.look?.line(p.line);
  strokeWay(
    ctx,
    way,
    p.style,
    closed,
    own ? cssOfRgb(own) : cssOf(color, d.colors.dark),
    pxPerMm,
    d.plan.width,
    d.plan.height,
  );
}

/** Strokes a way given in pixels (y downwards) in a style; also used for the swatches of the code book. */
export function strokeWay(
  ctx: Context,
  way: Float64Array | readonly number[],
  style: LineStyle,
  closed: boolean,
  color: string,
  pxPerMm: number,
  width: number,
  height: number,
): void {
  ctx.strokeStyle = ctx.fillStyle = color;
  ctx.lineWidth = Math.max(0.8, style.width * pxPerMm);
  // Seen from far away dashes and marks would only make a grey band.
  const fine = pxPerMm > 1.1;
  ctx.lineCap = style.dash ? "butt" : "round";
  ctx.setLineDash(fine && style.dash ? style.dash.map((x) => x * pxPerMm) : []);
  if (fine && wayLength(way) > LONG) return strokeInWindow(ctx, way, style, pxPerMm, width, height);
  for (const left of fine ? (style.rails ?? [0]) : [0]) {
    // On the screen y runs downwards, so that left of the way is at negative distances.
    const rail = left === 0 ? way : railOf(way, -left * pxPerMm, closed);
    ctx.beginPath();
    for (let i = 0; i < rail.length; i += 2) {
      if (i === 0) ctx.moveTo(rail[0]!, rail[1]!);
      else ctx.lineTo(rail[i]!, rail[i + 1]!);
    }
    if (closed) ctx.closePath();
    ctx.stroke();
  }
  ctx.setLineDash([]);
  ctx.lineCap = "round";
  const { marks } = style;
  if (!fine || !marks) return;
  const scaled: LineStyle = {
    ...style,
    marks: { ...marks, every: marks.every * pxPerMm, first: (marks.first ?? marks.every / 2) * pxPerMm },
  };
  marksAlong(way, scaled, ({ x, y, angle }, second) => {
    if (x < -20 || y < -20 || x > width + 20 || y > height + 20) return;
    drawMark(ctx, marks, x, y, angle, second, pxPerMm);
  });
}

function drawMark(
  ctx: Context,
  marks: Marks,
  x: number,
  y: number,
  angle: number,
  second: boolean,
  pxPerMm: number,
): void {
  ctx.save();
  ctx.translate(x, y);
  ctx.rotate(angle);
  drawStrokes(ctx, second ? (marks.second ?? marks.strokes) : marks.strokes, pxPerMm);
  ctx.restore();
}

/**
 * Pixels from which on only the part of a line in the window is gone along: seen from near, a line has marks and dashes
 * by the million.
 */
const LONG = 30_000;

/** The same strokes for the segments in the window alone; dashes and marks stand where they would on the whole line. */
function strokeInWindow(
  ctx: Context,
  way: Float64Array | readonly number[],
  style: LineStyle,
  pxPerMm: number,
  width: number,
  height: number,
): void {
  const margin = 60,
    { marks } = style,
    every = (marks?.every ?? 1) * pxPerMm,
    first = (marks?.first ?? (marks?.every ?? 0) / 2) * pxPerMm,
    dash = style.dash?.map((x) => x * pxPerMm) ?? [];
  for (let i = 2, gone = 0; i < way.length; i += 2) {
    const ax = way[i - 2]!,
      ay = way[i - 1]!,
      dx = way[i]! - ax,
      dy = way[i + 1]! - ay,
      step = Math.hypot(dx, dy);
    let t0 = 0,
      t1 = 1;
    for (const [p, d, most] of [
      [ax, dx, width],
      [ay, dy, height],
    ] as const) {
      const u = (-margin - p) / d,
        v = (most + margin - p) / d;
      if (d === 0) t1 = p < -margin || p > most + margin ? -1 : t1;
      else [t0, t1] = [Math.max(t0, Math.min(u, v)), Math.min(t1, Math.max(u, v))];
    }
    if (step > 0 && t0 < t1) {
      ctx.setLineDash(dash);
      ctx.lineDashOffset = gone + t0 * step;
      for (const left of style.rails ?? [0]) {
        const ox = (dy / step) * left * pxPerMm,
          oy = (-dx / step) * left * pxPerMm;
        ctx.beginPath();
        ctx.moveTo(ax + t0 * dx + ox, ay + t0 * dy + oy);
        ctx.lineTo(ax + t1 * dx + ox, ay + t1 * dy + oy);
        ctx.stroke();
      }
      ctx.setLineDash([]);
      if (marks)
        for (
          let k = Math.max(0, Math.ceil((gone + t0 * step - first) / every));
          first + k * every <= gone + t1 * step;
          k++
        ) {
          const t = (first + k * every - gone) / step;
          drawMark(ctx, marks, ax + t * dx, ay + t * dy, Math.atan2(dy, dx), k % 2 === 1, pxPerMm);
        }
    }
    gone += step;
  }
  ctx.lineDashOffset = 0;
  ctx.lineCap = "round";
}

/** Strokes of a frame whose y runs upwards, at the canvas's origin. */
export function drawStrokes(ctx: Context, strokes: readonly Stroke[], factor: number): void {
  for (const s of strokes) {
    ctx.beginPath();
    if (isPath(s)) {
      for (let i = 0; i < s.path.length; i += 2) {
        if (i === 0) ctx.moveTo(s.path[0]! * factor, -s.path[1]! * factor);
        else ctx.lineTo(s.path[i]! * factor, -s.path[i + 1]! * factor);
      }
      if (s.closed) ctx.closePath();
    } else {
      const rad = (deg: number) => (-deg * Math.PI) / 180;
      ctx.arc(s.at[0] * factor, -s.at[1] * factor, s.radius * factor, rad(s.from ?? 0), rad(s.to ?? 360), true);
    }
    if (s.filled) ctx.fill();
    else ctx.stroke();
  }
}

/** Spots are many and alike: those of one look in a row are one path. */
class Spots {
  private look: SymbolPrimitive["look"] | string | undefined;

  constructor(private readonly ctx: Context) {}

  add(look: SymbolPrimitive["look"] | string, css: string, width: number, x: number, y: number, half: number): void {
    const { ctx } = this;
    if (look !== this.look) {
      this.stroke();
      ctx.beginPath();
      ctx.strokeStyle = css;
      ctx.lineWidth = width;
      this.look = look;
    }
    ctx.moveTo(x - half, y);
    ctx.lineTo(x + half, y);
    ctx.moveTo(x, y - half);
    ctx.lineTo(x, y + half);
  }

  stroke(): void {
    if (this.look) this.ctx.stroke();
    this.look = undefined;
  }
}

function drawSymbol(ctx: Context, d: Drafting, p: SymbolPrimitive, pxPerMm: number, spots: Spots): void {
  const [x, y] = toPixel(d.plan, d.table.e[p.point]!, d.table.n[p.point]!),
    css = cssOfSymbol(p, d.look, d.colors);
  if (p.symbol.name === "spot") {
    const width = Math.max(0.8, p.symbol.width * pxPerMm);
    return spots.add(d.look?.point(p.point) ? css : p.look, css, width, x, y, Math.max(0.75, (p.size * pxPerMm) / 2));
  }
  spots.stroke();
  ctx.save();
  ctx.translate(x, y);
  paintSymbol(ctx, p, css, pxPerMm);
  ctx.restore();
}

/** The colour of a symbol: its look's now, else its code's. */
export function cssOfSymbol({ point, look }: SymbolPrimitive, now: LookNow | undefined, colors: SheetColors): string {
  const own = now?.point(point);
  if (own) return cssOfRgb(own);
  return look.color ? cssOf(look.color, colors.dark) : look.known ? colors.soft : colors.amber;
}

/** A symbol at the canvas's origin. */
export function paintSymbol(
  ctx: Context,
  { look, symbol, strokes, size: millimetres, turn }: SymbolPrimitive,
  css: string,
  pxPerMm: number,
): void {
  const size = (look.shot ? 0.5 : millimetres) * pxPerMm;
  ctx.strokeStyle = ctx.fillStyle = css;
  // From far away a symbol is a dot of its colour.
  if (size < 3) return ctx.fillRect(-0.75, -0.75, 1.5, 1.5);
  ctx.lineWidth = Math.max(0.8, symbol.width * pxPerMm);
  if (turn) ctx.rotate((turn * Math.PI) / 180);
  drawStrokes(ctx, strokes, size);
  if (symbol.heart) drawStrokes(ctx, symbol.heart, pxPerMm);
}

function contourColor(d: Drafting, surface: string): string {
  const own = lookOfSurface(d.drawing, surface).indexColor;
  return own ? cssOf(own, d.colors.dark) : d.colors.contourIndex;
}

/** The least font size in pixels that can be read. */
const READABLE = 4;

/** Texts stay as they were laid out while the sheet is zoomed, until they are laid out anew. */
function drawText(ctx: Context, d: Drafting, text: DrawnText, layout: Layout): void {
  const pxPerMm = layout.unitsPerMm * d.plan.scale,
    px = text.height * pxPerMm;
  if (px < READABLE) return;
  // What is not shown alone is faint, and says nothing.
  if (d.look && text.point >= 0 && !d.look.isPointShown(text.point)) return;
  if (d.look?.isAlone && text.is === "contour") return;
  if (d.look && text.line >= 0 && !d.look.isLineShown(text.line)) return;
  const [x, y] = toPixel(d.plan, text.e, text.n),
    [halfWidth, halfHeight] = [text.halfWidth * pxPerMm, (text.lines.length * px) / 2];
  if (d.onlyWhole && !isWhole(d.plan, x, y, halfWidth, halfHeight, text.angle)) return;
  if (x < -200 || y < -60 || x > d.plan.width + 200 || y > d.plan.height + 60) return;
  ctx.textBaseline = "alphabetic";
  ctx.setLineDash([]);
  const color =
    d.look?.faint && text.is === "added"
      ? d.look.faint
      : text.is === "contour"
        ? contourColor(d, text.layer)
        : text.color
          ? cssOf(text.color, d.colors.dark)
          : d.colors.ink;
  if (text.leader) {
    const [ax, ay] = toPixel(d.plan, text.leader[0], text.leader[1]),
      [bx, by] = toPixel(d.plan, text.leader[2], text.leader[3]);
    ctx.strokeStyle = color;
    ctx.lineWidth = Math.max(0.7, 0.13 * pxPerMm);
    ctx.beginPath();
    ctx.moveTo(ax, ay);
    ctx.lineTo(bx, by);
    ctx.stroke();
  }
  ctx.save();
  ctx.translate(x, y);
  ctx.rotate(-text.angle);
  ctx.font = `500 ${px}px 'Inter Variable', sans-serif`;
  ctx.lineWidth = Math.max(2, 0.28 * px);
  ctx.lineJoin = "round";
  ctx.strokeStyle = d.colors.sheet;
  ctx.fillStyle = color;
  const lines = baselines(text.lines.length, text.height),
    side = text.align * text.halfWidth * pxPerMm;
  ctx.textAlign = text.align < 0 ? "left" : text.align > 0 ? "right" : "center";
  // Behind a contour's label its line has a gap.
  if (text.is !== "contour") text.lines.forEach((line, k) => ctx.strokeText(line, side, -lines[k]! * pxPerMm));
  text.lines.forEach((line, k) => ctx.fillText(line, side, -lines[k]! * pxPerMm));
  ctx.restore();
}
