/** Carries an edit of a line out, or says why it cannot be done. */
import type { LineEdit } from "@bramble/core";
import { useJob } from "../../lib/store";

export async function make(edit: LineEdit): Promise<boolean> {
  const { change, select, set } = useJob.getState();
  if ("refused" in edit) {
    set({ notice: { text: edit.refused, tone: "problem" } });
    return false;
  }
  // Lines are known by their place among others, which may be another after the change.
  select({ points: useJob.getState().points });
  return change(edit.change);
}
