/** Work in steps, between which other work may come. */

/** Carries out all steps at once; gives what they end with. */
export function atOnce<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
