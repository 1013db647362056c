/** The write path on a real PostgreSQL: the test command starts one and gives its address. */
import path from "node:path";
import { thingRemoved, type JobDefinition, GENERAL_BOOK, KINDS, type EditableChange } from "@bramble/core";
import { refByNumber, refOfMade } from "@bramble/core/points/refs";
import pg from "pg";
import {
  CHANNEL,
  closePool,
  connectionString,
  createJob,
  forgetInOffice,
  getPool,
  intakeBytes,
  keepInOffice,
  ledgerAfter,
  listJobs,
  ledgerOfPoint,
  listLedger,
  listOffice,
  loadJob,
  loadPoints,
  migrate,
  redoLast,
  reserveIds,
  stepOne,
  storeChange,
  takeIntake,
  undoLast,
  withdrawIntake,
} from "../src/index";

// Read when the pool is made.
process.env.BRAMBLE_LOCK_SECONDS = "1";

const layout = {
  delimiter: ",",
  columns: ["number", "easting", "northing", "elevation", "description", "attr:kind"] as (
    "number" | "easting" | "northing" | "elevation" | "description" | `attr:${string}`
  )[],
};
const bytes = (text: string) => new TextEncoder().encode(text);
let job: number;

beforeAll(async () => {
  await migrate(path.join(__dirname, "../migrations"));
});
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Test plot", unit: "m", order: "EN", book: GENERAL_BOOK });
  await takeIntake(
    job,
    "Ada",
    { file: "day1.csv", layout },
    bytes("1,0,0,10,SPOT,\n2,10,0,11,TREE 4,oak\n3,0,10,,HEDGE,\n"),
  );
});

const points = async () => loadPoints(getPool(), job);
const edit = (
  id: number,
  field: "elevation" | "number" | "note" | "deleted",
  old: string | number | boolean | null,
  value: string | number | boolean | null,
): EditableChange => ({ type: "points", edits: [{ id, field, old, new: value }] });

test("an intake keeps its bytes, and gives the points", async () => {
  const t = await points();
  expect(t.number).toEqual(["1", "2", "3"]);
  expect(Array.from(t.z)).toEqual([10, 11, NaN]);
  expect(t.texts[t.attributes[0]!.values[1]!]).toBe("oak");
  const { bytes: kept, file } = await intakeBytes(getPool(), job, "day1");
  expect([file, kept.toString()]).toEqual(["day1.csv", "1,0,0,10,SPOT,\n2,10,0,11,TREE 4,oak\n3,0,10,,HEDGE,\n"]);
  await expect(getPool().query("UPDATE intake_parts SET part = 5")).rejects.toThrow(
    "what was received is never changed",
  );
});

test("every change is in the ledger with author, old and new; undo and redo go by inverses, and say the deed", async () => {
  await storeChange(job, "Ben", edit(1, "elevation", 10, 12.5));
  await storeChange(job, "Ben", edit(3, "elevation", null, 9));
  expect(Array.from((await points()).z)).toEqual([12.5, 11, 9]);
  const undone = await undoLast(job, "Ben");
  expect(undone).toMatchObject({
    kind: "undo",
    target: 3,
    change: { edits: [{ id: 3, old: 9, new: null }] },
    text: "Elevation of 1 point changed: taken back",
  });
  await undoLast(job, "Ben");
  expect(Array.from((await points()).z)).toEqual([10, 11, NaN]);
  expect((await redoLast(job, "Ben")).text).toBe("Elevation of 1 point changed: done again");
  expect(Array.from((await points()).z)).toEqual([12.5, 11, NaN]);
  expect((await listLedger(job)).map((l) => [l.seq, l.kind, l.author])).toEqual([
    [6, "redo", "Ben"],
    [5, "undo", "Ben"],
    [4, "undo", "Ben"],
    [3, "change", "Ben"],
    [2, "change", "Ben"],
    [1, "change", "Ada"],
  ]);
});

