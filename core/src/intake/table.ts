/** Tables as containers hold them. */
import type { Reference } from "../records/reference";

export interface Table {
  name: string;
  /** Names of the columns, where the container gives them; a spreadsheet's head is one of its rows. */
  head?: string[];
  /** Row k stands at line k + 1 of the text. A row without any cell is blank. */
  rows: (string | number | null)[][];
}

export interface Tables {
  tables: Table[];
  reference?: Reference;
  notes: string[];
}
