/** Choosing a side or a triangle of the surface on the sheet; what a click means is told by its corners. */
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import { shownSurface } from "../layers";
import { meshAt } from "../mesh-at";
import type { SheetColors } from "../../lib/theme";
import { sayHint } from "./hint";
import type { Tool, ToolHost } from "./tool";

export class MeshTool implements Tool {
  private at: readonly [number, number] | undefined;

  constructor(private readonly host: ToolHost) {}

  private meant() {
    const s = useJob.getState(),
      surface = shownSurface(s);
    return this.at && surface && s.mesh ? { surface, ...meshAt(surface, s.mesh.what, ...this.at) } : undefined;
  }

  hover(e: number, n: number): void {
    this.at = [e, n];
    this.host.redraw();
  }

  click(e: number, n: number): void {
    this.at = [e, n];
    const meant = this.meant(),
      { mesh } = useJob.getState();
    if (meant?.vertices && !meant.problem) mesh?.take(meant.vertices.map((v) => meant.surface.point[v]!));
    this.host.redraw();
  }

  boxed(): void {}

  leave(): void {
    this.at = undefined;
    useJob.getState().set({ mesh: undefined });
  }

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const { plan } = this.host,
      meant = this.meant(),
      says = meant?.problem || useJob.getState().mesh?.hint || "";
    sayHint(ctx, says, colors, !!meant?.problem);
    if (!meant?.vertices) return;
    const { x, y, origin } = meant.surface;
    ctx.strokeStyle = ctx.fillStyle = meant.problem ? colors.amber : colors.bramble;
    ctx.lineWidth = 3;
    ctx.beginPath();
    meant.vertices.forEach((v, k) => {
      const at = toPixel(plan, origin[0] + x[v]!, origin[1] + y[v]!);
      if (k === 0) ctx.moveTo(...at);
      else ctx.lineTo(...at);
    });
    if (meant.vertices.length === 3) ctx.closePath();
    ctx.stroke();
    if (meant.vertices.length < 3) return;
    ctx.globalAlpha = 0.15;
    ctx.fill();
    ctx.globalAlpha = 1;
  }
}
