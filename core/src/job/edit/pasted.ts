/** A block of text laid into the cells of the points table: lines with tabs, as spreadsheets have them. */
import type { EditField } from "../../records/fields";
import type { Attributed } from "./attributed";
import { readCell, refusedAttribute, type NewCell } from "./cells";

/** A column that cells are pasted into; one without a field is read-only. */
export interface Into {
  title: string;
  field?: EditField;
  attribute?: string;
}

export interface Pasted {
  cells: NewCell[];
  /** Rows and columns of what was pasted that lie beyond the table. */
  beyond: { rows: number; columns: number };
  /** Cells that cannot be taken, the first few each with why. */
  refused: string[];
  refusedCount: number;
}

/** Refused cells that are named one by one. */
const NAMED = 5;

/** What pasting a block into the cells from a cell on would change. Cells that are read-only are passed over. */
export function readPaste(
  text: string,
  repeat: { rows: number; columns: number },
  of: Attributed,
  rows: Int32Array,
  nth: number,
  columns: readonly Into[],
  column: number,
): Pasted {
  const { job } = of;
  let block = text
    .replace(/\r?\n$/, "")
    .split(/\r?\n/)
    .map((l) => l.split("\t"));
  // One value fills all cells that are chosen.
  if (block.length === 1 && block[0]!.length === 1)
    block = Array.from({ length: repeat.rows }, () => Array<string>(repeat.columns).fill(block[0]![0]!));
  const cells: NewCell[] = [],
    refused: string[] = [];
  let refusedCount = 0;
  const refuse = (row: number, into: Into, value: string, why: string) => {
    if (refusedCount++ < NAMED)
      refused.push(
        `Point ${job.points.number[row]}, ${into.title.replace(/ (m|ft|ftUS)$/, "").toLowerCase()} “${value.slice(0, 40)}”: ${why}`,
      );
  };
  const widest = block.reduce((most, l) => Math.max(most, l.length), 0);
  const beyond = {
    rows: Math.max(0, nth + block.length - rows.length),
    columns: Math.max(0, column + widest - columns.length),
  };
  for (const [r, values] of block.entries()) {
    for (const [c, value] of values.entries()) {
      const row = rows[nth + r],
        into = columns[column + c];
      if (row === undefined || !into?.field) continue;
      if (job.points.deleted[row]) {
        refuse(row, into, value, "it is deleted.");
        continue;
      }
      const read = readCell(into.field, value, job),
        wrong =
          "problem" in read ? read.problem : into.attribute && refusedAttribute(of, row, into.attribute, value.trim());
      if ("problem" in read || wrong) {
        refuse(row, into, value, String(wrong));
        continue;
      }
      cells.push({
        row,
        field: into.field,
        value: read.value,
        ...(into.attribute ? { attribute: into.attribute } : {}),
      });
    }
  }
  return { cells, beyond, refused, refusedCount };
}
