/**
 * Height runs: stretches of consecutive shots of one crew that are all too high or too low by one amount, as by a target
 * height written wrongly. An interval I of the crew's order is tried with one shift: v = Σ of a form's coefficients on I,
 * S = Σ v r/s², Q = Σ v²/s², shift = S/Q, gain = S²/Q; only forms that mix what is inside and outside speak
 * (weighted least squares of one parameter). The best is taken off, scales are weighed again, the rest is looked for.
 */
import type { LevelField } from "./field";
import type { Moved, Residuals } from "./residuals";
import { gainOf, SeedTable, SHORTEST, type Interval, type Seed } from "./seeds";
import { isAlike, type Spike } from "./spikes";

export interface RunLimits {
  /** In metres. */
  least: number;
  /** Shots. */
  shots: number;
}

/** A stretch that is off by one shift. */
export interface Run extends Interval {
  /** How much too high, in metres. */
  shift: number;
  /** Standard error of the shift, in metres. */
  sigma: number;
  /** Share of the residuals' square that the shift explains. */
  explained: number;
  unclear: boolean;
}

/** Gain that a stretch needs in the end to be told. */
const TOLD = 100;
/** Of the largest gain, from which share on an interval is tried; stretches taken at most. */
const WORTH_TRYING = 0.3,
  MOST = 100;
/** A stretch is taken for a run while others are looked for when it explains this much; as often seeds are given up. */
const EXPLAINS_ENOUGH = 0.4,
  ATTEMPTS = 6;
/** Stretches of smaller shifts are noise, in metres. */
const NOISE = 0.07;
const EXPLAINED = 0.75,
  CLEAR = 0.9,
  /** Forms speak of a stretch from this v on. */
  SPEAKS = 0.08;
/** A stretch of which more than this share stands on one line that lies all but wholly in it is not accused. */
const OF_ONE_LINE = 0.5,
  WHOLE_LINE = 0.8;

/** Shots by which the ends of a seed are moved; long ones by up to half of their length. */
const STEPS = [1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144, 233],
  SMALL_STEP = 8;
/** Shots before and after a run in which the rest of it is looked for. */
const CLOSE = 4;

export interface Seeds {
  short: SeedTable;
  long: SeedTable;
}

/** A stretch with the shift that was taken off it. */
interface Shifted extends Interval {
  shift: number;
}

export class RunSearch {
  private readonly v: Float64Array;
  private readonly touched: Int32Array;
  /** The last interval that touched each form. */
  private readonly seen: Int32Array;
  private covered = 0;
  private count = 0;

  constructor(
    private readonly field: LevelField,
    forms: number,
  ) {
    this.v = new Float64Array(forms);
    this.touched = new Int32Array(forms);
    this.seen = new Int32Array(forms);
  }

  /** All seeds of a field, weighed. */
  seeds(r: Residuals): Seeds {
    const of = (kind: "short" | "long") => SeedTable.of(this.field, r, kind, (a, z) => this.sums(r, a, z));
    return { short: of("short"), long: of("long") };
  }

  /** The seeds of residuals that moved since. */
  again(r: Residuals, seeds: Seeds): Seeds {
    const out = copyOf(seeds);
    tell(out, r.takeMoved());
    for (const table of [out.short, out.long]) table.refresh(this.field, r, (a, z) => this.sums(r, a, z));
    return out;
  }

  /**
   * Finds the runs and takes their shifts off the residuals' levels. `seeds`, of residuals from which these moved, follow
   * them; `between` may correct what the runs had hidden before they are judged.
   */
  *find(r: Residuals, seeds: Seeds, limits: RunLimits, between: () => void): Generator<number, Run[]> {
    const tried: Shifted[] = [];
    tell(seeds, r.takeMoved());
    while (tried.length < MOST) {
      yield 1;
      for (const table of [seeds.short, seeds.long]) table.refresh(this.field, r, (a, z) => this.sums(r, a, z));
      const found = this.bestOf(r, seeds);
      if (!found) break;
      const shift = this.shiftOf(r, found.from, found.to);
      tried.push({ ...found, shift });
      this.lower(r, found.from, found.to, shift);
      this.refit(r, tried, 2);
      r.rescale();
      tell(seeds, r.takeMoved());
    }
    const runs = this.stretches(r, tried, limits);
    between();
    return this.told(r, runs, limits);
  }

