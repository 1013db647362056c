/** Text, selection and the margin of the sheet, on a 2D canvas over the drawing: crisp at any zoom. */
import { formatFixed } from "@bramble/core/math/round";
import type { PointTable } from "@bramble/core/points/table";
import type { ContourLabel, Contours } from "@bramble/core/surface/contour";
import type { View } from "../lib/view";
import { toPixel, toPlan, type PlanView } from "./camera";
import type { SheetColors } from "./theme";

export interface OverlayInput {
  plan: PlanView;
  colors: SheetColors;
  table: PointTable;
  view: View;
  order: "NE" | "EN";
  unit: string;
  selectedPlaces: number[];
  selectedLines: number[];
  labels: { contours: Contours; labels: ContourLabel[] }[];
  numbers: boolean;
  mark: [number, number] | undefined;
  box: [number, number, number, number] | undefined;
  /** Nothing to draw yet: a grid of made-up places would only mislead. */
  blank: boolean;
}

/** Numbers are written when there are at most this many points in sight. */
const MOST_NUMBERS = 350;

export function drawOverlay(ctx: CanvasRenderingContext2D, o: OverlayInput): void {
  const { plan: v } = o;
  const ratio = window.devicePixelRatio;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, v.width, v.height);
  if (o.blank) return;
  drawGrid(ctx, o);
  drawContourLabels(ctx, o);
  if (o.numbers) drawNumbers(ctx, o);
  drawSelection(ctx, o);
  drawScaleBar(ctx, o);
  if (o.box) {
    const [x0, y0, x1, y1] = o.box;
    ctx.strokeStyle = o.colors.bramble;
    ctx.lineWidth = 1;
    ctx.setLineDash([4, 3]);
    ctx.strokeRect(Math.min(x0, x1) + 0.5, Math.min(y0, y1) + 0.5, Math.abs(x1 - x0), Math.abs(y1 - y0));
    ctx.setLineDash([]);
  }
}

/** 1, 2 or 5 times a power of ten. */
function roundStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= least)!;
}

function drawGrid(ctx: CanvasRenderingContext2D, { plan: v, colors }: OverlayInput): void {
  const step = roundStep(110 / v.scale);
  const [minE, maxN] = toPlan(v, 0, 0), [maxE, minN] = toPlan(v, v.width, v.height);
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
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
  ctx.font = "10.5px 'Inter Variable', sans-serif";
  const write = (text: string, x: number, y: number, turned: boolean) => {
    ctx.save();
    ctx.translate(x, y);
    if (turned) ctx.rotate(-Math.PI / 2);
    halo(ctx, text, 0, 0, colors.soft, colors.sheet);
    ctx.restore();
  };
  ctx.textAlign = "center";
  ctx.textBaseline = "middle";
  for (let e = Math.ceil(minE / step) * step; e <= maxE; e += step) {
    const [x] = toPixel(v, e, 0);
    if (x > 40 && x < v.width - 40) write(`${formatFixed(e, decimals)} E`, x, 10, false);
  }
  for (let n = Math.ceil(minN / step) * step; n <= maxN; n += step) {
    const [, y] = toPixel(v, 0, n);
    if (y > 50 && y < v.height - 60) write(`${formatFixed(n, decimals)} N`, 10, y, true);
  }
}

function halo(ctx: CanvasRenderingContext2D, text: string, x: number, y: number, color: string, background: string): void {
  ctx.lineWidth = 3;
  ctx.lineJoin = "round";
  ctx.strokeStyle = background;
  ctx.strokeText(text, x, y);
  ctx.fillStyle = color;
  ctx.fillText(text, x, y);
}

function drawContourLabels(ctx: CanvasRenderingContext2D, { plan: v, labels, colors }: OverlayInput): void {
  ctx.font = "500 10.5px 'Inter Variable', sans-serif";
  ctx.textAlign = "center";
  ctx.textBaseline = "middle";
  for (const { contours, labels: list } of labels) {
    for (const l of list) {
      const [x, y] = toPixel(v, l.x + contours.origin[0], l.y + contours.origin[1]);
      if (x < -30 || y < -30 || x > v.width + 30 || y > v.height + 30) continue;
      ctx.save();
      ctx.translate(x, y);
      ctx.rotate(-l.angle);
      halo(ctx, l.text, 0, 0, colors.contourIndex, colors.sheet);
      ctx.restore();
    }
  }
}

/** Point numbers, and levels when there is room; a number that would lie on another one is left out. */
function drawNumbers(ctx: CanvasRenderingContext2D, { plan: v, table: t, colors }: OverlayInput): void {
  const [minE, maxN] = toPlan(v, 0, 0), [maxE, minN] = toPlan(v, v.width, v.height);
  const seen: number[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || t.e[i]! < minE || t.e[i]! > maxE || t.n[i]! < minN || t.n[i]! > maxN) continue;
    seen.push(i);
    if (seen.length > MOST_NUMBERS) return;
  }
  const levels = seen.length < 120;
  ctx.textAlign = "left";
  ctx.textBaseline = "alphabetic";
  const taken: [number, number, number, number][] = [];
  for (const i of seen) {
    const [px, py] = toPixel(v, t.e[i]!, t.n[i]!);
    ctx.font = "500 10.5px 'Inter Variable', sans-serif";
    const wide = Math.max(ctx.measureText(t.number[i]!).width, levels ? 40 : 0);
    const box: [number, number, number, number] = [px + 5, py - 14, px + 7 + wide, py + (levels ? 12 : 0)];
    if (taken.some((b) => b[0] < box[2] && box[0] < b[2] && b[1] < box[3] && box[1] < b[3])) continue;
    taken.push(box);
    halo(ctx, t.number[i]!, px + 6, py - 4, colors.ink, colors.sheet);
    if (!levels || Number.isNaN(t.z[i]!)) continue;
    ctx.font = "10px 'Inter Variable', sans-serif";
    halo(ctx, formatFixed(t.z[i]!, 2), px + 6, py + 8, colors.soft, colors.sheet);
  }
}

function drawSelection(ctx: CanvasRenderingContext2D, { plan: v, table: t, view, selectedPlaces, selectedLines, mark, colors }: OverlayInput): void {
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
  for (const i of selectedPlaces) {
    const [x, y] = toPixel(v, t.e[i]!, t.n[i]!);
    if (x < -10 || y < -10 || x > v.width + 10 || y > v.height + 10) continue;
    ctx.moveTo(x + 6, y);
    ctx.arc(x, y, 6, 0, 2 * Math.PI);
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

function drawScaleBar(ctx: CanvasRenderingContext2D, { plan: v, colors, unit }: OverlayInput): void {
  const step = roundStep(70 / v.scale), length = step * v.scale;
  const x = v.width - length - 28, y = v.height - 18;
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
