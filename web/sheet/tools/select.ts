/** Selecting points and lines, one by one or with a box. */
import { editText } from "@bramble/core/drawing/added/edit";
import type { DrawnText } from "@bramble/core/drawing/layout";
import { pointIndex } from "@bramble/core/math/near";
import type { Box } from "../../lib/box";
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import { pick } from "../pick";
import { selectPicked } from "../select-picked";
import { boxOfText, textAt, textKey } from "../../lib/text-at";
import type { SheetColors } from "../../lib/theme";
import type { Tool, ToolHost } from "./tool";

/** How near a click must come, in pixels. */
export const REACH = 8;

export class SelectTool implements Tool {
  constructor(private readonly host: ToolHost) {}

  hover(): void {}

  /** A picked text that is on its way, by so much. */
  private moving: [number, number] | undefined;

  click(e: number, n: number, add: boolean): void {
    const { job, view, layers, layout, set, textPicked } = useJob.getState();
    // A text is picked by its letters; beside them what it speaks of.
    const text = layers.notes || layers.numbers || layers.contours ? textAt(layout, e, n, 0) : undefined;
    if (text && !add && editText(text, {}, this.sources())) return set({ textPicked: textKey(text) });
    if (textPicked) set({ textPicked: undefined });
    selectPicked(pick(job.points, view, e, n, REACH / this.host.plan.scale, layers), add);
  }

  /** The text that is picked is dragged; elsewhere the sheet is. */
  drags(e: number, n: number): boolean {
    const text = this.picked();
    if (!text || !editText(text, { move: [0, 0] }, this.sources())) return false;
    return textAt(useJob.getState().layout, e, n, 3 / this.host.plan.scale) === text;
  }

  dragged(from: readonly [number, number], to: readonly [number, number], done: boolean): void {
    this.moving = done ? undefined : [to[0] - from[0], to[1] - from[1]];
    if (done) this.move(to[0] - from[0], to[1] - from[1]);
    this.host.redraw();
  }

  /** Arrow keys move the picked text by a millimetre of paper. */
  key(key: string): boolean {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key],
      { layout } = useJob.getState();
    if (!way || !layout || !this.picked()) return false;
    this.move(way[0]! * layout.unitsPerMm, way[1]! * layout.unitsPerMm);
    return true;
  }

  private picked(): DrawnText | undefined {
    const { layout, textPicked } = useJob.getState();
    return textPicked === undefined ? undefined : layout?.texts.find((t) => textKey(t) === textPicked);
  }

  private sources() {
    const { job, view } = useJob.getState();
    return { table: job.points, intakes: job.intakes, lines: view.lines, added: job.added };
  }

  private move(e: number, n: number): void {
    const text = this.picked(),
      made = text && editText(text, { move: [e, n] }, this.sources());
    if (made)
      void useJob
        .getState()
        .change({ type: "named", part: "added", name: made.name, old: made.before, new: made.after });
  }

  boxed(box: Box, add: boolean): void {
    const { job, points, select } = useJob.getState();
    const inside = Int32Array.from(pointIndex(job.points).range(box.minE, box.minN, box.maxE, box.maxN)).sort();
    select({ points: [...(add ? points : []), ...Array.from(inside, (i) => job.points.id[i]!)] });
  }

  leave(): void {
    const { textPicked, set, select } = useJob.getState();
    if (textPicked !== undefined) set({ textPicked: undefined });
    else select({});
  }

  /** A frame round the picked text, where it is or is brought. */
  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const text = this.picked(),
      { layout } = useJob.getState();
    if (!text || !layout) return;
    const [de, dn] = this.moving ?? [0, 0];
    ctx.strokeStyle = colors.bramble;
    ctx.lineWidth = 1.5;
    ctx.setLineDash(this.moving ? [4, 3] : []);
    ctx.beginPath();
    for (const [e, n] of boxOfText(text, layout.unitsPerMm)) ctx.lineTo(...toPixel(this.host.plan, e + de, n + dn));
    ctx.closePath();
    ctx.stroke();
    ctx.setLineDash([]);
  }
}
