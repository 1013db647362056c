/** Giving a place to what a form asks for: the place that the eye means is shown before it is taken. */
import { useJob } from "../../lib/store";
import type { SheetColors } from "../../lib/theme";
import { sayHint } from "./hint";
import { Snapper } from "./snapper";
import type { Tool, ToolHost } from "./tool";

export class PositionTool implements Tool {
  private readonly snapper: Snapper;

  constructor(host: ToolHost) {
    const onlyPoints = () => useJob.getState().picking?.points === true;
    this.snapper = new Snapper(
      host,
      () => useJob.getState().picking !== undefined,
      (s) => s.kind === "point" || !onlyPoints(),
      () => !onlyPoints(),
    );
  }

  hover(e: number, n: number): void {
    this.snapper.hover(e, n, useJob.getState().picking?.from);
  }

  click(e: number, n: number): void {
    const { picking } = useJob.getState();
    if (picking) void this.snapper.meant(e, n, picking.from).then((snap) => snap && picking.take(snap));
  }

  boxed(): void {}

  leave(): void {
    this.snapper.leave();
    const { picking, set } = useJob.getState();
    set({ picking: undefined });
    picking?.left?.();
  }

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    sayHint(ctx, useJob.getState().picking?.hint ?? "", colors);
    this.snapper.draw(ctx, colors);
  }
}
