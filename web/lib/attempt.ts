/** Changes that may not be possible: why is said, and nothing is done. */
import { Refusal, type EditableChange } from "@bramble/core";
import { useJob } from "./store";

/** Makes a change and carries it out; false where it cannot be made, with a notice why. */
export function attempt(make: () => EditableChange): boolean {
  const { change, set } = useJob.getState();
  try {
    return change(make());
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    set({ notice: { text: e.message, tone: "problem" } });
    return false;
  }
}
