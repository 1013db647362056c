/** Rows of points to the clipboard and back: lines with tabs, as spreadsheets have them. */
import type { JobState } from "@bramble/core";
import type { NewCell } from "./change";
import { readCell, type Column, type TableData } from "./columns";

export interface Pasted {
  cells: NewCell[];
  /** Rows and columns of what was pasted that lie beyond the table. */
  beyond: { rows: number; columns: number };
  /** Why nothing can be taken from it. */
  problem?: string;
}

/** What pasting a block into the cells from a cell on would change. Cells that are read-only are passed over. */
export function readPaste(
  text: string,
  job: JobState,
  rows: Int32Array,
  nth: number,
  columns: Column[],
  column: number,
): Pasted {
  const block = text
    .replace(/\r?\n$/, "")
    .split(/\r?\n/)
    .map((l) => l.split("\t"));
  const cells: NewCell[] = [];
  const widest = Math.max(...block.map((l) => l.length));
  const beyond = {
    rows: Math.max(0, nth + block.length - rows.length),
    columns: Math.max(0, column + widest - columns.length),
  };
  for (const [r, values] of block.entries()) {
    for (const [c, value] of values.entries()) {
      const row = rows[nth + r],
        into = columns[column + c];
      if (row === undefined || !into?.field) continue;
      const read = readCell(into.field, value, job);
      if ("problem" in read)
        return {
          cells: [],
          beyond,
          problem: `Row ${r + 1} of what was pasted, ${into.title.toLowerCase()}: ${read.problem} Nothing was changed.`,
        };
      cells.push({
        row,
        field: into.field,
        value: read.value,
        ...(into.attribute ? { attribute: into.attribute } : {}),
      });
    }
  }
  return { cells, beyond };
}

/** The rows with all their columns, under a line of their names. */
export function copyRows(of: TableData, rows: Iterable<number>, columns: readonly Column[]): string {
  const line = (cells: string[]) => cells.map((x) => x.replace(/[\t\r\n]+/g, " ")).join("\t");
  const lines = [line(columns.map((c) => c.title))];
  for (const i of rows) lines.push(line(columns.map((c) => c.text(of, i))));
  return lines.join("\n");
}