test("undo takes back the person's own last change, never another's, and no delivery unasked", async () => {
  await storeChange(job, "Ben", edit(1, "elevation", 10, 12));
  await storeChange(job, "Ada", edit(2, "note", "", "seen"));
  await expect(undoLast(job, "Cy")).rejects.toMatchObject({
    code: "undo-nothing",
    message: "Nothing that Cy did is left to take back.",
  });
  expect((await undoLast(job, "Ben")).target).toBe(2);
  expect((await points()).z[0]).toBe(10);
  expect((await undoLast(job, "Ada")).target).toBe(3);
  // What is left of Ada's is the delivery.
  await expect(undoLast(job, "Ada")).rejects.toMatchObject({
    code: "undo-delivery",
    message: expect.stringContaining("“day1.csv” taken in"),
  });
  expect((await points()).count).toBe(3);
  expect((await undoLast(job, "Ada", true)).text).toBe("“day1.csv” taken in: taken back");
  expect((await points()).count).toBe(0);
});

test("what another changed since is not taken back with one's own, and both are told", async () => {
  await storeChange(job, "Ada", edit(1, "elevation", 10, 12));
  await storeChange(job, "Ben", edit(1, "elevation", 12, 13));
  await expect(undoLast(job, "Ada")).rejects.toMatchObject({
    code: "undo-order",
    message:
      "Elevation of 1 point changed: this cannot be taken back as it was. The elevation of point 1 was changed since by Ben: it is now 13.",
  });
  expect((await points()).z[0]).toBe(13);
});

test("a change sent twice under its name is stored once", async () => {
  const first = await storeChange(job, "Ada", edit(1, "elevation", 10, 12), "window-change-1");
  const again = await storeChange(job, "Ada", edit(1, "elevation", 10, 12), "window-change-1");
  expect([again.seq, again.client]).toEqual([first.seq, "window-change-1"]);
  expect(await listLedger(job)).toHaveLength(2);
});

test("undo and redo sent twice under one name go one step; under another the next", async () => {
  await storeChange(job, "Ada", edit(1, "elevation", 10, 12));
  await storeChange(job, "Ada", edit(1, "elevation", 12, 13));
  const first = await undoLast(job, "Ada", false, "window-undo-1"),
    again = await undoLast(job, "Ada", false, "window-undo-1");
  expect([again.seq, again.target]).toEqual([first.seq, first.target]);
  expect((await points()).z[0]).toBe(12);
  await undoLast(job, "Ada", false, "window-undo-2");
  expect((await points()).z[0]).toBe(10);
  const redone = await redoLast(job, "Ada", false, "window-redo-1");
  expect((await redoLast(job, "Ada", false, "window-redo-1")).seq).toBe(redone.seq);
  expect((await points()).z[0]).toBe(12);
  const seq = (await listLedger(job)).find((e) => e.change.type === "points" && e.kind === "change")!.seq,
    one = await stepOne(job, "Ada", "redo", seq, false, "window-one-1");
  expect((await stepOne(job, "Ada", "redo", seq, false, "window-one-1")).seq).toBe(one.seq);
  expect((await points()).z[0]).toBe(13);
});

test("points that the office makes are a change: stored, edited, taken back and done again under their own ids", async () => {
  const id = await reserveIds(getPool(), job, 5);
  const add: EditableChange = {
    type: "add",
    points: {
      id: [id, id + 3],
      number: ["901", 'P "2", x'],
      easting: [5, 6],
      northing: [7, 8],
      elevation: [null, 9.5],
      description: ["PEG", ""],
    },
  };
  expect((await storeChange(job, "Ben", add)).text).toBe("2 points made");
  const made = async () => {
    const t = await points();
    return t.number.flatMap((n, i) =>
      t.intake[i] === -1 ? [[t.id[i], n, t.e[i], t.n[i], t.z[i], KINDS[t.kind[i]!], t.texts[t.description[i]!]]] : [],
    );
  };
  const both = [
    [id, "901", 5, 7, NaN, "computed", "PEG"],
    [id + 3, 'P "2", x', 6, 8, 9.5, "computed", ""],
  ];
  expect(await made()).toEqual(both);
  expect((await listJobs()).find((j) => j.id === job)!.points).toBe(5);
  await expect(storeChange(job, "Ada", add)).rejects.toThrow("reserved");
  const taken = { ...add, points: { ...add.points, id: [id + 1, id + 2], number: ["1", "902"] } };
  await expect(storeChange(job, "Ada", taken)).rejects.toMatchObject({ code: "change-number-taken" });
  expect((await undoLast(job, "Ben")).text).toBe("2 points made: taken back");
  expect(await made()).toEqual([]);
  await redoLast(job, "Ben");
  expect(await made()).toEqual(both);
  // What another did to such a point stands in the way of taking it out.
  await storeChange(job, "Ada", edit(id, "note", "", "found"));
  await expect(undoLast(job, "Ben")).rejects.toMatchObject({
    code: "undo-order",
    message: expect.stringContaining("Point 901 was changed since by Ada"),
  });
  await undoLast(job, "Ada");
  await undoLast(job, "Ben");
  expect(await made()).toEqual([]);
  // A delivery after it takes none of its ids.
  await takeIntake(job, "Ada", { file: "day2.csv", layout }, bytes("9,1,1,1,SPOT,\n"));
  expect((await points()).id.at(-1)).toBe(id + 5);
});

