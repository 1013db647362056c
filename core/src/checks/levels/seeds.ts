/**
 * Stretches of set lengths that are tried for a shift, over the whole order of the shots: short ones every quarter of
 * their length, long ones every half. Each keeps its gain; only those with a shot whose forms moved are weighed again.
 */
import type { LevelField } from "./field";
import type { Residuals } from "./residuals";

/** Positions in the order of the shots, both included. */
export interface Interval {
  from: number;
  to: number;
}

export interface Seed extends Interval {
  gain: number;
}

export const SHORTEST = 5;
const SHORT = [SHORTEST, 8, 12, 18, 27, 40];
const LONG_FROM = 80;
/** Seeds that are tried have at least this gain; of each length so many. */
const TRIED = 30,
  OF_EACH_LENGTH = 3;

/** Seeds of one length. */
interface OfLength {
  length: number;
  from: Int32Array;
  gain: Float64Array;
  /** Q of each. */
  square: Float64Array;
}

/** S and Q of an interval. */
export type SumsOf = (from: number, to: number) => { s: number; q: number };
export const gainOf = ({ s, q }: { s: number; q: number }) => (q > 0 ? (s * s) / q : 0);
/**
 * Corrections make scales smaller and so Q larger; a seed whose new S would not be worth trying even if Q were this share
 * of what it was is not weighed.
 */
const LEAST_OF_SQUARE = 0.3;

export class SeedTable {
  private constructor(
    private readonly lengths: readonly OfLength[],
    /** Shots whose residual or scale moved since the gains were weighed. */
    private readonly moved: Set<number>,
  ) {}

  /** Short or long seeds of a field, all weighed. */
  static of(field: LevelField, kind: "short" | "long", sums: SumsOf): SeedTable {
    const { starts } = field,
      longest = starts.reduce((most, s, q) => (q ? Math.max(most, s - starts[q - 1]!) : 0), 0),
      all: OfLength[] = [];
    for (let k = 0; ; k++) {
      const length = kind === "short" ? SHORT[k] : LONG_FROM * 2 ** k;
      // Of more than half of a crew's shots nobody knows which half is wrong.
      if (length === undefined || length > longest / 2) break;
      const step = Math.max(1, Math.floor(length / (kind === "short" ? 4 : 2))),
        from: number[] = [];
      for (let q = 0; q + 1 < starts.length; q++)
        for (let p = starts[q]!; p + length <= starts[q + 1]!; p += step) from.push(p);
      const gain = new Float64Array(from.length),
        square = new Float64Array(from.length);
      from.forEach((p, n) => {
        const both = sums(p, p + length - 1);
        gain[n] = gainOf(both);
        square[n] = both.q;
      });
      all.push({ length, from: Int32Array.from(from), gain, square });
    }
    return new SeedTable(all, new Set());
  }

  copy(): SeedTable {
    return new SeedTable(
      this.lengths.map((l) => ({ ...l, gain: l.gain.slice(), square: l.square.slice() })),
      new Set(this.moved),
    );
  }

  /** Tells of shots whose residual or scale moved. */
  tell(moved: Iterable<number>): void {
    for (const i of moved) this.moved.add(i);
  }

  /**
   * Weighs again what shots that moved take part in: all of it, or with `promising` only what may be worth trying.
   */
  refresh(field: LevelField, r: Residuals, sums: SumsOf, promising: boolean): void {
    if (this.moved.size === 0) return;
    const { of, starts, shots } = r.forms,
      { order } = field,
      changed = new Uint8Array(field.count),
      before = new Int32Array(order.length + 1);
    for (const i of this.moved) for (let c = starts[of[i]!]!; c < starts[of[i + 1]!]!; c++) changed[shots[c]!] = 1;
    for (let p = 0; p < order.length; p++) before[p + 1] = before[p]! + changed[order[p]!]!;
    const partOfS = promising ? partsOfS(field, r) : undefined;
    for (const l of this.lengths)
      for (let n = 0; n < l.from.length; n++) {
        const p = l.from[n]!,
          end = p + l.length;
        if (before[end] === before[p]) continue;
        const s = partOfS ? partOfS[end]! - partOfS[p]! : Infinity;
        if (s * s < TRIED * LEAST_OF_SQUARE * l.square[n]!) l.gain[n] = 0;
        else {
          const both = sums(p, end - 1);
          l.gain[n] = gainOf(both);
          l.square[n] = both.q;
        }
      }
    this.moved.clear();
  }

  /** Of each length the seeds that gain most, do not overlap and are not much the same as a barred interval. */
  highest(barred: readonly Interval[]): Seed[] {
    return this.lengths.flatMap((l) => highestOf(l, barred));
  }
}

function highestOf({ length, from, gain }: OfLength, barred: readonly Interval[]): Seed[] {
  const top: Seed[] = [];
  const isOpen = (a: number, z: number) =>
    top.every((t) => Math.abs(t.from - a) >= length) &&
    barred.every((b) => Math.abs(b.from - a) + Math.abs(b.to - z) > (b.to - b.from) / 2);
  while (top.length < OF_EACH_LENGTH) {
    let best = -1;
    for (let n = 0; n < gain.length; n++)
      if (gain[n]! >= TRIED && !(gain[n]! <= gain[best]!) && isOpen(from[n]!, from[n]! + length - 1)) best = n;
    if (best < 0) break;
    top.push({ gain: gain[best]!, from: from[best]!, to: from[best]! + length - 1 });
  }
  return top;
}

/** Sums of what each shot adds to S of an interval that holds it, before each position of the order. */
function partsOfS({ order }: LevelField, r: Residuals): Float64Array {
  const { of, forms, coefs } = r.by,
    sums = new Float64Array(order.length + 1);
  for (let p = 0; p < order.length; p++) {
    let s = 0;
    for (let k = of[order[p]!]!; k < of[order[p]! + 1]!; k++) s += r.weight[forms[k]!]! * coefs[k]! * r.r[forms[k]!]!;
    sums[p + 1] = sums[p]! + s;
  }
  return sums;
}
