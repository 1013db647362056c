/** What is under the cursor: the nearest point or line within reach. */
import { boxIndex, pointIndex, type BoxIndex } from "@bramble/core/math/near";
import type { Chains } from "@bramble/core/lines/flatten";
import type { PointTable } from "@bramble/core/points/table";
import type { View } from "../lib/view";

export type Picked = { point: number } | { line: number } | undefined;

/** `reach` in the job's unit; points win over lines, of two as near the one that comes first. */
export function pick(
  t: PointTable,
  view: View,
  e: number,
  n: number,
  reach: number,
  what: { points: boolean; lines: boolean },
): Picked {
  const around = [e - reach, n - reach, e + reach, n + reach] as const;
  let best = -1,
    least = reach * reach;
  const nearer = (k: number, d: number) => {
    if (d < least || (d === least && k < best)) [best, least] = [k, d];
  };
  if (what.points) for (const i of pointIndex(t).range(...around)) nearer(i, (t.e[i]! - e) ** 2 + (t.n[i]! - n) ** 2);
  if (best >= 0) return { point: best };
  if (!what.lines) return undefined;
  const { xyz, starts } = view.chains;
  for (const l of linesNear(view.chains).search(...around)) {
    for (let i = starts[l]! + 1; i < starts[l + 1]!; i++) {
      nearer(l, distance2(e, n, xyz[3 * i - 3]!, xyz[3 * i - 2]!, xyz[3 * i]!, xyz[3 * i + 1]!));
    }
  }
  return best >= 0 ? { line: best } : undefined;
}

const ofChains = new WeakMap<Chains, BoxIndex>();

/** An index over lines as they are drawn; made once for the same chains. */
export function linesNear(chains: Chains): BoxIndex {
  let index = ofChains.get(chains);
  if (!index) ofChains.set(chains, (index = boxIndex(chains.starts.length - 1, (l) => boxOfChain(chains, l))));
  return index;
}

function boxOfChain({ xyz, starts }: Chains, line: number): [number, number, number, number] {
  let e0 = Infinity,
    n0 = Infinity,
    e1 = -Infinity,
    n1 = -Infinity;
  for (let v = starts[line]!; v < starts[line + 1]!; v++) {
    e0 = Math.min(e0, xyz[3 * v]!);
    n0 = Math.min(n0, xyz[3 * v + 1]!);
    e1 = Math.max(e1, xyz[3 * v]!);
    n1 = Math.max(n1, xyz[3 * v + 1]!);
  }
  return [e0, n0, e1, n1];
}

function distance2(e: number, n: number, ae: number, an: number, be: number, bn: number): number {
  const de = be - ae,
    dn = bn - an,
    size = de * de + dn * dn;
  const t = size === 0 ? 0 : Math.min(1, Math.max(0, ((e - ae) * de + (n - an) * dn) / size));
  return (ae + t * de - e) ** 2 + (an + t * dn - n) ** 2;
}
