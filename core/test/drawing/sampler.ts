/** A test drawing in which every code of a book stands once, on a lattice of plots, with a value for each of its attributes. */
import type { AttributeDefinition, CodeBook } from "../../src";

const PLOT = 24;

function valueFor(a: AttributeDefinition, k: number): string {
  if (a.type === "choice") return a.choices![k % a.choices!.length]!;
  if (a.type === "number") return a.unit === "m" ? (1.2 + 0.3 * (k % 5)).toFixed(1) : String(2 + (k % 7));
  return `kind${k % 3}`;
}

/** Delimited text: number, easting, northing, elevation, description. */
export function sampleText(book: CodeBook): string {
  const rows: string[] = [];
  (book.codes ?? []).forEach((c, k) => {
    const e0 = 5000 + PLOT * (k % 10),
      n0 = 9000 + PLOT * Math.floor(k / 10);
    const attributes = (c.attributes ?? []).map((a, j) => ` ${a.name}=${valueFor(a, k + j)}`).join("");
    const shot = (e: number, n: number, more: string) =>
      rows.push(
        `${rows.length + 1},${(e0 + e).toFixed(2)},${(n0 + n).toFixed(2)},${(50 + 0.05 * e + 0.03 * n).toFixed(2)},${c.code}1${more}`,
      );
    if (c.kind === "area")
      [
        [2, 2],
        [16, 3],
        [15, 14],
        [3, 13],
      ].forEach(([e, n], j) => shot(e!, n!, j === 0 ? attributes : j === 3 ? " loop" : ""));
    else if (c.kind === "line")
      [
        [2, 4],
        [8, 6],
        [13, 11],
        [18, 9],
      ].forEach(([e, n], j) => shot(e!, n!, j === 0 ? attributes : j === 2 ? " via" : j === 3 ? " end" : ""));
    else shot(8, 8, `${attributes}; plot ${k + 1}`);
  });
  return `${rows.join("\n")}\n`;
}
