/** Jobs copied, put away, removed and brought back, on a real PostgreSQL. */
import path from "node:path";
import { GENERAL_BOOK, type JobState, type IntakeChange } from "@bramble/core";
import { fieldValue } from "@bramble/core/points/edits";
import {
  closePool,
  copyJob,
  createJob,
  getPool,
  intakeBytes,
  listJobs,
  listLedger,
  loadJob,
  loadJobState,
  migrate,
  purgeRemoved,
  readIntakeAgain,
  shelveJob,
  storeChange,
  takeIntake,
  undoLast,
  withdrawIntake,
} from "../src/index";

const bytes = (text: string) => new TextEncoder().encode(text);
const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
let job: number;

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
  await takeIntake(job, "Ada", { file: "day1.csv", layout }, bytes("1,10,20,5,SPOT\n2,30,40,6,TREE\n"));
  await takeIntake(job, "Ada", { file: "day2.csv", layout }, bytes("3,50,60,7,SPOT\n"));
});
const stateOf = async (id: number): Promise<JobState> => {
  const stored = await loadJob(getPool(), id);
  return loadJobState(getPool(), stored);
};
const figures = ({ points: t }: JobState) =>
  t.number.flatMap((n, i) => (t.deleted[i] ? [] : [[n, t.e[i], t.n[i], t.z[i], t.texts[t.description[i]!]]]));
const level = async (id: number, number: string, z: number) => {
  const { points: t } = await stateOf(id),
    i = t.number.indexOf(number);
  await storeChange(id, "Ada", {
    type: "points",
    edits: [{ id: t.id[i]!, field: "elevation", old: fieldValue(t, i, "elevation"), new: z }],
  });
};

test("what stands for a large delivery in the ledger speaks of the copy's own", async () => {
  await getPool().query(
    `UPDATE ledger SET brief = jsonb_build_object('words', 'large', 'change', change || '{"replaced": [], "file": "brief"}')
      WHERE job_id = $1 AND change->>'type' = 'intake'`,
    [job],
  );
  const copy = await copyJob(job, "Plot, tried"),
    ids = (await loadJob(getPool(), copy)).intakes.map((k) => k.rowId);
  expect((await listLedger(copy)).map((e) => [e.text, (e.change as IntakeChange).id])).toEqual(
    [...ids].reverse().map((id) => ["large", id]),
  );
  expect(ids).not.toEqual((await loadJob(getPool(), job)).intakes.map((k) => k.rowId));
});

test("a copy has all of the job and goes its own way: deliveries, edits, the ledger and undo", async () => {
  await level(job, "1", 5.5);
  await readIntakeAgain(job, "Ada", "day2", { layout, kind: "design" });
  const copy = await copyJob(job, "Plot, tried");
  expect(figures(await stateOf(copy))).toEqual(figures(await stateOf(job)));
  expect((await loadJob(getPool(), copy)).definition.name).toBe("Plot, tried");
  const told = async (id: number) => (await listLedger(id)).map((l) => [l.seq, l.author, l.text, l.undone]);
  expect(await told(copy)).toEqual(await told(job));

  // What is done in one is not done in the other.
  await undoLast(copy, "Ada", true);
  await undoLast(copy, "Ada");
  expect(figures(await stateOf(copy))[0]).toEqual(["1", 10, 20, 5, "SPOT"]);
  expect(figures(await stateOf(job))[0]).toEqual(["1", 10, 20, 5.5, "SPOT"]);
  await withdrawIntake(copy, "Ada", "day1");
  expect(figures(await stateOf(copy)).map(([n]) => n)).toEqual(["3"]);
  expect(figures(await stateOf(job))).toHaveLength(3);
  await level(job, "3", 9);
  expect(figures(await stateOf(copy))[0]![3]).toBe(7);
  // The bytes came along, and are read again there.
  await readIntakeAgain(copy, "Ada", "day2", { layout, kind: "control" });
  const received = await intakeBytes(getPool(), copy, "day2");
  expect(Buffer.from(received.bytes).toString()).toBe("3,50,60,7,SPOT\n");
});

test("a job that is not there is not copied, and none is left half", async () => {
  const before = (await listJobs()).length;
  await expect(copyJob(999_999_999, "x")).rejects.toMatchObject({ code: "job-unknown" });
  expect((await listJobs()).length).toBe(before);
});

test("put away and taken out again; removed, brought back, and gone for good after its days", async () => {
  const listed = async () => (await listJobs()).find((j) => j.id === job);
  expect(await listed()).toMatchObject({ archived: null, removed: null });
  await shelveJob(job, "Ada", { archived: true });
  expect((await listed())!.archived).not.toBeNull();
  await shelveJob(job, "Ada", { archived: false });
  expect(await listed()).toMatchObject({ archived: null });

  await shelveJob(job, "Ada", { removed: true });
  await expect(loadJob(getPool(), job)).rejects.toMatchObject({ code: "job-unknown" });
  await expect(copyJob(job, "x")).rejects.toMatchObject({ code: "job-unknown" });
  await getPool().query("UPDATE jobs SET removed = now() - interval '29 days' WHERE id = $1", [job]);
  await purgeRemoved();
  await shelveJob(job, "Ada", { removed: false });
  expect(figures(await stateOf(job))).toHaveLength(3);

  await shelveJob(job, "Ada", { removed: true });
  await getPool().query("UPDATE jobs SET removed = now() - interval '31 days' WHERE id = $1", [job]);
  expect(await purgeRemoved()).toBeGreaterThanOrEqual(1);
  expect(await listed()).toBeUndefined();
  const { rows } = await getPool().query("SELECT count(*)::int AS n FROM points WHERE job_id = $1", [job]);
  expect(rows[0].n).toBe(0);
  await expect(shelveJob(job, "Ada", { removed: false })).rejects.toMatchObject({ code: "job-unknown" });
});

test("a job in which two things have one name is refused whole", async () => {
  const before = (await listJobs()).length,
    twice = [{ name: "a" }, { name: "a" }] as never;
  await expect(
    createJob({ name: "Twice", unit: "m", order: "EN", book: GENERAL_BOOK, surfaces: twice }),
  ).rejects.toMatchObject({ message: expect.stringContaining("“a” is there twice") });
  expect((await listJobs()).length).toBe(before);
});
