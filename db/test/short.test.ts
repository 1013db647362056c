/** What PostgreSQL refuses for want of room, memory or leave: told in a sentence, nothing stored, and all as it was. */
import path from "node:path";
import { GENERAL_BOOK } from "@bramble/core";
import { closePool, createJob, getPool, listLedger, loadJob, migrate, storeChange, takeIntake } from "../src/index";

let job: number;
beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});
afterEach(() => getPool().query("DROP FUNCTION IF EXISTS short() CASCADE"));

/** From now on a row of a table goes in nowhere: the server says why, as it does by itself. */
const shortOf = (table: string, code: string, words = "as of test") =>
  getPool().query(
    `CREATE FUNCTION short() RETURNS trigger LANGUAGE plpgsql AS $$
       BEGIN RAISE EXCEPTION '${words}' USING ERRCODE = '${code}'; END $$;
     CREATE TRIGGER short BEFORE INSERT ON ${table} FOR EACH ROW EXECUTE FUNCTION short()`,
  );
const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
const take = () =>
  takeIntake(job, "Ada", { file: "day1.csv", layout }, new TextEncoder().encode("1,0,0,5,SPOT\n2,1,0,5,SPOT\n"));

test.each([
  ["53100", "disk-full", "The disk of the database is full. Nothing was stored: make room there"],
  ["53200", "database-short", "no memory left just now. Nothing was stored"],
  ["53300", "database-short", "no connections left just now"],
  ["25006", "database-read-only", "it may only be read. Nothing was stored"],
])("%s: a change and an intake are refused in a sentence, and go in when it is over", async (code, is, says) => {
  await shortOf("ledger", code);
  const change = { type: "setting", field: "client", old: null, new: "Farm" } as const;
  for (const work of [() => storeChange(job, "Ada", change), take])
    await expect(work()).rejects.toMatchObject({ code: is, message: expect.stringContaining(says) });
  const now = await loadJob(getPool(), job);
  expect([now.definition.client, now.intakes, await listLedger(job)]).toEqual([undefined, [], []]);
  await getPool().query("DROP FUNCTION short() CASCADE");
  await storeChange(job, "Ada", change);
  await take();
  expect((await loadJob(getPool(), job)).intakes[0]!.points).toBe(2);
});

test.each(["intake_parts", "points", "definitions"])("room that ends at %s leaves nothing of it", async (table) => {
  await shortOf(table, "58030", 'could not extend file "base/1/2": No space left on device');
  const set = { name: "all", rule: { codes: ["*"] } },
    work =
      table === "definitions"
        ? storeChange(job, "Ada", { type: "named", part: "sets", name: "all", old: null, new: set })
        : take();
  await expect(work).rejects.toMatchObject({ code: "disk-full" });
  const { rows } = await getPool().query("SELECT count(*)::int AS n FROM intakes WHERE job_id = $1", [job]);
  expect([rows[0].n, (await loadJob(getPool(), job)).definition.sets]).toEqual([0, []]);
});

test("a database that may only be read is read, and says so where something is stored", async () => {
  const { rows } = await getPool().query("SELECT current_database() AS name");
  await getPool().query(`ALTER DATABASE ${rows[0].name} SET default_transaction_read_only = on`);
  await closePool();
  try {
    expect((await loadJob(getPool(), job)).definition.name).toBe("Plot");
    await expect(take()).rejects.toMatchObject({ code: "database-read-only" });
  } finally {
    const client = await getPool().connect();
    await client.query("SET default_transaction_read_only = off");
    await client.query(`ALTER DATABASE ${rows[0].name} RESET default_transaction_read_only`);
    client.release();
    await closePool();
  }
  await take();
});