test("every entry is told to whoever listens, once it is stored", async () => {
  const ear = new pg.Client({ connectionString: connectionString() }),
    heard: string[] = [];
  await ear.connect();
  try {
    ear.on("notification", (n) => heard.push(n.payload ?? ""));
    await ear.query(`LISTEN ${CHANNEL}`);
    await storeChange(job, "Ada", edit(1, "note", "", "a"));
    await expect(storeChange(job, "Ada", edit(1, "note", "", "b"))).rejects.toMatchObject({ code: "change-outdated" });
    await undoLast(job, "Ada");
    // Answered after what came before it.
    await ear.query("SELECT 1");
    expect(heard).toEqual([`${job} 2`, `${job} 3`]);
  } finally {
    await ear.end();
  }
  expect((await ledgerAfter(job, 1)).map((e) => [e.seq, e.kind])).toEqual([
    [2, "change"],
    [3, "undo"],
  ]);
});

test("a writer that waits too long for another says so, and nothing of it is stored", async () => {
  const holder = await getPool().connect();
  try {
    await holder.query("BEGIN");
    await holder.query("SELECT 1 FROM jobs WHERE id = $1 FOR UPDATE", [job]);
    await holder.query("SET LOCAL lock_timeout = 0");
    const waits = storeChange(job, "Ada", edit(1, "note", "", "a"));
    await expect(waits).rejects.toMatchObject({
      code: "job-busy",
      message: expect.stringContaining("would not wait longer"),
    });
  } finally {
    await holder.query("ROLLBACK");
    holder.release();
  }
  expect(await listLedger(job)).toHaveLength(1);
});

test("an intake of many rows is taken back and done again in a time that grows as they do", async () => {
  const rows = (n: number) =>
    bytes(Array.from({ length: n }, (_, i) => `P${i},${i % 300},${Math.floor(i / 300)},5,SPOT,`).join("\n"));
  const seconds: number[] = [];
  for (const n of [4000, 40_000]) {
    const many = await createJob({ name: `Many ${n}`, unit: "m", order: "EN", book: GENERAL_BOOK });
    await takeIntake(many, "Ada", { file: "many.csv", layout }, rows(n));
    const begun = performance.now();
    await undoLast(many, "Ada", true);
    await redoLast(many, "Ada", true);
    seconds.push((performance.now() - begun) / 1000);
    expect((await loadPoints(getPool(), many)).count).toBe(n);
  }
  // Ten times the rows: quadratic would be a hundred times.
  expect(seconds[1]! / seconds[0]!).toBeLessThan(40);
});

test("a change based on old data is refused with who changed it, and nothing of it is stored", async () => {
  await storeChange(job, "Ben", edit(1, "elevation", 10, 12));
  const stale: EditableChange = {
    type: "points",
    edits: [
      { id: 2, field: "note", old: "", new: "mine" },
      { id: 1, field: "elevation", old: 10, new: 13 },
    ],
  };
  await expect(storeChange(job, "Ada", stale)).rejects.toMatchObject({
    code: "change-outdated",
    message: expect.stringContaining("by Ben"),
  });
  const t = await points();
  expect(t.texts[t.note[1]!]).toBe("");
  expect(t.z[0]).toBe(12);
  const named: EditableChange = { type: "named", part: "surfaces", name: "s", old: null, new: { name: "s" } };
  await storeChange(job, "Ada", named);
  await expect(storeChange(job, "Ben", named)).rejects.toMatchObject({ code: "change-outdated" });
});

