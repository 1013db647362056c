/** Makes the common parts of a report. */
import type { Block, Column, TableBlock } from "./model";

export const text = (words: string): Block => ({ kind: "text", text: words });
export const table = (title: string, columns: Column[], rows: TableBlock["rows"]): TableBlock => ({
  kind: "table",
  title,
  columns,
  rows,
});
export const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
