/** Tables as sheets of a workbook (Office Open XML, by write-excel-file); numbers are numbers, with their decimals. */
import { formatFixed } from "../math/round";
import { zipAgain } from "./archive";
import type { OutTable } from "./table";
import { withoutControls } from "./xml";

type Cell = {
  value: string | number;
  type: typeof String | typeof Number;
  format?: string;
  fontWeight?: "bold";
} | null;

/** Rows that one sheet of the format can have, its head among them. */
export const MOST_ROWS = 1_048_576;

export async function writeWorkbook(tables: readonly OutTable[], date: string | undefined): Promise<Uint8Array> {
  const { default: writeXlsxFile } = await import("write-excel-file/universal");
  const sheets = tables.map((t) => ({
    sheet: t.name,
    data: [t.columns.map((c): Cell => ({ value: c.title, type: String, fontWeight: "bold" })), ...rowsOf(t)],
    columns: t.columns.map((c) => ({ width: Math.max(12, c.title.length + 2) })),
    stickyRowsCount: 1,
  }));
  const blob = await writeXlsxFile(sheets as never).toBlob();
  return zipAgain(new Uint8Array(await blob.arrayBuffer()), date);
}

function rowsOf({ count, columns }: OutTable): Cell[][] {
  const cells = columns.map((c): ((k: number) => Cell) => {
    if ("number" in c) {
      const format = c.decimals ? `0.${"0".repeat(c.decimals)}` : "0";
      return (k) => {
        // What is shown is what is there.
        const text = formatFixed(c.number(k), c.decimals);
        return text === "" ? null : { value: Number(text), type: Number, format };
      };
    }
    return (k) => {
      const value = withoutControls(c.text(k));
      return value === "" ? null : { value, type: String };
    };
  });
  return Array.from({ length: count }, (_, k) => cells.map((cell) => cell(k)));
}