  /**
   * The best interval, of the best seeds of each length with their ends moved; undefined when none explains enough. A run
   * inflates the scales round it, so that longer stretches and the sound shots beside it seem to gain as much: each is
   * tried, and what explains most once the scales are weighed without it is taken. Those that explain little are barred
   * while others are looked for.
   */
  private bestOf(r: Residuals, { short, long }: Seeds): Interval | undefined {
    const barred: Interval[] = [];
    for (let attempt = 0; attempt < ATTEMPTS; attempt++) {
      const open = [...short.highest(barred), ...long.highest(barred)],
        least = WORTH_TRYING * Math.max(0, ...open.map((s) => s.gain));
      if (open.length === 0) return undefined;
      let best: Interval | undefined,
        most = 0;
      for (const seed of open) {
        if (seed.gain < least) continue;
        const { from, to } = this.refined(r, seed),
          share = this.explainedBy(r, from, to);
        if (share > most) {
          most = share;
          best = { from, to };
        }
        barred.push(seed);
      }
      if (most >= EXPLAINS_ENOUGH) return best;
    }
    return undefined;
  }

  /** Which share of the deviations that speak of an interval its shift explains; scales, which it inflates, aside. */
  private explainedBy(r: Residuals, from: number, to: number): number {
    const shift = this.shiftOf(r, from, to),
      { spread } = r.forms;
    let left = 0,
      whole = 0;
    for (let k = 0; k < this.count; k++) {
      const f = this.touched[k]!,
        v = this.v[f]!;
      if (r.weight[f] === 0 || Math.abs(v) < SPEAKS) continue;
      left += ((r.r[f]! - v * shift) / spread[f]!) ** 2;
      whole += (r.r[f]! / spread[f]!) ** 2;
    }
    return whole > 0 ? 1 - left / whole : 0;
  }

  /** A seed with its ends moved, by the steps that gain most, until none gains. */
  private refined(r: Residuals, seed: Seed): Seed {
    const { starts } = this.field,
      q = sequenceOf(starts, seed.from),
      [first, last] = [starts[q]!, starts[q + 1]! - 1];
    let { from, to } = seed,
      { s, q: square } = this.sums(r, from, to),
      gain = gainOf({ s, q: square });
    for (let better = true; better;) {
      better = false;
      for (const step of STEPS) {
        if (step > SMALL_STEP && 2 * step > to - from) break;
        for (const [a, b] of [
          [-step, 0],
          [step, 0],
          [0, -step],
          [0, step],
        ] as const) {
          if (from + a < first || to + b > last || to + b - (from + a) + 1 < SHORTEST) continue;
          const moved = this.moved(
              r,
              a < 0 ? from + a : a > 0 ? from : b > 0 ? to + 1 : to + b + 1,
              step,
              a > 0 || b < 0,
            ),
            now = gainOf({ s: s + moved.s, q: square + moved.q });
          if (now > gain * (1 + 1e-9)) {
            gain = now;
            s += moved.s;
            square += moved.q;
            from += a;
            to += b;
            better = true;
          } else this.moved(r, moved.from, step, !moved.out);
        }
      }
    }
    return { gain: this.gain(r, from, to), from, to };
  }

  /** Takes shots from a position on into the covered interval or out of it; how S and Q change by it. */
  private moved(r: Residuals, from: number, count: number, out: boolean) {
    const { of, forms, coefs } = r.by,
      { order } = this.field,
      sign = out ? -1 : 1;
    let s = 0,
      q = 0;
    for (let p = from; p < from + count; p++)
      for (let k = of[order[p]!]!; k < of[order[p]! + 1]!; k++) {
        const f = forms[k]!,
          c = sign * coefs[k]!,
          v = this.seen[f] === this.covered ? this.v[f]! : 0,
          w = r.weight[f]!;
        this.seen[f] = this.covered;
        this.v[f] = v + c;
        s += w * c * r.r[f]!;
        q += w * c * (2 * v + c);
      }
    return { s, q, from, out };
  }

