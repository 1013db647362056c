/**
 * Which point a sight likely was, where the number that was written is not known or lies elsewhere: a mistyped backsight.
 * The geometry of what was observed tells: its distance and rise from the station, and the other known points that the
 * setup observed, which must come out where they are.
 */
import { azimuthOf } from "../math/angles";
import { fromMetres } from "../math/units";
import { editDistance } from "../math/words";
import type { ReduceOptions } from "./reduce-options";

export interface LikelySight {
  was: string;
  is: string;
  /** Observed less known, in the unit: plan distance and level; NaN where not observed. */
  distance: number;
  level: number;
}

export interface DoubtfulSight {
  number: string;
  row: number;
  /** Circle reading in radians; plan distance and rise from the mark in the unit. NaN where not observed. */
  circle: number;
  distance: number;
  rise: number;
}

/** So many are offered at most. */
const OFFERED = 3;
/** A sight fits within so many tolerances of repeated shots, and no less than these metres. */
const FITS = 3,
  LEAST = 0.05;
/** A number is taken for a slip of another from so few letters on. */
const SLIP = 1;

/**
 * The points that a sight may have been, the likeliest first.
 *
 * @param candidates rows of known points; `at` their places, in the frame of the table (E, N, Z).
 */
export function likelySights(
  sight: DoubtfulSight,
  station: { row: number; others: readonly { row: number; circle: number; distance: number }[] },
  candidates: readonly number[],
  at: { e: Float64Array; n: Float64Array; z: Float64Array },
  about: (row: number) => { number: string; isControl: boolean },
  { tolerance, unit }: ReduceOptions,
): LikelySight[] {
  const { e, n, z } = at,
    o = station.row,
    others = station.others.filter((x) => x.row !== o && x.row !== sight.row),
    reach = Math.max(FITS * tolerance.repeat, fromMetres(LEAST, unit));
  const isSeen = Number.isFinite(sight.distance);
  // By its circle alone it is told only by what else was seen.
  if (!isSeen && others.length === 0) return [];
  const found: (LikelySight & { badness: number })[] = [];
  for (const i of candidates) {
    if (i === o || i === sight.row) continue;
    const far = Math.hypot(e[i]! - e[o]!, n[i]! - n[o]!),
      distance = sight.distance - far,
      level = z[o]! + sight.rise - z[i]!;
    if (isSeen && Math.abs(distance) > reach) continue;
    if (Number.isFinite(level) && Math.abs(level) > 2 * reach) continue;
    if (far < reach) continue;
    const orientation = azimuthOf(e[o]!, n[o]!, e[i]!, n[i]!) - sight.circle;
    let proved = 0;
    for (const x of others) {
      if (x.row === i) continue;
      const azimuth = x.circle + orientation,
        off = Math.hypot(
          e[o]! + x.distance * Math.sin(azimuth) - e[x.row]!,
          n[o]! + x.distance * Math.cos(azimuth) - n[x.row]!,
        );
      if (off <= reach) proved++;
    }
    if (others.length > 0 && !Number.isNaN(sight.circle) && 2 * proved < others.length) continue;
    const { number, isControl } = about(i),
      isSlip = editDistance(number, sight.number) <= SLIP;
    // Something must speak for it beside a distance that a few of thousands of points have by chance.
    if (proved === 0 && !isSlip && !isControl) continue;
    const off = Math.abs(isSeen ? distance : 0) + Math.abs(Number.isFinite(level) ? level : 0);
    found.push({
      was: sight.number,
      is: number,
      distance,
      level,
      badness: off / reach + (isSlip ? 0 : 2) + (isControl ? 0 : 1) + (proved > 0 ? 0 : 1),
    });
  }
  return found
    .sort((a, b) => a.badness - b.badness)
    .slice(0, OFFERED)
    .map(({ was, is, distance, level }) => ({ was, is, distance, level }));
}
