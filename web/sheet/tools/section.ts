/** A section drawn across the surfaces: dragged from one end to the other, as often as wanted, until Esc. */
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import { halo } from "../halo";
import { sayHint } from "./hint";
import type { SheetColors } from "../theme";
import type { Tool, ToolHost } from "./tool";

const HINT = "Section: drag from one end to the other; Esc ends";

export class SectionTool implements Tool {
  /** The first of two clicks, for those who do not drag. */
  private first: readonly [number, number] | undefined;

  constructor(private readonly host: ToolHost) {}

  hover(e: number, n: number): void {
    if (this.first) this.dragged(this.first, [e, n]);
  }

  click(e: number, n: number): void {
    if (this.first) this.dragged(this.first, [e, n]);
    this.first = this.first ? undefined : [e, n];
    this.host.redraw();
  }

  boxed(): void {}

  dragged(from: readonly [number, number], to: readonly [number, number]): void {
    if (from[0] !== to[0] || from[1] !== to[1]) useJob.getState().set({ section: { from, to } });
  }

  leave(): void {
    this.first = undefined;
    useJob.getState().set({ section: undefined, sectionAt: undefined });
  }

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const { plan } = this.host,
      { section, sectionAt } = useJob.getState();
    sayHint(ctx, HINT, colors);
    if (!section || section === "begun") return;
    const [x0, y0] = toPixel(plan, ...section.from),
      [x1, y1] = toPixel(plan, ...section.to),
      length = Math.hypot(x1 - x0, y1 - y0),
      [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
    ctx.strokeStyle = ctx.fillStyle = colors.bramble;
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    ctx.moveTo(x0, y0);
    ctx.lineTo(x1, y1);
    // Short strokes across its ends; the left one is where stations begin.
    for (const [x, y] of [
      [x0, y0],
      [x1, y1],
    ] as const) {
      ctx.moveTo(x - 7 * uy, y + 7 * ux);
      ctx.lineTo(x + 7 * uy, y - 7 * ux);
    }
    ctx.stroke();
    halo(ctx, "0", x0 - 14 * ux - 3, y0 - 14 * uy, colors.bramble, colors.sheet);
    if (!sectionAt) return;
    const [x, y] = toPixel(plan, ...sectionAt);
    ctx.beginPath();
    ctx.arc(x, y, 5, 0, 2 * Math.PI);
    ctx.fill();
  }
}
