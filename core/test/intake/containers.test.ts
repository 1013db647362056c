/** Databases and spreadsheets that are made to hold the reader: each ends in a sentence, or is read without what would. */
import fc from "fast-check";
import initSqlJs from "sql.js";
import writeXlsx from "write-excel-file/node";
import { strToU8, unzipSync, zipSync } from "fflate";
import { Refusal } from "../../src/errors";
import { checkZip, openZip } from "../../src/intake/archive";
import { cellsOf } from "../../src/intake/sheet-cells";
import { openSqlite, openXlsx, pickTable } from "../../src/intake/tables";

async function database(...statements: string[]): Promise<Uint8Array> {
  const SQL = await initSqlJs(),
    db = new SQL.Database();
  for (const s of statements) db.run(s);
  const bytes = db.export();
  db.close();
  return bytes;
}

describe("an SQLite database", () => {
  test("columns that it computes are not computed; the plain ones are read", async () => {
    const bytes = await database(
      "CREATE TABLE t (number TEXT, much AS (hex(zeroblob(4000000))), easting REAL, kept AS (easting + 1) STORED)",
      "INSERT INTO t (number, easting) VALUES ('1', 3000.5), ('2', 3001)",
    );
    const { tables, notes } = await openSqlite("a.sqlite", bytes);
    expect(tables).toEqual([
      {
        name: "t",
        head: ["number", "easting"],
        rows: [
          ["1", 3000.5],
          ["2", 3001],
        ],
      },
    ]);
    expect(notes).toEqual(["Table “t”: 2 columns are computed by the file and not read."]);
  });

  test("a table whose name is longer than a name is refused, before its job could not be written down", async () => {
    const long = "t".repeat(201),
      bytes = await database(`CREATE TABLE "${long}" (number TEXT)`, `CREATE TABLE "${long.slice(1)}" (number TEXT)`);
    const { tables } = await openSqlite("a.sqlite", bytes);
    expect(pickTable("a.sqlite", tables, long.slice(1)).name).toHaveLength(200);
    expect(() => pickTable("a.sqlite", tables, long)).toThrow(
      "the name of its table has 201 letters, and may have 200",
    );
  });

  test("a view that never ends is no table; one that is called a table is refused", async () => {
    const endless = "WITH RECURSIVE c (x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c) SELECT x FROM c",
      plain = ["CREATE TABLE t (a)", "INSERT INTO t VALUES (7)", `CREATE VIEW v AS ${endless}`];
    expect((await openSqlite("a.sqlite", await database(...plain))).tables).toEqual([
      { name: "t", head: ["a"], rows: [[7]] },
    ]);
    const forged = await database(
      ...plain,
      "PRAGMA writable_schema = ON",
      `INSERT INTO sqlite_master VALUES ('table', 'w', 'w', 0, 'CREATE VIEW w AS ${endless}')`,
    );
    await expect(openSqlite("a.sqlite", forged)).rejects.toThrow("malformed database schema");
  });

  test("tables and columns of any name are read, as those names", async () => {
    const bytes = await database(
      'CREATE TABLE "a""b; DROP" ("x""y", "select", "__proto__")',
      `INSERT INTO "a""b; DROP" VALUES (1, 2, 3)`,
    );
    expect((await openSqlite("a.sqlite", bytes)).tables).toEqual([
      { name: 'a"b; DROP', head: ['x"y', "select", "__proto__"], rows: [[1, 2, 3]] },
    ]);
  });

  test("texts beyond what may be unpacked are refused", async () => {
    const bytes = await database(
      "CREATE TABLE t (a)",
      `INSERT INTO t VALUES ('${"x".repeat(600)}'), ('${"y".repeat(600)}')`,
    );
    expect((await openSqlite("a.sqlite", bytes, 1200)).tables[0]!.rows).toHaveLength(2);
    await expect(openSqlite("a.sqlite", bytes, 1000)).rejects.toMatchObject({ code: "file-unpacks" });
  });
});

describe("a spreadsheet", () => {
  /** A sound workbook whose first sheet is exchanged. */
  async function workbook(sheet: string): Promise<Uint8Array> {
    const sound = unzipSync(await writeXlsx([[{ value: "number" }]]).toBuffer()),
      path = Object.keys(sound).find((name) => /worksheets\/[^/]+\.xml$/.test(name))!;
    return zipSync({ ...sound, [path]: strToU8(sheet) });
  }
  const sheet = (rows: string) =>
    `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">` +
    `<sheetData>${rows}</sheetData></worksheet>`;

  test("as it is meant is read", async () => {
    const bytes = await workbook(sheet('<row r="1"><c r="A1"><v>12</v></c><c r="C1"><v>7.5</v></c></row>'));
    expect((await openXlsx("a.xlsx", bytes)).tables[0]!.rows).toEqual([[12, null, 7.5]]);
  });

  test.each([
    ["a cell beyond all columns and rows", '<row r="999999999"><c r="ZZZZZZZ999999999"><v>1</v></c></row>'],
    ["a cell in the last corner", '<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>'],
    ["a cell far out that hides its place", '<x:row r="5"><x:c  s="1"\n r = \'ZZZZ99999\'><v>1</v></x:c></x:row>'],
    ["a place written as entities", '<row r="1"><c r="&#90;&#90;&#90;9"><v>1</v></c></row>'],
    ["a place behind very long attributes", `<row r="1"><c s="${"1".repeat(500)}" r="ZZZ9999"><v>1</v></c></row>`],
    ["a row far down beside a cell far right", '<row r="9999999"/><row r="1"><c r="XFD1"><v>1</v></c></row>'],
  ])("with %s is refused by a sentence", async (_, rows) => {
    await expect(openXlsx("a.xlsx", await workbook(sheet(rows)))).rejects.toThrow(
      /reaches to (row \d+, column \d+|a cell whose place)/,
    );
  });

  test("of more blanks than can be held is refused by a sentence", async () => {
    const row = `<row>${"<c/>".repeat(1000)}</row>`;
    await expect(openXlsx("a.xlsx", await workbook(sheet(row.repeat(2001))))).rejects.toThrow(
      /more than 2.000.000 cells/,
    );
  });

  test("its cells are counted as they are written, words that only begin like them are none", () => {
    const xml =
      '<cols><col min="1"/></cols><row r="3" spans="1:2"><c r="AB3" t="s"/><c><v>1</v></c><cc r="ZZ99"/></row>';
    expect(cellsOf(strToU8(xml))).toEqual({ cells: 2, rows: 3, columns: 28 });
    expect(cellsOf(strToU8("<c".repeat(50_000)))).toEqual({ cells: 0, rows: 0, columns: 0 });
  });
});

