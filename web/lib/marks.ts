/**
 * What a user waits for, marked where they sit: an edit kept, painted in the table, followed by the worker, drawn on the
 * sheet. Read by the browser tests and by whoever opens the browser's own tools.
 */
export type Mark = "edited" | "table painted" | "followed" | "sheet drawn";

export function mark(name: Mark): void {
  performance.mark(`bramble: ${name}`);
}
