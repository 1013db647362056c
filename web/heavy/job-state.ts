/** A job's state as stored, for what is made of it. */
import type { JobState } from "@bramble/core";
import { loadJob, loadJobState, reading } from "@bramble/db";

/** One consistent reading of everything stored, with the entry of the ledger that it follows. */
export function loadState(id: number): Promise<{ state: JobState; version: number }> {
  return reading(async (client) => {
    const stored = await loadJob(client, id);
    return { state: await loadJobState(client, stored), version: stored.version };
  });
}
