/** A report as a spreadsheet: one sheet for each chapter; numbers are numbers, with their decimals as a format. */
import writeXlsxFile from "write-excel-file/node";
import type { Block, Chapter, Report } from "@bramble/core/report/model";

type Cell = { value?: string | number; type?: typeof String | typeof Number; [style: string]: unknown } | null;
type Row = Cell[];

/** Characters of a sheet's name, and those that it must not have. */
const LONGEST_NAME = 31,
  NOT_IN_NAMES = /[\\/?*[\]:]/g;

export async function reportXlsx(report: Report): Promise<Uint8Array> {
  const summary: Chapter = { title: report.title, blocks: [{ kind: "facts", rows: report.facts }] },
    chapters = [summary, ...report.chapters].filter((c) => c.blocks.some((b) => b.kind !== "signatures"));
  const taken = new Set<string>();
  const sheets = chapters.map((chapter) => {
    const data = [[title(chapter.title)], [], ...chapter.blocks.flatMap(rowsOf)];
    return { sheet: sheetName(chapter.title, taken), data, columns: widthsOf(data) };
  });
  const buffer = await writeXlsxFile(sheets as never).toBuffer();
  return new Uint8Array(buffer);
}

function rowsOf(block: Block): Row[] {
  switch (block.kind) {
    case "heading":
      return [[title(block.text)]];
    case "text":
      return [[text(block.text)], []];
    case "facts":
      return [...block.rows.map(([what, value]): Row => [text(what), text(value)]), []];
    case "table": {
      const head = block.columns.map((c): Cell => ({ ...text(c.title), fontWeight: "bold" })),
        rows = block.rows.map((row) => row.map((cell, k) => cellOf(cell, block.columns[k]!.decimals)));
      return [[title(block.title)], head, ...rows, []];
    }
    case "section": {
      const unit = block.unit,
        column = (section: { station: number[]; level: number[] }) =>
          section.station.map((station, k): Row => [cellOf(station, 3), cellOf(section.level[k]!, 3)]);
      return block.profiles.flatMap(({ name, section }) => [
        [title(`${block.title}, ${name}`)],
        [text(`Station, ${unit}`), text(`Level, ${unit}`)],
        ...column(section),
        [],
      ]);
    }
    // What is drawn is in the report on paper; its figures are in the tables.
    default:
      return [];
  }
}

const text = (value: string): NonNullable<Cell> => ({ value, type: String });
const title = (value: string): Cell => ({ ...text(value), fontWeight: "bold" });

function cellOf(cell: string | number | null, decimals = 0): Cell {
  if (cell === null || cell === "" || Number.isNaN(cell)) return null;
  if (typeof cell === "string") return text(cell);
  return { value: cell, type: Number, format: decimals ? `#,##0.${"0".repeat(decimals)}` : "#,##0" };
}

function widthsOf(data: readonly Row[]): { width: number }[] {
  const widths: number[] = [];
  for (const row of data) {
    // A text alone in its row runs over its neighbours.
    if (row.length < 2) continue;
    row.forEach((cell, k) => {
      const length = typeof cell?.value === "number" ? 14 : String(cell?.value ?? "").length;
      widths[k] = Math.min(60, Math.max(widths[k] ?? 10, length + 2));
    });
  }
  return widths.map((width) => ({ width }));
}

/** No two sheets have one name, whatever the letters' size. */
function sheetName(wanted: string, taken: Set<string>): string {
  const letters = [...wanted.replace(NOT_IN_NAMES, " ")],
    from = letters.findIndex((c) => c !== "'"),
    to = letters.findLastIndex((c) => c !== "'"),
    plain = (from < 0 ? "" : letters.slice(from, to + 1).join("")).trim() || "Sheet";
  for (let k = 1; ; k++) {
    const end = k === 1 ? "" : ` ${k}`,
      name = plain.slice(0, LONGEST_NAME - end.length).trim() + end;
    if (taken.has(name.toLowerCase())) continue;
    taken.add(name.toLowerCase());
    return name;
  }
}
