/** The job as it was, and as it would be: worked out by the one write path itself, and none of it stored. */
import { inverse, refusal, type JobState } from "@bramble/core";
import type { Client } from "../pool.ts";
import { writing } from "../turns.ts";
import { loadJobState } from "./intakes.ts";
import { loadJob, type StoredJob } from "./jobs.ts";
import { carryOut, listLedger } from "./ledger.ts";

/** Carries what was worked out past the transaction, which ends by it with nothing stored. */
class NotKept<T> extends Error {
  constructor(readonly value: T) {
    super("worked out, not stored");
  }
}

/**
 * What work on a job comes to, with all that it did taken back: others never see it. It takes its turn among the writers of
 * the job. Throws what the work throws.
 */
export async function notKept<T>(
  jobId: number,
  author: string,
  work: (client: Client, job: StoredJob) => Promise<T>,
): Promise<T> {
  try {
    return await writing(jobId, author, async (client, job) => {
      throw new NotKept(await work(client, job));
    });
  } catch (e) {
    if (e instanceof NotKept) return e.value as T;
    throw e;
  }
}

/** Entries that are taken back at a time. */
const AT_ONCE = 200;

/**
 * The job as it was after an entry of its ledger (0: before the first): all later entries are taken back, the latest
 * first, as undo would. Refused when there is no such entry.
 */
export function stateAt(jobId: number, author: string, seq: number): Promise<JobState> {
  return notKept(jobId, author, async (client, job) => {
    if (!Number.isInteger(seq) || seq < 0 || seq > job.version)
      throw refusal("request-wrong", { why: `The ledger has no entry ${seq}` });
    let now = job;
    for (let before = job.version + 1; before > seq + 1;) {
      const entries = await listLedger(jobId, AT_ONCE, before, client);
      for (const entry of entries) {
        if (entry.seq <= seq) break;
        const { type } = entry.change;
        await carryOut(client, now, inverse(entry.change));
        // Points alone leave definitions and intakes as they are.
        if (type !== "points" && type !== "add" && type !== "remove") now = await loadJob(client, jobId);
      }
      before = entries.at(-1)?.seq ?? 0;
    }
    return loadJobState(client, await loadJob(client, jobId));
  });
}
