/** The next point number that nobody has, from where the job says. */
import { addToNumber, type JobState } from "@bramble/core";

export function nextFreeNumber(job: Pick<JobState, "points" | "nextNumber">): string {
  const taken = new Set(job.points.number);
  let next = job.nextNumber ?? "1";
  while (taken.has(next)) next = addToNumber(next, 1);
  return next;
}
