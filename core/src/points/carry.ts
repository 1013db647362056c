/** Office edits carried from one reading of a file to another. */
import { fieldValue, withEdits, type CellEdit, type EditField } from "./edits";
import type { PointTable } from "./table";

const CARRIED: EditField[] = [
  "number",
  "northing",
  "easting",
  "elevation",
  "description",
  "note",
  "targetHeight",
  "precision",
  "kind",
  "surface",
  "deleted",
  "cues",
  "attributes",
];

/**
 * `now` are the points of the earlier reading as the office left them, `before` the same reading without edits, `after` the new
 * reading. Points are paired by the row of the file. What differs between `now` and `before` is done to `after`; where the row gives
 * no point any more, the edit is listed in a sentence.
 */
export function carryEdits(
  now: PointTable,
  before: PointTable,
  after: PointTable,
): { table: PointTable; lost: string[] } {
  const rows = (t: PointTable) => new Map(Array.from({ length: t.count }, (_, i) => [t.row[i]!, i]));
  const beforeAt = rows(before),
    afterAt = rows(after);
  const edits: CellEdit[] = [],
    lost: string[] = [];
  for (let i = 0; i < now.count; i++) {
    const b = beforeAt.get(now.row[i]!);
    const changed =
      b === undefined ? [] : CARRIED.filter((f) => !Object.is(fieldValue(now, i, f), fieldValue(before, b, f)));
    if (changed.length === 0) continue;
    const row = afterAt.get(now.row[i]!);
    if (row === undefined)
      lost.push(
        `Point ${now.number[i]} (row ${now.row[i]}): its ${changed.join(", ")} had been changed; the row gives no point now.`,
      );
    else for (const field of changed) edits.push({ row, field, value: fieldValue(now, i, field) });
  }
  return { table: edits.length ? withEdits(after, edits) : after, lost };
}
