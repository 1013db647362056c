/**
 * Height runs: stretches of consecutive shots of one crew that are all too high or too low by one amount, as by a target
 * height written wrongly. An interval I of the crew's order is tried with one shift: v = Σ of a form's coefficients on I,
 * S = Σ v r/s², Q = Σ v²/s², shift = S/Q, gain = S²/Q; only forms that mix what is inside and outside speak
 * (weighted least squares of one parameter). The best is taken off, scales are weighed again, the rest is looked for.
 */
import type { LevelField } from "./field";
import type { OpenGrounds } from "./forms";
import type { Members } from "./members";
import type { Residuals } from "./residuals";
import { Cover, type Shots } from "./cover";
import { gainOf, SeedTable, SHORTEST, type Interval, type Seed } from "./seeds";
import { isAlike, type Spike } from "./spikes";
import { Sweep } from "./sweep";
import { SPEAKS, toldOf, verdictOf, weigh, type Run, type RunLimits, type Shifted } from "./verdict";

/** Of the largest gain, from which share on an interval is tried; stretches taken at most. */
const WORTH_TRYING = 0.3,
  MOST = 100;
/** A stretch is taken for a run while others are looked for when it explains this much; as often seeds are given up. */
const EXPLAINS_ENOUGH = 0.4,
  ATTEMPTS = 6;
/** Stretches of smaller shifts are noise, in metres. */
const NOISE = 0.07;

/** Shifts that differ by less are the same, in metres: fitted again they are left. */
const SAME_SHIFT = 1e-7;

/** Shots by which the ends of a seed are moved; long ones by up to half of their length. */
const STEPS = [1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144, 233],
  SMALL_STEP = 8;
/** Ways in which ends move: one of them, or both outwards or inwards, as where the crew turned at the end of a row. */
const ENDS = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
  [-1, 1],
  [1, -1],
] as const;
/** Shots before and after a run in which the rest of it is looked for. */
const CLOSE = 4;

export interface Seeds {
  short: SeedTable;
  long: SeedTable;
}

export class RunSearch {
  private readonly cover: Cover;

  constructor(
    private readonly field: LevelField,
    members: Members,
    private readonly openGround: OpenGrounds,
    forms: number,
  ) {
    this.cover = new Cover(field, members, forms);
  }

  /** All seeds of a field, weighed; yields now and then. */
  *seeds(r: Residuals): Generator<void, Seeds> {
    const sweep = new Sweep(this.field, r.forms),
      of = (kind: "short" | "long") => SeedTable.of(this.field, r, kind, sweep, (a, z) => this.cover.sums(r, a, z));
    return { short: yield* of("short"), long: yield* of("long") };
  }

  /** The seeds of residuals that moved since. */
  *again(r: Residuals, seeds: Seeds): Generator<void, Seeds> {
    const out = copyOf(seeds);
    tell(out, r.takeMoved());
    yield* this.refresh(r, out);
    return out;
  }

  private *refresh(r: Residuals, { short, long }: Seeds): Generator<void, void> {
    for (const table of [short, long]) yield* table.refresh(this.field, r, (a, z) => this.cover.sums(r, a, z));
  }

