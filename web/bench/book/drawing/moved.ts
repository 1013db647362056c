/** A list moved by one; from the uppermost to the lowest, as things lie on paper. */
export function moved<T>(list: readonly T[], k: number, by: number): T[] {
  const next = list.slice(),
    [one] = next.splice(k, 1);
  next.splice(k + by, 0, one!);
  return next;
}
