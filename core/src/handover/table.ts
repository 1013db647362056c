/** Rows and columns that leave: written as text, or as a sheet of a workbook. */

/** A column of texts, or of numbers with their decimals; a number that is missing is NaN. */
export type OutColumn = { title: string } & (
  { text: (row: number) => string } | { number: (row: number) => number; decimals: number }
);

export interface OutTable {
  name: string;
  count: number;
  columns: OutColumn[];
}
