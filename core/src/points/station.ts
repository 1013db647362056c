/** One setup while its observations are reduced: its shots, its circle's zero, what its sights tell. */
import { azimuthOf, circularMean, signedAngle } from "../math/angles";
import type { SurveySetup } from "../records/survey";
import { reduceShot, type Pointings } from "./pointings";
import type { ReduceOptions } from "./reduce-options";
import type { SetupReport } from "./setup-report";

export interface Station {
  setup: SurveySetup;
  report: SetupReport;
  row: number;
  height: number;
  sights: { number: string; row: number; circle: number; azimuth: number }[];
  /** The survey's pointings and where this setup's begin and end among them. */
  shots: Pointings;
  from: number;
  to: number;
}

/** Plan distance and rise of all that a setup observed of a number, in the mean; NaN where it observed none. */
export function meanShot(s: Station, number: string, options: ReduceOptions): { distance: number; rise: number } {
  const all = shotsOn(s, number).map((k) =>
      reduceShot(s.shots.slope[k]!, s.shots.zenith[k]!, s.shots.targetHeight[k]!, s.height, options),
    ),
    mean = (of: (o: (typeof all)[number]) => number) => all.reduce((sum, o) => sum + of(o), 0) / (all.length || NaN);
  return { distance: mean((o) => o.distance), rise: mean((o) => o.rise) };
}

/** What a setup observed of other known points, by which an orientation is proved: circle readings and distances. */
export function othersKnown(s: Station, number: string, known: Uint8Array, options: ReduceOptions) {
  const out: { row: number; circle: number; distance: number }[] = [];
  for (let k = s.from; k < s.to && out.length < 20; k++) {
    const row = s.shots.row[k]!;
    if (row < 0 || !known[row] || s.shots.isAzimuth[k] || s.shots.numbers[s.shots.number[k]!] === number) continue;
    const { distance } = reduceShot(s.shots.slope[k]!, s.shots.zenith[k]!, s.shots.targetHeight[k]!, s.height, options);
    out.push({ row, circle: s.shots.direction[k]!, distance });
  }
  return out;
}

/** Pointings of one setup at a number. */
export function shotsOn(s: Station, number: string): number[] {
  const wanted = s.shots.numbers.indexOf(number),
    out: number[] = [];
  if (wanted >= 0) for (let k = s.from; k < s.to; k++) if (s.shots.number[k] === wanted) out.push(k);
  return out;
}

function onlyAzimuths(s: Station): boolean {
  for (let k = s.from; k < s.to; k++) if (!s.shots.isAzimuth[k]) return false;
  return true;
}

/**
 * Whether the circle's zero can be found: by a known backsight that was read, or a stated azimuth, or when no shot
 * needs it.
 */
export function canOrient(s: Station, known: Uint8Array): boolean {
  return (
    s.sights.some(
      (b) => !Number.isNaN(circleOn(s, b)) && (!Number.isNaN(b.azimuth) || (b.row >= 0 && known[b.row] === 1)),
    ) || onlyAzimuths(s)
  );
}

/** The circle reading on a backsight: as observed, else as the setup states it. */
export function circleOn(s: Station, b: { number: string; circle: number }): number {
  const read = shotsOn(s, b.number)
    .filter((k) => !s.shots.isAzimuth[k])
    .map((k) => s.shots.direction[k]!);
  return read.length ? circularMean(read) : b.circle;
}

export function orient(
  s: Station,
  at: { e: Float64Array; n: Float64Array; z: Float64Array },
  known: Uint8Array,
  options: ReduceOptions,
): void {
  const angles: number[] = [],
    weights: number[] = [];
  const used = s.sights.flatMap((b) => {
    const circle = circleOn(s, b),
      isKnown = b.row >= 0 && known[b.row] === 1;
    if (Number.isNaN(circle) || (!isKnown && Number.isNaN(b.azimuth))) return [];
    const azimuth = isKnown ? azimuthOf(at.e[s.row]!, at.n[s.row]!, at.e[b.row]!, at.n[b.row]!) : b.azimuth;
    const observed = shotsOn(s, b.number).map((k) =>
      reduceShot(s.shots.slope[k]!, s.shots.zenith[k]!, s.shots.targetHeight[k]!, s.height, options),
    );
    const distance = isKnown
      ? Math.hypot(at.e[b.row]! - at.e[s.row]!, at.n[b.row]! - at.n[s.row]!)
      : (observed[0]?.distance ?? 1);
    angles.push(azimuth - circle);
    weights.push(distance);
    return [{ b, circle, azimuth, isKnown, distance, observed }];
  });
  s.report.orientation = circularMean(angles, weights);
  s.report.backsights = used.map(({ b, circle, azimuth, isKnown, distance, observed }) => {
    const mean = (of: (o: { distance: number; rise: number }) => number) =>
      observed.reduce((sum, o) => sum + of(o), 0) / (observed.length || NaN);
    return {
      number: b.number,
      circle,
      direction: signedAngle(circle + s.report.orientation - azimuth),
      distance: isKnown ? mean((o) => o.distance) - distance : NaN,
      level: isKnown ? at.z[s.row]! + mean((o) => o.rise) - at.z[b.row]! : NaN,
    };
  });
}

export function problemOf(s: Station, known: Uint8Array): string {
  if (s.row < 0)
    return `Station ${s.setup.station || "(without a name)"} is no point of the job. Take its coordinates in as control.`;
  if (!known[s.row])
    return `Station ${s.setup.station} has no coordinates, and no setup that is oriented sees it. Take its coordinates in as control.`;
  if (s.sights.length === 0) return "No backsight is given. Name one whose coordinates are known.";
  const missing = s.sights.filter((b) => b.row < 0 || !known[b.row]).map((b) => b.number);
  return missing.length === s.sights.length
    ? `Backsight ${missing.join(", ")} has no coordinates. Take them in as control, or name another.`
    : "No circle reading on a known backsight is given.";
}