test("a code, a line by hand and cues are stored, all of them or none, and undone as one", async () => {
  const hedge = GENERAL_BOOK.codes!.find((c) => c.code === "HEDGE")!;
  const hand = { name: "by hand 1", code: "WALL", points: ["1", "2", "3"].map(refByNumber), closed: true };
  const cues: EditableChange = {
    type: "points",
    edits: [{ id: 3, field: "cues", old: "", new: JSON.stringify([{ element: "HEDGE", add: ["lone"] }]) }],
  };
  await storeChange(job, "Ada", {
    type: "named",
    part: "codes",
    name: "HEDGE",
    old: hedge,
    new: { ...hedge, color: "#123456" },
  });
  const entry = await storeChange(job, "Ada", {
    type: "several",
    text: "HEDGE closed by hand",
    changes: [{ type: "named", part: "lines", name: hand.name, old: null, new: hand }, cues],
  });
  expect(entry.text).toBe("HEDGE closed by hand");
  const stored = await loadJob(getPool(), job);
  expect(stored.definition.lines).toEqual([hand]);
  expect(stored.definition.book.codes!.find((c) => c.code === "HEDGE")!.color).toBe("#123456");
  expect(stored.definition.book.codes).toHaveLength(GENERAL_BOOK.codes!.length);
  // The second of these is on old data: the first is not kept either.
  await expect(
    storeChange(job, "Ben", {
      type: "several",
      text: "Both",
      changes: [{ type: "named", part: "lines", name: hand.name, old: hand, new: null }, cues],
    }),
  ).rejects.toMatchObject({ code: "change-outdated" });
  expect((await loadJob(getPool(), job)).definition.lines).toEqual([hand]);
  await undoLast(job, "Ada");
  const t = await points();
  expect([(await loadJob(getPool(), job)).definition.lines, t.texts[t.cues[2]!]]).toEqual([[], ""]);
  await redoLast(job, "Ada");
  expect((await loadJob(getPool(), job)).definition.lines).toEqual([hand]);
});

test("the office keeps code books beside templates and layouts", async () => {
  const kept = async () =>
    new Set([
      ...(await listOffice("book")).map((b) => `book ${b.name}`),
      ...(await listOffice("template")).map((b) => `template ${b.name}`),
    ]);
  const others = await kept();
  await keepInOffice("book", "Quarries", { codes: [{ code: "FACE", kind: "line" }] });
  await keepInOffice("book", "Quarries", {
    codes: [
      { code: "FACE", kind: "line" },
      { code: "TOE", kind: "line" },
    ],
  });
  const quarries = (await listOffice("book")).filter((b) => b.name === "Quarries");
  expect(quarries.map((b) => b.body.codes!.length)).toEqual([2]);
  expect(await kept()).toEqual(new Set([...others, "book Quarries"]));
  await forgetInOffice("book", "Quarries");
  expect(await kept()).toEqual(others);
  await expect(forgetInOffice("book", "Quarries")).rejects.toThrow("Quarries");
});

test("two writers at once: one after the other, neither lost", async () => {
  await Promise.all([
    storeChange(job, "Ada", edit(1, "note", "", "a")),
    storeChange(job, "Ben", edit(2, "note", "", "b")),
    storeChange(job, "Cy", edit(3, "note", "", "c")),
  ]);
  const t = await points();
  expect([0, 1, 2].map((i) => t.texts[t.note[i]!])).toEqual(["a", "b", "c"]);
  expect((await listLedger(job)).map((l) => l.seq)).toEqual([4, 3, 2, 1]);
});

test("numbers stay unique, also when a deleted point comes back", async () => {
  await expect(storeChange(job, "Ada", edit(1, "number", "1", "2"))).rejects.toMatchObject({
    code: "change-number-taken",
  });
  await storeChange(job, "Ada", edit(2, "deleted", false, true));
  await storeChange(job, "Ada", edit(1, "number", "1", "2"));
  await expect(storeChange(job, "Ada", edit(2, "deleted", true, false))).rejects.toMatchObject({
    code: "change-number-taken",
  });
});

