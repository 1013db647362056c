/** What a file of points says, in columns, as written: the readers' common result. */
import type { RefusedRow } from "../job/model";
import type { AttributeColumn } from "../points/table";

export interface Records {
  count: number;
  /** Physical line, from 1, on which each record starts. */
  row: Int32Array;
  number: string[];
  e: Float64Array;
  n: Float64Array;
  /** NaN when missing. */
  z: Float64Array;
  precision: Float64Array;
  targetHeight: Float64Array;
  time: Float64Array;
  /** Indices into `texts`; `texts[0]` is the empty text. */
  description: Uint32Array;
  note: Uint32Array;
  texts: string[];
  attributes: AttributeColumn[];
  /** Records in the file, refused ones counted, headers, blanks and comments not. */
  rows: number;
  refused: RefusedRow[];
  /** Things worth saying about the file as a whole. */
  notes: string[];
}
