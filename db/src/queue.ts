/**
 * The queue of files to be made, in the same database (pg-boss): whoever asks puts an order in, a process that makes
 * files takes it out, on this machine or another. What an order says is in `made_files`; the queue has its number alone.
 */
import PgBoss from "pg-boss";
import { connectionString, getPool, type Client } from "./pool.ts";

/** One entry at most for each order that waits: what is put in again is in it once. */
const QUEUE = "made-files",
  FORMER = "files";

/** Makes what the queue needs in the database; once, before anybody asks. */
export async function prepareQueue(): Promise<void> {
  const boss = new PgBoss({ connectionString: connectionString(), max: 1, supervise: false, schedule: false });
  boss.on("error", () => undefined);
  await boss.start();
  await boss.createQueue(QUEUE, { name: QUEUE, policy: "short", retryLimit: 0, expireInMinutes: 30 });
  // What waits in that of an earlier version is put into this one (takeUpOrders).
  if (await boss.getQueue(FORMER)) await boss.deleteQueue(FORMER);
  await boss.stop({ graceful: false });
}

/** Puts an order in, as a part of the transaction that stores it. */
export async function putInQueue(client: Client, file: number): Promise<void> {
  await (await sender()).send(QUEUE, { file }, { db: on(client), singletonKey: String(file) });
}

const on = (db: Pick<Client, "query">) => ({
  executeSql: (text: string, values: unknown[]) => db.query(text, values) as Promise<{ rows: unknown[] }>,
});

let sending: Promise<PgBoss> | undefined;

/** One that only sends, by the connections of the process. */
function sender(): Promise<PgBoss> {
  sending ??= (async () => {
    const boss = new PgBoss({ db: on(getPool()), migrate: false, supervise: false, schedule: false });
    boss.on("error", () => undefined);
    await boss.start();
    return boss;
  })();
  return sending.catch((e: unknown) => {
    sending = undefined;
    throw e;
  });
}

/** Takes orders out one after another, for as long as the process lives; gives what ends it. */
export async function serveQueue(make: (file: number) => Promise<void>): Promise<() => Promise<void>> {
  const boss = new PgBoss({ connectionString: connectionString(), max: 2, migrate: false, schedule: false });
  // A database that is away is asked again by itself.
  boss.on("error", () => undefined);
  await boss.start();
  await boss.work<{ file: number }>(QUEUE, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([order]) => {
    if (order) await make(order.data.file);
  });
  return () => boss.stop({ graceful: false });
}
