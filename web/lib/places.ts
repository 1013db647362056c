/** Between point ids, which are selected, and places in the table, which are drawn. */
import { placeOf, type PointTable } from "@bramble/core/points/table";

export function placesOf(t: PointTable, ids: Iterable<number>): number[] {
  const places: number[] = [];
  for (const id of ids) {
    const i = placeOf(t, id);
    if (i >= 0 && !t.deleted[i]) places.push(i);
  }
  return places;
}