  /**
   * Finds the runs and takes their shifts off the residuals' levels. `seeds`, of residuals from which these moved, follow
   * them; `between` may correct what the runs had hidden before they are judged.
   */
  *find(r: Residuals, seeds: Seeds, limits: RunLimits, between: () => void): Generator<void, Run[]> {
    const tried: Shifted[] = [];
    tell(seeds, r.takeMoved());
    while (tried.length < MOST) {
      yield;
      yield* this.refresh(r, seeds);
      const found = this.bestOf(r, seeds);
      if (!found) break;
      const shift = this.cover.shiftOf(r, found.from, found.to);
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
    const shift = this.cover.shiftOf(r, from, to),
      { spread } = r.forms;
    let left = 0,
      whole = 0;
    for (let k = 0; k < this.cover.count; k++) {
      const f = this.cover.touched[k]!,
        v = this.cover.v[f]!;
      if (r.weight[f] === 0 || Math.abs(v) < SPEAKS) continue;
      left += ((r.r[f]! - v * shift) / spread[f]!) ** 2;
      whole += (r.r[f]! / spread[f]!) ** 2;
    }
    return whole > 0 ? 1 - left / whole : 0;
  }

  /** A seed with its ends moved, one or both, by the steps that gain most, until none gains. */
  private refined(r: Residuals, seed: Seed): Interval {
    const { starts } = this.field,
      q = sequenceOf(starts, seed.from),
      [first, last] = [starts[q]!, starts[q + 1]! - 1];
    let { from, to } = seed,
      sums = this.cover.sums(r, from, to),
      gain = gainOf(sums);
    for (let better = true; better;) {
      better = false;
      for (const step of STEPS) {
        if (step > SMALL_STEP && 2 * step > to - from) break;
        for (const [a, b] of ENDS) {
          const start = from + a * step,
            end = to + b * step;
          if (start < first || end > last || end - start + 1 < SHORTEST) continue;
          const moves: Shots[] = [];
          if (a) moves.push({ from: Math.min(from, start), count: step, out: a > 0 });
          if (b) moves.push({ from: Math.min(to, end) + 1, count: step, out: b < 0 });
          let { s, q: square } = sums;
          for (const move of moves) {
            const more = this.cover.move(r, move);
            s += more.s;
            square += more.q;
          }
          const now = gainOf({ s, q: square });
          if (now > gain * (1 + 1e-9)) {
            gain = now;
            sums = { s, q: square };
            from = start;
            to = end;
            better = true;
          } else for (const move of moves) this.cover.move(r, { ...move, out: !move.out });
        }
      }
    }
    return { from, to };
  }

  /** Refits shifts, each with the others taken off. */
  private refit(r: Residuals, runs: Shifted[], rounds: number): void {
    for (let round = 0; round < rounds; round++)
      for (const run of runs) {
        const more = this.cover.shiftOf(r, run.from, run.to);
        if (Math.abs(more) < SAME_SHIFT) continue;
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

  /** Neighbours that are off by as much once they are fitted are one stretch. */
  private merged(r: Residuals, runs: readonly Shifted[]): Shifted[] {
    const starts = new Set(this.field.starts),
      out: Shifted[] = [];
    for (const run of runs) {
      const last = out.at(-1);
      if (!last || last.to + 1 !== run.from || starts.has(run.from) || Math.abs(last.shift - run.shift) >= NOISE) {
        out.push({ ...run });
        continue;
      }
      const lengths = [last, run].map(({ from, to }) => to - from + 1) as [number, number],
        shift = (last.shift * lengths[0] + run.shift * lengths[1]) / (lengths[0] + lengths[1]);
      for (const { from, to, shift: own } of [last, run]) this.lower(r, from, to, shift - own);
      out[out.length - 1] = { from: last.from, to: run.to, shift };
    }
    if (out.length < runs.length) this.refit(r, out, 4);
    return out;
  }

  /** The runs that hold: the weakest is given up first, and the others fitted again without it. */
  private told(r: Residuals, runs: Shifted[], limits: RunLimits): Run[] {
    let kept = runs.slice();
    for (;;) {
      this.refit(r, kept, 2);
      kept = this.merged(r, kept);
      r.rescale();
      const weighed = kept.map((run) => {
        const weight = weigh(this.cover, r, run);
        return { run, weight, verdict: verdictOf(this.cover, r, run, weight, kept, this.openGround, limits) };
      });
      const weak = weighed.filter((w) => w.verdict === "none");
      if (weak.length === 0)
        return weighed.map(({ run, weight, verdict }) =>
          toldOf(this.cover, r, run, weight.explained, verdict === "unclear"),
        );
      const worst = weak.reduce((a, b) => (b.weight.gain < a.weight.gain ? b : a)).run;
      kept.splice(kept.indexOf(worst), 1);
      this.lower(r, worst.from, worst.to, -worst.shift);
    }
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
}

function sequenceOf(starts: Int32Array, position: number): number {
  let q = 0;
  while (starts[q + 1]! <= position) q++;
  return q;
}

export const copyOf = ({ short, long }: Seeds): Seeds => ({ short: short.copy(), long: long.copy() });

function tell({ short, long }: Seeds, moved: readonly number[]): void {
  short.tell(moved);
  long.tell(moved);
}
