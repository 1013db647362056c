/** Symbols, selection, the north arrow and the scale on a 2D canvas over the relief. */
import { stationing, straightLine } from "@bramble/core/math/station";
import { lengthOfWay } from "@bramble/core/surface/section";
import { METRES } from "@bramble/core";
import { displayList } from "@bramble/core/drawing/display";
import { isDrawn } from "@bramble/core/drawing/order";
import { formatFixed } from "@bramble/core/math/round";
import { ringOf } from "../../lib/findings";
import type { Store } from "../../lib/state/store";
import { lineAt } from "../../lib/view";
import { cssOfSymbol, paintSymbol } from "../drafting";
import { shownSurface } from "../layers";
import type { LookNow } from "../look-now";
import { halo } from "../halo";
import { drawBox, drawScaleBar } from "../overlay";
import { readerOf } from "../surface-reader";
import { SEEN, type SheetColors } from "../../lib/theme";
import { levelOfRow, levelOfVertex } from "./layers";
import { groundAxes, seenAt, type Orbit } from "./orbit";

export interface ReliefOverlay {
  v: Orbit;
  ratio: number;
  colors: SheetColors;
  s: Store;
  selectedRows: readonly number[];
  look: LookNow | undefined;
  /** Whether the ground stands before a position. */
  isHidden(e: number, n: number, z: number): boolean;
  /** In a movement what costs time is left out. */
  moving: boolean;
  box: readonly [number, number, number, number] | undefined;
}

/** Symbols drawn at most; of more the points alone are seen. */
const MOST_SYMBOLS = 1500;
/** Selected points that say their number, and those whose ring is left out behind the ground. */
const MOST_NAMED = 40,
  MOST_HIDDEN = 400;

export function drawReliefOverlay(ctx: CanvasRenderingContext2D, o: ReliefOverlay): void {
  const { v, ratio } = o;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, v.width, v.height);
  if (!o.moving && o.s.layers.points) drawSymbols(ctx, o);
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  drawSelected(ctx, o);
  drawSection(ctx, o);
  drawNorth(ctx, o);
  drawScaleBar(ctx, { width: v.width, height: v.height, scale: v.scale, colors: o.colors, unit: o.s.job.unit });
  if (o.box) drawBox(ctx, o.box, o.colors);
}

const inWindow = (v: Orbit, x: number, y: number, by = 20) =>
  x > -by && y > -by && x < v.width + by && y < v.height + by;

/** Symbols lie on the ground as they do on the plan. */
function drawSymbols(ctx: CanvasRenderingContext2D, { v, ratio, s, look, colors, isHidden }: ReliefOverlay): void {
  const { view, job } = s,
    { symbols } = view,
    drawn = symbols.looks.map((l) => l.symbol !== "spot" && !l.shot && isDrawn(l, job.drawing?.hidden)),
    found: number[] = [];
  for (let k = 0; k < symbols.point.length; k++) {
    if (!drawn[symbols.look[k]!]) continue;
    const i = symbols.point[k]!,
      z = levelOfRow(s, i);
    if (Number.isNaN(z)) continue;
    const [x, y] = seenAt(v, job.points.e[i]!, job.points.n[i]!, z);
    if (!inWindow(v, x, y)) continue;
    if (found.length === MOST_SYMBOLS) return;
    found.push(k);
  }
  const unitsPerMm = s.paperScale === undefined ? SEEN / v.scale : s.paperScale / 1000 / METRES[job.unit],
    list = displayList(
      { lines: view.lines, symbols, layout: undefined, drawing: job.drawing ?? {}, unitsPerMm },
      [],
      Int32Array.from(found),
    );
  const { east, north } = groundAxes(v);
  for (const p of list) {
    if (p.is !== "symbol" || p.hidden || p.symbol.name === "spot") continue;
    const [e, n] = [job.points.e[p.point]!, job.points.n[p.point]!],
      z = levelOfRow(s, p.point);
    if (isHidden(e, n, z)) continue;
    const [x, y] = seenAt(v, e, n, z);
    // One unit of the canvas is a pixel of ground to the east, and one to the south.
    ctx.setTransform(
      (ratio * east[0]) / v.scale,
      (ratio * east[1]) / v.scale,
      (-ratio * north[0]) / v.scale,
      (-ratio * north[1]) / v.scale,
      ratio * x,
      ratio * y,
    );
    paintSymbol(ctx, p, cssOfSymbol(p, look, colors), unitsPerMm * v.scale);
  }
}