test("an intake is withdrawn whole and comes back by undo, with what it replaced", async () => {
  await takeIntake(
    job,
    "Ben",
    { file: "day2.csv", layout, clash: "replace" },
    bytes("2,50,50,99,SPOT,\n9,51,50,99,SPOT,\n"),
  );
  const living = async () => {
    const t = await points();
    return t.number.filter((_, i) => !t.deleted[i]).sort();
  };
  expect(await living()).toEqual(["1", "2", "3", "9"]);
  await withdrawIntake(job, "Ada", "day2");
  expect(await living()).toEqual(["1", "2", "3"]);
  expect((await points()).e[1]).toBe(10);
  await undoLast(job, "Ada", true);
  expect(await living()).toEqual(["1", "2", "3", "9"]);
  const stored = await loadJob(getPool(), job);
  expect(stored.intakes.map((k) => k.id)).toEqual(["day1", "day2"]);
});

test("a refused file leaves nothing: no intake, no shot, no ledger entry", async () => {
  const count = async () =>
    (
      await getPool().query(
        `SELECT (SELECT count(*)::int FROM intakes WHERE job_id = $1) AS intakes,
                (SELECT count(*)::int FROM points WHERE job_id = $1) AS points,
                (SELECT count(*)::int FROM ledger WHERE job_id = $1) AS entries`,
        [job],
      )
    ).rows[0];
  const before = await count();
  await expect(
    takeIntake(job, "Ada", { file: "day2.csv", layout }, bytes("8,1,1,1,A,\n1,5,5,5,B,\n")),
  ).rejects.toMatchObject({ code: "number-clash" });
  await expect(takeIntake(job, "Ada", { file: "b.csv", layout }, new Uint8Array([1, 0]))).rejects.toMatchObject({
    code: "file-binary",
  });
  expect(await count()).toEqual(before);
});

test("a job that is not there is said so", async () => {
  await expect(loadJob(getPool(), 999_999)).rejects.toMatchObject({ code: "job-unknown" });
});

test("sets, surfaces, contours, comparisons and files keep their order and are undone like points", async () => {
  const named = (
    part: "surfaces" | "contours" | "volumes" | "handover",
    name: string,
    body: object | null,
    old: object | null = null,
  ): EditableChange => ({ type: "named", part, name, old, new: body });
  await storeChange(job, "Ada", named("surfaces", "b", { name: "b" }));
  await storeChange(job, "Ada", named("surfaces", "a", { name: "a" }));
  await storeChange(job, "Ada", named("contours", "a", { surface: "a", interval: 1 }));
  await storeChange(job, "Ada", named("surfaces", "b", { name: "b", points: "*ground" }, { name: "b" }));
  const stored = async () => (await loadJob(getPool(), job)).definition;
  expect((await stored()).surfaces).toEqual([{ name: "b", points: "*ground" }, { name: "a" }]);
  await storeChange(job, "Ada", named("surfaces", "b", null, { name: "b", points: "*ground" }));
  expect((await stored()).surfaces).toEqual([{ name: "a" }]);
  await undoLast(job, "Ada");
  await undoLast(job, "Ada");
  expect((await stored()).surfaces).toEqual(expect.arrayContaining([{ name: "b" }, { name: "a" }]));
  expect((await stored()).contours).toEqual([{ surface: "a", interval: 1 }]);
});

test("settings change with old and new; the book redraws what it names", async () => {
  const { definition } = await loadJob(getPool(), job);
  await storeChange(job, "Ada", { type: "setting", field: "name", old: "Test plot", new: "Renamed" });
  await storeChange(job, "Ada", {
    type: "setting",
    field: "book",
    old: definition.book,
    new: { codes: [{ code: "SPOT" }] },
  });
  expect((await loadJob(getPool(), job)).definition).toMatchObject({
    name: "Renamed",
    book: { codes: [{ code: "SPOT" }] },
  });
  await expect(
    storeChange(job, "Ben", { type: "setting", field: "name", old: "Test plot", new: "Other" }),
  ).rejects.toMatchObject({ code: "change-outdated" });
});

test("undo beyond the beginning, and redo after something else was done, are refused", async () => {
  await storeChange(job, "Ada", edit(1, "note", "", "a"));
  await undoLast(job, "Ada");
  await storeChange(job, "Ada", edit(2, "note", "", "b"));
  await expect(redoLast(job, "Ada")).rejects.toMatchObject({
    code: "undo-nothing",
    message: "Nothing that Ada took back is left to do again.",
  });
  await undoLast(job, "Ada");
  await undoLast(job, "Ada", true); // the intake itself
  expect((await points()).count).toBe(0);
  await expect(undoLast(job, "Ada")).rejects.toMatchObject({ code: "undo-nothing" });
  await expect(redoLast(job, "Ada")).rejects.toMatchObject({
    code: "undo-delivery",
    message: expect.stringContaining("done again only when you say so"),
  });
  await redoLast(job, "Ada", true);
  expect((await points()).count).toBe(3);
});

