/** Text, selection and the margin of the sheet, on a 2D canvas over the drawing: crisp at any zoom. */
import { formatFixed } from "@bramble/core/math/round";
import type { PointTable } from "@bramble/core/points/table";
import type { View } from "../lib/view";
import { MARGIN, toPixel, toPlan, type PlanView } from "./camera";
import type { AsBuilt } from "@bramble/core";
import { drawBuilt } from "./built";
import type { Layout } from "@bramble/core/drawing/layout";
import { drawFall } from "./ground";
import { halo } from "./halo";
import { roundStep } from "@bramble/core/math/round-step";
import { drawSpotLevels } from "./spots";
import type { Surface } from "@bramble/core/surface/model";
import { MANY_SELECTED } from "./layers";
import type { SheetColors } from "../lib/theme";

export interface OverlayInput {
  plan: PlanView;
  /** Pixels of the canvas for one of the page. */
  ratio: number;
  colors: SheetColors;
  table: PointTable;
  view: View;
  order: "NE" | "EN";
  unit: string;
  selectedRows: number[];
  selectedLines: number[];
  /** Lines, symbols and texts as drafted, in the pixels of the canvas; undefined until they are. */
  drafted: CanvasImageSource | undefined;
  layout: Layout | undefined;
  /** Ways (E, N, E, N, …) of a line being drawn. */
  preview: readonly (readonly number[])[];
  /** Positions that would be made. */
  marks: readonly { e: number; n: number; words: string; meant: boolean }[];
  /** Ways of contours as they would be. */
  contours: readonly (readonly number[])[];
  /** Outlines of surfaces as they would be. */
  edges: readonly (readonly number[])[];
  /** The surface whose fall is shown by arrows, and those that say spot levels so many units apart. */
  fall: Surface | undefined;
  spots: readonly { surface: Surface; every: number }[];
  /** Of what is not shown alone, where something is. */
  faint: string | undefined;
  decimals: number;
  /** Points as built, and whether it is written beside them how far they are off. */
  built: { of: AsBuilt; texts: boolean } | undefined;
  mark: [number, number] | undefined;
  box: [number, number, number, number] | undefined;
  /** Nothing to draw yet: a grid of made-up positions would only mislead. */
  blank: boolean;
}

export function drawOverlay(ctx: CanvasRenderingContext2D, o: OverlayInput): void {
  const { plan: v } = o;
  const { ratio } = o;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, v.width, v.height);
  if (o.blank) return;
  drawGrid(ctx, o);
  if (o.fall) drawFall(ctx, v, o.fall, o.colors);
  for (const { surface, every } of o.spots)
    drawSpotLevels(ctx, v, surface, every, o.decimals, o.layout, { ...o.colors, ...(o.faint && { ink: o.faint }) });
  if (o.drafted) {
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.drawImage(o.drafted, 0, 0);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  }
  if (o.built) drawBuilt(ctx, v, o.table, o.built.of, o.built.texts, o.decimals, o.colors);
  drawSelection(ctx, o);
  drawPreview(ctx, o);
  for (const m of o.marks) drawMark(ctx, o, m);
  drawMargin(ctx, o);
  drawScaleBar(ctx, { ...v, colors: o.colors, unit: o.unit });
  if (o.box) drawBox(ctx, o.box, o.colors);
}

/** The step of the grid, and the decimals that its coordinates need. */
function gridOf(v: PlanView): { step: number; decimals: number } {
  const step = roundStep(110 / v.scale);
  return { step, decimals: Math.max(0, -Math.floor(Math.log10(step) + 1e-9)) };
}

function drawGrid(ctx: CanvasRenderingContext2D, { plan: v, colors }: OverlayInput): void {
  const { step } = gridOf(v);
  const [minE, maxN] = toPlan(v, 0, 0),
    [maxE, minN] = toPlan(v, v.width, v.height);
  ctx.strokeStyle = colors.soft;
  ctx.globalAlpha = 0.4;
  ctx.lineWidth = 1;
  ctx.beginPath();
  for (let e = Math.ceil(minE / step) * step; e <= maxE; e += step) {
    for (let n = Math.ceil(minN / step) * step; n <= maxN; n += step) {
      const [x, y] = toPixel(v, e, n).map((c) => Math.round(c) + 0.5) as [number, number];
      ctx.moveTo(x - 4, y);
      ctx.lineTo(x + 4, y);
      ctx.moveTo(x, y - 4);
      ctx.lineTo(x, y + 4);
    }
  }
  ctx.stroke();
  ctx.globalAlpha = 1;
}

