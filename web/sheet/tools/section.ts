/** A section drawn across the surfaces: dragged from one end to the other, as often as wanted, until Esc. */
import type { PlanWay } from "@bramble/core/surface/section";
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import { halo } from "../halo";
import { sayHint } from "./hint";
import type { SheetColors } from "../../lib/theme";
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
    if (from[0] !== to[0] || from[1] !== to[1]) useJob.getState().set({ section: { way: [from, to] } });
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
    ctx.strokeStyle = ctx.fillStyle = colors.bramble;
    if (section.across) {
      ctx.lineWidth = 1;
      ctx.setLineDash([6, 4]);
      this.trace(ctx, section.across.axis);
      ctx.setLineDash([]);
    }
    ctx.lineWidth = 1.5;
    const at = this.trace(ctx, section.way),
      [x0, y0] = at[0]!;
    // Short strokes across its ends; where stations begin it says 0.
    ctx.beginPath();
    let begin: [number, number] = [1, 0];
    for (const [end, before] of [
      [at[0]!, at[1]!],
      [at.at(-1)!, at.at(-2)!],
    ] as const) {
      const length = Math.hypot(end[0] - before[0], end[1] - before[1]) || 1,
        [ux, uy] = [(end[0] - before[0]) / length, (end[1] - before[1]) / length];
      if (end === at[0]) begin = [ux, uy];
      ctx.moveTo(end[0] - 7 * uy, end[1] + 7 * ux);
      ctx.lineTo(end[0] + 7 * uy, end[1] - 7 * ux);
    }
    ctx.stroke();
    halo(ctx, "0", x0 + 14 * begin[0] - 3, y0 + 14 * begin[1], colors.bramble, colors.sheet);
    if (!sectionAt) return;
    const [x, y] = toPixel(plan, ...sectionAt);
    ctx.beginPath();
    ctx.arc(x, y, 5, 0, 2 * Math.PI);
    ctx.fill();
  }

  /** Draws a way; its corners in pixels. */
  private trace(ctx: CanvasRenderingContext2D, way: PlanWay): [number, number][] {
    const at = way.map(([e, n]) => toPixel(this.host.plan, e, n));
    ctx.beginPath();
    at.forEach(([x, y], k) => (k ? ctx.lineTo(x, y) : ctx.moveTo(x, y)));
    ctx.stroke();
    return at;
  }
}