test("an undo that a later change stands on is refused, and says which first", async () => {
  const wide = await createJob({ name: "Two steps", unit: "ft", order: "NE", book: {} });
  await takeIntake(wide, "Ada", { file: "a.csv", layout, clash: "stop" }, bytes("1,0,0,10,,\n"));
  await takeIntake(wide, "Ada", { file: "b.csv", layout, clash: "replace" }, bytes("1,5,5,10,,\n"));
  await storeChange(wide, "Ada", { type: "points", edits: [{ id: 2, field: "number", old: "1", new: "2" }] });
  // Withdrawing b would bring point 1 of a back; that is free now.
  await withdrawIntake(wide, "Ada", "b");
  const t = await loadPoints(getPool(), wide);
  expect([t.number, Array.from(t.deleted)]).toEqual([["1"], [0]]);
});

test("twenty thousand rows are stored and come back in columns, in order", async () => {
  const big = await createJob({ name: "Many", unit: "m", order: "EN", book: GENERAL_BOOK });
  const rows = Array.from({ length: 45_000 }, (_, i) => `${i + 1},${i % 300},${Math.floor(i / 300)},${i / 8},SPOT,`);
  const { info } = await takeIntake(big, "Ada", { file: "many.csv", layout }, bytes(rows.join("\n")));
  expect(info).toMatchObject({ rows: 45_000, points: 45_000, refused: [], clashes: [] });
  const t = await loadPoints(getPool(), big);
  expect(t.count).toBe(45_000);
  for (const i of [0, 19_999, 20_000, 44_999])
    expect([t.number[i], t.e[i], t.n[i], t.z[i]]).toEqual([String(i + 1), i % 300, Math.floor(i / 300), i / 8]);
  expect(t.texts).toEqual(["", "SPOT"]);
});

test("the bytes of a large file are kept in pieces and come back whole", async () => {
  const text = Array.from(
    { length: 60_000 },
    (_, i) => `P${i},${i},0,,"a long description to fill the pieces ${i}",`,
  ).join("\n");
  await takeIntake(job, "Ada", { file: "long.csv", layout }, bytes(text));
  const { rows } = await getPool().query(
    "SELECT count(*)::int AS n FROM intake_parts p JOIN intakes i ON i.id = p.intake_id WHERE i.job_id = $1 AND i.key = 'long'",
    [job],
  );
  expect(rows[0].n).toBeGreaterThan(2);
  expect((await intakeBytes(getPool(), job, "long")).bytes.toString() === text).toBe(true);
});

test("an older entry is taken back by itself, unless what came later stands in the way", async () => {
  const t = await points(),
    [one, two] = [t.id[0]!, t.id[1]!];
  const first = await storeChange(job, "Ada", edit(one, "elevation", 10, 10.5)),
    second = await storeChange(job, "Ada", edit(two, "elevation", 11, 11.5));
  await expect(stepOne(job, "Ben", "undo", first.seq)).rejects.toMatchObject({ code: "undo-nothing" });
  await stepOne(job, "Ada", "undo", first.seq);
  expect(Array.from((await points()).z.slice(0, 2))).toEqual([10, 11.5]);
  // It is done again by itself too, and is then there to be taken back.
  await stepOne(job, "Ada", "redo", first.seq);
  expect((await points()).z[0]).toBe(10.5);
  await storeChange(job, "Ben", edit(one, "elevation", 10.5, 12));
  await expect(stepOne(job, "Ada", "undo", first.seq)).rejects.toThrow(
    /cannot be taken back as it was\. .*point 1 was changed since by Ben: it is now 12/,
  );
  await stepOne(job, "Ada", "undo", second.seq);
  expect((await ledgerOfPoint(job, one)).map((l) => [l.kind, l.author])).toEqual([
    ["change", "Ben"],
    ["redo", "Ada"],
    ["undo", "Ada"],
    ["change", "Ada"],
  ]);
});

