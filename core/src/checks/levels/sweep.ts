/**
 * What Q of all stretches of a length is at least, by a share of the forms: none of them takes anything from the sum. Most
 * stretches gain too little by it already, and need not be summed one by one (see Cover).
 */
import type { LevelField } from "./field";
import type { Residuals } from "./residuals";

/** Every so manieth form is summed. */
const EVERY = 5;

/** Some forms with their shots that a crew measured, by their positions in the order. */
export interface FormsInOrder {
  forms: Int32Array;
  /** Entries of the k-th are [starts[k], starts[k + 1]), rising in position. */
  starts: Int32Array;
  positions: Int32Array;
  coefs: Float32Array;
}

export function someInOrder({ order, count }: LevelField, { forms }: Residuals): FormsInOrder {
  const positionOf = new Int32Array(count).fill(-1);
  for (let p = 0; p < order.length; p++) positionOf[order[p]!] = p;
  const some = Int32Array.from({ length: Math.floor(forms.count / EVERY) }, (_, k) => k * EVERY),
    starts = new Int32Array(some.length + 1),
    entries = some.reduce((sum, f) => sum + forms.starts[f + 1]! - forms.starts[f]!, 0),
    positions = new Int32Array(entries),
    coefs = new Float32Array(entries);
  let n = 0;
  some.forEach((f, k) => {
    const first = (starts[k] = n);
    for (let c = forms.starts[f]!; c < forms.starts[f + 1]!; c++) {
      const p = positionOf[forms.shots[c]!]!;
      if (p < 0) continue;
      let to = n++;
      for (; to > first && positions[to - 1]! > p; to--) {
        positions[to] = positions[to - 1]!;
        coefs[to] = coefs[to - 1]!;
      }
      positions[to] = p;
      coefs[to] = forms.coefs[c]!;
    }
  });
  starts[some.length] = n;
  return { forms: some, starts, positions, coefs };
}

/** Stretches of one length, some shots apart in each crew's order. */
export interface Stretches {
  /** The first position of each. */
  from: Int32Array;
  /** Those that hold position p are [first[p], last[p]]; none where the first is beyond the last. */
  first: Int32Array;
  last: Int32Array;
}

export function stretchesOf({ order, starts }: LevelField, length: number, step: number): Stretches {
  const first = new Int32Array(order.length),
    last = new Int32Array(order.length),
    from: number[] = [];
  for (let q = 0; q + 1 < starts.length; q++) {
    const base = from.length;
    for (let p = starts[q]!; p + length <= starts[q + 1]!; p += step) from.push(p);
    for (let p = starts[q]!; p < starts[q + 1]!; p++) {
      const at = p - starts[q]!;
      first[p] = base + Math.max(0, Math.ceil((at - length + 1) / step));
      last[p] = Math.min(from.length - 1, base + Math.floor(at / step));
    }
  }
  return { from: Int32Array.from(from), first, last };
}

/** Σ v²/s² of each stretch over some forms, v being the sum of a form's coefficients in it. */
export function leastSquares(r: Residuals, some: FormsInOrder, { from, first, last }: Stretches): Float64Array {
  const q = new Float64Array(from.length),
    { forms, starts, positions, coefs } = some;
  for (let k = 0; k < forms.length; k++) {
    const w = r.weight[forms[k]!]!,
      end = starts[k + 1]!;
    if (w === 0) continue;
    // The stretches in their order: shots that come into them are added, those that they leave behind are taken out.
    let into = starts[k]!,
      out = into,
      v = 0,
      at = 0;
    for (;;) {
      if (out === into) {
        while (into < end && first[positions[into]!]! > last[positions[into]!]!) into++;
        if (into === end) break;
        out = into;
        v = 0;
        at = first[positions[into]!]!;
      }
      while (into < end && first[positions[into]!]! <= at) v += coefs[into++]!;
      const to = into < end ? Math.min(last[positions[out]!]!, first[positions[into]!]! - 1) : last[positions[out]!]!;
      for (const square = w * v * v; at <= to; at++) q[at]! += square;
      while (out < into && last[positions[out]!]! < at) v -= coefs[out++]!;
    }
  }
  return q;
}
