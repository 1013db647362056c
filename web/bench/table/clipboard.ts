/** Rows of points to the clipboard: lines with tabs, as spreadsheets have them. */
import type { Column, TableData } from "./columns";

/** The rows with all their columns, under a line of their names. */
export function copyRows(of: TableData, rows: Iterable<number>, columns: readonly Column[]): string {
  const line = (cells: string[]) => cells.map((x) => x.replace(/[\t\r\n]+/g, " ")).join("\t");
  const lines = [line(columns.map((c) => c.title))];
  for (const i of rows) lines.push(line(columns.map((c) => c.text(of, i))));
  return lines.join("\n");
}

/** A block of cells alone, without names. */
export function copyCells(of: TableData, rows: Iterable<number>, columns: readonly Column[]): string {
  return Array.from(rows, (i) => columns.map((c) => c.text(of, i).replace(/[\t\r\n]+/g, " ")).join("\t")).join("\n");
}