  /** Refits shifts, each with the others taken off. */
  private refit(r: Residuals, runs: Shifted[], rounds: number): void {
    for (let round = 0; round < rounds; round++)
      for (const run of runs) {
        const more = this.shiftOf(r, run.from, run.to);
        run.shift += more;
        this.lower(r, run.from, run.to, more);
      }
  }

  /** What was tried, as stretches of one total shift each, fitted again. */
  private stretches(r: Residuals, tried: readonly Shifted[], limits: RunLimits) {
    const { order, starts } = this.field,
      total = new Float64Array(order.length);
    for (const { from, to, shift } of tried) {
      this.lower(r, from, to, -shift);
      for (let p = from; p <= to; p++) total[p]! += shift;
    }
    const runs: Shifted[] = [];
    for (let q = 0; q + 1 < starts.length; q++)
      for (let p = starts[q]!; p < starts[q + 1]!;) {
        let end = p + 1;
        while (end < starts[q + 1]! && Math.abs(total[end]! - total[p]!) < NOISE) end++;
        const mean = total.subarray(p, end).reduce((sum, x) => sum + x, 0) / (end - p);
        if (Math.abs(mean) >= NOISE && end - p >= Math.min(3, limits.shots))
          runs.push({ from: p, to: end - 1, shift: mean });
        p = end;
      }
    for (const run of runs) this.lower(r, run.from, run.to, run.shift);
    this.refit(r, runs, 4);
    r.rescale();
    return runs;
  }

  /** The runs that hold: the weakest is given up first, and the others fitted again without it. */
  private told(r: Residuals, runs: Shifted[], limits: RunLimits): Run[] {
    const kept = runs.slice();
    for (;;) {
      this.refit(r, kept, 2);
      r.rescale();
      const weighed = kept.map((run) => ({ run, ...this.weigh(r, run) }));
      const weak = weighed.filter(
        ({ run, gain, explained, witnesses }) =>
          gain < TOLD ||
          Math.abs(run.shift) < limits.least ||
          witnesses < limits.shots ||
          explained < EXPLAINED ||
          this.isOneLine(run),
      );
      if (weak.length === 0)
        return weighed.map(({ run, explained }) => ({
          ...run,
          explained,
          sigma: this.sigma(r, run),
          unclear: explained < CLEAR || kept.some((o) => o !== run && o.from <= run.to + 1 && o.to >= run.from - 1),
        }));
      const worst = weak.reduce((a, b) => (b.gain < a.gain ? b : a)).run;
      kept.splice(kept.indexOf(worst), 1);
      this.lower(r, worst.from, worst.to, -worst.shift);
    }
  }

  private isOneLine({ from, to }: Interval): boolean {
    const shots = new Set(this.field.order.subarray(from, to + 1));
    return this.field.strings.some((s) => {
      const inside = s.shots.reduce((n, i) => n + (shots.has(i) ? 1 : 0), 0);
      return inside > OF_ONE_LINE * shots.size && inside > WHOLE_LINE * s.shots.length;
    });
  }

  /** Gain of a run that is taken off already, what it explains, and how many of its shots bear it out themselves. */
  private weigh(r: Residuals, { from, to, shift }: Shifted) {
    this.cover(r, from, to);
    let q = 0,
      left = 0,
      whole = 0;
    const inside = new Set(this.field.order.subarray(from, to + 1)),
      witnesses = new Set<number>();
    for (let k = 0; k < this.count; k++) {
      const f = this.touched[k]!,
        v = this.v[f]!,
        s = r.scaleOf(f);
      if (r.silent[f]) continue;
      q += (v / s) ** 2;
      if (Math.abs(v) < SPEAKS) continue;
      const before = r.r[f]! + v * shift;
      left += (r.r[f]! / s) ** 2;
      whole += (before / s) ** 2;
      // Off by at least half of what the shift makes of it, in its direction.
      if (before * v * shift >= (v * shift) ** 2 / 2 && inside.has(r.by.owner[f]!)) witnesses.add(r.by.owner[f]!);
    }
    return { gain: shift * shift * q, explained: whole > 0 ? 1 - left / whole : 0, witnesses: witnesses.size };
  }

