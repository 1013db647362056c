/** Rectangles of the plan. */
import type { PointTable } from "@bramble/core/points/table";

/** A rectangle of the plan, in the job's unit. */
export interface Box {
  minE: number;
  minN: number;
  maxE: number;
  maxN: number;
}

/** The smallest rectangle round positions, those of NaN left out; undefined for none. */
export function boxOf(count: number, east: (k: number) => number, north: (k: number) => number): Box | undefined {
  const box: Box = { minE: Infinity, minN: Infinity, maxE: -Infinity, maxN: -Infinity };
  for (let k = 0; k < count; k++) {
    const e = east(k),
      n = north(k);
    if (e < box.minE) box.minE = e;
    if (e > box.maxE) box.maxE = e;
    if (n < box.minN) box.minN = n;
    if (n > box.maxN) box.maxN = n;
  }
  return box.minE <= box.maxE ? box : undefined;
}

/** The rectangle round points by their rows in the table. */
export function boxOfPoints(t: PointTable, rows: ArrayLike<number>): Box | undefined {
  return boxOf(
    rows.length,
    (k) => t.e[rows[k]!]!,
    (k) => t.n[rows[k]!]!,
  );
}
