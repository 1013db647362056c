/** A line of the job as a way in plan, by its key. */
import type { PlanWay } from "@bramble/core/surface/section";
import { lineAt, type View } from "./view";

export function wayOfLine(view: View, key: string): { way: PlanWay; name: string } | undefined {
  const k = lineAt(view, key),
    line = k === undefined ? undefined : view.lines[k];
  if (k === undefined || !line) return undefined;
  const { xyz, starts } = view.chains,
    way: [number, number][] = [];
  for (let v = starts[k]!; v < starts[k + 1]!; v++) way.push([xyz[3 * v]!, xyz[3 * v + 1]!]);
  return way.length > 1 ? { way, name: line.run ? `${line.code} ${line.run}` : line.code } : undefined;
}
