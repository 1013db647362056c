/**
 * Columns of numbers: the same contents are the same column, so that what depends on them sees at once that nothing
 * changed.
 */
type Column = Float64Array | Float32Array | Int32Array | Uint32Array | Uint16Array | Uint8Array;

/** Whether two columns hold the same numbers, in the same length; NaN is NaN, and −0 is not 0. */
export function equalColumns(a: Column, b: Column): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (!Object.is(a[i], b[i])) return false;
  return true;
}

/** The column that was, where the new one holds the same. */
export function sameColumn<C extends Column>(was: C, now: C): C {
  return equalColumns(was, now) ? was : now;
}

/** The values of a column at some rows. */
export function gather<C extends Float64Array | Int32Array>(of: C, rows: ArrayLike<number>): C {
  const out = new (of.constructor as new (length: number) => C)(rows.length);
  for (let k = 0; k < rows.length; k++) out[k] = of[rows[k]!]!;
  return out;
}
