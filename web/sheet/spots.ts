/** Spot levels: what a surface's level is on a grid, written on the sheet. */
import type { Layout } from "@bramble/core/drawing/layout";
import { formatFixed } from "@bramble/core/math/round";
import type { Surface } from "@bramble/core/surface/model";
import { isWhole, toPixel, toPlan, type PlanView } from "./camera";
import { halo } from "./halo";
import { roundStep } from "@bramble/core/math/round-step";
import { readerOf } from "./surface-reader";
import type { SheetColors } from "../lib/theme";

/** Pixels between spot levels at least, so that they are read. */
const APART = 44;

/** Pixels of a digit. */
const WIDTH = 6;

/**
 * Writes levels at least `every` job units apart, at positions that stay where they are when the sheet moves, but where
 * another text stands.
 */
export function drawSpotLevels(
  ctx: CanvasRenderingContext2D,
  v: PlanView,
  surface: Surface,
  every: number,
  decimals: number,
  layout: Layout | undefined,
  colors: SheetColors,
): void {
  const step = roundStep(Math.max(every, APART / v.scale)),
    [west, north] = toPlan(v, 0, 0),
    [east, south] = toPlan(v, v.width, v.height),
    reader = readerOf(surface);
  ctx.font = "10px 'Inter Variable', sans-serif";
  ctx.textAlign = "left";
  ctx.textBaseline = "middle";
  const taken = boxesOf(v, layout),
    isFree = (x0: number, y0: number, x1: number, y1: number) =>
      !taken.some((b) => x0 < b[2] && x1 > b[0] && y0 < b[3] && y1 > b[1]);
  for (let e = Math.ceil(west / step) * step; e <= east; e += step)
    for (let n = Math.ceil(south / step) * step; n <= north; n += step) {
      const under = reader.at(e, n);
      if (!under) continue;
      const [x, y] = toPixel(v, e, n),
        text = formatFixed(under.level, decimals);
      const half = (WIDTH * text.length) / 2;
      if (!isWhole(v, x + 4 + half, y, half, 6)) continue;
      if (!isFree(x - 2, y - 6, x + 4 + WIDTH * text.length, y + 6)) continue;
      ctx.fillStyle = colors.ink;
      ctx.fillRect(x - 1, y - 1, 2, 2);
      halo(ctx, text, x + 4, y, colors.ink, colors.sheet);
    }
}

/** Boxes of the texts in the window: left, top, right, bottom. */
function boxesOf(v: PlanView, layout: Layout | undefined): [number, number, number, number][] {
  const px = layout ? layout.unitsPerMm * v.scale : 0;
  return (layout?.texts ?? []).flatMap((t): [number, number, number, number][] => {
    const [x, y] = toPixel(v, t.e, t.n),
      [c, s] = [Math.abs(Math.cos(t.angle)), Math.abs(Math.sin(t.angle))],
      [w, h] = [t.halfWidth * px, (t.height * t.lines.length * px) / 2],
      [dx, dy] = [c * w + s * h, s * w + c * h];
    return x + dx < 0 || y + dy < 0 || x - dx > v.width || y - dy > v.height ? [] : [[x - dx, y - dy, x + dx, y + dy]];
  });
}