test("after an older entry is taken back by itself, undo undoes that; redo does it again", async () => {
  const [one, two] = [(await points()).id[0]!, (await points()).id[1]!],
    levels = async () => Array.from((await points()).z.slice(0, 2));
  const first = await storeChange(job, "Ada", edit(one, "elevation", 10, 10.5));
  await storeChange(job, "Ada", edit(two, "elevation", 11, 11.5));
  await stepOne(job, "Ada", "undo", first.seq);
  expect(await levels()).toEqual([10, 11.5]);
  await undoLast(job, "Ada");
  expect(await levels()).toEqual([10.5, 11.5]);
  await redoLast(job, "Ada");
  expect(await levels()).toEqual([10, 11.5]);
  await undoLast(job, "Ada");
  await undoLast(job, "Ada");
  expect(await levels()).toEqual([10.5, 11]);
  await undoLast(job, "Ada");
  expect(await levels()).toEqual([10, 11]);
  for (const wanted of [
    [10.5, 11],
    [10.5, 11.5],
    [10, 11.5],
  ]) {
    await redoLast(job, "Ada");
    expect(await levels()).toEqual(wanted);
  }
});

test("nothing is stored that leaves others without what they name; taken out in one step it comes back in one", async () => {
  const plot = await createJob({
    name: "Plot",
    unit: "m",
    order: "EN",
    book: {},
    surfaces: [{ name: "ground" }],
    contours: [{ surface: "ground", interval: 1 }],
    volumes: [{ name: "pad", surface: "ground", level: 5 }],
    drawing: { surfaces: [{ surface: "ground", labels: false }] },
  } as never);
  const definition = async () => (await loadJob(getPool(), plot)).definition,
    before = await definition(),
    state = { ...before } as JobDefinition;
  await expect(
    storeChange(plot, "Ada", { type: "named", part: "surfaces", name: "ground", old: before.surfaces[0]!, new: null }),
  ).rejects.toThrow("The comparison “pad” uses the surface “ground”, which would not be there. Nothing was stored");
  await expect(
    storeChange(plot, "Ada", {
      type: "named",
      part: "volumes",
      name: "odd",
      old: null,
      new: { name: "odd", surface: "elsewhere", level: 1 },
    } as never),
  ).rejects.toThrow("The comparison “odd” uses the surface “elsewhere”");
  expect(() => thingRemoved(state, "surfaces", "ground")).toThrow("is used by the comparison “pad”");
  await storeChange(plot, "Ada", { type: "named", part: "volumes", name: "pad", old: before.volumes[0]!, new: null });
  await storeChange(plot, "Ada", thingRemoved(await definition(), "surfaces", "ground"));
  expect([(await definition()).surfaces, (await definition()).contours, (await definition()).drawing]).toEqual([
    [],
    [],
    undefined,
  ]);
  await undoLast(plot, "Ada");
  await undoLast(plot, "Ada");
  expect(await definition()).toEqual(before);
});

test("what others name is not taken back from under them", async () => {
  const named = (part: "sets" | "surfaces" | "lines", thing: { name: string }): EditableChange => ({
    type: "named",
    part,
    name: thing.name,
    old: null,
    new: thing,
  });
  const set = await storeChange(job, "Ada", named("sets", { name: "low", rule: { codes: ["SPOT"] } } as never));
  await storeChange(job, "Ben", named("surfaces", { name: "ground", points: "low" } as never));
  await expect(stepOne(job, "Ada", "undo", set.seq)).rejects.toThrow(/The surface “ground” uses the set “low”/);
  const id = await reserveIds(getPool(), job, 1);
  const made = await storeChange(job, "Ada", {
    type: "add",
    points: {
      id: [id],
      number: ["90"],
      easting: [5],
      northing: [5],
      elevation: [9],
      description: ["SPOT"],
      note: [""],
      kind: ["computed"],
      precision: [null],
      targetHeight: [null],
    },
  });
  const through = { name: "by hand 1", code: "TOP", points: [refByNumber("1"), refOfMade(id, "90")] };
  await storeChange(job, "Ben", named("lines", through as never));
  await expect(stepOne(job, "Ada", "undo", made.seq)).rejects.toThrow(/drawn by hand goes through point 90/);
});
