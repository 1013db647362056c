/** Which of the stretches that were found are told as height runs, and of which it is clear by how much they are off. */
import type { Cover } from "./cover";
import { ASKED, endOf, misfits, type Stretch } from "./ends";
import type { OpenGrounds } from "./forms";
import { OF_MEDIAN, type Residuals } from "./residuals";
import type { Interval } from "./seeds";
import { isAlike } from "./spikes";

/** A stretch with the shift that was taken off it. */
export interface Shifted extends Interval {
  shift: number;
}

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
/** Of the deviations' squares so much is explained by a shift that is told, and by one that is clear. */
const EXPLAINED = 0.75,
  CLEAR = 0.9;
/** The median of what is left, in their scales, as of normal noise: more of it is ground that bends. */
const LEFT = 1.4,
  LEFT_CLEAR = 1.25;
/** Forms speak of a stretch from this v on. */
export const SPEAKS = 0.08;
/**
 * A stretch of which more than this share stands on one line is asked for its jump along it: it may differ from the shift
 * by such a share, by such a one where the shift is clear, and its standard error is no more than such a one.
 */
const OF_ONE_LINE = 0.5,
  ALONG = 0.4,
  ALONG_CLEAR = 0.1,
  KNOWN_ALONG = 0.3,
  /** In metres: levels no farther apart are the same, but for rounding. */
  SAME_LEVEL = 1e-6;
/** Shots that do not fit the ends of a stretch: so many, or this share of it, and it is no stretch of the sequence. */
const MISFITS = 1,
  MISFITS_SHARE = 0.04;
/** Stretches that are no more shots apart in the sequence are one for what stands beside them. */
const APART = 4;
/** Noise is not independent from shot to shot: by so much standard errors are larger, on lines by more. */
const WIDER = 1.5,
  WIDER_ON_LINES = 2,
  LEAST_SIGMA = 0.01;

export interface Weighed {
  /** Of what is taken off already, as S²/Q. */
  gain: number;
  explained: number;
  /** What is left of the deviations, in scales. */
  left: number;
  /** Shots that bear it out themselves. */
  witnesses: number;
}

/** Weighs a stretch whose shift is taken off. */
export function weigh(cover: Cover, r: Residuals, { from, to, shift }: Shifted): Weighed {
  cover.cover(r, from, to);
  let q = 0,
    left = 0,
    whole = 0;
  const times: number[] = [],
    inside = new Set(cover.field.order.subarray(from, to + 1)),
    witnesses = new Set<number>();
  for (let k = 0; k < cover.count; k++) {
    const f = cover.touched[k]!,
      v = cover.v[f]!,
      s = r.scaleOf(f);
    if (r.silent[f]) continue;
    q += (v / s) ** 2;
    if (Math.abs(v) < SPEAKS) continue;
    const before = r.r[f]! + v * shift;
    times.push(Math.abs(r.r[f]! / s));
    left += (r.r[f]! / s) ** 2;
    whole += (before / s) ** 2;
    // Off by at least half of what the shift makes of it, in its direction.
    if (before * v * shift >= (v * shift) ** 2 / 2 && inside.has(r.by.owner[f]!)) witnesses.add(r.by.owner[f]!);
  }
  return {
    gain: shift * shift * q,
    explained: whole > 0 ? 1 - left / whole : 0,
    left: OF_MEDIAN * (times.sort((a, b) => a - b)[times.length >> 1] ?? 0),
    witnesses: witnesses.size,
  };
}

/** Whether a stretch is one of the sequence, by its weight and by its ends; how clear it is where it is. */
export function verdictOf(
  cover: Cover,
  r: Residuals,
  run: Shifted,
  weighed: Weighed,
  all: readonly Shifted[],
  openGround: OpenGrounds,
  limits: RunLimits,
): "clear" | "unclear" | "none" {
  const { gain, explained, left, witnesses } = weighed;
  if (gain < TOLD || explained < EXPLAINED || left > LEFT) return "none";
  if (Math.abs(run.shift) < limits.least || witnesses < limits.shots) return "none";
  const along = Math.abs(shareAlong(cover, r, run, all) - 1);
  if (!(along <= ALONG)) return "none";
  const stretch = stretchOf(cover, run),
    ends = endsOf(cover, r, run, stretch);
  if (ends.includes("none") || !ends.includes("jump")) return "none";
  const unfit = misfits(r, stretch, openGround, othersLike(cover, run, all));
  if (unfit > Math.max(MISFITS, MISFITS_SHARE * stretch.shots.length)) return "none";
  const touched = all.some((o) => o !== run && o.from <= run.to + 1 && o.to >= run.from - 1),
    clear =
      explained >= CLEAR &&
      left <= LEFT_CLEAR &&
      !ends.includes("untold") &&
      unfit === 0 &&
      !touched &&
      along <= ALONG_CLEAR;
  return clear ? "clear" : "unclear";
}

function stretchOf({ field }: Cover, { from, to, shift }: Shifted): Stretch {
  const shots = field.order.subarray(from, to + 1),
    own = new Set(shots);
  return { shots, has: (shot) => own.has(shot), shift };
}

