/**
 * Spikes: single shots whose level stands far out of the levels round them (COMPUTATION.md, "Spike"). The largest first;
 * a shot found is brought to the level that its neighbours say, so that it says nothing of them any more.
 */
import FlatQueue from "flatqueue";
import { offOpenGround, type OpenGround, type OpenGrounds } from "./forms";
import type { Residuals } from "./residuals";

export interface SpikeLimits {
  /** In scales. */
  limit: number;
  /** In metres. */
  least: number;
}

export interface Spike {
  shot: number;
  /** Measured less predicted, in metres. */
  residual: number;
  /** Of the residual's noise, in metres. */
  scale: number;
}

/** Passes in which scales are weighed again after what was found. */
const PASSES = 6;

interface Standing {
  shot: number;
  residual: number;
  scale: number;
  /** By how many scales it stands out of the form that excuses it most; 0 where its forms do not agree. */
  times: number;
  least: number;
}

/**
 * By how much a shot of lines is off at least, in a direction: against the straight prolongation of the two shots before
 * it and of the two after, and against the way between its neighbours. Where the grade changes at a shot, one of them fits.
 */
function offLine(r: Residuals, shot: number, direction: number): number {
  const { pairs, pairShares, pairsOf } = r.forms;
  let least = Infinity;
  for (let k = pairsOf[shot]!; k < pairsOf[shot + 1]!; k++) {
    const a = r.z[pairs[2 * k]!]!,
      b = r.z[pairs[2 * k + 1]!]!;
    least = Math.min(least, direction * (r.z[shot]! - a - (b - a) * pairShares[k]!));
  }
  return Math.max(0, least);
}

/**
 * Whether the open ground says of a shot what its own level says, lines left out: where it does, what disagrees is a
 * line near it, as at the bank of a pond whose edge was measured.
 */
function agreesWithOpenGround(r: Residuals, open: OpenGround | undefined, { limit, least }: SpikeLimits, s: Standing) {
  if (!open) return false;
  const off = Math.sign(s.residual) * offOpenGround(r, s.shot, open);
  return off < Math.max(least, limit * open.spread * r.scale[s.shot]!);
}

/**
 * How far a shot stands out of its own forms; undefined where it may not be accused. Each of them must say so, in one
 * direction: at the corner of a steep face the form of one side is wrong, the others are not.
 */
function standOut(r: Residuals, shot: number): Standing | undefined {
  const { of, inner, along } = r.forms;
  let line: number | undefined,
    weight = 0,
    sum = 0,
    forms = 0,
    up = 0,
    times = Infinity,
    least = Infinity;
  for (let f = of[shot]!; f < of[shot + 1]!; f++) {
    if (!inner[f] || r.silent[f]) continue;
    const s = r.scaleOf(f),
      residual = r.r[f]!;
    weight += 1 / (s * s);
    sum += residual / (s * s);
    forms++;
    if (along[f]) line ??= residual;
    if (residual > 0) up++;
    times = Math.min(times, Math.abs(residual) / s);
    least = Math.min(least, Math.abs(residual));
  }
  if (forms === 0) return undefined;
  const agreed = up === 0 || up === forms;
  return {
    shot,
    // A line says more of its shot than what lies beside it.
    residual: line ?? sum / weight,
    scale: Math.sqrt(forms / weight),
    times: agreed ? times : 0,
    least: agreed ? Math.min(least, offLine(r, shot, Math.sign(sum))) : 0,
  };
}

/**
 * Finds spikes and takes them off the residuals' levels. `openGround` says what the ground says without lines; `known` are
 * those found before, which are looked at again.
 */
export function findSpikes(
  r: Residuals,
  openGround: OpenGrounds,
  limits: SpikeLimits,
  known: readonly Spike[] = [],
): Spike[] {
  const shots = r.z.length,
    { owner, of, forms } = r.by;
  const found = new Map(known.map((s) => [s.shot, s]));
  const outstanding = (i: number) => {
    const s = standOut(r, i);
    if (!s || s.times < limits.limit || s.least < limits.least) return undefined;
    return agreesWithOpenGround(r, openGround(i), limits, s) ? undefined : s;
  };
  let looked: Iterable<number> = Array.from({ length: shots }, (_, i) => i);
  for (let pass = 0; pass < PASSES; pass++) {
    const candidates = new Map<number, number>(),
      // The largest first; what was weighed again since it was put here is passed over.
      queue = new FlatQueue<number>();
    const weigh = (i: number) => {
      const s = found.has(i) ? undefined : outstanding(i);
      if (!s) return void candidates.delete(i);
      if (candidates.get(i) === s.times) return;
      candidates.set(i, s.times);
      queue.push(i, -s.times);
    };
    for (const i of looked) weigh(i);
    if (candidates.size === 0 && pass > 0) break;
    while (candidates.size) {
      const times = -queue.peekValue()!,
        best = queue.pop()!;
      if (candidates.get(best) !== times) continue;
      const { residual, scale } = outstanding(best)!;
      found.set(best, { shot: best, residual, scale });
      r.lower(best, residual);
      const near = new Set<number>();
      for (let k = of[best]!; k < of[best + 1]!; k++) near.add(owner[forms[k]!]!);
      near.forEach(weigh);
      candidates.delete(best);
    }
    settle(r, found, limits);
    looked = r.rescale();
  }
  const { row } = r.field;
  return [...found.values()].sort((a, b) => row[a.shot]! - row[b.shot]!);
}

/** What was found, each by its neighbours as they are now; one that stands out no more is put back. */
function settle(r: Residuals, found: Map<number, Spike>, limits: SpikeLimits): void {
  for (let round = 0; round < 3; round++)
    for (const { shot, residual } of found.values()) {
      const now = standOut(r, shot);
      if (!now) continue;
      const whole = residual + now.residual;
      r.lower(shot, now.residual);
      if (Math.abs(whole) >= limits.least && Math.abs(whole) >= limits.limit * now.scale) {
        found.set(shot, { shot, residual: whole, scale: now.scale });
        continue;
      }
      r.lower(shot, -whole);
      found.delete(shot);
    }
}

/** In the order of the crew so many shots either way are looked at, and so many alike make a run of it. */
const WITHIN = 4,
  ALIKE = 2,
  /** By as much of the larger one two amounts may differ. */
  SAME = 0.3;

/** Whether two shots may be off for one reason. */
export const isAlike = (a: number, b: number) => Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b));

/**
 * Spikes that others of the same crew share shortly before or after are no spikes but a run: put back, the rest returned.
 * `order` are shots in the order in which they were taken.
 */
export function withoutRuns(r: Residuals, spikes: readonly Spike[], order: Int32Array, starts: Int32Array): Spike[] {
  const by = new Map(spikes.map((s) => [s.shot, s])),
    inRun = new Set<number>();
  for (let q = 0; q + 1 < starts.length; q++)
    for (let p = starts[q]!; p < starts[q + 1]!; p++) {
      const own = by.get(order[p]!);
      if (!own) continue;
      let alike = 0;
      for (let k = Math.max(starts[q]!, p - WITHIN); k <= Math.min(starts[q + 1]! - 1, p + WITHIN); k++) {
        const other = k === p ? undefined : by.get(order[k]!);
        if (other && isAlike(own.residual, other.residual)) alike++;
      }
      if (alike >= ALIKE) inRun.add(own.shot);
    }
  for (const shot of inRun) r.lower(shot, -by.get(shot)!.residual);
  r.rescale();
  return spikes.filter((s) => !inRun.has(s.shot));
}
