/** Selecting points and lines, one by one or with a box. */
import { pointIndex } from "@bramble/core/math/near";
import type { Box } from "../../lib/box";
import { useJob } from "../../lib/store";
import { pick } from "../pick";
import { selectPicked } from "../select-picked";
import type { Tool, ToolHost } from "./tool";

/** How near a click must come, in pixels. */
export const REACH = 8;

export class SelectTool implements Tool {
  constructor(private readonly host: ToolHost) {}

  hover(): void {}

  click(e: number, n: number, add: boolean): void {
    const { job, view, layers } = useJob.getState();
    selectPicked(pick(job.points, view, e, n, REACH / this.host.plan.scale, layers), add);
  }

  boxed(box: Box, add: boolean): void {
    const { job, points, select } = useJob.getState();
    const inside = Int32Array.from(pointIndex(job.points).range(box.minE, box.minN, box.maxE, box.maxN)).sort();
    select({ points: [...(add ? points : []), ...Array.from(inside, (i) => job.points.id[i]!)] });
  }

  leave(): void {
    useJob.getState().select({});
  }

  draw(): void {}
}
