/** A function that gives its last result again while its arguments are the same ones. */
export function lastOf<A extends readonly unknown[], R>(make: (...args: A) => R): (...args: A) => R {
  let last: { args: A; result: R } | undefined;
  return (...args) => {
    if (!last || !sameItems(last.args, args)) last = { args, result: make(...args) };
    return last.result;
  };
}

/** Whether two lists hold the same items, by identity. */
export function sameItems(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a.length === b.length && a.every((x, k) => Object.is(x, b[k]));
}
