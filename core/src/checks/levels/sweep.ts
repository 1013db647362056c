/**
 * Q of all stretches of some lengths, form by form: as many steps as the form's shots are in stretches. For S and Q of
 * one stretch see Cover.
 */
import type { LevelField } from "./field";
import type { LevelForms } from "./forms";

/** Stretches of one length, `step` shots apart in each sequence. */
export interface Stretches {
  length: number;
  step: number;
  /** The first position of each. */
  from: Int32Array;
  /** Those of sequence q are [of[q], of[q + 1]). */
  of: Int32Array;
}

export function stretchesOf({ starts }: LevelField, length: number, step: number): Stretches {
  const from: number[] = [],
    of = [0];
  for (let q = 0; q + 1 < starts.length; q++) {
    for (let p = starts[q]!; p + length <= starts[q + 1]!; p += step) from.push(p);
    of.push(from.length);
  }
  return { length, step, from: Int32Array.from(from), of: Int32Array.from(of) };
}

/** One form after another, with its shots in the order in which the crews took them. */
export class Sweep {
  private readonly position: Int32Array;
  private readonly sequenceOf: Int32Array;
  private readonly starts: Int32Array;
  /** Of the form's shots the position, the sequence and the coefficient. */
  private positions = new Int32Array(64);
  private sequences = new Int32Array(64);
  private coefs = new Float64Array(64);
  private count = 0;
  /** The first and the last stretch that each is in, of the length in hand. */
  private first = new Int32Array(64);
  private last = new Int32Array(64);

  constructor(
    { order, starts, count }: LevelField,
    private readonly forms: LevelForms,
  ) {
    this.starts = starts;
    this.position = new Int32Array(count).fill(-1);
    this.sequenceOf = new Int32Array(count);
    for (let q = 0; q + 1 < starts.length; q++)
      for (let p = starts[q]!; p < starts[q + 1]!; p++) {
        this.position[order[p]!] = p;
        this.sequenceOf[order[p]!] = q;
      }
  }

  /** Takes a form; what no crew measured is in no stretch. */
  form(f: number): void {
    const { starts, shots, coefs } = this.forms,
      most = starts[f + 1]! - starts[f]!;
    if (most > this.positions.length) {
      this.positions = new Int32Array(2 * most);
      this.sequences = new Int32Array(2 * most);
      this.coefs = new Float64Array(2 * most);
      this.first = new Int32Array(2 * most);
      this.last = new Int32Array(2 * most);
    }
    let n = 0;
    for (let k = starts[f]!; k < starts[f + 1]!; k++) {
      const p = this.position[shots[k]!]!;
      if (p < 0) continue;
      let to = n++;
      for (; to > 0 && this.positions[to - 1]! > p; to--) {
        this.positions[to] = this.positions[to - 1]!;
        this.sequences[to] = this.sequences[to - 1]!;
        this.coefs[to] = this.coefs[to - 1]!;
      }
      this.positions[to] = p;
      this.sequences[to] = this.sequenceOf[shots[k]!]!;
      this.coefs[to] = coefs[k]!;
    }
    this.count = n;
  }

  /**
   * Adds weight · v² to each stretch that the form touches, v being the sum of its coefficients in the stretch; with
   * `only`, to those that are marked there.
   */
  add(weight: number, stretches: Stretches, to: Float64Array, only?: Uint8Array): void {
    const { positions, sequences, coefs, count, starts, first, last } = this,
      { length, step, of } = stretches;
    for (let k = 0; k < count; k++) {
      const q = sequences[k]!,
        along = positions[k]! - starts[q]!;
      first[k] = of[q]! + (along < length ? 0 : ((along - length) / step + 1) | 0);
      last[k] = Math.min(of[q + 1]! - 1, of[q]! + ((along / step) | 0));
    }
    // The stretches in their order: shots that come into them are added, those that they leave behind are taken out.
    let into = 0,
      out = 0,
      v = 0,
      at = 0;
    for (;;) {
      if (out === into) {
        while (into < count && first[into]! > last[into]!) into++;
        if (into === count) return;
        out = into;
        v = 0;
        at = first[into]!;
      }
      while (into < count && first[into]! <= at) v += coefs[into++]!;
      const until = into < count ? Math.min(last[out]!, first[into]! - 1) : last[out]!;
      for (const square = weight * v * v; at <= until; at++) if (!only || only[at] === 1) to[at]! += square;
      while (out < into && last[out]! < at) v -= coefs[out++]!;
    }
  }
}
