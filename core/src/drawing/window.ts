/** The part of a job that is looked at. */
import type { Chains } from "../lines/flatten";

/** A rectangle, E and N in the job's unit. */
export interface Extent {
  minE: number;
  minN: number;
  maxE: number;
  maxN: number;
}

export function isWithin(w: Extent | undefined, e: number, n: number): boolean {
  return !w || (e >= w.minE && e <= w.maxE && n >= w.minN && n <= w.maxN);
}

/** Whether the rectangle round a line reaches into the part looked at. */
export function meetsWindow(w: Extent | undefined, { xyz, starts }: Chains, line: number): boolean {
  if (!w) return true;
  let e0 = Infinity,
    e1 = -Infinity,
    n0 = Infinity,
    n1 = -Infinity;
  for (let k = starts[line]!; k < starts[line + 1]!; k++) {
    e0 = Math.min(e0, xyz[3 * k]!);
    e1 = Math.max(e1, xyz[3 * k]!);
    n0 = Math.min(n0, xyz[3 * k + 1]!);
    n1 = Math.max(n1, xyz[3 * k + 1]!);
  }
  return e1 >= w.minE && e0 <= w.maxE && n1 >= w.minN && n0 <= w.maxN;
}
