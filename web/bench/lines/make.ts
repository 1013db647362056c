/** Carries an edit of a line out, or says why it cannot be done. */
import type { JobState, LineEdit } from "@bramble/core";
import type { SeveralChange } from "@bramble/core/job/change/change";
import { useJob } from "../../lib/store";

export function make(edit: LineEdit): boolean {
  const { change, set } = useJob.getState();
  if ("change" in edit) return change(edit.change);
  set({ notice: { text: edit.refused, tone: "problem" } });
  return false;
}

/** What an edit that makes points comes to: tried without ids, carried out with as many as it takes. */
export type WithPoints = { change: SeveralChange; count: number } | { refused: string };

/** Carries an edit out that makes points; its sentence, or undefined where it is not done, which is then said. */
export async function makeWithPoints(
  edit: (job: JobState, ids?: readonly number[]) => WithPoints,
): Promise<string | undefined> {
  const before = useJob.getState().job,
    tried = edit(before);
  if ("refused" in tried) return void make(tried);
  const ids = await useJob.getState().idsToTake(tried.count);
  if (!ids) return undefined;
  const now = useJob.getState().job;
  // An edit knows its shots by their rows, which are others then.
  if (now.points.id !== before.points.id)
    return void make({ refused: "Points came or went meanwhile: look at it, and take it once more." });
  const done = edit(now, ids);
  if ("refused" in done) return void make(done);
  return useJob.getState().change(done.change) ? done.change.text : undefined;
}
