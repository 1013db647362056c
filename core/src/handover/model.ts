/** A file that leaves. */
export type HandoverColumn =
  | "number"
  | "northing"
  | "easting"
  | "elevation"
  | "description"
  | "code"
  | "note"
  | "kind"
  | "intake"
  | "precision"
  | `attr:${string}`;

export interface HandoverFile {
  file: string;
  format: "csv" | "dxf";
  columns?: HandoverColumn[];
  delimiter?: string;
  decimals?: number;
  /** The decimal sign, a point unless said otherwise. */
  decimal?: "." | ",";
  points?: string;
  header?: boolean;
  /** A text that a spreadsheet would compute is written behind an apostrophe. */
  guard?: boolean;
}
