/**
 * Whether a stretch that looks off by one shift is off, or stands on ground that is: shots on a ridge that no line joins
 * are all too high by one amount as well. A wrong target height jumps with the crew's sequence, at both ends, and the
 * ground beside does not; a ridge goes on where the sequence leaves it, or the ground ends there too.
 */
import { NEAR, offOpenGround, type OpenGrounds } from "./forms";
import { eliminate } from "./radial";
import type { Residuals } from "./residuals";

/** Shots on either side of an end that are asked whether they have the shift. */
export const ASKED = 4;
/** Of the shots nearest to an end so many are looked at for ground straight on beyond it: within 60° of its way. */
const BEYOND = 10,
  STRAIGHT = 0.5;
/** Shares of the shift that shots inside have at least, and those outside at most; their standard errors at most. */
const INSIDE = 0.6,
  OUTSIDE = 0.3,
  KNOWN = 0.3;
/** As many of the nearest shots stand beside one; from half of a shift on a shot has it. */
const BESIDE = 8,
  HALF = 0.5;

/** `jump`: the shift begins there; `none`: it does not; `untold`: no ground is known straight on beyond. */
export type End = "jump" | "none" | "untold";

/** A stretch of a crew's shots whose shift is taken off the levels. */
export interface Stretch {
  shots: Int32Array;
  has: (shot: number) => boolean;
  /** In metres; too high is positive. */
  shift: number;
}

/**
 * One end of a stretch: `inside` are its shots from that end on, `outside` those of the crew before it, the nearest first.
 * Weighted least squares of three shifts (of the shots inside that are nearest to the end by sequence, of the others
 * inside, of those outside) by the forms of all shots near.
 */
export function endOf(r: Residuals, { has, shift }: Stretch, inside: Int32Array, outside: Int32Array): End {
  const { near } = r.forms,
    end = inside[0]!,
    close = Array.from(near.subarray(NEAR * end, NEAR * (end + 1))).filter((i) => i >= 0),
    first = new Set(inside.subarray(0, ASKED)),
    past = new Set(outside.subarray(0, ASKED).filter((i) => close.includes(i))),
    beyond = straightOn(r, end, first, close.slice(0, BEYOND)).filter((i) => !has(i));
  if (beyond.length === 0) return "untold";
  for (const i of beyond) past.add(i);
  const fit = shiftsOf(r, close, [(i) => first.has(i), (i) => past.has(i), (i) => has(i) && !first.has(i)], shift);
  if (!fit || Math.max(fit.sigmas[0]!, fit.sigmas[1]!) > KNOWN) return "untold";
  return fit.shares[0]! >= INSIDE && fit.shares[1]! <= OUTSIDE ? "jump" : "none";
}

/** Of some shots those that lie beyond an end in the direction in which its first shots come to it. */
function straightOn({ field: { x, y } }: Residuals, end: number, first: ReadonlySet<number>, some: readonly number[]) {
  let dx = x[end]!,
    dy = y[end]!;
  for (const i of first) {
    dx -= x[i]! / first.size;
    dy -= y[i]! / first.size;
  }
  const long = Math.hypot(dx, dy);
  return some.filter((j) => {
    const ex = x[j]! - x[end]!,
      ey = y[j]! - y[end]!;
    return j !== end && dx * ex + dy * ey >= STRAIGHT * long * Math.hypot(ex, ey);
  });
}

/** Shifts of groups of shots as shares of one that is taken off those of the first and the last group, by least squares. */
function shiftsOf(r: Residuals, owners: readonly number[], groups: ((shot: number) => boolean)[], shift: number) {
  const { of, starts, shots, coefs } = r.forms,
    size = groups.length,
    normal = new Float64Array(size * size),
    right = new Float64Array(size),
    v = new Float64Array(size);
  for (const i of owners)
    for (let f = of[i]!; f < of[i + 1]!; f++) {
      const w = r.weight[f]!;
      if (w === 0) continue;
      v.fill(0);
      for (let k = starts[f]!; k < starts[f + 1]!; k++) {
        const g = groups.findIndex((has) => has(shots[k]!));
        if (g >= 0) v[g]! += coefs[k]!;
      }
      const share = r.r[f]! / shift + v[0]! + v[size - 1]!;
      for (let a = 0; a < size; a++) {
        right[a]! += w * v[a]! * share;
        for (let b = 0; b < size; b++) normal[a * size + b]! += w * v[a]! * v[b]!;
      }
    }
  // A group that is not near has no say, and no shift.
  for (let a = 0; a < size; a++) if (normal[a * size + a] === 0) normal[a * size + a] = 1;
  const solve = (b: Float64Array) => (eliminate(normal.slice(), b, size) ? b : undefined),
    shares = solve(right),
    sigmas = groups.map((_, a) => {
      const column = solve(Float64Array.from(groups, (_, b) => (a === b ? 1 : 0)));
      return column ? Math.sqrt(column[a]!) / Math.abs(shift) : NaN;
    });
  return shares && sigmas.every((s) => s >= 0) ? { shares, sigmas } : undefined;
}

/**
 * How many shots do not fit the ends of a stretch: beside it those that fit better with its shift than without, or that
 * another such stretch holds, and of its own those that fit better without. Where lines are near, the open ground must
 * say so too.
 */
export function misfits(
  r: Residuals,
  { shots, has, shift }: Stretch,
  openGround: OpenGrounds,
  alike: (shot: number) => boolean,
): number {
  const { near } = r.forms,
    { of, forms, coefs } = r.by;
  const isOff = (shot: number, amount: number) => {
    // How much less the weighted squares are with the amount taken off.
    let gain = 0;
    for (let k = of[shot]!; k < of[shot + 1]!; k++) {
      const c = coefs[k]! * amount;
      gain += r.weight[forms[k]!]! * c * (2 * r.r[forms[k]!]! - c);
    }
    if (gain <= 0) return false;
    const open = openGround(shot);
    return !open || offOpenGround(r, shot, open) / amount > HALF;
  };
  const beside = new Set<number>();
  for (const i of shots)
    for (let k = NEAR * i; k <= NEAR * i + BESIDE; k++) if (near[k]! >= 0 && !has(near[k]!)) beside.add(near[k]!);
  let count = 0;
  for (const j of beside) if (alike(j) || isOff(j, shift)) count++;
  for (const i of shots) if (isOff(i, -shift)) count++;
  return count;
}
