/** The job as it was after each entry of its ledger, on a real PostgreSQL. */
import path from "node:path";
import { GENERAL_BOOK, type EditableChange, type JobState, type Layout } from "@bramble/core";
import { fieldValue } from "@bramble/core/points/edits";
import type { EditField } from "@bramble/core/records/fields";
import {
  closePool,
  createJob,
  getPool,
  listLedger,
  loadJob,
  loadJobState,
  migrate,
  notKept,
  readIntakeAgain,
  redoLast,
  rehearsed,
  statesBetween,
  storeChange,
  takeIntake,
  turnOneIntake,
  undoLast,
  withdrawIntake,
} from "../src/index";

const bytes = (text: string) => new TextEncoder().encode(text),
  layout = (...columns: string[]): Layout => ({ delimiter: ",", columns: columns as never }),
  EN = layout("number", "easting", "northing", "elevation", "description"),
  NE = layout("number", "northing", "easting", "elevation", "description");
let job: number;

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});

const now = async (): Promise<JobState> => loadJobState(getPool(), await loadJob(getPool(), job));
const edit = async (number: string, field: EditField, value: unknown): Promise<EditableChange> => {
  const t = (await now()).points,
    i = t.number.findIndex((n, k) => n === number && !t.deleted[k]);
  return { type: "points", edits: [{ id: t.id[i]!, field, old: fieldValue(t, i, field), new: value as never }] };
};
const named = (part: "sets" | "volumes" | "surfaces", name: string, old: object | null, body: object | null) =>
  ({ type: "named", part, name, old, new: body }) as EditableChange;
/** What a state says, texts instead of where they are kept. */
const said = (s: JobState) => {
  const { points: t, ...rest } = s;
  return {
    ...rest,
    points: Array.from({ length: t.count }, (_, i) => ({
      id: t.id[i],
      number: t.number[i],
      at: [t.e[i], t.n[i], t.z[i]],
      intake: t.intake[i],
      deleted: t.deleted[i],
      description: t.texts[t.description[i]!],
      attributes: t.attributes.flatMap((a) => (a.values[i] ? [[a.name, t.texts[a.values[i]!]]] : [])),
    })),
  };
};

test("after each entry it was as it had been: deliveries, readings, edits, things, settings, steps back", async () => {
  const was: unknown[] = [];
  const seq = async () => (await loadJob(getPool(), job)).version;
  const keep = async () => (was[await seq()] = said(await now()));
  await keep();
  const low = { name: "low", rule: { elevation: [0, 6] } };
  const deeds: (() => Promise<unknown>)[] = [
    () =>
      takeIntake(job, "Ada", { file: "a.csv", layout: EN }, bytes("1,10,20,5,SPOT\n2,30,40,6,TREE\n3,50,60,7,SPOT\n")),
    async () => storeChange(job, "Ada", await edit("2", "elevation", 66)),
    async () => storeChange(job, "Ben", named("sets", "low", null, low)),
    async () => storeChange(job, "Ada", await edit("3", "number", "33")),
    () =>
      takeIntake(job, "Ben", { file: "b.csv", layout: EN, clash: "replace" }, bytes("1,1,2,3,SPOT\n9,4,5,6,HEDGE1\n")),
    async () => storeChange(job, "Ben", await edit("9", "attributes", '{"height":"7"}')),
    () => storeChange(job, "Ada", { type: "setting", field: "client", old: null, new: "Trust" }),
    () => readIntakeAgain(job, "Ben", "a", { layout: NE, clash: "keep-first" }),
    async () =>
      storeChange(job, "Ada", {
        type: "several",
        text: "two things",
        changes: [
          named("surfaces", "s", null, { name: "s" }) as never,
          named("volumes", "v", null, { name: "v", surface: "s", level: 5 }) as never,
        ],
      }),
    async () => storeChange(job, "Ada", await edit("2", "deleted", true)),
    () => withdrawIntake(job, "Ben", "b"),
    () => turnOneIntake(job, "Ben", "b", "take"),
    () => undoLast(job, "Ada"),
    () => redoLast(job, "Ada"),
    async () => storeChange(job, "Ben", named("sets", "low", low, null)),
    () => undoLast(job, "Ben"),
  ];
  for (const deed of deeds) {
    await deed();
    await keep();
  }
  const last = await seq(),
    ledger = await listLedger(job);
  expect(last).toBe(deeds.length);
  for (let from = last; from >= 0; from--) {
    const to = from + ((7 * from) % (last - from + 1)),
      { stops, entries } = await statesBetween(job, "Ada", from, to);
    expect([stops[0]!.seq, stops.at(-1)!.seq]).toEqual([from, to]);
    for (const { seq, state } of stops) expect([from, seq, said(state)]).toEqual([from, seq, was[seq]]);
    expect(entries.map((e) => e.seq)).toEqual(Array.from({ length: to - from }, (_, k) => from + 1 + k));
    // Between two that follow one another all can be carried out on a state, or one is alone.
    for (const { seq } of entries.filter((e) => e.change.type === "intake"))
      expect(stops.map((s) => s.seq)).toEqual(expect.arrayContaining([seq - 1, seq]));
  }
  // Nobody is told of it, and nothing of it stays.
  expect(said(await now())).toEqual(was[last]);
  expect(await listLedger(job)).toEqual(ledger);
});

