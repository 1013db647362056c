/**
 * Stretches of set lengths that are tried for a shift, over the whole order of the shots: short ones every quarter of
 * their length, long ones every half. Each keeps its gain; only those with a shot whose forms moved are weighed again.
 */
import type { LevelField } from "./field";
import type { Moved, Residuals } from "./residuals";
import { leastSquares, stretchesOf, type FormsInOrder } from "./sweep";

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
/** Sums of many parts are not exact to the last digit. */
const ALMOST = 0.999;

/** Seeds of one length. */
interface OfLength {
  length: number;
  from: Int32Array;
  gain: Float64Array;
  /** No more than Q of each. */
  square: Float64Array;
}

/** S and Q of an interval. */
export interface Sums {
  s: number;
  q: number;
}
export type SumsOf = (from: number, to: number) => Sums;
export const gainOf = ({ s, q }: Sums) => (q > 0 ? (s * s) / q : 0);

export class SeedTable {
  private constructor(
    private readonly lengths: readonly OfLength[],
    /** What each shot adds to S of an interval that holds it. */
    private readonly parts: Float64Array,
    /** Shots whose residual or scale moved since the gains were weighed, and to which share weights fell. */
    private readonly moved = new Set<number>(),
    private fallen = 1,
  ) {}

  /** Short or long seeds of a field, all weighed. `some` are forms of which Q is at least made up. */
  static of(field: LevelField, r: Residuals, kind: "short" | "long", some: FormsInOrder, sums: SumsOf): SeedTable {
    const { starts } = field,
      longest = starts.reduce((most, s, q) => (q ? Math.max(most, s - starts[q - 1]!) : 0), 0),
      all: OfLength[] = [];
    for (let k = 0; ; k++) {
      const length = kind === "short" ? SHORT[k] : LONG_FROM * 2 ** k;
      // Of more than half of a crew's shots nobody knows which half is wrong.
      if (length === undefined || length > longest / 2) break;
      const stretches = stretchesOf(field, length, Math.max(1, Math.floor(length / (kind === "short" ? 4 : 2))));
      all.push({
        length,
        from: stretches.from,
        gain: new Float64Array(stretches.from.length),
        square: leastSquares(r, some, stretches),
      });
    }
    const table = new SeedTable(all, new Float64Array(field.count));
    table.weigh(field, r, sums, new Uint8Array(field.count).fill(1));
    return table;
  }

  copy(): SeedTable {
    return new SeedTable(
      this.lengths.map((l) => ({ ...l, gain: l.gain.slice(), square: l.square.slice() })),
      this.parts.slice(),
      new Set(this.moved),
      this.fallen,
    );
  }

  /** Tells of shots whose residual or scale moved. */
  tell({ shots, fallen }: Moved): void {
    for (const i of shots) this.moved.add(i);
    this.fallen *= fallen;
  }

  /**
   * Weighs again what shots that moved take part in. Seeds that cannot gain enough to be tried, by their new S and the
   * least that Q can be, are left: what they gain is not asked for.
   */
  refresh(field: LevelField, r: Residuals, sums: SumsOf): void {
    if (this.moved.size === 0) return;
    const { of, starts, shots } = r.forms,
      changed = new Uint8Array(field.count);
    for (const i of this.moved) for (let c = starts[of[i]!]!; c < starts[of[i + 1]!]!; c++) changed[shots[c]!] = 1;
    this.weigh(field, r, sums, changed);
    this.moved.clear();
    this.fallen = 1;
  }

  private weigh({ order }: LevelField, r: Residuals, sums: SumsOf, changed: Uint8Array): void {
    const before = new Int32Array(order.length + 1),
      s = new Float64Array(order.length + 1);
    for (let p = 0; p < order.length; p++) {
      const i = order[p]!;
      if (changed[i]) this.parts[i] = partOf(r, i);
      before[p + 1] = before[p]! + changed[i]!;
      s[p + 1] = s[p]! + this.parts[i]!;
    }
    for (const { length, from, gain, square } of this.lengths)
      for (let n = 0; n < from.length; n++) {
        const p = from[n]!,
          end = p + length;
        if (before[end] === before[p]) continue;
        square[n]! *= this.fallen;
        if ((s[end]! - s[p]!) ** 2 < ALMOST * TRIED * square[n]!) gain[n] = 0;
        else {
          const both = sums(p, end - 1);
          gain[n] = gainOf(both);
          square[n] = both.q;
        }
      }
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

function partOf(r: Residuals, shot: number): number {
  const { of, forms, coefs } = r.by;
  let s = 0;
  for (let k = of[shot]!; k < of[shot + 1]!; k++) s += r.weight[forms[k]!]! * coefs[k]! * r.r[forms[k]!]!;
  return s;
}
