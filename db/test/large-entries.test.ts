/** Large changes: they stay behind their entries, and are read where all of them is wanted. */
import path from "node:path";
import { GENERAL_BOOK } from "@bramble/core";
import {
  closePool,
  createJob,
  getPool,
  ledgerAfter,
  ledgerEntry,
  ledgerOfPoint,
  ledgerPageAfter,
  listLedger,
  loadPoints,
  lookUpEntry,
  migrate,
  stepOne,
  storeChange,
  takeIntake,
  transaction,
  undoLast,
} from "../src/index";
import { giveBriefs } from "../src/queries/ledger";

let job: number;
beforeAll(async () => {
  await migrate(path.join(__dirname, "../migrations"));
});
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Test plot", unit: "m", order: "EN", book: GENERAL_BOOK });
  const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
  const rows = "1,0,0,10,SPOT\n2,10,0,11,TREE\n3,0,10,,HEDGE\n4,5,5,1,SPOT\n";
  await takeIntake(job, "Ada", { file: "day1.csv", layout }, new TextEncoder().encode(rows));
});

const letters = (count: number) => Array.from({ length: count / 36 }, () => crypto.randomUUID()).join("");

test("a page of the ledger is as long as it has room, and has one entry at least", async () => {
  const first = (await listLedger(job))[0]?.seq ?? 0;
  let old: string | null = null;
  // Each says what was before as well: twice as many letters, a tenth of a page and more.
  for (let k = 0; k < 25; k++) {
    const note = letters(115_000);
    await storeChange(job, "Ada", { type: "setting", field: "note", old, new: note });
    old = note;
  }
  const seqs = (entries: { seq: number }[]) => entries.map((e) => e.seq - first),
    pages: number[][] = [];
  for (let after = first; ; after = first + pages.at(-1)!.at(-1)!) {
    const page = await ledgerPageAfter(job, after);
    if (page.length === 0) break;
    expect(page.every((e) => e.change.type === "setting")).toBe(true);
    pages.push(seqs(page));
  }
  const all = Array.from({ length: 25 }, (_, k) => k + 1);
  expect(pages.flat()).toEqual(all);
  expect(pages.map((p) => p.length)).toEqual([10, 9, 6]);
  expect(seqs(await listLedger(job))).toEqual(all.slice(-9).reverse());
  expect(seqs(await listLedger(job, 200, first + 4))).toEqual([3, 2, 1, 0]);
  expect(seqs(await ledgerAfter(job, first))).toEqual(all);
  expect(seqs(await ledgerPageAfter(job, first, 1))).toEqual([1]);
});

test("a large change stays behind its entry, which says what it was; the beginning of it is asked for", async () => {
  const first = (await listLedger(job))[0]?.seq ?? 0,
    t = await loadPoints(getPool(), job),
    notes = Array.from(t.id, (id) => ({ id, field: "note" as const, old: "", new: letters(72_000) })),
    bytes = JSON.stringify({ type: "points", edits: notes }).length;
  const made = await storeChange(job, "Ada", { type: "points", edits: notes }, "large-1");
  expect(made.change).toEqual({ type: "points", edits: notes });
  await storeChange(job, "Ada", { type: "setting", field: "client", old: null, new: "Gorsefold" });
  await stepOne(job, "Ada", "undo", made.seq);
  const text = `Note of ${notes.length} points changed`,
    behind = { type: "large", bytes };
  const told = await ledgerPageAfter(job, first);
  expect(told.map((e) => [e.text, e.kind, e.undone, e.change.type])).toEqual([
    [text, "change", true, "large"],
    [expect.any(String), "change", false, "setting"],
    [`${text}: taken back`, "undo", false, "large"],
  ]);
  expect(told[0]!.change).toEqual(behind);
  expect(told).toEqual((await listLedger(job)).slice(0, 3).reverse());
  // Asked again by its name it is found, and not read whole.
  expect(await lookUpEntry(job, "Ada", "large-1")).toMatchObject({ seq: made.seq, text, change: behind });
  expect(await storeChange(job, "Ada", { type: "points", edits: notes }, "large-1")).toMatchObject({ change: behind });
  // Where all of it is wanted it is there.
  expect((await ledgerAfter(job, first)).map((e) => e.text)).toEqual(told.map((e) => e.text));
  expect((await ledgerEntry(job, made.seq, 2)).change).toEqual({ type: "points", edits: notes.slice(0, 2) });
  expect((await ledgerOfPoint(job, notes[1]!.id)).map((e) => [e.text, e.change])).toContainEqual([
    text,
    { type: "points", edits: [notes[1]] },
  ]);
  await expect(ledgerEntry(job, 1e6, 2)).rejects.toThrow(/no entry 1000000/);
});

test("large changes of an earlier version come to stay behind their entries when the database comes to be one of now", async () => {
  const t = await loadPoints(getPool(), job),
    edits = [{ id: t.id[0]!, field: "note" as const, old: "", new: letters(300_000) }];
  const { seq } = await storeChange(job, "Ada", { type: "points", edits });
  await undoLast(job, "Ada");
  await getPool().query("UPDATE ledger SET brief = NULL");
  const words = async () => (await listLedger(job, 2)).map((e) => e.text);
  expect((await listLedger(job, 1))[0]!.change.type).toBe("points");
  await transaction(giveBriefs);
  expect(await words()).toEqual(["Note of 1 point changed: taken back", "Note of 1 point changed"]);
  expect((await listLedger(job, 2)).map((e) => [e.seq, e.change.type])).toEqual([
    [seq + 1, "large"],
    [seq, "large"],
  ]);
});

test("of a delivery that replaced many points all but those comes with its entry", async () => {
  const [taken] = await listLedger(job);
  await getPool().query(
    `UPDATE ledger SET change = change || jsonb_build_object('replaced', (SELECT jsonb_agg(n) FROM generate_series(1, 60000) AS n))
      WHERE job_id = $1`,
    [job],
  );
  await transaction(giveBriefs);
  const [told] = await listLedger(job);
  expect(told).toEqual({ ...taken, change: { ...taken!.change, replaced: [] } });
  const [whole] = await ledgerAfter(job, 0);
  expect((whole!.change as { replaced: number[] }).replaced).toHaveLength(60_000);
});