test("what is only worked out leaves no trace, also where it fails; writers go on after it", async () => {
  await takeIntake(job, "Ada", { file: "a.csv", layout: EN }, bytes("1,10,20,5,SPOT\n"));
  const before = said(await now());
  const seen = await notKept(job, "Ben", async (client, stored) => {
    await client.query("UPDATE points SET elevation = 99 WHERE job_id = $1", [stored.id]);
    return loadJobState(client, stored);
  });
  expect(seen.points.z[0]).toBe(99);
  await expect(
    notKept(job, "Ben", async (client, stored) => {
      await client.query("UPDATE points SET elevation = 98 WHERE job_id = $1", [stored.id]);
      throw new Error("in the middle");
    }),
  ).rejects.toThrow("in the middle");
  expect(said(await now())).toEqual(before);
  await storeChange(job, "Ada", await edit("1", "elevation", 6));
  expect((await now()).points.z[0]).toBe(6);
});

test.each([-1, 7, 0.5])("an entry %p that is not there is refused", async (seq) => {
  await expect(statesBetween(job, "Ada", seq, 0)).rejects.toThrow(`The ledger has no entry ${seq}`);
});

test("a reading that is rehearsed says what would be, while others go on, and stores nothing of it", async () => {
  await takeIntake(job, "Ada", { file: "a.csv", layout: EN }, bytes("1,10,20,5,SPOT\n2,30,40,6,TREE\n"));
  await storeChange(job, "Ada", await edit("2", "elevation", 66));
  const before = said(await now()),
    ledger = await listLedger(job);
  const work = () => readIntakeAgain(job, "Ben", "a", { layout: NE });
  const [{ stops, entries }] = await Promise.all([
    rehearsed(job, "Ben", work),
    storeChange(job, "Cleo", { type: "setting", field: "client", old: null, new: "Trust" }),
  ]);
  expect(entries).toMatchObject([{ author: "Ben", change: { type: "intake", intake: "a" } }]);
  const at = ({ points: t }: JobState) =>
    Array.from({ length: t.count }, (_, i) => (t.deleted[i] ? [] : [t.number[i], t.e[i], t.n[i], t.z[i]])).filter(
      (x) => x.length,
    );
  // Northing and easting exchanged, the edit carried over.
  expect(at(stops[1]!.state)).toEqual([
    ["1", 20, 10, 5],
    ["2", 40, 30, 66],
  ]);
  expect(said({ ...(await now()), client: undefined })).toEqual({ ...before, client: undefined });
  expect((await listLedger(job)).length).toBe(ledger.length + 1);
  // Then it is done, and is what was said.
  await work();
  expect(at(await now())).toEqual(at(stops[1]!.state));
  await expect(rehearsed(job, "Ben", work)).rejects.toThrow("a.csv");
  await storeChange(job, "Ada", await edit("1", "elevation", 9));
});
