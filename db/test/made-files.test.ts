/** Files that the queue makes of a job, on a real PostgreSQL with the real queue. */
import path from "node:path";
import fc from "fast-check";
import { GENERAL_BOOK } from "@bramble/core";
import {
  bytesOfMade,
  closePool,
  createJob,
  forgetFile,
  getPool,
  keepMade,
  madeFile,
  listMadeFiles,
  migrate,
  orderFile,
  prepareQueue,
  putBack,
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
  await getPool().query("DELETE FROM made_files; DELETE FROM pgboss.job");
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});

const ordered = (name = crypto.randomUUID() as string) => orderFile(job, "Ada", "a.pdf", WANTED, name);
const bytes = async (id: number, from?: number, to?: number) => {
  const out: Buffer[] = [];
  for await (const piece of bytesOfMade(await madeFile(job, id), from, to)) out.push(piece);
  return Buffer.concat(out);
};
const pieces = async () =>
  (await getPool().query("SELECT count(*)::int AS n FROM made_file_parts")).rows[0].n as number;
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
    const order = (await takeOrder(file))!;
    expect(order).toMatchObject({ id, attempt: 1, job, author: "Ada", wanted: WANTED });
    // Nobody else takes it as well.
    expect(await takeOrder(file)).toBeUndefined();
    expect(await tellProgress(order, "half", 0.5)).toBe(true);
    seen.push(await only());
    await keepMade(order, 7, new Uint8Array([1, 2, 3]));
  });
  expect(seen[0]).toMatchObject({ state: "making", doing: "half", share: 0.5, size: null });
  expect(await only()).toMatchObject({ state: "made", seq: 7, size: 3, share: 1, why: null });
  expect(await madeFile(job, id)).toMatchObject({ file: "a.pdf", size: 3, wanted: WANTED });
  expect([...(await bytes(id))]).toEqual([1, 2, 3]);
});

test("an order sent twice under one name is made once; orders are made in their turn", async () => {
  const [a, again, b] = [await ordered("first-name"), await ordered("first-name"), await ordered()];
  expect(again.id).toBe(a.id);
  const made = await served(2, async (file) => {
    await keepMade((await takeOrder(file))!, 0, new Uint8Array(1));
  });
  expect(made).toEqual([a.id, b.id]);
});

test("what was taken away is not made, and its maker is told so", async () => {
  const [{ id }, other] = [await ordered(), await ordered()];
  const order = (await takeOrder(id))!;
  await forgetFile(job, id);
  expect([await tellProgress(order, "on", 0.1), await stillMaking(order)]).toEqual([false, false]);
  await keepMade(order, 1, new Uint8Array(1));
  await expect(madeFile(job, id)).rejects.toThrow("That file");
  expect(await pieces()).toBe(0);
  await expect(forgetFile(job, id)).rejects.toThrow("That file");
  await forgetFile(job, other.id);
  // Its number comes out of the queue all the same, and there is nothing to take.
  await served(2, async (file) => expect(await takeOrder(file)).toBeUndefined());
  expect(await listMadeFiles(job)).toEqual([]);
});

test("an order whose maker is gone is taken up again; one whose maker is there is left to it", async () => {
  const [gone, there, failed] = [await ordered(), await ordered(), await ordered()];
  const [first, , third] = [await takeOrder(gone.id), await takeOrder(there.id), await takeOrder(failed.id)];
  await getPool().query("UPDATE made_files SET seen = now() - interval '31 s' WHERE id = $1", [gone.id]);
  await tellFailed(third!, "No such surface.");
  expect(await takeUpOrders()).toBe(1);
  // Should the first maker be there after all, it is told that the order is no longer its own.
  expect([await tellProgress(first!, "on", 0.5), await stillMaking(first!)]).toEqual([false, false]);
  const states = (await listMadeFiles(job)).map((f) => [f.id, f.state]);
  expect(states).toEqual([[failed.id, "failed"], [there.id, "making"], [gone.id, "waiting"]]); // prettier-ignore
  // It was in the queue still, and is in it once.
  const taken: number[] = [];
  await served(3, async (file) => {
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

test("a file of several pieces leaves whole, and from any byte to any other", async () => {
  const size = 3 * (1 << 20) + 12_345,
    all = Buffer.from(Uint8Array.from({ length: size }, (_, k) => (k * 7 + (k >> 13)) & 255)),
    { id } = await ordered();
  await keepMade((await takeOrder(id))!, 1, all);
  expect([(await madeFile(job, id)).size, (await only()).size, await pieces()]).toEqual([size, size, 4]);
  expect((await bytes(id)).equals(all)).toBe(true);
  await fc.assert(
    fc.asyncProperty(fc.nat(size), fc.oneof(fc.nat(size), fc.constantFrom(1 << 20, 2 << 20, size)), async (a, b) => {
      const [from, to] = [Math.min(a, b), Math.max(a, b)];
      expect((await bytes(id, from, to)).equals(all.subarray(from, to))).toBe(true);
    }),
    { numRuns: 30 },
  );
  // One that is empty is a file all the same.
  const empty = await ordered();
  await keepMade((await takeOrder(empty.id))!, 1, new Uint8Array(0));
  expect([(await madeFile(job, empty.id)).size, (await bytes(empty.id)).length]).toEqual([0, 0]);
  await forgetFile(job, id);
  expect(await pieces()).toBe(0);
});

test("of two makers of one file the former leaves nothing behind", async () => {
  const { id } = await ordered(),
    first = (await takeOrder(id))!;
  await putBack(first);
  const second = (await takeOrder(id))!;
  await keepMade(second, 2, new Uint8Array(1_100_000).fill(2));
  await keepMade(first, 1, new Uint8Array(2_100_000).fill(1));
  expect([await only(), await pieces()]).toMatchObject([{ seq: 2, size: 1_100_000, state: "made" }, 2]);
  expect((await bytes(id)).every((b) => b === 2)).toBe(true);
});

test("an order that was fetched by a process which then ended is put in again, and never twice", async () => {
  const { id } = await ordered();
  // Out of the queue, and nobody at it.
  await served(1, async () => undefined);
  expect(await only()).toMatchObject({ state: "waiting" });
  expect(await takeUpOrders()).toBe(0);
  await takeUpOrders();
  const { rows } = await getPool().query(
    "SELECT count(*)::int AS n FROM pgboss.job WHERE name = 'made-files' AND state = 'created' AND data->>'file' = $1",
    [String(id)],
  );
  expect(rows[0].n).toBe(1);
  expect(await served(1, async (file) => keepMade((await takeOrder(file))!, 1, new Uint8Array(1)))).toEqual([id]);
  expect(await only()).toMatchObject({ state: "made" });
});

test("one whose maker ended through no fault of the file is made again, and given up after ten times", async () => {
  const { id } = await ordered();
  for (let k = 1; k <= 10; k++) {
    const order = (await takeOrder(id))!;
    expect(order.attempt).toBe(k);
    await putBack(order);
  }
  expect(await only()).toMatchObject({ state: "failed", why: expect.stringContaining("begun 10 times") });
  expect(await takeOrder(id)).toBeUndefined();
});
