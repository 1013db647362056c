/**
 * Files that hold tables (GeoJSON, SQLite and GeoPackage, XLSX) → tables of texts, which are then read by a layout as delimited text is.
 * The containers are opened by sql.js and read-excel-file; sizes are checked before anything is unpacked.
 */
import type { Database } from "sql.js";
import { refusal, type Refusal } from "../errors";
import { formatGrouped } from "../math/round";
import type { Reference } from "../records/reference";
import { LONGEST_NAME } from "../shape";
import { plural } from "../math/words";
import { checkZip } from "./archive";
import { readGeometryBlob } from "./geometry-blob";
import type { Table, Tables } from "./table";
import { addReference, type GeometryOfRow } from "./table-geometry";
import { cellsOf, type SheetCells } from "./sheet-cells";

export type { Table, Tables } from "./table";

/** The table as tab-delimited text, one line a row, and the layout that reads it; a number is written so that it reads back as the same. */
export function tableText(table: Table): Uint8Array {
  const cell = (c: string | number | null | undefined) => {
    if (c === null || c === undefined) return "";
    if (typeof c === "number") return Number.isFinite(c) ? String(c) : "";
    const flat = c.replace(/[\r\n\t\0]+/g, " ");
    return /["]|^\s|\s$/.test(flat) ? `"${flat.replaceAll('"', '""')}"` : flat;
  };
  return new TextEncoder().encode(`${table.rows.map((r) => r.map(cell).join("\t")).join("\n")}\n`);
}

export const TABLE_DELIMITER = "\t";

/** The table asked for; the first that has rows when none is. */
export function pickTable(file: string, tables: readonly Table[], name: string | undefined): Table {
  const found =
    name === undefined ? (tables.find((t) => t.rows.length > 0) ?? tables[0]) : tables.find((t) => t.name === name);
  if (!found) throw refusal("file-table", { file, table: name ?? "", tables: tables.map((t) => t.name) });
  // A layout names its table, and is written down with the job.
  const { length } = found.name;
  if (length > LONGEST_NAME)
    throw refusal("file-container", {
      file,
      what: "a file of tables",
      why: `the name of its table has ${length} letters, and may have ${LONGEST_NAME}`,
    });
  return found;
}

const MOST_ROWS = 5_000_000;
/** Unpacked bytes beyond which a file is not opened. */
export const UNPACK_LIMIT = 512e6;

/**
 * Tables of an SQLite database or GeoPackage. Points give the columns `easting`, `northing`, `elevation`, other
 * geometries are reference.
 */
export async function openSqlite(file: string, bytes: Uint8Array, limit = UNPACK_LIMIT): Promise<Tables> {
  const wrong = (why: string) => refusal("file-container", { file, what: "an SQLite database", why });
  const { default: initSqlJs } = await import("sql.js/dist/sql-wasm-inline.js");
  const SQL = await initSqlJs();
  const notes: string[] = [],
    reference: Reference = { lines: [], surfaces: [] };
  let db: Database | undefined;
  try {
    const opened = (db = new SQL.Database(bytes));
    // Nothing that the file brings along is run: no triggers fire on reading, and only what SQLite itself takes for a plain
    // table is read, whatever the file calls it; a view may never end.
    opened.run("PRAGMA trusted_schema = OFF; PRAGMA query_only = ON;");
    const listed = (sql: string, ...given: string[]) =>
        opened.exec(sql, given)[0]?.values.map((v) => String(v[0])) ?? [],
      plain = new Set(listed("SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table'"));
    const names = listed("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY rowid").filter(
      (n) => plain.has(n) && !/^(gpkg_|rtree_|sqlite_)/.test(n),
    );
    let room = limit;
    const tables = names.map((name): Table => {
      // Columns that are computed when they are read may compute for ever, or more than memory holds.
      const head = listed("SELECT name FROM pragma_table_xinfo(?) WHERE hidden = 0 ORDER BY cid", name),
        computed = listed("SELECT name FROM pragma_table_xinfo(?) WHERE hidden <> 0", name).length;
      if (computed)
        notes.push(
          `Table “${name}”: ${plural(computed, "column is", "columns are")} computed by the file and not read.`,
        );
      if (head.length === 0) return { name, head, rows: [] };
      const quoted = (n: string) => `"${n.replaceAll('"', '""')}"`,
        statement = opened.prepare(`SELECT ${head.map(quoted).join(", ")} FROM ${quoted(name)}`);
      const rows: Table["rows"] = [];
      let geometries = 0,
        others = 0,
        blobAt = -1;
      const ways: GeometryOfRow[] = [];
      while (statement.step()) {
        if (rows.length >= MOST_ROWS)
          throw wrong(`table “${name}” has more than ${MOST_ROWS.toLocaleString("en-GB")} rows`);
        const values = statement.get();
        let position: (number | null)[] = [];
        const cells = values.map((v, k) => {
          // Many rows may share the pages of one long text.
          if (typeof v === "string" || v instanceof Uint8Array) room -= v.length;
          if (room < 0) throw refusal("file-unpacks", { file, bytes: limit - room, limit });
          if (!(v instanceof Uint8Array)) return typeof v === "string" || typeof v === "number" ? v : null;
          const at = readGeometryBlob(v);
          if (at?.kind === "point" && at.ways[0]) {
            geometries++;
            blobAt = k;
            const [e, n, z] = at.ways[0];
            position = [e!, n!, Number.isNaN(z) ? null : z!];
          } else if (at) ways.push({ geometry: at, row: rows.length });
          else others++;
          return null;
        });
        rows.push(position.length ? [...cells, ...position] : cells);
      }
      statement.free();
      if (others)
        notes.push(
          `Table “${name}”: ${plural(others, "geometry", "geometries")} of a kind that is not read here ` +
            `${others === 1 ? "was" : "were"} passed over.`,
        );
      addReference(reference, { name, head, rows }, ways);
      if (!geometries) return { name, head, rows };
      const all = [...head, "easting", "northing", "elevation"];
      const keep = all.map((_, k) => k).filter((k) => k !== blobAt);
      return { name, head: keep.map((k) => all[k]!), rows: rows.map((r) => keep.map((k) => r[k] ?? null)) };
    });
    return { tables, notes, ...(reference.lines.length || reference.surfaces.length ? { reference } : {}) };
  } catch (e) {
    throw e instanceof Error && e.name === "Refusal" ? e : wrong((e as Error).message);
  } finally {
    db?.close();
  }
}

/** Bytes that a spreadsheet may unpack to, cells that its sheets may have, and cells before the last one of a sheet. */
const SHEETS_LIMIT = 256e6,
  MOST_CELLS = 2_000_000,
  MOST_BEFORE = 4_000_000;

/** Refuses sheets of more cells than can be held, or with one so far out that as many would be made before it. */
async function checkSheets(bytes: Uint8Array, wrong: (why: string) => Refusal): Promise<void> {
  const { unzipSync } = await import("fflate");
  let cells = 0,
    sheets: Record<string, Uint8Array>;
  try {
    sheets = unzipSync(bytes, { filter: ({ name }) => /(^|\/)worksheets\/[^/]+\.xml$/i.test(name) });
  } catch (e) {
    throw wrong((e as Error).message);
  }
  for (const [name, xml] of Object.entries(sheets)) {
    const sheet = cellsOf(xml),
      called = name
        .split("/")
        .at(-1)!
        .replace(/\.xml$/i, "");
    cells += sheet.cells;
    if (cells > MOST_CELLS)
      throw wrong(`it has more than ${formatGrouped(MOST_CELLS, 0)} cells; text of as many rows is read in full`);
    if (sheet.rows * sheet.columns > MOST_BEFORE)
      throw wrong(`${called} reaches to ${far(sheet)}: too many cells lie before it`);
  }
}

const far = ({ rows, columns }: SheetCells) =>
  Number.isFinite(rows) ? `row ${rows}, column ${columns}` : "a cell whose place is not written plainly";

/** Sheets of a spreadsheet. */
export async function openXlsx(file: string, bytes: Uint8Array): Promise<Tables> {
  const wrong = (why: string) => refusal("file-container", { file, what: "a spreadsheet", why });
  await checkZip(file, bytes, SHEETS_LIMIT);
  await checkSheets(bytes, wrong);
  const { default: readSheets } = await import("read-excel-file/universal");
  let sheets;
  try {
    sheets = await readSheets(new Uint8Array(bytes).buffer);
  } catch (e) {
    throw wrong((e as Error).message);
  }
  return {
    notes: [],
    tables: sheets.map(({ sheet, data }) => ({
      name: sheet,
      rows: data.map((r) =>
        r.map((c) =>
          typeof c === "number" || typeof c === "string"
            ? c
            : c instanceof Date
              ? c.toISOString().slice(0, 19)
              : typeof c === "boolean"
                ? String(c)
                : null,
        ),
      ),
    })),
  };
}
