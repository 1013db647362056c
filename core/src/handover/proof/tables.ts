/** Text and workbooks read back cell by cell, by published readers (papaparse, read-excel-file). */
import Papa from "papaparse";
import { formatFixed } from "../../math/round";
import { decodeWestern } from "../../math/western";
import { guarded, withDefaults } from "../delimited";
import type { TextStyle } from "../files";
import type { OutColumn, OutTable } from "../table";
import { withoutControls } from "../xml";
import { Found, type Proof } from "./found";

const halfOf = (decimals: number) => 0.5000001 * 10 ** -decimals;

export function proveDelimited(file: string, bytes: Uint8Array, table: OutTable, style: TextStyle): Proof {
  const found = new Found(file, 0),
    { delimiter, decimal } = withDefaults(style),
    latin = style.encoding === "latin1";
  const text = latin ? decodeWestern(bytes) : new TextDecoder().decode(bytes);
  const rows = Papa.parse<string[]>(text, { delimiter, newline: style.lineEnd === "crlf" ? "\r\n" : "\n" }).data;
  // After the end of the last row there is nothing.
  if (rows.length && rows.at(-1)!.length === 1 && rows.at(-1)![0] === "") rows.pop();
  const head = (style.header ?? true) && table.count > 0 ? 1 : 0;
  found.count("rows", table.count, rows.length - head);
  const cells = table.columns.map((c) => cellProver(c, found, style, decimal, latin));
  for (let k = 0; k < table.count; k++) {
    const row = rows[k + head]!;
    if (row.length !== cells.length) found.refuse(`row ${k + 1} has ${row.length} columns instead of ${cells.length}`);
    cells.forEach((prove, c) => prove(k, row[c]!));
  }
  return found.proof;
}

function cellProver(c: OutColumn, found: Found, style: TextStyle, decimal: string, latin: boolean) {
  if ("number" in c)
    return (k: number, cell: string) =>
      found.number(`row ${k + 1}, ${c.title}`, c.number(k), numberOf(cell.replace(decimal, ".")), halfOf(c.decimals));
  return (k: number, cell: string) => {
    const written = style.guard ? guarded(c.text(k)) : c.text(k);
    if (latin && cell !== written) {
      const lost = [...written].filter((x, j) => [...cell][j] !== x);
      // What the encoding does not have stands as a question mark.
      if ([...cell].length === [...written].length && [...cell].every((x, j) => x === "?" || x === [...written][j]))
        return found.lost(lost.length);
    }
    found.text(`row ${k + 1}, ${c.title}`, written, cell);
  };
}

const numberOf = (cell: string) => (cell === "" ? NaN : Number(cell));

export async function proveWorkbook(file: string, bytes: Uint8Array, tables: readonly OutTable[]): Promise<Proof> {
  const found = new Found(file, 0),
    { default: readSheets } = await import("read-excel-file/universal"),
    sheets = await readSheets(new Uint8Array(bytes).buffer);
  found.count("sheets", tables.length, sheets.length);
  tables.forEach((t, s) => {
    const { sheet, data } = sheets[s]!;
    found.text("a sheet's name", t.name, sheet);
    found.count(t.name, t.count, data.length - 1);
    t.columns.forEach((c, k) => {
      for (let row = 0; row < t.count; row++) {
        const cell = data[row + 1]![k] ?? null,
          where = `sheet ${t.name}, row ${row + 2}, ${c.title}`;
        if ("number" in c) {
          const wanted = formatFixed(c.number(row), c.decimals) === "" ? NaN : c.number(row);
          found.number(where, wanted, cell === null ? NaN : Number(cell), halfOf(c.decimals));
        } else found.text(where, plainCell(c.text(row)), cell === null ? "" : plainCell(String(cell)));
      }
    });
  });
  return found.proof;
}

/** Blanks round a cell, and how its lines end, are the reader's to say. */
const plainCell = (text: string) => withoutControls(text).replace(/\r\n?/g, "\n").trim();
