/** Office edits carried from one reading of a file to another. */
import { attributesOf, decodeAttributes, encodeAttributes, withAttributes } from "./attributes";
import { fieldValue, withEdits, type CellEdit } from "./edits";
import { EDIT_FIELDS } from "../records/fields";
import type { PointTable } from "./table";

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
    // A number is the office's where the point came with another: what an answer for its number made of it is none.
    const changed =
      b === undefined
        ? []
        : EDIT_FIELDS.filter((f) =>
            f === "number"
              ? now.cameAs?.[now.id[i]!] !== undefined
              : !Object.is(fieldValue(now, i, f), fieldValue(before, b, f)),
          );
    if (changed.length === 0) continue;
    const row = afterAt.get(now.row[i]!);
    if (row === undefined)
      lost.push(
        `Point ${now.number[i]} (row ${now.row[i]}): its ${changed.join(", ")} had been changed; the row gives no point now.`,
      );
    else
      for (const field of changed)
        edits.push({
          row,
          field,
          value: field === "attributes" ? carriedAttributes(now, i, before, b!, after, row) : fieldValue(now, i, field),
        });
  }
  return { table: edits.length ? withEdits(after, edits) : after, lost };
}

/** What the office changed of a point's attributes, done to those of the new reading. */
function carriedAttributes(now: PointTable, i: number, before: PointTable, b: number, after: PointTable, row: number) {
  const [is, was] = [decodeAttributes(attributesOf(now, i)), decodeAttributes(attributesOf(before, b))],
    names = [...new Set([...Object.keys(is), ...Object.keys(was)])].filter((n) => is[n] !== was[n]),
    given = Object.fromEntries(names.map((n) => [n, is[n] ?? null]));
  return encodeAttributes(withAttributes(decodeAttributes(attributesOf(after, row)), given));
}
