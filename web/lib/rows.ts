/** Between point ids, which are selected, and rows in the table, which are drawn. */
import type { JobState } from "@bramble/core";
import { refOf, type PointRef } from "@bramble/core/points/refs";
import { rowOf, type PointTable } from "@bramble/core/points/table";

export function rowsOf(t: PointTable, ids: Iterable<number>): number[] {
  const rows: number[] = [];
  for (const id of ids) {
    const i = rowOf(t, id);
    if (i >= 0 && !t.deleted[i]) rows.push(i);
  }
  return rows;
}

/** References to the points of a job that have these ids. */
export const refsOf = ({ points, intakes }: Pick<JobState, "points" | "intakes">, ids: Iterable<number>): PointRef[] =>
  rowsOf(points, ids).map((i) => refOf(points, intakes, i));
