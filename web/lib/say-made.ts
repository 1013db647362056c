/** After a thing is made: a word, and the keyboard at the thing, so that nobody has to look where it went. */
import { useJob } from "./store";

/** On the heading of a thing that can be made, by its name. */
export const thing = (name: string) => ({ "data-thing": name, tabIndex: -1 });

/** Says that a thing is made, and puts the keyboard at its heading once that is on the screen. */
export function sayMade(name: string, text = `“${name}” is made.`): void {
  useJob.getState().set({ notice: { text, tone: "settled" } });
  requestAnimationFrame(() =>
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-thing="${CSS.escape(name)}"]`)?.focus({ preventScroll: true }),
    ),
  );
}
