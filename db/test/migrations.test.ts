/** Migrations on a database as an earlier version left it. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import pg from "pg";
import { checkPartShape, GENERAL_BOOK } from "@bramble/core";
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
  withdrawIntake,
} from "../src/index";
import { filled } from "./filled";

const folder = path.join(__dirname, "../migrations"),
  name = `migrations_${process.pid}`,
  address = connectionString(),
  versions = fs.readdirSync(folder).filter((f) => f.endsWith(".sql"));
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
    `ALTER TABLE ledger ADD COLUMN client text, ADD COLUMN alone boolean NOT NULL DEFAULT false;
     ALTER TABLE jobs ADD COLUMN removed timestamptz, ADD COLUMN request text;
     ALTER TABLE ledger ADD COLUMN size integer NOT NULL DEFAULT 0, ADD COLUMN brief jsonb;
     ALTER TABLE intakes RENAME COLUMN place TO sequence;
     ALTER TABLE intakes ADD COLUMN turned bigint NOT NULL DEFAULT 0;
     ALTER TABLE points ADD COLUMN came_as text, ADD COLUMN gave_way boolean NOT NULL DEFAULT false,
       ADD COLUMN measured jsonb;
     CREATE TABLE lost_points (job_id bigint, id integer)`,
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
    "ALTER TABLE ledger DROP COLUMN client, DROP COLUMN alone, DROP COLUMN size, DROP COLUMN brief; ALTER TABLE jobs DROP COLUMN removed, DROP COLUMN request;" +
      `ALTER TABLE intakes RENAME COLUMN sequence TO place;
       ALTER TABLE intakes DROP COLUMN turned;
       ALTER TABLE points DROP COLUMN came_as, DROP COLUMN gave_way, DROP COLUMN measured;
       DROP TABLE lost_points`,
  );

  expect(await migrate(folder)).toEqual(versions.filter((v) => v >= "000005"));
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

test("what gave way is no deletion any more; shots that readings lost are found, and offered back", async () => {
  await closePool();
  await asAdmin(`CREATE DATABASE ${name}_lost`);
  const before = process.env.DATABASE_URL,
    url = new URL(address);
  url.pathname = `/${name}_lost`;
  process.env.DATABASE_URL = url.href;
  const then = fs.mkdtempSync(path.join(os.tmpdir(), "migrations-"));
  try {
    for (const f of versions.filter((x) => x < "000017")) fs.copyFileSync(path.join(folder, f), path.join(then, f));
    await migrate(then);
    // Three deliveries: b replaced 2 and 3 of a, which was then read again (its deletions carried on), and c, withdrawn,
    // had replaced 5. The office took 4 out itself, before a was read again.
    const info = (id: string) =>
      JSON.stringify({
        id,
        file: `${id}.csv`,
        format: "delimited",
        clash: "replace",
        kind: "measured",
        rows: 5,
        points: 5,
        refused: [],
        clashes: [],
        notes: [],
        setups: 0,
        beyond: [],
      });
    const taken = (id: string, row: number, replaced: number[], instead?: number) =>
      JSON.stringify({
        type: "intake",
        intake: id,
        id: row,
        file: `${id}.csv`,
        action: "take",
        replaced,
        ...(instead ? { instead } : {}),
      });
    const out = JSON.stringify({ type: "points", edits: [{ id: 4, field: "deleted", old: false, new: true }] });
    const point = (id: number, intake: number, row: number, number: string, gone: boolean) =>
      `(1, ${id}, ${intake}, ${row}, '${number}', 0, 0, 1, 'SPOT', '', 'measured', ${gone})`;
    await getPool().query(`
      INSERT INTO jobs (name, unit, settings, book, version, next_point) VALUES ('Old', 'm', '{"order": "EN"}', '{}', 6, 100);
      INSERT INTO intakes (job_id, key, file, info, bytes, sha256, author, withdrawn, sequence) VALUES
        (1, 'a', 'a.csv', '${info("a")}', 1, 'x', 'Ada', true, 1), (1, 'b', 'b.csv', '${info("b")}', 1, 'x', 'Ada', false, 2),
        (1, 'a', 'a.csv', '${info("a")}', 1, 'x', 'Ada', false, 1), (1, 'c', 'c.csv', '${info("c")}', 1, 'x', 'Ada', true, 3);
      INSERT INTO points (job_id, id, intake_id, row, number, easting, northing, elevation, description, note, kind, deleted) VALUES
        ${[1, 2, 3, 4, 5].map((k) => point(k, 1, k, String(k), k > 1 && k < 5)).join(", ")},
        ${point(6, 2, 1, "2", false)}, ${point(7, 2, 2, "33", false)},
        ${[1, 2, 3, 4, 5].map((k) => point(10 + k, 3, k, String(k), k > 1)).join(", ")};
      INSERT INTO ledger (job_id, seq, author, kind, change) VALUES (1, 1, 'Ada', 'change', '${taken("a", 1, [])}'),
        (1, 2, 'Ada', 'change', '${taken("b", 2, [2, 3])}'), (1, 3, 'Ada', 'change', '${out}'),
        (1, 4, 'Ada', 'change', '${taken("c", 4, [5])}'), (1, 5, 'Ada', 'change', '${taken("a", 3, [], 1)}');`);
    expect(await migrate(folder)).toEqual(versions.filter((v) => v >= "000017"));
    const job = await loadJob(getPool(), 1),
      t = await loadPoints(getPool(), 1),
      state = new Map(t.number.map((n, i) => [`${job.intakes[t.intake[i]!]!.id} ${n}`, t.deleted[i]]));
    // 2 gives way to b's; 3 and 5 were lost, with nobody else of their number; 4 is out by an edit.
    expect([...state]).toEqual([
      ["b 2", 0],
      ["b 33", 0],
      ["a 1", 0],
      ["a 2", 4],
      ["a 3", 1],
      ["a 4", 1],
      ["a 5", 1],
    ]);
    expect(job.intakes.map((k) => [k.id, k.lost])).toEqual([
      ["a", [13, 15]],
      ["b", undefined],
    ]);
    await storeChange(1, "Ada", { type: "points", edits: [{ id: 13, field: "deleted", old: true, new: false }] });
    expect((await loadJob(getPool(), 1)).intakes[0]!.lost).toEqual([15]);
    await withdrawIntake(1, "Ada", "b");
    expect((await loadPoints(getPool(), 1)).deleted.slice(-5)).toEqual(Uint8Array.of(0, 0, 0, 1, 1));
  } finally {
    fs.rmSync(then, { recursive: true });
    await closePool();
    process.env.DATABASE_URL = before;
    await asAdmin(`DROP DATABASE ${name}_lost`);
  }
});

test("lines, corrections and chosen points that were named by number are known by identity; what was done is taken back", async () => {
  await closePool();
  await asAdmin(`CREATE DATABASE ${name}_refs`);
  const before = process.env.DATABASE_URL,
    url = new URL(address);
  url.pathname = `/${name}_refs`;
  process.env.DATABASE_URL = url.href;
  try {
    const then = fs.mkdtempSync(path.join(os.tmpdir(), "migrations-"));
    for (const f of versions.filter((v) => v < "000021")) fs.copyFileSync(path.join(folder, f), path.join(then, f));
    await migrate(then);
    fs.rmSync(then, { recursive: true });
    // What this version writes; a later migration adds it.
    await getPool().query("ALTER TABLE ledger ADD COLUMN brief jsonb");
    const job = await createJob({ name: "Old plot", unit: "m", order: "EN", book: GENERAL_BOOK }),
      layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never },
      rows = ["1", "2", "3", "4", "A7", "40-52"].map((n, k) => `${n},${k},${k * k},5,SPOT`);
    await takeIntake(job, "Ada", { file: "day1.csv", layout }, new TextEncoder().encode(rows.join("\n")));
    await storeChange(job, "Ada", { type: "points", edits: [{ id: 2, field: "number", old: "2", new: "K:2" }] });
    const large = { id: 6, field: "note" as const, old: "", new: "x".repeat(300_000) };
    await storeChange(job, "Ada", { type: "points", edits: [large] });
    await storeChange(job, "Ada", { type: "points", edits: [{ id: 4, field: "deleted", old: false, new: true }] });
    // The first shot with 3 gave way to one of a later delivery; a later one with 1 was passed over.
    await takeIntake(
      job,
      "Ada",
      { file: "day2.csv", layout, clash: "replace" },
      new TextEncoder().encode("3,7,7,7,SPOT"),
    );
    const kept = new TextEncoder().encode("1,8,8,8,SPOT");
    await takeIntake(job, "Ada", { file: "day3.csv", layout, clash: "keep-first" }, kept);
    // What the code of then wrote: points by their numbers, as it went on.
    const line = {
        name: "by hand 1",
        code: "WALL",
        points: '1, "K:2", 3-5, "40-52", 1',
        cues: { "K:2": "via", 9: "via" },
      },
      first = { ...line, points: "1-3" },
      surface = {
        name: "ground",
        swap: [["1", "3"]],
        drop: [["1", "K:2", "4"]],
        breaklines: { codes: ["*"], except: [{ code: "TOP" }, { pieces: [["3", "1"]] }] },
      },
      set = {
        name: "few",
        rule: { any: [{ numbers: ["1", "77"] }, { not: { all: [{ numbers: "1-3" }, { numbers: ["3"] }] } }] },
      },
      named = (part: string, old: object | null, next: object) => ({
        type: "named",
        part,
        name: (next as { name: string }).name,
        old,
        new: next,
      }),
      together = { type: "several", text: "Both", changes: [named("lines", first, line), named("sets", null, set)] };
    const entries = [named("lines", null, first), named("surfaces", null, surface), together];
    for (const [k, [part, body]] of Object.entries({ lines: line, surfaces: surface, sets: set }).entries())
      await getPool().query("INSERT INTO definitions VALUES ($1, $2, $3, $4, $5)", [job, part, body.name, k, body]);
    for (const [k, change] of entries.entries())
      await getPool().query(
        "INSERT INTO ledger (job_id, seq, author, kind, change) VALUES ($1, $2, 'Ben', 'change', $3)",
        [job, 7 + k, JSON.stringify(change)],
      );
    await getPool().query("UPDATE jobs SET version = 9 WHERE id = $1", [job]);
    await getPool().query("ALTER TABLE ledger DROP COLUMN brief");
    const template = { sets: [set], surfaces: [surface], order: "EN" };
    await getPool().query("INSERT INTO office (kind, name, body) VALUES ('template', 'plots', $1)", [template]);

    expect(await migrate(folder)).toEqual(versions.filter((v) => v >= "000021"));
    // What stays behind its entry has its words.
    expect((await listLedger(job)).find((e) => e.change.type === "large")?.text).toBe("Note of 1 point changed");
    const { definition } = await loadJob(getPool(), job),
      ref = (n: number, came = String(n)) => `day1:${n}\t${came}`,
      three = "day2:1\t3",
      by = (n: string) => `*number:${n}`;
    const now = {
      line: {
        ...line,
        points: [ref(1), ref(2), three, by("4"), by("5"), ref(6, "40-52"), ref(1)],
        cues: { [ref(2)]: "via", [by("9")]: "via" },
      },
      surface: {
        ...surface,
        swap: [[ref(1), three]],
        drop: [[ref(1), ref(2), by("4")]],
        breaklines: { codes: ["*"], except: [{ code: "TOP" }, { pieces: [[three, ref(1)]] }] },
      },
      set: {
        name: "few",
        rule: { any: [{ points: [ref(1), by("77")] }, { not: { all: [{ numbers: "1-3" }, { points: [three] }] } }] },
      },
    };
    expect([definition.lines, definition.surfaces, definition.sets]).toEqual([[now.line], [now.surface], [now.set]]);
    for (const [part, thing] of [
      ["lines", now.line],
      ["surfaces", now.surface],
      ["sets", now.set],
    ] as const)
      expect(checkPartShape(part, thing)).toBeUndefined();
    const office = await getPool().query("SELECT body FROM office");
    expect(office.rows[0].body).toMatchObject({
      order: "EN",
      surfaces: [{ swap: [[by("1"), by("3")]], drop: [[by("1"), by("K:2"), by("4")]] }],
      sets: [{ rule: { any: [{ points: [by("1"), by("77")] }, {}] } }],
    });
    // What was done is taken back, and done again.
    await undoLast(job, "Ben");
    const undone = (await loadJob(getPool(), job)).definition;
    expect([undone.sets, undone.lines.map((l) => l.points)]).toEqual([[], [[ref(1), by("2"), three]]]);
    await redoLast(job, "Ben");
    expect((await loadJob(getPool(), job)).definition).toEqual(definition);
  } finally {
    await closePool();
    process.env.DATABASE_URL = before;
    await asAdmin(`DROP DATABASE ${name}_refs`);
  }
});

test("which parts a job has is said by the code alone: no later migration lists them", () => {
  const lists = versions.filter((v) => /\bpart IN \(/.test(fs.readFileSync(path.join(folder, v), "utf8")));
  expect(lists.filter((v) => v >= "000020")).toEqual([]);
});

describe("a filled database of an earlier version comes to be one of now", () => {
  test.each(versions.map((v, k) => [v, k + 1] as const))("%s", async (_, version) => {
    await closePool();
    await asAdmin(`DROP DATABASE IF EXISTS ${name}_each`);
    await asAdmin(`CREATE DATABASE ${name}_each`);
    const url = new URL(address);
    url.pathname = `/${name}_each`;
    const before = process.env.DATABASE_URL;
    process.env.DATABASE_URL = url.href;
    try {
      const then = fs.mkdtempSync(path.join(os.tmpdir(), "migrations-"));
      for (const f of versions.slice(0, version)) fs.copyFileSync(path.join(folder, f), path.join(then, f));
      expect(await migrate(then)).toHaveLength(version);
      await getPool().query(filled(version));
      expect(await migrate(folder)).toEqual(versions.slice(version));
      // The code of then, on what the code of now left: it touches nothing and says why.
      if (version < versions.length)
        await expect(migrate(then)).rejects.toMatchObject({
          code: "database-newer",
          data: { names: versions.slice(version) },
        });
      fs.rmSync(then, { recursive: true });
      const job = await loadJob(getPool(), 1),
        t = await loadPoints(getPool(), 1);
      expect([job.definition.name, job.definition.sets.length, job.definition.surfaces.length]).toEqual([
        "Old plot",
        1,
        1,
      ]);
      expect(job.intakes.map((k) => k.file)).toEqual(["day1.csv"]);
      expect([t.number, [...t.e], [...t.z]]).toEqual([
        ["1", "2"],
        [0, 10],
        [10, 12.5],
      ]);
      // It goes on being written, taken back and taken in.
      await undoLast(1, "Ben");
      expect([...(await loadPoints(getPool(), 1)).z]).toEqual([10, 11]);
      await undoLast(1, "Ada", true);
      expect((await loadPoints(getPool(), 1)).count).toBe(0);
      await redoLast(1, "Ada", true);
      expect((await loadPoints(getPool(), 1)).count).toBe(2);
      expect((await listLedger(1)).map((e) => e.seq)).toEqual([5, 4, 3, 2, 1]);
    } finally {
      await closePool();
      process.env.DATABASE_URL = before;
      await asAdmin(`DROP DATABASE ${name}_each`);
    }
  });
});
