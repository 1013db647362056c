/** Points as built, on the sheet: whether each lies above, below or within its tolerance, and by how much. */
import type { AsBuilt } from "@bramble/core";
import type { PointTable } from "@bramble/core/points/table";
import { formatFixed } from "@bramble/core/math/round";
import { toPixel, type PlanView } from "./camera";
import { halo } from "./halo";
import type { SheetColors } from "../lib/theme";

/** Pixels between a point and what is written beside it; texts farther together than this are left out. */
const ASIDE = 8,
  ROOM = 52;
const LEAF = "#3f7a3a";

/** What is told of a point: its level, or where there is none its offset, or how far from its design it is in plan. */
export function told(a: AsBuilt, k: number): number {
  return Number.isNaN(a.level[k]!) ? (a.pairs?.plan[k] ?? a.offset[k]!) : a.level[k]!;
}

/** Above the design it is cut, below it is filled; of a line how far aside it is, and above. */
export function builtText(a: AsBuilt, k: number, decimals: number): string {
  const size = (x: number) => formatFixed(Math.abs(x), decimals),
    [level, offset] = [a.level[k]!, a.offset[k]!];
  if (a.pairs) {
    const sign = (x: number) => `${x < 0 ? "−" : "+"}${size(x)}`,
      plan = `E ${sign(a.pairs.dE[k]!)} N ${sign(a.pairs.dN[k]!)}`;
    return Number.isNaN(level) ? plan : `${plan}, ${sign(level)}`;
  }
  if (a.against === "surface") return `${level > 0 ? "cut" : "fill"} ${size(level)}`;
  const aside = `${size(offset)} ${offset > 0 ? "right" : "left"}`;
  return Number.isNaN(level) ? aside : `${aside}, ${level < 0 ? "−" : "+"}${size(level)}`;
}

/** Triangles up above and down below the design, dots within the tolerance: told apart in grey, too. */
export function drawBuilt(
  ctx: CanvasRenderingContext2D,
  v: PlanView,
  t: Pick<PointTable, "e" | "n">,
  a: AsBuilt,
  texts: boolean,
  decimals: number,
  colors: SheetColors,
): void {
  const taken: [number, number][] = [];
  ctx.font = "11px 'Inter Variable', sans-serif";
  ctx.textAlign = "left";
  ctx.textBaseline = "middle";
  for (let k = 0; k < a.rows.length; k++) {
    const x = told(a, k);
    if (Number.isNaN(x)) continue;
    const [px, py] = toPixel(v, t.e[a.rows[k]!]!, t.n[a.rows[k]!]!);
    if (px < -20 || py < -20 || px > v.width + 20 || py > v.height + 20) continue;
    const isOut = a.outside[k] === 1,
      up = x > 0 ? -1 : 1;
    ctx.beginPath();
    if (isOut) {
      ctx.moveTo(px, py + 6 * up);
      ctx.lineTo(px - 5.5, py - 4 * up);
      ctx.lineTo(px + 5.5, py - 4 * up);
      ctx.closePath();
    } else ctx.arc(px, py, 3.5, 0, 2 * Math.PI);
    ctx.fillStyle = isOut ? (x > 0 ? colors.cut : colors.fill) : LEAF;
    ctx.strokeStyle = colors.sheet;
    ctx.lineWidth = 1.5;
    ctx.fill();
    ctx.stroke();
    if (!texts || taken.some(([tx, ty]) => Math.abs(tx - px) < ROOM && Math.abs(ty - py) < 13)) continue;
    taken.push([px, py]);
    const text = builtText(a, k, decimals);
    // What the drawing has written there is of another matter.
    ctx.globalAlpha = 0.9;
    ctx.fillStyle = colors.sheet;
    ctx.fillRect(px + ASIDE - 2, py - 7, ctx.measureText(text).width + 4, 14);
    ctx.globalAlpha = 1;
    halo(ctx, text, px + ASIDE, py, isOut ? colors.ink : colors.soft, colors.sheet);
  }
}