describe("archives", () => {
  const files = { "a.csv": new Uint8Array(50_000).fill(65), "b/c.txt": Uint8Array.of(1, 2, 3) };
  const packed = zipSync(files);
  /** Where the list of entries begins, as the archive's end says. */
  const list = new DataView(packed.buffer).getUint32(packed.length - 6, true);
  const changed = (at: number, value: number, bytes: 2 | 4 = 4) => {
    const out = packed.slice(),
      view = new DataView(out.buffer);
    if (bytes === 4) view.setUint32(at, value, true);
    else view.setUint16(at, value, true);
    return out;
  };
  const opened = (bytes: Uint8Array, limit = 1e6) => openZip("p.zip", bytes, limit);

  test("are opened as they were packed, stored or deflated", async () => {
    for (const level of [0, 6] as const)
      expect(Object.fromEntries(await opened(zipSync(files, { level })))).toEqual(files);
    expect(await checkZip("p.zip", packed, 1e6)).toEqual(["a.csv", "b/c.txt"]);
  });

  test.each([0, 6] as const)(
    "packed at level %d: a flipped bit anywhere is refused, or changes nothing that comes out",
    async (level) => {
      const small = {
          "day1.csv": new TextEncoder().encode("1,10,20,5,SPOT\n2,30,40,6,TREE\n"),
          "b.txt": Uint8Array.of(7),
        },
        whole = zipSync(small, { level });
      let refused = 0;
      for (let at = 0; at < whole.length; at++)
        for (let bit = 0; bit < 8; bit++) {
          const flipped = whole.slice();
          flipped[at]! ^= 1 << bit;
          try {
            const files = await opened(flipped);
            expect([at, bit, Object.fromEntries(files)]).toEqual([at, bit, small]);
            expect(await checkZip("p.zip", flipped, 1e6)).toEqual(Object.keys(small));
          } catch (e) {
            if (!(e instanceof Refusal)) throw e;
            refused++;
          }
        }
      expect(refused).toBeGreaterThan(4 * whole.length);
    },
  );

  test.each([
    ["an entry that says less than it holds", changed(list + 24, 10), "larger than it says"],
    ["an entry that says more than it holds", changed(list + 24, 60_000), "smaller than it says"],
    ["more than the limit", changed(list + 24, 2e9), "would unpack to"],
    ["an entry beyond the end", changed(list + 42, 1e6), "cut off"],
    ["packed bytes beyond the end", changed(list + 20, 1e6), "cut off"],
    ["an encrypted entry", changed(list + 8, 1, 2), "encrypted"],
    ["an unknown packing", changed(list + 10, 99, 2), "not known here"],
    ["half of it", packed.subarray(0, packed.length / 2), "no list"],
    ["two of one name", zipTwice(), "two of its entries"],
    ["an entry outside", zipSync({ "../a.csv": files["a.csv"] }), "points outside"],
  ])("%s is refused", async (_, bytes, why) => {
    await expect(opened(bytes)).rejects.toMatchObject({ message: expect.stringContaining(why) });
  });

  test("any damage gives files of the sizes that are told, or a sentence", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(packed.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        async (marks) => {
          const bytes = packed.slice();
          for (const [at, value] of marks) bytes[at] = value;
          const found = await opened(bytes).catch((e: unknown) => e);
          if (found instanceof Map) expect([...found.values()].every((f: Uint8Array) => f.length <= 1e6)).toBe(true);
          else expect(found).toBeInstanceOf(Refusal);
        },
      ),
    );
  });
});

/** An archive that lists one entry twice. */
function zipTwice(): Uint8Array {
  const bytes = zipSync({ "a.csv": Uint8Array.of(1) }),
    view = new DataView(bytes.buffer),
    list = view.getUint32(bytes.length - 6, true),
    entry = bytes.slice(list, bytes.length - 22),
    out = new Uint8Array(bytes.length + entry.length);
  out.set(bytes.subarray(0, bytes.length - 22));
  out.set(entry, bytes.length - 22);
  out.set(bytes.subarray(bytes.length - 22), out.length - 22);
  const end = new DataView(out.buffer);
  end.setUint16(out.length - 12, 2, true);
  end.setUint16(out.length - 14, 2, true);
  end.setUint32(out.length - 10, 2 * entry.length, true);
  return out;
}
