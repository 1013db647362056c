/** Points as delimited text. */
import type { HandoverColumn, HandoverFile } from "./model";
import type { IntakeInfo } from "../intake/model";
import { KINDS } from "../records/kinds";
import { attributeOf, codeOf, type CodedPoints } from "../codes/read";
import { readDecimal } from "../math/decimal";
import { formatFixed } from "../math/round";
import { descriptionOf, type PointTable } from "../points/table";

export const DEFAULT_COLUMNS: HandoverColumn[] = ["number", "northing", "easting", "elevation", "description"];
export const DEFAULT_DECIMALS = 3;

/** Columns of lengths, which are written with the file's own decimal sign. */
const LENGTHS: ReadonlySet<HandoverColumn> = new Set(["northing", "easting", "elevation", "precision"]);

/**
 * The points at the given rows in that order. Coordinates are rounded half away from zero, never cut; a missing
 * elevation is blank.
 */
export function writeCsv(
  file: HandoverFile,
  t: PointTable,
  coded: CodedPoints,
  intakes: readonly IntakeInfo[],
  rows: Int32Array,
): string {
  const { columns = DEFAULT_COLUMNS, delimiter = ",", decimals = DEFAULT_DECIMALS, header = true } = file;
  const readers = columns.map((c) => {
    const read = columnReader(c, t, coded, intakes, decimals);
    return file.decimal === "," && LENGTHS.has(c) ? (i: number) => read(i).replace(".", ",") : read;
  });
  const plain = quoter(delimiter),
    quote = file.guard ? (text: string) => plain(guarded(text)) : plain;
  const out: string[] = [];
  if (header) out.push(columns.map((c) => quote(c)).join(delimiter));
  for (const i of rows) out.push(readers.map((read) => quote(read(i))).join(delimiter));
  return rows.length ? `${out.join("\n")}\n` : "";
}

/** Signs by which a spreadsheet takes a text for something to compute. */
const COMPUTED = /^[=+\-@\t\r]/;

/** A text that would be computed stands behind an apostrophe; numbers, with either decimal sign, are as they are. */
function guarded(text: string): string {
  return COMPUTED.test(text) && Number.isNaN(readDecimal(text.replace(",", "."))) ? `'${text}` : text;
}

function quoter(delimiter: string): (text: string) => string {
  return (text) =>
    text.includes(delimiter) || /["\r\n]|^#|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** How one column of a point is written; also used by the table on the screen. */
export function columnReader(
  column: HandoverColumn,
  t: PointTable,
  coded: CodedPoints,
  intakes: readonly IntakeInfo[],
  decimals: number,
): (i: number) => string {
  switch (column) {
    case "number":
      return (i) => t.number[i]!;
    case "northing":
      return (i) => formatFixed(t.n[i]!, decimals);
    case "easting":
      return (i) => formatFixed(t.e[i]!, decimals);
    case "elevation":
      return (i) => formatFixed(t.z[i]!, decimals);
    case "description":
      return (i) => descriptionOf(t, i);
    case "code":
      return (i) => codeOf(coded, i);
    case "note":
      return (i) => t.texts[t.note[i]!] || coded.parsed[coded.description[i]!]!.note;
    case "kind":
      return (i) => KINDS[t.kind[i]!]!;
    case "intake":
      return (i) => intakes[t.intake[i]!]?.id ?? "";
    case "precision":
      return (i) => formatFixed(t.precision[i]!, decimals);
    default: {
      const name = column.slice(5);
      return (i) => attributeOf(t, coded, i, name);
    }
  }
}
