/** Migrations on a database as an earlier version left it. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import pg from "pg";
import { GENERAL_BOOK } from "@bramble/core";
import {
  closePool,
  connectionString,
  createJob,
  getPool,
  listLedger,
  loadJob,
  loadPoints,
  migrate,
  redoLast,
  storeChange,
  takeIntake,
  undoLast,
} from "../src/index";

const folder = path.join(__dirname, "../migrations"),
  name = `migrations_${process.pid}`,
  address = connectionString();
const asAdmin = async (sql: string) => {
  const admin = new pg.Client({ connectionString: address });
  await admin.connect();
  await admin.query(sql);
  await admin.end();
};
beforeAll(async () => {
  await asAdmin(`CREATE DATABASE ${name}`);
  const url = new URL(address);
  url.pathname = `/${name}`;
  process.env.DATABASE_URL = url.href;
});
afterAll(async () => {
  await closePool();
  process.env.DATABASE_URL = address;
  await asAdmin(`DROP DATABASE ${name}`);
});

test("one-row deliveries of the office become changes, as they were made; they are taken back and made again", async () => {
  const before = fs.mkdtempSync(path.join(os.tmpdir(), "migrations-"));
  for (const f of fs.readdirSync(folder).filter((x) => x < "000005"))
    fs.copyFileSync(path.join(folder, f), path.join(before, f));
  expect(await migrate(before)).toHaveLength(4);
  fs.rmSync(before, { recursive: true });

  // What this version wrote then, by hand: its tables lack what later migrations add.
  await getPool().query(
    "ALTER TABLE ledger ADD COLUMN client text; ALTER TABLE jobs ADD COLUMN removed timestamptz;" +
      "ALTER TABLE intakes RENAME COLUMN place TO sequence; ALTER TABLE points ADD COLUMN came_as text",
  );
  const job = await createJob({ name: "Old plot", unit: "m", order: "EN", book: GENERAL_BOOK }),
    bytes = (text: string) => new TextEncoder().encode(text);
  const layout = {
    delimiter: ",",
    columns: ["number", "easting", "northing", "elevation", "description"] as (
      "number" | "easting" | "northing" | "elevation" | "description"
    )[],
  };
  await takeIntake(job, "Ada", { file: "day1.csv", layout }, bytes("1,0,0,10,SPOT\n2,10,0,11,SPOT\n"));
  await takeIntake(job, "Ada", { file: "point-900.csv", layout, kind: "computed" }, bytes("900,5,6,,SPOT\n"));
  await takeIntake(job, "Ben", { file: "point-901.csv", layout, kind: "computed" }, bytes("901,7,8,9.5,TREE\n"));
  // A delivery of the field that only looks like one stays what it is.
  await takeIntake(job, "Ada", { file: "point-5.csv", layout }, bytes("5,1,1,1,SPOT\n"));
  await storeChange(job, "Ada", {
    type: "points",
    edits: [
      { id: 3, field: "elevation", old: null, new: 12 },
      { id: 3, field: "number", old: "900", new: "A9" },
    ],
  });
  await undoLast(job, "Ben", true);
  await getPool().query(
    "ALTER TABLE ledger DROP COLUMN client; ALTER TABLE jobs DROP COLUMN removed;" +
      "ALTER TABLE intakes RENAME COLUMN sequence TO place; ALTER TABLE points DROP COLUMN came_as",
  );

  expect(await migrate(folder)).toEqual([
    "000005_additions.sql",
    "000006_shelves.sql",
    "000007_sequence.sql",
    "000008_renumbered.sql",
    "000009_accepted.sql",
    "000010_room.sql",
  ]);
  const shown = async () => {
    const t = await loadPoints(getPool(), job);
    return t.number.map((n, i) => [n, t.intake[i], t.e[i], t.n[i], t.z[i]]);
  };
  expect(await shown()).toEqual([
    ["1", 0, 0, 0, 10],
    ["2", 0, 10, 0, 11],
    ["A9", -1, 5, 6, 12],
    ["5", 1, 1, 1, 1],
  ]);
  expect((await loadPoints(getPool(), job)).cameAs).toEqual({ 3: "900" });
  expect((await loadJob(getPool(), job)).intakes.map((k) => k.file)).toEqual(["day1.csv", "point-5.csv"]);
  const ledger = await listLedger(job);
  expect(ledger.map((l) => [l.author, l.kind, l.text]).reverse()).toEqual([
    ["Ada", "change", "“day1.csv” taken in"],
    ["Ada", "change", "Point 900 made"],
    ["Ben", "change", "Point 901 made"],
    ["Ada", "change", "“point-5.csv” taken in"],
    ["Ada", "change", "Elevation, number of 1 point changed"],
    ["Ben", "undo", "Point 901 made: taken back"],
  ]);
  // Ben's point comes again, Ada's goes: first her edit, then her later delivery, then the point as it was made.
  await redoLast(job, "Ben");
  expect((await shown()).find((p) => p[0] === "901")).toEqual(["901", -1, 7, 8, 9.5]);
  await undoLast(job, "Ada");
  await undoLast(job, "Ada", true);
  expect((await undoLast(job, "Ada")).text).toBe("Point 900 made: taken back");
  expect((await shown()).map((p) => p[0])).toEqual(["1", "2", "901"]);
});
