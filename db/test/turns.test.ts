/** Writers in turn, and a database that goes away, on a real PostgreSQL behind a wire that can be cut. */
import net from "node:net";
import path from "node:path";
import { GENERAL_BOOK } from "@bramble/core";
import {
  closePool,
  connectionString,
  createJob,
  getPool,
  inTurn,
  listLedger,
  loadPoints,
  lookUpEntry,
  migrate,
  storeChange,
  takeIntake,
  transaction,
} from "../src/index";
import { connectionName } from "../src/turns";

const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
const edit = (old: number, now: number) => ({
  type: "points" as const,
  edits: [{ id: 1, field: "elevation" as const, old, new: now }],
});
const newJob = async () => {
  const id = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
  await takeIntake(id, "Ada", { file: "day1.csv", layout }, new TextEncoder().encode("1,10,20,5,SPOT\n"));
  return id;
};
/** Held until it is let go. */
function gate(): { open(): void; opened: Promise<void> } {
  let open = () => undefined as void;
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { open, opened };
}

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);

test("however many writers of one job wait, other jobs are written and all are read", async () => {
  const [busy, other] = [await newJob(), await newJob()],
    { open, opened } = gate(),
    first = inTurn(busy, "Ada", () => opened);
  let level = 5;
  const waiting = Array.from({ length: 20 }, () => storeChange(busy, "Ben", edit(level, ++level)));
  await storeChange(other, "Cy", edit(5, 9));
  expect((await loadPoints(getPool(), busy)).z[0]).toBe(5);
  expect((await loadPoints(getPool(), other)).z[0]).toBe(9);
  open();
  await Promise.all([first, ...waiting]);
  // In the order in which they came, each on what the one before it left.
  expect((await loadPoints(getPool(), busy)).z[0]).toBe(25);
});

test("writers of many jobs leave connections to readers", async () => {
  const jobs = await Promise.all(Array.from({ length: 12 }, newJob)),
    holder = await getPool().connect();
  try {
    await holder.query("BEGIN");
    await holder.query("SELECT 1 FROM jobs WHERE id = ANY($1) FOR UPDATE", [jobs]);
    const writing = jobs.map((id) => storeChange(id, "Ben", edit(5, 6)));
    for (const id of jobs) expect((await loadPoints(getPool(), id)).z[0]).toBe(5);
    await holder.query("ROLLBACK");
    await Promise.all(writing);
    for (const id of jobs) expect((await loadPoints(getPool(), id)).z[0]).toBe(6);
  } finally {
    holder.release();
  }
});

describe("a writer that waits too long", () => {
  beforeAll(() => (process.env.BRAMBLE_LOCK_SECONDS = "0.3"));
  afterAll(() => delete process.env.BRAMBLE_LOCK_SECONDS);

  test("says for whom, in this process and in another; whoever comes after it goes on", async () => {
    const job = await newJob(),
      { open, opened } = gate(),
      held = inTurn(job, "Ada", () => opened);
    await expect(storeChange(job, "Ben", edit(5, 6))).rejects.toMatchObject({
      code: "job-busy",
      message: expect.stringContaining("A change by Ada has been on its way"),
    });
    const next = storeChange(job, "Cy", edit(5, 7));
    open();
    await held;
    await next;

    // A connection of another process holds the job as that one names itself. The pool is made anew with its patience.
    await closePool();
    const elsewhere = await getPool().connect();
    try {
      await elsewhere.query("BEGIN");
      await elsewhere.query("SELECT 1 FROM jobs WHERE id = $1 FOR UPDATE", [job]);
      await elsewhere.query("SELECT set_config('application_name', $1, true)", [connectionName(job, "Zoë 水")]);
      await expect(storeChange(job, "Ben", edit(7, 8))).rejects.toMatchObject({
        code: "job-busy",
        message: expect.stringContaining("A change by Zoë 水 has"),
      });
    } finally {
      await elsewhere.query("ROLLBACK");
      elsewhere.release();
    }
    expect((await listLedger(job)).map((e) => e.author)).toEqual(["Cy", "Ada"]);
    await closePool();
  });
});

describe("the database behind a wire", () => {
  const direct = connectionString(),
    sockets = new Set<net.Socket>();
  /** What is done with a message from here to there, as text: cut before it, or after it was passed on. */
  let cut: ((message: string) => "before" | "after" | undefined) | undefined;
  let wire: net.Server;

  const begin = () =>
    new Promise<number>((listening) => {
      const { hostname, port } = new URL(direct);
      wire = net.createServer((from) => {
        const to = net.connect(Number(port), hostname);
        for (const s of [from, to]) {
          sockets.add(s);
          s.on("error", () => s.destroy());
          s.on("close", () => (from.destroy(), to.destroy()));
        }
        let answers = true;
        from.on("data", (bytes) => {
          const when = cut?.(bytes.toString("latin1"));
          if (when === "before") return void from.destroy();
          // It arrives, and its answer does not.
          if (when === "after") answers = false;
          to.write(bytes);
          if (when === "after") setTimeout(() => from.destroy(), 200);
        });
        to.on("data", (bytes) => answers && from.write(bytes));
      });
      wire.listen(0, "127.0.0.1", () => listening((wire.address() as net.AddressInfo).port));
    });
  const end = () => {
    for (const s of sockets) s.destroy();
    return new Promise((closed) => wire.close(closed));
  };

  beforeAll(async () => {
    await closePool();
    const url = new URL(direct);
    url.port = String(await begin());
    process.env.DATABASE_URL = url.href;
  });
  afterAll(async () => {
    await closePool();
    process.env.DATABASE_URL = direct;
    await end();
  });
  afterEach(() => (cut = undefined));

  test.each([
    ["before", false],
    ["after", true],
  ] as const)("cut %s the end of a transaction: not known, and then looked up by its name", async (when, stored) => {
    const job = await newJob(),
      name = `lost-${when}-x`;
    cut = (message) => (message.includes("COMMIT") ? when : undefined);
    await expect(storeChange(job, "Ada", edit(5, 6), name)).rejects.toMatchObject({ code: "storing-unknown" });
    cut = undefined;
    expect((await lookUpEntry(job, "Ada", name))?.client).toBe(stored ? name : undefined);
    // Asked again it is done once, either way.
    await storeChange(job, "Ada", edit(5, 6), name);
    expect([(await loadPoints(getPool(), job)).z[0], (await listLedger(job)).length]).toEqual([6, 2]);
  });

  test("cut before that nothing is stored, and the next goes on by itself", async () => {
    const job = await newJob();
    cut = (message) => (message.includes("INSERT INTO ledger") ? "before" : undefined);
    await expect(storeChange(job, "Ada", edit(5, 6))).rejects.toMatchObject({ code: "database-away" });
    cut = undefined;
    expect((await listLedger(job)).length).toBe(1);
    await storeChange(job, "Ada", edit(5, 7));
    expect((await loadPoints(getPool(), job)).z[0]).toBe(7);
  });

  test("gone, it is said; back, it goes on", async () => {
    const job = await newJob(),
      away = process.env.DATABASE_URL!;
    await closePool();
    const nobody = new URL(away);
    nobody.port = "1";
    process.env.DATABASE_URL = nobody.href;
    await expect(storeChange(job, "Ada", edit(5, 6))).rejects.toMatchObject({ code: "database-away" });
    await expect(transaction(async () => 1)).rejects.toMatchObject({ code: "database-away" });
    await closePool();
    process.env.DATABASE_URL = away;
    await storeChange(job, "Ada", edit(5, 6));
    expect((await listLedger(job)).length).toBe(2);
  });
});
