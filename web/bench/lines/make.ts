/** Carries an edit of a line out, or says why it cannot be done. */
import type { LineEdit } from "@bramble/core";
import { useJob } from "../../lib/store";

export function make(edit: LineEdit): boolean {
  const { change, set } = useJob.getState();
  if ("change" in edit) return change(edit.change);
  set({ notice: { text: edit.refused, tone: "problem" } });
  return false;
}
