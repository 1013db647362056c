/** The connection to PostgreSQL, one pool for the process. */
import pg from "pg";

// Counts and identities stay below 2^53 here.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

let pool: pg.Pool | undefined;

export type Client = pg.PoolClient;

export function getPool(): pg.Pool {
  if (!pool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString) throw new Error("DATABASE_URL is not set; start the application with `npm start`");
    pool = new pg.Pool({ connectionString, max: 8 });
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

/** Runs the work in one transaction: all of it is stored, or nothing. */
export async function transaction<T>(work: (client: Client) => Promise<T>): Promise<T> {
  const client = await getPool().connect();
  let broken: Error | undefined;
  // A connection that is lost while nothing is asked says so by this event alone; without a listener it would end the process.
  const lost = (e: Error) => (broken = e);
  client.on("error", lost);
  try {
    await client.query("BEGIN");
    const result = await work(client);
    await client.query("COMMIT");
    return result;
  } catch (e) {
    await client.query("ROLLBACK").catch(() => undefined);
    throw e;
  } finally {
    client.off("error", lost);
    client.release(broken);
  }
}