const halves = new Map<string, number>();

/** Half the width of a coordinate in pixels: measured once, since the same ones stand there frame after frame. */
function halfWidth(ctx: CanvasRenderingContext2D, text: string): number {
  let half = halves.get(text);
  if (half === undefined) {
    if (halves.size > 500) halves.clear();
    halves.set(text, (half = ctx.measureText(text).width / 2));
  }
  return half;
}

/** The coordinates of the grid on a margin of their own, over whatever is drawn. */
function drawMargin(ctx: CanvasRenderingContext2D, { plan: v, colors }: OverlayInput): void {
  const { step, decimals } = gridOf(v);
  const [minE, maxN] = toPlan(v, MARGIN, MARGIN),
    [maxE, minN] = toPlan(v, v.width, v.height);
  ctx.fillStyle = colors.sheet;
  ctx.fillRect(0, 0, v.width, MARGIN);
  ctx.fillRect(0, 0, MARGIN, v.height);
  ctx.strokeStyle = colors.rule;
  ctx.lineWidth = 1;
  ctx.beginPath();
  ctx.moveTo(v.width, MARGIN - 0.5);
  ctx.lineTo(MARGIN - 0.5, MARGIN - 0.5);
  ctx.lineTo(MARGIN - 0.5, v.height);
  ctx.font = "10.5px 'Inter Variable', sans-serif";
  ctx.fillStyle = colors.soft;
  ctx.textAlign = "center";
  ctx.textBaseline = "middle";
  for (let e = Math.ceil(minE / step) * step; e <= maxE; e += step) {
    const x = Math.round(toPixel(v, e, 0)[0]) + 0.5,
      text = `${formatFixed(e, decimals)} E`,
      half = halfWidth(ctx, text);
    ctx.moveTo(x, MARGIN - 4);
    ctx.lineTo(x, MARGIN);
    if (x - half > MARGIN && x + half < v.width) ctx.fillText(text, x, MARGIN / 2 - 1);
  }
  for (let n = Math.ceil(minN / step) * step; n <= maxN; n += step) {
    const y = Math.round(toPixel(v, 0, n)[1]) + 0.5,
      text = `${formatFixed(n, decimals)} N`,
      half = halfWidth(ctx, text);
    ctx.moveTo(MARGIN - 4, y);
    ctx.lineTo(MARGIN, y);
    if (y - half < MARGIN || y + half > v.height) continue;
    ctx.save();
    ctx.translate(MARGIN / 2 - 1, y);
    ctx.rotate(-Math.PI / 2);
    ctx.fillText(text, 0, 0);
    ctx.restore();
  }
  ctx.stroke();
}

/** Pixels of a ring round a selected point. */
const RING = 6;

function drawSelection(
  ctx: CanvasRenderingContext2D,
  { plan: v, table: t, view, selectedRows, selectedLines, mark, colors }: OverlayInput,
): void {
  ctx.strokeStyle = colors.bramble;
  ctx.lineCap = ctx.lineJoin = "round";
  for (const l of selectedLines) {
    const { xyz, starts } = view.chains;
    ctx.globalAlpha = 0.45;
    ctx.lineWidth = 7;
    ctx.beginPath();
    for (let i = starts[l] ?? 0; i < (starts[l + 1] ?? 0); i++) {
      const [x, y] = toPixel(v, xyz[3 * i]!, xyz[3 * i + 1]!);
      if (i === starts[l]) ctx.moveTo(x, y);
      else ctx.lineTo(x, y);
    }
    ctx.stroke();
    ctx.globalAlpha = 1;
  }
  ctx.lineWidth = 2;
  ctx.beginPath();
  // Of many a layer of dots is drawn.
  if (selectedRows.length <= MANY_SELECTED)
    for (const i of selectedRows) {
      const [x, y] = toPixel(v, t.e[i]!, t.n[i]!);
      if (x < -10 || y < -10 || x > v.width + 10 || y > v.height + 10) continue;
      ctx.moveTo(x + RING, y);
      ctx.arc(x, y, RING, 0, 2 * Math.PI);
    }
  ctx.stroke();
  if (mark) {
    const [x, y] = toPixel(v, ...mark);
    ctx.strokeStyle = colors.amber;
    ctx.lineWidth = 2;
    ctx.beginPath();
    ctx.arc(x, y, 14, 0, 2 * Math.PI);
    ctx.stroke();
  }
}

