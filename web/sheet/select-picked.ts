/** What a click on a point or a line selects: it alone, or, with Shift, it as well; a selected point is let go again. */
import { useJob } from "../lib/store";
import type { Picked } from "./pick";

export function selectPicked(hit: Picked, add: boolean): void {
  const { job, view, points, lines, select } = useJob.getState();
  if (!hit) return add ? undefined : select({});
  if ("point" in hit) {
    const id = job.points.id[hit.point]!;
    if (!add) select({ points: [id] });
    else select({ points: points.has(id) ? [...points].filter((p) => p !== id) : [...points, id], lines });
  } else {
    const line = view.lines[hit.line]!;
    if (add) select({ points, lines: [...lines, line.key] });
    else select({ lines: [line.key], points: line.shots.map((s) => job.points.id[s]!) });
  }
}
