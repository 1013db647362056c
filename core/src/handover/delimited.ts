/** Tables as delimited text. */
import { ByteText } from "../math/byte-text";
import { readDecimal } from "../math/decimal";
import { formatFixed } from "../math/round";
import type { TextStyle } from "./files";
import type { OutColumn, OutTable } from "./table";

/** Signs by which a spreadsheet takes a text for something to compute. */
const COMPUTED = /^[=+\-@\t\r]/;

/** Numbers are rounded half away from zero, never cut; one that is missing is blank. A table without rows is empty. */
export function writeDelimited(table: OutTable, style: TextStyle): Uint8Array {
  if (table.count === 0) return new Uint8Array(0);
  const end = style.lineEnd === "crlf" ? "\r\n" : "\n",
    cells = cellWriters(table, style),
    { delimiter } = withDefaults(style),
    out = new ByteText(style.encoding === "latin1" ? "latin1" : "utf-8");
  if (style.encoding === "utf-8-mark") out.add("\ufeff");
  if (style.header ?? true) out.add(table.columns.map((c) => quoter(style)(c.title)).join(delimiter) + end);
  for (let k = 0; k < table.count; k++) out.add(cells.map((cell) => cell(k)).join(delimiter) + end);
  return out.bytes();
}

/** One row as it is written, without the end of its line. */
export function rowWriter(table: OutTable, style: TextStyle): (row: number) => string {
  const cells = cellWriters(table, style),
    { delimiter } = withDefaults(style);
  return (k) => cells.map((cell) => cell(k)).join(delimiter);
}

export const withDefaults = (style: TextStyle) => ({ delimiter: ",", decimal: ".", ...style });

function cellWriters({ columns }: OutTable, style: TextStyle): ((row: number) => string)[] {
  const quote = quoter(style);
  return columns.map((c) => {
    const read = cellText(c, style);
    return (k) => quote(read(k));
  });
}

/** A cell's text before it is quoted. */
export function cellText(c: OutColumn, style: TextStyle): (row: number) => string {
  if (!("number" in c)) return c.text;
  const plain = (k: number) => formatFixed(c.number(k), c.decimals);
  return style.decimal === "," ? (k) => plain(k).replace(".", ",") : plain;
}

function quoter(style: TextStyle): (text: string) => string {
  const { delimiter } = withDefaults(style);
  const plain = (text: string) =>
    text.includes(delimiter) || /["\r\n]|^#|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  return style.guard ? (text) => plain(guarded(text)) : plain;
}

/** A text that would be computed stands behind an apostrophe; numbers, with either decimal sign, are as they are. */
export function guarded(text: string): string {
  return COMPUTED.test(text) && Number.isNaN(readDecimal(text.replace(",", "."))) ? `'${text}` : text;
}