function drawPreview(ctx: CanvasRenderingContext2D, { plan, preview, contours, edges, colors }: OverlayInput): void {
  ctx.strokeStyle = ctx.fillStyle = colors.bramble;
  ctx.setLineDash([6, 4]);
  ctx.lineWidth = 1;
  strokeWays(ctx, plan, contours);
  ctx.lineWidth = 2;
  strokeWays(ctx, plan, preview);
  strokeWays(ctx, plan, edges);
  ctx.setLineDash([]);
}

/** A ring with a cross in it, full where it is the one that is meant. */
function drawMark(
  ctx: CanvasRenderingContext2D,
  { plan, colors }: OverlayInput,
  { e, n, words, meant }: OverlayInput["marks"][number],
): void {
  const [x, y] = toPixel(plan, e, n),
    r = 6;
  ctx.strokeStyle = colors.bramble;
  ctx.fillStyle = meant ? colors.bramble : colors.sheet;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  ctx.arc(x, y, meant ? 3.5 : r, 0, 2 * Math.PI);
  ctx.fill();
  ctx.stroke();
  ctx.beginPath();
  ctx.moveTo(x - r - 4, y);
  ctx.lineTo(x + r + 4, y);
  ctx.moveTo(x, y - r - 4);
  ctx.lineTo(x, y + r + 4);
  ctx.stroke();
  if (!words) return;
  ctx.font = "600 13px 'Inter Variable', sans-serif";
  ctx.textAlign = "left";
  ctx.textBaseline = "middle";
  halo(ctx, words, x + r + 6, y - r - 6, colors.bramble, colors.sheet);
}

function strokeWays(ctx: CanvasRenderingContext2D, v: PlanView, ways: readonly (readonly number[])[]): void {
  for (const way of ways) {
    ctx.beginPath();
    for (let i = 0; i < way.length; i += 2) {
      const [x, y] = toPixel(v, way[i]!, way[i + 1]!);
      if (i === 0) ctx.moveTo(x, y);
      else ctx.lineTo(x, y);
    }
    ctx.stroke();
  }
}

/** How long a round number of units is, in the corner of a window of so many pixels. */
/** A box that is being drawn. */
export function drawBox(
  ctx: CanvasRenderingContext2D,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  { bramble }: SheetColors,
): void {
  ctx.strokeStyle = bramble;
  ctx.lineWidth = 1;
  ctx.setLineDash([4, 3]);
  ctx.strokeRect(Math.min(x0, x1) + 0.5, Math.min(y0, y1) + 0.5, Math.abs(x1 - x0), Math.abs(y1 - y0));
  ctx.setLineDash([]);
}

export function drawScaleBar(
  ctx: CanvasRenderingContext2D,
  v: { width: number; height: number; scale: number; colors: SheetColors; unit: string },
): void {
  const { colors, unit } = v;
  const step = roundStep(70 / v.scale),
    length = step * v.scale;
  const x = v.width - length - 28,
    y = v.height - 18;
  ctx.fillStyle = colors.sheet;
  ctx.globalAlpha = 0.85;
  ctx.fillRect(x - 12, y - 24, length + 24, 34);
  ctx.globalAlpha = 1;
  ctx.lineWidth = 1.5;
  ctx.strokeStyle = colors.ink;
  ctx.beginPath();
  ctx.moveTo(x, y - 5);
  ctx.lineTo(x, y);
  ctx.lineTo(x + length, y);
  ctx.lineTo(x + length, y - 5);
  ctx.stroke();
  ctx.font = "10.5px 'Inter Variable', sans-serif";
  ctx.textAlign = "center";
  ctx.textBaseline = "alphabetic";
  halo(ctx, `${+step.toPrecision(3)} ${unit}`, x + length / 2, y - 7, colors.ink, colors.sheet);
}
