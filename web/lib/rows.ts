/** Between point ids, which are selected, and rows in the table, which are drawn. */
import { rowOf, type PointTable } from "@bramble/core/points/table";

export function rowsOf(t: PointTable, ids: Iterable<number>): number[] {
  const rows: number[] = [];
  for (const id of ids) {
    const i = rowOf(t, id);
    if (i >= 0 && !t.deleted[i]) rows.push(i);
  }
  return rows;
}
