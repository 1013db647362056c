/** Layouts kept by the office: whether a file is one of a kind seen before. */
import { FORMATS, type Format, type Layout } from "./model";
import type { Unit } from "../math/units";
import { columnNames, positionColumns } from "./delimited";
import { guessFormat } from "./deliver";
import { sampleLines, sampleRows } from "./guess";
import { readNumber } from "./bytes";

/**
 * A layout under a name, with the line of heads above the rows of the file that it was made for; "" where it had none.
 */
export interface KnownLayout {
  name: string;
  format: Format;
  layout: Layout;
  unit?: Unit;
  likeness: string;
}

/** What tells files of this layout: the line of heads. */
export function likenessOf(bytes: Uint8Array, layout: Layout): string {
  const skip = layout.skipRows ?? 0;
  return skip > 0 ? headLine(bytes, skip) : "";
}

/** Share of the first rows that the layout must read well to be taken without a line of heads that agrees. */
const ENOUGH = 0.95;

/**
 * The first kept layout that fits the file: the same heads, or without heads rows of the same count of columns whose
 * positions are numbers.
 */
export function recognise<K extends KnownLayout>(bytes: Uint8Array, kept: readonly K[]): K | undefined {
  const format = guessFormat(bytes);
  if (format !== "delimited") return undefined;
  return kept
    .filter((k) => FORMATS.includes(k.format) && (k.format === "delimited" || k.format === "fixed"))
    .find((k) => {
      if (k.likeness !== "")
        return headLine(bytes, k.layout.skipRows ?? 0) === k.likeness && fits(bytes, k.layout) > 0.5;
      return fits(bytes, k.layout) >= ENOUGH;
    });
}

function headLine(bytes: Uint8Array, skip: number): string {
  return (sampleLines(bytes, skip)[skip - 1] ?? "")
    .replace(/^\ufeff/, "")
    .trim()
    .toLowerCase()
    .replace(/\s+/g, " ")
    .slice(0, 1000);
}

function fits(bytes: Uint8Array, layout: Layout): number {
  const columns = columnNames(layout),
    rows = sampleRows(bytes.subarray(0, 1 << 16), layout, 60);
  const fixed = layout.columns?.some((c) => typeof c === "object");
  const positions = positionColumns(columns).map((c) => columns.indexOf(c)),
    number = columns.indexOf("number"),
    decimal = (layout.decimal ?? ".").charCodeAt(0);
  if (rows.length === 0 || number < 0 || positions.some((p) => p < 0)) return 0;
  const isNumber = (text: string | undefined) => {
    const b = new TextEncoder().encode(text ?? "");
    return b.length > 0 && !Number.isNaN(readNumber(b, 0, b.length, decimal));
  };
  // The last row of a large sample may be cut short.
  const good = rows.filter(
    (r) =>
      (fixed || r.fields.length === columns.length) &&
      (r.fields[number] ?? "") !== "" &&
      positions.every((p) => isNumber(r.fields[p])),
  );
  return good.length / rows.length;
}
