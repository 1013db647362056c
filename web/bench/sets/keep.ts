/** Keeps a set of the open job; why it cannot be is said, and the answer is false. */
import { keepSet, Refusal, type PointSet } from "@bramble/core";
import { useJob } from "../../lib/store";

export function keptSet(set: PointSet): boolean {
  const { job, change, set: put } = useJob.getState();
  try {
    return change(keepSet(job, set));
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    put({ notice: { text: e.message, tone: "problem" } });
    return false;
  }
}
