/**
 * Stretches of set lengths that are tried for a shift, over the whole order of the shots: short ones every quarter of
 * their length, long ones every half. Each keeps its gain; only those with a shot whose forms moved are weighed again.
 */
import type { LevelField } from "./field";
import type { Residuals } from "./residuals";
import { stretchesOf, type Stretches, type Sweep } from "./sweep";

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
/** By every so manieth form alone most seeds are seen to gain too little: none takes anything from Q. */
const EVERY = 8;

/** Forms, and seeds, that are weighed before others may have their turn. */
const AT_ONCE = 8000;

/** Seeds of one length. */
interface OfLength extends Stretches {
  gain: Float64Array;
  /** Q of each, or what it is at least. */
  square: Float64Array;
  /** 1 where it is Q. */
  isWhole: Uint8Array;
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
    private readonly sweep: Sweep,
    private readonly lengths: readonly OfLength[],
    /** What each shot adds to S of an interval that holds it. */
    private readonly parts: Float64Array,
    /** The weight of each form that is in the squares. */
    private readonly weights: Float64Array,
    /** Shots whose residual or scale moved since the gains were weighed. */
    private readonly moved = new Set<number>(),
  ) {}

  /** Short or long seeds of a field, all weighed; yields now and then. */
  static *of(
    field: LevelField,
    r: Residuals,
    kind: "short" | "long",
    sweep: Sweep,
    sums: SumsOf,
  ): Generator<void, SeedTable> {
    const { starts } = field,
      longest = starts.reduce((most, s, q) => (q ? Math.max(most, s - starts[q - 1]!) : 0), 0),
      all: OfLength[] = [];
    for (let k = 0; ; k++) {
      const length = kind === "short" ? SHORT[k] : LONG_FROM * 2 ** k;
      // Of more than half of a crew's shots nobody knows which half is wrong.
      if (length === undefined || length > longest / 2) break;
      const stretches = stretchesOf(field, length, Math.max(1, Math.floor(length / (kind === "short" ? 4 : 2)))),
        count = stretches.from.length;
      all.push({
        ...stretches,
        gain: new Float64Array(count),
        square: new Float64Array(count),
        isWhole: new Uint8Array(count),
      });
    }
    const table = new SeedTable(sweep, all, new Float64Array(field.count), new Float64Array(r.forms.count));
    yield* table.weigh(field, r, sums, new Uint8Array(field.count).fill(1), EVERY);
    return table;
  }

  copy(): SeedTable {
    return new SeedTable(
      this.sweep,
      this.lengths.map((l) => ({ ...l, gain: l.gain.slice(), square: l.square.slice(), isWhole: l.isWhole.slice() })),
      this.parts.slice(),
      this.weights.slice(),
      new Set(this.moved),
    );
  }

  /** Tells of shots whose residual or scale moved. */
  tell(shots: readonly number[]): void {
    for (const i of shots) this.moved.add(i);
  }

  /** Weighs again what shots that moved take part in; yields now and then. */
  *refresh(field: LevelField, r: Residuals, sums: SumsOf): Generator<void, void> {
    if (this.moved.size === 0) return;
    const changed = new Uint8Array(field.count);
    for (const i of this.moved) for (let f = r.forms.of[i]!; f < r.forms.of[i + 1]!; f++) markShotsOf(r, f, changed);
    yield* this.weigh(field, r, sums, changed, 1);
    this.moved.clear();
  }

  /**
   * Weighs the seeds with a shot that changed; by every so manieth form at first. Those that cannot gain enough to be
   * tried, by their S and the least that Q can be, are left: what they gain is not asked for.
   */
  private *weigh(
    { order }: LevelField,
    r: Residuals,
    sums: SumsOf,
    changed: Uint8Array,
    every: number,
  ): Generator<void, void> {
    const { sweep, weights, parts } = this,
      another = changed.slice();
    for (let f = 0; f < weights.length; f += every) {
      if (f % AT_ONCE === 0) yield;
      const more = r.weight[f]! - weights[f]!;
      if (more === 0) continue;
      markShotsOf(r, f, another);
      sweep.form(f);
      for (const l of this.lengths) sweep.add(more, l, l.square, f % EVERY === 0 ? undefined : l.isWhole);
    }
    weights.set(r.weight);
    const before = new Int32Array(order.length + 1),
      s = new Float64Array(order.length + 1);
    for (let p = 0; p < order.length; p++) {
      const i = order[p]!;
      if (another[i]) parts[i] = partOf(r, i);
      before[p + 1] = before[p]! + changed[i]!;
      s[p + 1] = s[p]! + parts[i]!;
    }
    for (const { length, from, gain, square, isWhole } of this.lengths)
      for (let n = 0; n < from.length; n++) {
        if (n % AT_ONCE === 0) yield;
        const p = from[n]!,
          end = p + length;
        if (before[end] === before[p]) continue;
        const part = { s: s[end]! - s[p]!, q: square[n]! };
        gain[n] = 0;
        if (part.s ** 2 < ALMOST * TRIED * part.q) continue;
        const both = isWhole[n] ? part : sums(p, end - 1);
        gain[n] = gainOf(both);
        square[n] = both.q;
        isWhole[n] = 1;
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

function markShotsOf({ forms: { starts, shots } }: Residuals, form: number, marks: Uint8Array): void {
  for (let c = starts[form]!; c < starts[form + 1]!; c++) marks[shots[c]!] = 1;
}

function partOf(r: Residuals, shot: number): number {
  const { of, forms, coefs } = r.by;
  let s = 0;
  for (let k = of[shot]!; k < of[shot + 1]!; k++) s += r.weight[forms[k]!]! * coefs[k]! * r.r[forms[k]!]!;
  return s;
}
