/** The box of the job's points; of its reference where it has no points. */
import type { JobState } from "@bramble/core";
import { extentOf } from "@bramble/core/points/table";
import { boxOf, type Box } from "../lib/box";

export function drawnExtent(job: JobState): Box | undefined {
  const x = extentOf(job.points);
  if (x) return x;
  const corners = job.delivered.flatMap((d) => [
    ...(d.reference?.lines ?? []).map((l) => l.xyz),
    ...(d.reference?.surfaces ?? []).map((s) => s.points),
  ]);
  const boxes = corners
    .map((xyz) =>
      boxOf(
        xyz.length / 3,
        (k) => xyz[3 * k]!,
        (k) => xyz[3 * k + 1]!,
      ),
    )
    .filter((b) => b !== undefined);
  return boxOf(
    2 * boxes.length,
    (k) => (k % 2 ? boxes[k >> 1]!.maxE : boxes[k >> 1]!.minE),
    (k) => (k % 2 ? boxes[k >> 1]!.maxN : boxes[k >> 1]!.minN),
  );
}
