/** The job as it was, and as it would be: worked out by the one write path itself, and none of it stored. */
import { applyChange, inverse, refusal, type EditableChange, type JobState, type Stop } from "@bramble/core";
import { reading, type Client } from "../pool.ts";
import { writing } from "../turns.ts";
import { loadJobState } from "./intakes.ts";
import { loadJob, type StoredJob } from "./jobs.ts";
import { carryOut, ledgerAfter, type LedgerEntry, type ToldEntry } from "./ledger.ts";

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

/** Two states of a job, the earlier first, those beside deliveries between them, and the entries after the first. */
export interface StatesBetween {
  stops: Stop[];
  entries: LedgerEntry[];
}

/**
 * The job as it was after two entries of its ledger (0: before the first), and just before and after each delivery between
 * them: all later entries are taken back, the latest first, as undo would. Where no delivery is among them nobody waits
 * for it. Refused when there is no such entry.
 */
export async function statesBetween(jobId: number, author: string, from: number, to: number): Promise<StatesBetween> {
  const seen = await reading((client) => statesOf(client, jobId, from, to, false));
  return seen ?? notKept(jobId, author, async (client) => (await statesOf(client, jobId, from, to, true))!);
}

const POINTS_ALONE: ReadonlySet<string> = new Set(["points", "add", "remove"]);

/** Undefined where deliveries are to be taken back and may not be. */
async function statesOf(
  client: Client,
  jobId: number,
  from: number,
  to: number,
  may: boolean,
): Promise<StatesBetween | undefined> {
  let job = await loadJob(client, jobId);
  for (const seq of [from, to])
    if (!Number.isInteger(seq) || seq < 0 || seq > job.version)
      throw refusal("request-wrong", { why: `The ledger has no entry ${seq}` });
  if (from > to) throw refusal("request-wrong", { why: "The earlier state comes first" });
  const later = await ledgerAfter(jobId, from, job.version - from, client),
    deliveries = later.flatMap((e) => (e.change.type === "intake" ? [e.seq] : [])),
    [lowest] = deliveries;
  if (lowest !== undefined && !may) return undefined;
  const wanted = new Set([from, to, ...deliveries.filter((seq) => seq <= to).flatMap((seq) => [seq - 1, seq])]);
  const stops: Stop[] = [];
  // In memory as long as that can be: what is stored has to follow only where a delivery is still to be taken back.
  let state: JobState | undefined;
  const now = async () => (state ??= await loadJobState(client, job));
  if (wanted.has(job.version)) stops.push({ seq: job.version, state: await now() });
  for (const { seq, change } of later.reverse()) {
    const back = inverse(change);
    if (lowest !== undefined && seq >= lowest) {
      await carryOut(client, job, back);
      // Points alone leave definitions and intakes as they are.
      if (!POINTS_ALONE.has(back.type)) job = await loadJob(client, jobId);
      if (back.type === "intake") state = undefined;
    } else await now();
    if (state && back.type !== "intake") state = applyChange(state, back as EditableChange);
    if (wanted.has(seq - 1)) stops.push({ seq: seq - 1, state: await now() });
    else if (seq === lowest) await now();
  }
  return { stops: stops.reverse(), entries: later.reverse().filter((e) => e.seq <= to) };
}

/** The job as it is, and as some work on it would leave it, with the entry that would be made; nothing of it is stored. */
export function rehearsed(
  jobId: number,
  author: string,
  work: () => Promise<{ entry: ToldEntry }>,
): Promise<StatesBetween> {
  return notKept(jobId, author, async (client, job) => {
    const before = await loadJobState(client, job),
      { entry } = await work(),
      after = await loadJobState(client, await loadJob(client, jobId));
    return {
      stops: [
        { seq: job.version, state: before },
        { seq: entry.seq, state: after },
      ],
      // It was made just now: what it did is with it.
      entries: [entry as LedgerEntry],
    };
  });
}
