/** Which cells of the table became others, by identity. */
import { fieldValue, type EditValue } from "./edits";
import { EDIT_FIELDS, fieldOf, type EditField } from "../records/fields";
import { rowOf, type PointTable } from "./table";

export interface CellValue {
  id: number;
  /** `code` is what the description was read as. */
  field: EditField | "code";
  value: EditValue;
}

/** What `now` tells of points that both tables have, where `was` tells otherwise; at most so many cells. */
export function differingCells(was: PointTable, now: PointTable, most: number): CellValue[] {
  const fields = EDIT_FIELDS.filter((f) => f !== "cues" && columnOf(was, f) !== columnOf(now, f));
  const sameRows = was.id === now.id;
  const cells: CellValue[] = [];
  if (fields.length === 0) return cells;
  for (let i = 0; i < now.count; i++) {
    const id = now.id[i]!,
      before = sameRows ? i : rowOf(was, id);
    if (before < 0) continue;
    for (const field of fields) {
      const value = cellValue(now, i, field);
      if (Object.is(value, cellValue(was, before, field))) continue;
      if (cells.length === most) return cells;
      cells.push({ id, field, value });
    }
  }
  return cells;
}

/** Coordinates as they are, also where they follow from observations. */
export function cellValue(t: PointTable, i: number, field: EditField): EditValue {
  const f = fieldOf(field);
  if (f.is !== "length") return fieldValue(t, i, field);
  const x = t[f.column][i]!;
  return Number.isNaN(x) ? null : x;
}

function columnOf(t: PointTable, field: EditField): unknown {
  const f = fieldOf(field);
  return t["column" in f ? f.column : f.is];
}
