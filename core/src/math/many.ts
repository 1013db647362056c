/** For lists that may be long: spread into one call, their items overflow the stack from some hundred thousand on. */

/** Adds items to the end of a list. */
export function append<T>(to: T[], items: Iterable<T>): void {
  for (const x of items) to.push(x);
}

/** The largest of all; −Infinity of none. */
export function largest(values: Iterable<number>): number {
  let most = -Infinity;
  for (const x of values) most = Math.max(most, x);
  return most;
}

/** The smallest of all; Infinity of none. */
export function smallest(values: Iterable<number>): number {
  let least = Infinity;
  for (const x of values) least = Math.min(least, x);
  return least;
}
