/**
 * Writers of one job wait for one another here, before they take a connection, and some connections are left to
 * readers: however many write, the rest is answered.
 */
import { AsyncLocalStorage } from "node:async_hooks";
import { refusal, Refusal } from "@bramble/core";
import { connections, databaseRefusal, getPool, transaction, type Client } from "./pool.ts";
import { lockSeconds } from "./patience.ts";
import { loadJob, type StoredJob } from "./queries/jobs.ts";

interface Turn {
  who: string;
  begin(): void;
}

interface Queue {
  holder: string;
  waiting: Turn[];
}

/** One for the process, however often its modules are loaded. */
const kept = globalThis as { brambleTurns?: { jobs: Map<number, Queue>; writing: number; waiting: Turn[] } };
const turns = (kept.brambleTurns ??= { jobs: new Map(), writing: 0, waiting: [] });

/** The job that the present work writes. */
const mine = new AsyncLocalStorage<number>();

/** Connections that writers leave alone. */
const READERS = 3;
const mostWriters = () => Math.max(1, connections() - READERS);

/** Runs work when no other of this process writes the job; refused when that takes too long. */
export async function inTurn<T>(jobId: number, who: string, work: () => Promise<T>): Promise<T> {
  const queue = turns.jobs.get(jobId);
  if (!queue) turns.jobs.set(jobId, { holder: who, waiting: [] });
  else await patiently(queue.waiting, who, () => queue.holder);
  const mine = turns.jobs.get(jobId)!;
  mine.holder = who;
  try {
    return await work();
  } finally {
    const next = mine.waiting.shift();
    if (next) next.begin();
    else turns.jobs.delete(jobId);
  }
}

/** Waits at the end of a queue until it is begun. */
function patiently(waiting: Turn[], who: string, holder: () => string | undefined): Promise<void> {
  return new Promise((resolve, reject) => {
    const turn: Turn = {
      who,
      begin() {
        clearTimeout(patience);
        resolve();
      },
    };
    const patience = setTimeout(() => {
      waiting.splice(waiting.indexOf(turn), 1);
      reject(refusal("job-busy", { seconds: lockSeconds(), who: holder() }));
    }, lockSeconds() * 1000);
    waiting.push(turn);
  });
}

/** Runs work when few enough others of this process hold a connection to write. */
async function amongWriters<T>(who: string, work: () => Promise<T>): Promise<T> {
  if (turns.writing >= mostWriters()) await patiently(turns.waiting, who, () => undefined);
  else turns.writing++;
  try {
    return await work();
  } finally {
    // Who comes next takes this one's room.
    const next = turns.waiting.shift();
    if (next) next.begin();
    else turns.writing--;
  }
}

/**
 * The one way to write a job: in turn, in one transaction that holds the job, by a connection that is named after the
 * author, so that another process that waits can say who it waits for.
 */
export function writing<T>(
  jobId: number,
  author: string,
  work: (client: Client, job: StoredJob) => Promise<T>,
): Promise<T> {
  // Within work on the same job it is a part of that: it would wait for itself.
  if (mine.getStore() === jobId) return transaction(async (client) => work(client, await loadJob(client, jobId)));
  return inTurn(jobId, author, () =>
    amongWriters(author, async () => {
      try {
        return await transaction(async (client) => {
          const job = await loadJob(client, jobId, true);
          await client.query("SELECT set_config('application_name', $1, true)", [connectionName(jobId, author)]);
          return mine.run(jobId, () => work(client, job));
        });
      } catch (e) {
        if (!(e instanceof Refusal && e.code === "job-busy")) throw e;
        throw refusal("job-busy", { seconds: lockSeconds(), who: await holderElsewhere(jobId) });
      }
    }),
  );
}

const named = (jobId: number) => `writes job ${jobId}: `;

/** Bytes that the name of a connection has at most; it is ASCII. */
const LONGEST = 63;

/** Who writes which job, as the name of a connection: as much of the author's as has room, whole letters. */
export function connectionName(jobId: number, author: string): string {
  const head = named(jobId);
  let name = "";
  for (const letter of author) {
    const more = name + encodeURIComponent(letter);
    if (head.length + more.length > LONGEST) break;
    name = more;
  }
  return head + name;
}

/** Who holds the job in another process. */
async function holderElsewhere(jobId: number): Promise<string | undefined> {
  try {
    const { rows } = await getPool().query(
      `SELECT application_name AS name FROM pg_stat_activity
        WHERE datname = current_database() AND xact_start IS NOT NULL AND starts_with(application_name, $1)
        ORDER BY xact_start LIMIT 1`,
      [named(jobId)],
    );
    const name = (rows[0]?.name as string | undefined)?.slice(named(jobId).length);
    return name && decodeURIComponent(name);
  } catch (e) {
    throw databaseRefusal(e) ?? e;
  }
}
