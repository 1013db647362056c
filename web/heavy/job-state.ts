/** A job's state as stored, for what is made of it. */
import type { JobState } from "@bramble/core";
import { loadJob, loadJobState, reading } from "@bramble/db";

/** One consistent reading of everything stored. */
export function loadState(id: number): Promise<JobState> {
  return reading(async (client) => loadJobState(client, await loadJob(client, id)));
}
