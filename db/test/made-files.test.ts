/** Files that the queue makes of a job, on a real PostgreSQL with the real queue. */
import path from "node:path";
import { GENERAL_BOOK } from "@bramble/core";
import {
  bytesOfFile,
  closePool,
  createJob,
  forgetFile,
  getPool,
  keepMade,
  listMadeFiles,
  migrate,
  orderFile,
  prepareQueue,
  serveQueue,
  stillMaking,
  takeOrder,
  takeUpOrders,
  tellFailed,
  tellProgress,
  type MadeFile,
} from "../src/index";

const WANTED = { what: "volumes" as const, format: "pdf" as const, comparisons: ["a"] };
let job: number;
beforeAll(async () => {
  await migrate(path.join(__dirname, "../migrations"));
  await prepareQueue();
});
afterAll(closePool);
beforeEach(async () => {
  await getPool().query("DELETE FROM made_files");
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});

const ordered = (name = crypto.randomUUID() as string) => orderFile(job, "Ada", "a.pdf", WANTED, name);
const only = async (): Promise<MadeFile> => (await listMadeFiles(job))[0]!;
/** Serves the queue until so many orders were made; throws what the making throws. */
async function served(count: number, make: (file: number) => Promise<void>): Promise<number[]> {
  const made: number[] = [],
    { promise, resolve, reject } = withResolvers();
  const stop = await serveQueue(async (file) => {
    await make(file).catch(reject);
    if (made.push(file) === count) resolve();
  });
  await promise.finally(stop);
  return made;
}

function withResolvers() {
  let resolve!: () => void, reject!: (e: unknown) => void;
  const promise = new Promise<void>((yes, no) => ([resolve, reject] = [yes, no]));
  return { promise, resolve, reject };
}

test("an order goes through the queue to a maker, says how far it is, and is kept with its state", async () => {
  const { id, state } = await ordered();
  expect(state).toBe("waiting");
  const seen: MadeFile[] = [];
  await served(1, async (file) => {
    expect(await takeOrder(file)).toMatchObject({ id, job, author: "Ada", wanted: WANTED });
    // Nobody else takes it as well.
    expect(await takeOrder(file)).toBeUndefined();
    expect(await tellProgress(file, "half", 0.5)).toBe(true);
    seen.push(await only());
    await keepMade(file, 7, new Uint8Array([1, 2, 3]));
  });
  expect(seen[0]).toMatchObject({ state: "making", doing: "half", share: 0.5, size: null });
  expect(await only()).toMatchObject({ state: "made", seq: 7, size: 3, share: 1, why: null });
  expect([...(await bytesOfFile(job, id)).bytes]).toEqual([1, 2, 3]);
});

test("an order sent twice under one name is made once; orders are made in their turn", async () => {
  const [a, again, b] = [await ordered("first-name"), await ordered("first-name"), await ordered()];
  expect(again.id).toBe(a.id);
  const made = await served(2, async (file) => {
    await takeOrder(file);
    await keepMade(file, 0, new Uint8Array(1));
  });
  expect(made).toEqual([a.id, b.id]);
});

test("what was taken away is not made, and its maker is told so", async () => {
  const [{ id }, other] = [await ordered(), await ordered()];
  await takeOrder(id);
  await forgetFile(job, id);
  expect([await tellProgress(id, "on", 0.1), await stillMaking(id)]).toEqual([false, false]);
  await keepMade(id, 1, new Uint8Array(1));
  await expect(bytesOfFile(job, id)).rejects.toThrow("That file");
  await expect(forgetFile(job, id)).rejects.toThrow("That file");
  await forgetFile(job, other.id);
  // Its number comes out of the queue all the same, and there is nothing to take.
  await served(2, async (file) => expect(await takeOrder(file)).toBeUndefined());
  expect(await listMadeFiles(job)).toEqual([]);
});

test("an order whose maker is gone is taken up again; one whose maker is there is left to it", async () => {
  const [gone, there, failed] = [await ordered(), await ordered(), await ordered()];
  for (const { id } of [gone, there, failed]) await takeOrder(id);
  await getPool().query("UPDATE made_files SET seen = now() - interval '31 s' WHERE id = $1", [gone.id]);
  await tellFailed(failed.id, "No such surface.");
  expect(await takeUpOrders()).toBe(1);
  // Should the first maker be there after all, it is told that the order is no longer its own.
  expect([await tellProgress(gone.id, "on", 0.5), await stillMaking(gone.id)]).toEqual([false, false]);
  const states = (await listMadeFiles(job)).map((f) => [f.id, f.state]);
  expect(states).toEqual([[failed.id, "failed"], [there.id, "making"], [gone.id, "waiting"]]); // prettier-ignore
  // The queue gives its number twice now: once as ordered, once as taken up.
  const taken: number[] = [];
  await served(4, async (file) => {
    const order = await takeOrder(file);
    if (order) taken.push(order.id);
  });
  expect(taken).toEqual([gone.id]);
  expect((await listMadeFiles(job))[0]).toMatchObject({ state: "failed", why: "No such surface." });
});

test("orders of a job that is not there, and more than it may keep, are refused", async () => {
  await expect(orderFile(job + 1000, "Ada", "a.pdf", WANTED, "some-name")).rejects.toThrow("There is no job");
  await getPool().query(
    "INSERT INTO made_files (job_id, name, wanted, file, author, state) SELECT $1, g::text, '{}', 'a', 'Ada', 'made' FROM generate_series(1, 200) g",
    [job],
  );
  await expect(ordered()).rejects.toThrow("at most 200");
});

test("a whole handover may be asked for at once: of 31 orders none is refused", async () => {
  const all = await Promise.all(Array.from({ length: 31 }, () => ordered()));
  expect(new Set(all.map((f) => f.id)).size).toBe(31);
  expect((await listMadeFiles(job)).filter((f) => f.state === "waiting")).toHaveLength(31);
});