  /** Standard error of a shift, of noise that is independent from shot to shot. */
  private sigma(r: Residuals, { from, to }: Interval): number {
    this.cover(r, from, to);
    const { starts, shots, coefs } = r.forms,
      by = new Map<number, number>();
    let q = 0;
    for (let k = 0; k < this.count; k++) {
      const f = this.touched[k]!,
        v = this.v[f]!,
        s = r.scaleOf(f),
        own = r.scale[r.by.owner[f]!]!;
      if (r.silent[f]) continue;
      q += (v / s) ** 2;
      for (let c = starts[f]!; c < starts[f + 1]!; c++)
        by.set(shots[c]!, (by.get(shots[c]!) ?? 0) + (v * coefs[c]! * own) / (s * s));
    }
    const variance = [...by.values()].reduce((sum, x) => sum + x * x, 0),
      onLines = new Set(this.field.strings.flatMap((s) => [...s.shots]));
    const most = this.field.order.subarray(from, to + 1).filter((i) => onLines.has(i)).length > (to - from + 1) / 2;
    return Math.max(0.01, ((most ? 2 : 1.5) * Math.sqrt(variance)) / q);
  }

  /** Of spikes those in a run or close to its ends that are off by about as much. */
  partsOf(runs: readonly Run[], spikes: readonly Spike[]): Spike[] {
    const { order } = this.field,
      by = new Map(spikes.map((s) => [s.shot, s])),
      parts = new Set<Spike>();
    for (const { from, to, shift } of runs)
      for (let p = Math.max(0, from - CLOSE); p <= Math.min(order.length - 1, to + CLOSE); p++) {
        const spike = by.get(order[p]!);
        if (spike && isAlike(spike.residual, shift)) parts.add(spike);
      }
    return [...parts];
  }

  /** Takes a shift off the levels of an interval. */
  lower(r: Residuals, from: number, to: number, shift: number): void {
    for (let p = from; p <= to; p++) r.lower(this.field.order[p]!, shift);
  }

  private gain(r: Residuals, from: number, to: number): number {
    return gainOf(this.sums(r, from, to));
  }

  private shiftOf(r: Residuals, from: number, to: number): number {
    const { s, q } = this.sums(r, from, to);
    return q > 0 ? s / q : 0;
  }

  private sums(r: Residuals, from: number, to: number): { s: number; q: number } {
    this.cover(r, from, to);
    let s = 0,
      q = 0;
    for (let k = 0; k < this.count; k++) {
      const f = this.touched[k]!,
        w = r.weight[f]! * this.v[f]!;
      s += w * r.r[f]!;
      q += w * this.v[f]!;
    }
    return { s, q };
  }

  /** v of all forms that an interval touches. */
  private cover(r: Residuals, from: number, to: number): void {
    const { of, forms, coefs } = r.by,
      { order } = this.field;
    this.count = 0;
    this.covered++;
    for (let p = from; p <= to; p++) {
      const i = order[p]!;
      for (let k = of[i]!; k < of[i + 1]!; k++) {
        const f = forms[k]!;
        if (this.seen[f] !== this.covered) {
          this.seen[f] = this.covered;
          this.touched[this.count++] = f;
          this.v[f] = 0;
        }
        this.v[f]! += coefs[k]!;
      }
    }
  }
}

function sequenceOf(starts: Int32Array, position: number): number {
  let q = 0;
  while (starts[q + 1]! <= position) q++;
  return q;
}

export const copyOf = ({ short, long }: Seeds): Seeds => ({ short: short.copy(), long: long.copy() });

function tell({ short, long }: Seeds, moved: Moved): void {
  short.tell(moved);
  long.tell(moved);
}
