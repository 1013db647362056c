/** Giving a place to what a form asks for: the place that the eye means is shown before it is taken. */
import { SNAPS, type Snap } from "@bramble/core/lines/snap";
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import { halo } from "../halo";
import { sayHint } from "./hint";
import type { SheetColors } from "../../lib/theme";
import type { Tool, ToolHost } from "./tool";

const REACH = 10;

export class PositionTool implements Tool {
  private snap: Snap | undefined;
  private asking = false;

  constructor(private readonly host: ToolHost) {}

  /** One question at a time: the next is asked when the last is answered. */
  hover(e: number, n: number): void {
    if (this.asking) return;
    this.asking = true;
    void this.meant(e, n).then((snap) => {
      this.asking = false;
      this.snap = snap;
      this.host.redraw();
    });
  }

  click(e: number, n: number): void {
    const { picking } = useJob.getState();
    void this.meant(e, n).then((snap) => snap && picking?.take(snap));
  }

  boxed(): void {}

  leave(): void {
    this.snap = undefined;
    useJob.getState().set({ picking: undefined });
  }

  /** The place meant; without one near, the plain place, unless points are asked for. */
  private async meant(e: number, n: number): Promise<Snap | undefined> {
    const { picking, ask } = useJob.getState();
    if (!picking) return undefined;
    const snap = await ask({ what: "snap", e, n, reach: REACH / this.host.plan.scale, from: picking.from });
    if (picking.points) return snap?.kind === "point" ? snap : undefined;
    return snap ?? { kind: "nearest", e, n, z: NaN, lines: [] };
  }

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const { plan } = this.host,
      { picking } = useJob.getState();
    sayHint(ctx, picking?.hint ?? "", colors);
    if (!this.snap) return;
    const [x, y] = toPixel(plan, this.snap.e, this.snap.n);
    ctx.strokeStyle = colors.bramble;
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    ctx.arc(x, y, 7, 0, 2 * Math.PI);
    ctx.moveTo(x - 11, y);
    ctx.lineTo(x + 11, y);
    ctx.moveTo(x, y - 11);
    ctx.lineTo(x, y + 11);
    ctx.stroke();
    const name = this.snap.kind === "nearest" && this.snap.lines.length === 0 ? "" : SNAPS[this.snap.kind].name;
    if (name) halo(ctx, name, x + 13, y - 13, colors.bramble, colors.sheet);
  }
}
