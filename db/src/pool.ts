/** The connection to PostgreSQL, one pool for the process. */
import { refusal } from "@bramble/core";
import pg from "pg";
import { lockSeconds, STATEMENT_SECONDS } from "./patience.ts";

// Counts and identities stay below 2^53 here.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

let pool: pg.Pool | undefined;

export type Client = pg.PoolClient;

export function connectionString(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; start the application with `npm start`");
  return url;
}

export function getPool(): pg.Pool {
  if (!pool) {
    pool = new pg.Pool({
      connectionString: connectionString(),
      max: 8,
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

/**
 * Runs the work in one transaction: all of it is stored, or nothing. A wait or a statement that takes too long is a
 * refusal.
 */
export async function transaction<T>(work: (client: Client) => Promise<T>): Promise<T> {
  const client = await getPool().connect();
  let broken: Error | undefined;
  // A connection that is lost while nothing is asked says so by this event alone; without a listener it would end the
  // process.
  const lost = (e: Error) => (broken = e);
  client.on("error", lost);
  try {
    await client.query("BEGIN");
    const result = await work(client);
    await client.query("COMMIT");
    return result;
  } catch (e) {
    await client.query("ROLLBACK").catch(() => undefined);
    const { code } = e as { code?: string };
    if (code === "55P03") throw refusal("job-busy", { seconds: lockSeconds() });
    if (code === "57014") throw refusal("storing-slow", { seconds: STATEMENT_SECONDS });
    throw e;
  } finally {
    client.off("error", lost);
    client.release(broken);
  }
}
