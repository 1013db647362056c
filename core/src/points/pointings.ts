/** Readings of a survey as pointings, both faces averaged, and one pointing reduced to a distance and a rise. */
import { circularMean, positiveAngle, signedAngle } from "../math/angles";
import { fromMetres } from "../math/units";
import type { Survey } from "../records/survey";
import type { ReduceOptions } from "./reduce-options";
import type { PointTable } from "./table";

export interface FacesReport {
  number: string;
  /** Face two − 180° − face one: twice the collimation over sin z. */
  circle: number;
  /** Sum of both zenith angles − 360°: twice the index error. */
  zenith: number;
  /** Face two − face one. */
  slope: number;
}

/** Both faces of one pointing, averaged, or a lone one; ordered by setup. */
export interface Pointings {
  /** Table row of the target, −1 for none; and its index among the survey's numbers. */
  row: Int32Array;
  number: Int32Array;
  numbers: string[];
  direction: Float64Array;
  /** 1 where the direction itself was observed. */
  isAzimuth: Uint8Array;
  zenith: Float64Array;
  slope: Float64Array;
  targetHeight: Float64Array;
  /** First pointing of each setup, and the end of the last. */
  starts: Int32Array;
  faces: FacesReport[][];
}

/** Readings as pointings, ordered by setup: the k-th face one of a target with its k-th face two. */
export function pointings(
  { setups, observations: o, numbers }: Survey,
  rowOf: readonly number[],
  t: PointTable,
): Pointings {
  // Readings of one target that wait for their other face, oldest first: a chain for each setup and target.
  const waiting = new Map<number, number>(),
    after = new Int32Array(o.count).fill(-1),
    end = new Int32Array(o.count),
    pair = new Int32Array(o.count).fill(-1);
  const received = new Float64Array(numbers.length).fill(NaN);
  const sizes = new Int32Array(setups.length);
  for (let k = 0; k < o.count; k++) {
    const target = o.target[k]!,
      key = o.setup[k]! * numbers.length + target,
      head = waiting.get(key);
    if (Number.isNaN(received[target]!)) received[target] = o.targetHeight[k]!;
    if (head !== undefined && head >= 0 && o.face[head] !== o.face[k]) {
      pair[head] = k;
      pair[k] = head;
      const following = after[head]!;
      if (following >= 0) end[following] = end[head]!;
      waiting.set(key, following);
      continue;
    }
    sizes[o.setup[k]!]!++;
    if (head === undefined || head < 0) {
      waiting.set(key, k);
      end[k] = k;
    } else {
      after[end[head]!] = k;
      end[head] = k;
    }
  }
  const starts = new Int32Array(setups.length + 1);
  sizes.forEach((size, i) => (starts[i + 1] = starts[i]! + size));
  const total = starts[setups.length]!,
    at = starts.slice();
  const p: Pointings = {
    row: new Int32Array(total),
    number: new Int32Array(total),
    numbers: [...numbers],
    direction: new Float64Array(total),
    isAzimuth: new Uint8Array(total),
    zenith: new Float64Array(total),
    slope: new Float64Array(total),
    targetHeight: new Float64Array(total),
    starts,
    faces: setups.map(() => []),
  };
  for (let k = 0; k < o.count; k++) {
    if (pair[k]! >= 0 && pair[k]! < k) continue;
    const i = at[o.setup[k]!]!++,
      target = o.target[k]!,
      row = rowOf[target]!;
    // A corrected target height of the point moves every shot on it by the same.
    const corrected =
      row >= 0 && t.follows[row] && !Number.isNaN(t.targetHeight[row]!) ? t.targetHeight[row]! - received[target]! : 0;
    const isAzimuth = !Number.isNaN(o.azimuth[k]!);
    const directionOf = (r: number) =>
      isAzimuth ? o.azimuth[r]! : positiveAngle(o.circle[r]! - (o.face[r] === 2 ? Math.PI : 0));
    const zenithOf = (r: number) => (o.face[r] === 2 ? 2 * Math.PI - o.zenith[r]! : o.zenith[r]!);
    p.row[i] = row;
    p.number[i] = target;
    p.isAzimuth[i] = isAzimuth ? 1 : 0;
    if (pair[k]! < 0) {
      p.direction[i] = directionOf(k);
      p.zenith[i] = zenithOf(k);
      p.slope[i] = o.slope[k]!;
      p.targetHeight[i] = o.targetHeight[k]! + corrected;
      continue;
    }
    const [a, b] = o.face[k] === 2 ? [pair[k]!, k] : [k, pair[k]!];
    p.direction[i] = circularMean([directionOf(a), directionOf(b)]);
    p.zenith[i] = (zenithOf(a) + zenithOf(b)) / 2;
    p.slope[i] = (o.slope[a]! + o.slope[b]!) / 2;
    p.targetHeight[i] = (o.targetHeight[a]! + o.targetHeight[b]!) / 2 + corrected;
    p.faces[o.setup[k]!]!.push({
      number: numbers[target]!,
      circle: signedAngle(directionOf(b) - directionOf(a)),
      zenith: o.zenith[a]! + o.zenith[b]! - 2 * Math.PI,
      slope: o.slope[b]! - o.slope[a]!,
    });
  }
  return p;
}

/**
 * Horizontal distance and level difference from station mark to target mark. Lengths in the unit of the options, zenith
 * angle in radians.
 */
export function reduceShot(
  slope: number,
  zenith: number,
  targetHeight: number,
  instrumentHeight: number,
  options: ReduceOptions,
): { distance: number; rise: number } {
  const flat = slope * Math.sin(zenith);
  const bend = options.curvature
    ? ((1 - options.curvature.k) * flat * flat) / (2 * fromMetres(options.curvature.radius, options.unit))
    : 0;
  return {
    distance: flat * options.scaleFactor,
    rise: slope * Math.cos(zenith) + instrumentHeight - targetHeight + bend,
  };
}
