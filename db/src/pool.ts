/** The connection to PostgreSQL, one pool for the process. */
import { AsyncLocalStorage } from "node:async_hooks";
import { refusal, type Refusal } from "@bramble/core";
import pg from "pg";
import { CONNECT_SECONDS, lockSeconds, STATEMENT_SECONDS } from "./patience.ts";

// Counts and identities stay below 2^53 here.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

let pool: pg.Pool | undefined;

export type Client = pg.PoolClient;

/** Connections of one process; BRAMBLE_CONNECTIONS sets another number. */
export const connections = () => Number(process.env.BRAMBLE_CONNECTIONS ?? 8);

export function connectionString(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; start the application with `npm start`");
  return url;
}

export function getPool(): pg.Pool {
  if (!pool) {
    pool = new pg.Pool({
      connectionString: connectionString(),
      max: connections(),
      connectionTimeoutMillis: CONNECT_SECONDS * 1000,
      lock_timeout: lockSeconds() * 1000,
      statement_timeout: STATEMENT_SECONDS * 1000,
      idle_in_transaction_session_timeout: STATEMENT_SECONDS * 1000,
      // A statement ends when this process is gone, and its locks with it.
      options: "-c client_connection_check_interval=5000",
    });
    // An idle connection that breaks is replaced at the next query.
    pool.on("error", () => undefined);
  }
  return pool;
}

export async function closePool(): Promise<void> {
  await pool?.end();
  pool = undefined;
}

/** Runs the work on one consistent reading of the database, which stores nothing. */
export function reading<T>(work: (client: Client) => Promise<T>): Promise<T> {
  return transaction(async (client) => {
    await client.query("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY");
    return work(client);
  });
}

/** The transaction that the present work runs in. */
const around = new AsyncLocalStorage<Client>();

/**
 * Runs the work in one transaction: all of it is stored, or nothing. Within another it is a part of that. A wait or a
 * statement that takes too long, and a database that is away, are refusals.
 */
export async function transaction<T>(work: (client: Client) => Promise<T>): Promise<T> {
  const outer = around.getStore();
  if (outer) return work(outer);
  const client = await getPool()
    .connect()
    .catch((e: unknown) => {
      throw databaseRefusal(e) ?? e;
    });
  let broken: Error | undefined,
    committing = false;
  // A connection that is lost while nothing is asked says so by this event alone; without a listener it would end the
  // process.
  const lost = (e: Error) => (broken = e);
  client.on("error", lost);
  try {
    await client.query("BEGIN");
    const result = await around.run(client, () => work(client));
    committing = true;
    await client.query("COMMIT");
    return result;
  } catch (e) {
    await client.query("ROLLBACK").catch((worse: Error) => (broken ??= worse));
    const why = databaseRefusal(e);
    if (why?.code === "database-away" && committing) throw refusal("storing-unknown", {});
    throw why ?? e;
  } finally {
    client.off("error", lost);
    client.release(broken);
  }
}

/** What PostgreSQL and the network say when the one does not answer over the other. */
const AWAY = /^(57P0[1-5]|08...|25P03|ECONN.*|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENOTFOUND)$/;
const AWAY_WORDS = /connection terminated|timeout exceeded when trying to connect|connection error|connection ended/i;

/** What PostgreSQL may be short of, by its class 53. */
const SHORT_OF: Record<string, string> = {
  "53200": "memory",
  "53300": "connections",
  "53400": "room of what it is allowed",
};

/** What went wrong between here and the database, as a refusal; undefined for anything else. */
export function databaseRefusal(e: unknown): Refusal | undefined {
  const { code, message } = e as { code?: string; message?: string };
  // What no column can hold cannot be looked up either.
  if (code === "22021" || code === "22P05") return refusal("request-wrong", { why: "A text cannot hold a zero byte" });
  if (code === "22003") return refusal("request-wrong", { why: "A number is larger than any that is stored" });
  if (code === "55P03") return refusal("job-busy", { seconds: lockSeconds() });
  if (code === "53100" || /no space left on device|disk quota exceeded/i.test(message ?? ""))
    return refusal("disk-full", { where: "database" });
  if (code !== undefined && Object.hasOwn(SHORT_OF, code)) return refusal("database-short", { what: SHORT_OF[code]! });
  if (code === "25006") return refusal("database-read-only", {});
  if (code === "57014") return refusal("storing-slow", { seconds: STATEMENT_SECONDS });
  if (AWAY.test(code ?? "") || AWAY_WORDS.test(message ?? "")) return refusal("database-away", {});
  return undefined;
}