function drawSelected(ctx: CanvasRenderingContext2D, { v, s, selectedRows, colors, isHidden }: ReliefOverlay): void {
  const { view, job } = s,
    t = job.points;
  ctx.strokeStyle = colors.bramble;
  ctx.lineCap = ctx.lineJoin = "round";
  ctx.globalAlpha = 0.5;
  ctx.lineWidth = 6;
  for (const key of s.lines) {
    const l = lineAt(view, key),
      { starts, xyz } = view.chains;
    if (l === undefined) continue;
    ctx.beginPath();
    let on = false;
    for (let i = starts[l]!; i < starts[l + 1]!; i++) {
      const z = levelOfVertex(s, i);
      if (Number.isNaN(z)) {
        on = false;
        continue;
      }
      const [x, y] = seenAt(v, xyz[3 * i]!, xyz[3 * i + 1]!, z);
      if (on) ctx.lineTo(x, y);
      else ctx.moveTo(x, y);
      on = true;
    }
    ctx.stroke();
  }
  ctx.globalAlpha = 1;
  ctx.lineWidth = 2;
  ctx.font = "500 11px 'Inter Variable', sans-serif";
  ctx.textAlign = "left";
  ctx.textBaseline = "middle";
  const few = selectedRows.length <= MOST_HIDDEN;
  // Very many are dots of one path: a ring for each would take as long as all the rest.
  ctx.fillStyle = colors.bramble;
  ctx.beginPath();
  for (const i of selectedRows) {
    const z = levelOfRow(s, i);
    if (Number.isNaN(z)) continue;
    const [x, y] = seenAt(v, t.e[i]!, t.n[i]!, z);
    if (!inWindow(v, x, y)) continue;
    if (!few) {
      ctx.rect(x - 1.5, y - 1.5, 3, 3);
      continue;
    }
    // What lies behind the ground is selected all the same: its ring is faint.
    ctx.globalAlpha = isHidden(t.e[i]!, t.n[i]!, z) ? 0.35 : 1;
    ctx.strokeStyle = colors.bramble;
    ctx.lineWidth = 2;
    ctx.beginPath();
    ctx.arc(x, y, 6, 0, 2 * Math.PI);
    ctx.stroke();
    if (selectedRows.length <= MOST_NAMED) halo(ctx, t.number[i]!, x + 10, y, colors.ink, colors.sheet);
  }
  if (!few) ctx.fill();
  ctx.globalAlpha = 1;
  const mark = ringOf(s),
    level = mark && levelUnder(s, mark);
  if (!mark || level === undefined) return;
  const [x, y] = seenAt(v, ...mark, level);
  ctx.strokeStyle = colors.amber;
  ctx.beginPath();
  ctx.arc(x, y, 14, 0, 2 * Math.PI);
  ctx.stroke();
}

function levelUnder(s: Store, [e, n]: readonly [number, number]): number | undefined {
  const surface = shownSurface(s);
  return surface && readerOf(surface).at(e, n)?.level;
}

/** Positions along a section at which the ground is read. */
const READINGS = 200;

/** The section's line on the ground, and the position on it that is read. */
function drawSection(ctx: CanvasRenderingContext2D, { v, s, colors }: ReliefOverlay): void {
  const { section, sectionAt } = s;
  if (!section || section === "begun") return;
  ctx.strokeStyle = ctx.fillStyle = colors.bramble;
  ctx.lineWidth = 2;
  ctx.beginPath();
  const length = lengthOfWay(section.way),
    along = stationing(straightLine(section.way));
  let on = false;
  for (let k = 0; along && k <= READINGS; k++) {
    const { e, n } = along((length * k) / READINGS, 0),
      at: [number, number] = [e, n];
    const level = levelUnder(s, at);
    if (level !== undefined) {
      const [x, y] = seenAt(v, ...at, level);
      if (on) ctx.lineTo(x, y);
      else ctx.moveTo(x, y);
    }
    on = level !== undefined;
  }
  ctx.stroke();
  const level = sectionAt && levelUnder(s, sectionAt);
  if (!sectionAt || level === undefined) return;
  const [x, y] = seenAt(v, ...(sectionAt as [number, number]), level);
  ctx.beginPath();
  ctx.arc(x, y, 4, 0, 2 * Math.PI);
  ctx.fill();
}

/** Where north is, lying on the ground, with the exaggeration beside it. */
function drawNorth(ctx: CanvasRenderingContext2D, { v, colors }: ReliefOverlay): void {
  const { east, north } = groundAxes({ ...v, scale: 1 }),
    at = (e: number, n: number): [number, number] => [
      44 + 24 * (e * east[0] + n * north[0]),
      v.height - 34 + 24 * (e * east[1] + n * north[1]),
    ];
  ctx.strokeStyle = ctx.fillStyle = colors.ink;
  ctx.lineWidth = 1.3;
  ctx.beginPath();
  ctx.moveTo(...at(0, -1));
  ctx.lineTo(...at(0, 1));
  ctx.moveTo(...at(-0.3, 0.35));
  ctx.lineTo(...at(0, 1));
  ctx.lineTo(...at(0.3, 0.35));
  ctx.moveTo(...at(-0.45, -0.25));
  ctx.lineTo(...at(0.45, -0.25));
  ctx.stroke();
  ctx.font = "10.5px 'Inter Variable', sans-serif";
  ctx.textAlign = "center";
  ctx.textBaseline = "middle";
  halo(ctx, "N", ...at(0, 1.5), colors.ink, colors.sheet);
  ctx.textAlign = "left";
  halo(ctx, `heights × ${formatFixed(v.heights, v.heights % 1 ? 1 : 0)}`, 84, v.height - 20, colors.soft, colors.sheet);
}
