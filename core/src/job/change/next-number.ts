/** The next point number that nobody has, from where the job says. */
import { addToNumber } from "../../points/numbers";
import type { JobState } from "../model/model";
import { settingOf } from "../model/settings";

export function nextFreeNumber(job: Pick<JobState, "points" | "nextNumber">): string {
  const taken = new Set(job.points.number);
  let next = settingOf(job, "nextNumber");
  while (taken.has(next)) next = addToNumber(next, 1);
  return next;
}
