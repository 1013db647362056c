/** What is under the cursor: the nearest point or line within reach, by our own search over the columns. */
import type { PointTable } from "@bramble/core/points/table";
import type { View } from "../lib/view";

export type Picked = { point: number } | { line: number } | undefined;

/** `reach` in the job's unit; points win over lines. */
export function pick(t: PointTable, view: View, e: number, n: number, reach: number, what: { points: boolean; lines: boolean }): Picked {
  let best = -1, least = reach * reach;
  if (what.points) {
    for (let i = 0; i < t.count; i++) {
      const de = t.e[i]! - e;
      if (de > reach || de < -reach || t.deleted[i]) continue;
      const dn = t.n[i]! - n, d = de * de + dn * dn;
      if (d < least) [best, least] = [i, d];
    }
  }
  if (best >= 0) return { point: best };
  if (!what.lines) return undefined;
  const { xyz, starts } = view.chains;
  let line = -1;
  least = reach * reach;
  for (let l = 0; l < view.lines.length; l++) {
    for (let i = starts[l]! + 1; i < starts[l + 1]!; i++) {
      const d = distance2(e, n, xyz[3 * i - 3]!, xyz[3 * i - 2]!, xyz[3 * i]!, xyz[3 * i + 1]!);
      if (d < least) [line, least] = [l, d];
    }
  }
  return line >= 0 ? { line } : undefined;
}

function distance2(e: number, n: number, ae: number, an: number, be: number, bn: number): number {
  const de = be - ae, dn = bn - an, size = de * de + dn * dn;
  const t = size === 0 ? 0 : Math.min(1, Math.max(0, ((e - ae) * de + (n - an) * dn) / size));
  return (ae + t * de - e) ** 2 + (an + t * dn - n) ** 2;
}