/** Both ends of a stretch; where the crew's shots begin or end with it there is nothing to tell. */
function endsOf({ field: { order, starts } }: Cover, r: Residuals, { from, to }: Shifted, stretch: Stretch) {
  let q = 0;
  while (starts[q + 1]! <= from) q++;
  const before = order.slice(Math.max(starts[q]!, from - ASKED), from).reverse(),
    after = order.subarray(to + 1, Math.min(starts[q + 1]!, to + 1 + ASKED));
  return [
    before.length ? endOf(r, stretch, stretch.shots, before) : "untold",
    after.length ? endOf(r, stretch, stretch.shots.slice().reverse(), after) : "untold",
  ];
}

/** Whether a shot is in another stretch that is off by about as much: of a ridge crossed twice, say. */
function othersLike({ field }: Cover, run: Shifted, all: readonly Shifted[]): (shot: number) => boolean {
  const shots = new Set<number>();
  for (const o of all)
    if (o !== run && isAlike(o.shift, run.shift) && (o.from > run.to + APART || o.to < run.from - APART))
      for (let p = o.from; p <= o.to; p++) shots.add(field.order[p]!);
  return (shot) => shots.has(shot);
}

/**
 * By how much a stretch is off along lines, as a share of its shift, where most of it stands on one: a kerb or the invert
 * of a ditch lies lower than the ground beside as a whole, and what is off by a wrong target height jumps along it. In the
 * levels as they are, stretches that are off by as much taken together; what was taken for a spike says nothing. NaN where
 * nothing tells; 1 where it does not stand on a line.
 */
function shareAlong({ members }: Cover, r: Residuals, run: Shifted, all: readonly Shifted[]): number {
  // The levels are those of the residuals' own field: what is kept of the search may be of an earlier one.
  const { field } = r;
  const own = new Set(field.order.subarray(run.from, run.to + 1)),
    onLine = new Map<number, number>();
  for (const i of own) for (const { string } of members.of(i)) onLine.set(string, (onLine.get(string) ?? 0) + 1);
  if (!(Math.max(0, ...onLine.values()) > OF_ONE_LINE * own.size)) return 1;
  const alike = new Set(own),
    shifts = new Map<number, number>();
  for (const o of all)
    for (const i of field.order.subarray(o.from, o.to + 1)) {
      shifts.set(i, (shifts.get(i) ?? 0) + o.shift);
      if (isAlike(o.shift, run.shift)) alike.add(i);
    }
  const { starts, shots, coefs, along } = r.forms,
    { of, forms } = r.by,
    isSpike = (i: number) => Math.abs(field.z[i]! - r.z[i]! - (shifts.get(i) ?? 0)) > SAME_LEVEL,
    near = new Set<number>();
  for (const i of own) for (let k = of[i]!; k < of[i + 1]!; k++) if (along[forms[k]!]) near.add(forms[k]!);
  let sum = 0,
    square = 0;
  for (const f of near) {
    const entries = shots.subarray(starts[f]!, starts[f + 1]!);
    if (entries.some(isSpike)) continue;
    let v = 0,
      off = 0;
    entries.forEach((j, k) => {
      const c = coefs[starts[f]! + k]!;
      if (alike.has(j)) v += c;
      off += c * field.z[j]!;
    });
    if (Math.abs(v) < SPEAKS) continue;
    sum += r.weight[f]! * v * off;
    square += r.weight[f]! * v * v;
  }
  const known = square > 0 && 1 / Math.sqrt(square) <= KNOWN_ALONG * Math.abs(run.shift);
  return known ? sum / square / run.shift : NaN;
}

/** A stretch that is told, with the standard error of its shift, of noise that is independent from shot to shot. */
export function toldOf(cover: Cover, r: Residuals, run: Shifted, explained: number, unclear: boolean): Run {
  const { from, to } = run,
    { starts, shots, coefs } = r.forms,
    { field, members } = cover,
    by = new Map<number, number>();
  cover.cover(r, from, to);
  let q = 0;
  for (let k = 0; k < cover.count; k++) {
    const f = cover.touched[k]!,
      v = cover.v[f]!,
      s = r.scaleOf(f),
      own = r.scale[r.by.owner[f]!]!;
    if (r.silent[f]) continue;
    q += (v / s) ** 2;
    for (let c = starts[f]!; c < starts[f + 1]!; c++)
      by.set(shots[c]!, (by.get(shots[c]!) ?? 0) + (v * coefs[c]! * own) / (s * s));
  }
  const variance = [...by.values()].reduce((sum, x) => sum + x * x, 0),
    onLines = field.order.subarray(from, to + 1).filter((i) => members.of(i).length > 0).length,
    isMost = onLines > (to - from + 1) / 2,
    sigma = Math.max(LEAST_SIGMA, ((isMost ? WIDER_ON_LINES : WIDER) * Math.sqrt(variance)) / q);
  return { ...run, explained, unclear, sigma };
}
