import { halo } from "../halo";
import type { SheetColors } from "../../lib/theme";

/** What a click is for now, in the upper corner of the sheet; a problem in amber. */
export function sayHint(ctx: CanvasRenderingContext2D, text: string, colors: SheetColors, isProblem = false): void {
  ctx.font = "500 11.5px 'Inter Variable', sans-serif";
  ctx.textBaseline = "middle";
  ctx.textAlign = "left";
  halo(ctx, text, 34, 34, isProblem ? colors.amber : colors.bramble, colors.sheet);
}
