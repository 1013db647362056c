/**
 * Raw observations → places, as COMPUTATION.md says: orientation from the backsights, faces averaged, earth curvature and
 * refraction (one coefficient k), plan distances times the scale factor.
 *
 * Setups are reduced in rounds: all whose station and backsights are known, then those that these made known, so that
 * the order of the file does not matter. A point that a later setup stands on or sights is fixed in the round that first gives it;
 * every other point is the mean of all that was observed of it. Shots on known points are checks.
 */
import { KINDS, type Curvature, type Delivered, type SetupEdit, type Tolerances } from "../job/model";
import { azimuthOf, circularMean, positiveAngle, signedAngle } from "../math/angles";
import { fromMetres, type Unit } from "../math/units";
import type { Observations, SurveySetup } from "../records/survey";
import { numberIndex, rowIndex, FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z, type PointTable } from "./table";

export interface ReduceOptions { unit: Unit; tolerance: Tolerances; curvature: Curvature; scaleFactor: number }

export interface BacksightReport {
  number: string;
  /** Circle reading used, radians. */
  circle: number;
  /** Observed minus computed: direction in radians; plan distance and level in the unit, NaN where not observed or not known. */
  direction: number;
  distance: number;
  level: number;
}

export interface FacesReport {
  number: string;
  /** Face two − 180° − face one: twice the collimation over sin z. */
  circle: number;
  /** Sum of both zenith angles − 360°: twice the index error. */
  zenith: number;
  /** Face two − face one. */
  slope: number;
}

/** A shot on a point that is known, or on one observed several times, that differs by more than the tolerance. */
export interface Outlying { number: string; of: "control" | "repeat"; plan: number; level: number; at: [number, number] }

export interface SetupReport {
  intake: number;
  id: string;
  station: string;
  /** As used, and as received. */
  instrumentHeight: number;
  receivedHeight: number;
  backsights: BacksightReport[];
  /** Azimuth of the circle's zero, radians; NaN when it could not be found. */
  orientation: number;
  faces: FacesReport[];
  shots: number;
  /** Shots outside tolerance. */
  outlying: Outlying[];
  out: boolean;
  /** Why the setup gives no points, in a sentence. */
  problem?: string;
}

export interface Reduced { points: PointTable; setups: SetupReport[] }

interface Station {
  intake: number; index: number; setup: SurveySetup; report: SetupReport; place: number; height: number;
  sights: { number: string; place: number; circle: number; azimuth: number }[]; shots: Shot[];
}
/** Both faces of one pointing, averaged, or a lone one. */
interface Shot { target: number; number: string; direction: number; isAzimuth: boolean; zenith: number; slope: number; targetHeight: number }
interface Determination { station: Station; e: number; n: number; z: number }

/** The table with the places that follow from observations; the same table when none does. Inputs are not changed. */
export function reduceObservations(t: PointTable, delivered: readonly Delivered[], edits: readonly (SetupEdit & { intakeIndex: number })[], options: ReduceOptions): Reduced {
  if (!delivered.some((d) => d.survey)) return { points: t, setups: [] };
  const byRow = rowIndex(t), byNumber = numberIndex(t);
  const known = new Uint8Array(t.count);
  const e = t.e.slice(), n = t.n.slice(), z = t.z.slice();
  for (let i = 0; i < t.count; i++) known[i] = t.follows[i] === 0 ? 1 : 0;
  const given = new Map<number, [number, number, number]>();

  const stations = delivered.flatMap(({ survey }, intake): Station[] => {
    if (!survey) return [];
    // A survey speaks of its own points first, by the row that gave them, then of the job's.
    const placeOf = survey.numbers.map((number, k) => {
      const own = survey.numberRow[k] ? byRow(intake, survey.numberRow[k]!) : -1;
      return own >= 0 && !t.deleted[own] ? own : (byNumber.get(number) ?? -1);
    });
    const named = new Map(survey.numbers.map((number, k) => [number, placeOf[k]!]));
    const shots = pointings(survey.setups.length, survey.observations, survey.numbers, placeOf, t);
    return survey.setups.map((setup, index) => {
      const edit = edits.find((x) => x.intakeIndex === intake && x.setup === setup.id);
      const height = edit?.instrumentHeight ?? (Number.isNaN(setup.instrumentHeight) ? 0 : setup.instrumentHeight);
      const sights = (edit?.backsights?.map((number) => setup.backsights.find((b) => b.number === number) ?? { number, circle: NaN, azimuth: NaN, at: undefined }) ?? setup.backsights)
        .map((b) => ({ number: b.number, place: named.get(b.number) ?? byNumber.get(b.number) ?? -1, circle: b.circle, azimuth: b.azimuth, at: b.at }));
      for (const s of sights) if (s.at && s.place >= 0 && !known[s.place]) given.set(s.place, s.at);
      const place = named.get(setup.station) ?? -1;
      if (setup.stationAt && place >= 0 && !known[place]) given.set(place, setup.stationAt);
      const { shots: mine, faces } = shots[index]!;
      const report: SetupReport = {
        intake, id: setup.id, station: setup.station, instrumentHeight: height, receivedHeight: setup.instrumentHeight, backsights: [], orientation: NaN,
        faces, shots: mine.length, outlying: [], out: edit?.out ?? false,
      };
      return { intake, index, setup, report, place, height, sights, shots: mine };
    });
  });

  const found = new Map<number, Determination[]>();
  const fixed = new Set<number>();
  let pending = stations.filter((s) => !s.report.out);
  while (pending.length) {
    const ready = pending.filter((s) => s.place >= 0 && known[s.place] && canOrient(s, known));
    if (ready.length === 0) {
      // Nothing follows from what is known: places that the file itself states are taken, all that pending setups wait for.
      const stated = [...given].filter(([place]) => !known[place]);
      if (stated.length === 0) break;
      for (const [place, at] of stated) hold(place, at);
      continue;
    }
    for (const s of ready) {
      orient(s, { e, n, z }, known, options);
      for (const shot of s.shots) {
        if (shot.target < 0) continue;
        const d = { station: s, ...place(s, shot, { e, n, z }, options) };
        const list = found.get(shot.target);
        if (list) list.push(d);
        else found.set(shot.target, [d]);
      }
    }
    pending = pending.filter((s) => !ready.includes(s));
    for (const s of pending) for (const p of [s.place, ...s.sights.map((b) => b.place)]) {
      const list = p >= 0 && !known[p] ? found.get(p) : undefined;
      if (list) hold(p, meanOf(list));
    }
  }
  for (const s of pending) s.report.problem = problemOf(s, known);
  for (const [target, list] of found) {
    if (known[target]) compare(target, list, fixed.has(target));
    else {
      const mean = meanOf(list);
      [e[target], n[target]] = mean;
      z[target] = mean[2];
      spread(target, list, mean);
    }
  }
  // Coordinates that the office holds stay as they are.
  for (let i = 0; i < t.count; i++) {
    if (!(t.follows[i]! & FOLLOWS_E)) e[i] = t.e[i]!;
    if (!(t.follows[i]! & FOLLOWS_N)) n[i] = t.n[i]!;
    if (!(t.follows[i]! & FOLLOWS_Z)) z[i] = t.z[i]!;
  }
  return { points: { ...t, e, n, z }, setups: stations.map((s) => s.report) };

  /** From now on the place is known; what the office holds of it comes first. */
  function hold(i: number, at: readonly [number, number, number]): void {
    known[i] = 1;
    fixed.add(i);
    if (t.follows[i]! & FOLLOWS_E) e[i] = at[0];
    if (t.follows[i]! & FOLLOWS_N) n[i] = at[1];
    if (t.follows[i]! & FOLLOWS_Z) z[i] = at[2];
  }

  /** Shots on a known point are checks of it. */
  function compare(target: number, list: readonly Determination[], isFixed: boolean): void {
    const control = t.kind[target] === KINDS.indexOf("control");
    if (isFixed && list.length < 2) return;
    for (const d of list) {
      const plan = Math.hypot(d.e - e[target]!, d.n - n[target]!), level = d.z - z[target]!;
      if (plan > options.tolerance.repeat || Math.abs(level) > options.tolerance.repeat) {
        d.station.report.outlying.push({ number: t.number[target]!, of: control ? "control" : "repeat", plan, level, at: [e[target]!, n[target]!] });
      }
    }
  }

  /** The largest distance between two of the determinations of one point. */
  function spread(target: number, list: readonly Determination[], mean: readonly [number, number, number]): void {
    if (list.length < 2) return;
    let plan = 0, level = 0;
    // Of very many the first stand for all: the pairs of a thousand shots on one point tell nothing more.
    const some = list.slice(0, 200);
    for (const [k, a] of some.entries()) for (const b of some.slice(k + 1)) {
      plan = Math.max(plan, Math.hypot(a.e - b.e, a.n - b.n));
      if (Math.abs(a.z - b.z) > level) level = Math.abs(a.z - b.z);
    }
    if (plan <= options.tolerance.repeat && level <= options.tolerance.repeat) return;
    list.at(-1)!.station.report.outlying.push({ number: t.number[target]!, of: "repeat", plan, level, at: [mean[0], mean[1]] });
  }
}

/** Readings of each setup as pointings: the k-th face one of a target with its k-th face two. */
function pointings(setups: number, o: Observations, numbers: readonly string[], placeOf: readonly number[], t: PointTable): { shots: Shot[]; faces: FacesReport[] }[] {
  const groups = new Map<number, { one: number[]; two: number[] }>();
  for (let k = 0; k < o.count; k++) {
    const key = o.setup[k]! * numbers.length + o.target[k]!;
    let group = groups.get(key);
    if (!group) groups.set(key, (group = { one: [], two: [] }));
    (o.face[k] === 2 ? group.two : group.one).push(k);
  }
  const received = new Map<number, number>();
  for (let k = 0; k < o.count; k++) if (!received.has(o.target[k]!)) received.set(o.target[k]!, o.targetHeight[k]!);
  const out = Array.from({ length: setups }, () => ({ shots: [] as Shot[], faces: [] as FacesReport[] }));
  for (const [key, { one, two }] of groups) {
    const target = key % numbers.length, setup = (key - target) / numbers.length;
    const place = placeOf[target]!, number = numbers[target]!;
    // A corrected target height of the point moves every shot on it by the same.
    const corrected = place >= 0 && t.follows[place] && !Number.isNaN(t.targetHeight[place]!) ? t.targetHeight[place]! - received.get(target)! : 0;
    for (let k = 0; k < Math.max(one.length, two.length); k++) {
      const a = one[k], b = two[k], any = (a ?? b)!;
      const isAzimuth = !Number.isNaN(o.azimuth[any]!);
      const directionOf = (i: number) => (isAzimuth ? o.azimuth[i]! : o.circle[i]!);
      const targetHeight = o.targetHeight[any]! + corrected;
      if (a !== undefined && b !== undefined) {
        const second = positiveAngle(directionOf(b) - (isAzimuth ? 0 : Math.PI)), zenith = 2 * Math.PI - o.zenith[b]!;
        out[setup]!.shots.push({
          target: place, number, isAzimuth, direction: circularMean([directionOf(a), second]), zenith: (o.zenith[a]! + zenith) / 2, slope: (o.slope[a]! + o.slope[b]!) / 2,
          targetHeight: (o.targetHeight[a]! + o.targetHeight[b]!) / 2 + corrected,
        });
        out[setup]!.faces.push({ number, circle: signedAngle(second - directionOf(a)), zenith: o.zenith[a]! + o.zenith[b]! - 2 * Math.PI, slope: o.slope[b]! - o.slope[a]! });
      } else if (b !== undefined) {
        out[setup]!.shots.push({ target: place, number, isAzimuth, direction: positiveAngle(directionOf(b) - (isAzimuth ? 0 : Math.PI)), zenith: 2 * Math.PI - o.zenith[b]!, slope: o.slope[b]!, targetHeight });
      } else out[setup]!.shots.push({ target: place, number, isAzimuth, direction: positiveAngle(directionOf(any)), zenith: o.zenith[any]!, slope: o.slope[any]!, targetHeight });
    }
  }
  return out;
}

/** Whether the circle's zero can be found: by a known backsight that was read, or a stated azimuth, or when no shot needs it. */
function canOrient(s: Station, known: Uint8Array): boolean {
  return s.sights.some((b) => !Number.isNaN(circleOn(s, b)) && (!Number.isNaN(b.azimuth) || (b.place >= 0 && known[b.place] === 1))) || s.shots.every((x) => x.isAzimuth);
}

/** The circle reading on a backsight: as observed, else as the setup states it. */
function circleOn(s: Station, b: { number: string; circle: number }): number {
  const read = s.shots.filter((x) => x.number === b.number && !x.isAzimuth).map((x) => x.direction);
  return read.length ? circularMean(read) : b.circle;
}

function orient(s: Station, at: { e: Float64Array; n: Float64Array; z: Float64Array }, known: Uint8Array, options: ReduceOptions): void {
  const angles: number[] = [], weights: number[] = [];
  const used = s.sights.flatMap((b) => {
    const circle = circleOn(s, b), isKnown = b.place >= 0 && known[b.place] === 1;
    if (Number.isNaN(circle) || (!isKnown && Number.isNaN(b.azimuth))) return [];
    const azimuth = isKnown ? azimuthOf(at.e[s.place]!, at.n[s.place]!, at.e[b.place]!, at.n[b.place]!) : b.azimuth;
    const shots = s.shots.filter((x) => x.number === b.number);
    const observed = shots.map((x) => reduceShot(x, s.height, options));
    const distance = isKnown ? Math.hypot(at.e[b.place]! - at.e[s.place]!, at.n[b.place]! - at.n[s.place]!) : (observed[0]?.distance ?? 1);
    angles.push(azimuth - circle);
    weights.push(distance);
    return [{ b, circle, azimuth, isKnown, distance, observed }];
  });
  s.report.orientation = circularMean(angles, weights);
  s.report.backsights = used.map(({ b, circle, azimuth, isKnown, distance, observed }) => {
    const mean = (of: (o: { distance: number; rise: number }) => number) => observed.reduce((sum, o) => sum + of(o), 0) / (observed.length || NaN);
    return {
      number: b.number, circle, direction: signedAngle(circle + s.report.orientation - azimuth),
      distance: isKnown ? mean((o) => o.distance) - distance : NaN, level: isKnown ? at.z[s.place]! + mean((o) => o.rise) - at.z[b.place]! : NaN,
    };
  });
}

/** Horizontal distance and level difference from station mark to target mark. */
export function reduceShot(x: { slope: number; zenith: number; targetHeight: number }, instrumentHeight: number, options: ReduceOptions): { distance: number; rise: number } {
  const flat = x.slope * Math.sin(x.zenith);
  const bend = options.curvature ? ((1 - options.curvature.k) * flat * flat) / (2 * fromMetres(options.curvature.radius, options.unit)) : 0;
  return { distance: flat * options.scaleFactor, rise: x.slope * Math.cos(x.zenith) + instrumentHeight - x.targetHeight + bend };
}

function place(s: Station, x: Shot, at: { e: Float64Array; n: Float64Array; z: Float64Array }, options: ReduceOptions): { e: number; n: number; z: number } {
  const { distance, rise } = reduceShot(x, s.height, options);
  const azimuth = x.isAzimuth ? x.direction : x.direction + s.report.orientation;
  return { e: at.e[s.place]! + distance * Math.sin(azimuth), n: at.n[s.place]! + distance * Math.cos(azimuth), z: at.z[s.place]! + rise };
}

function meanOf(list: readonly Determination[]): [number, number, number] {
  const first = list[0]!;
  // Means of differences from the first keep every digit of large coordinates.
  const mean = (of: (d: Determination) => number) => of(first) + list.reduce((s, d) => s + (of(d) - of(first)), 0) / list.length;
  return [mean((d) => d.e), mean((d) => d.n), mean((d) => d.z)];
}

function problemOf(s: Station, known: Uint8Array): string {
  if (s.place < 0) return `Station ${s.setup.station || "(without a name)"} is no point of the job. Take its coordinates in as control.`;
  if (!known[s.place]) return `Station ${s.setup.station} has no coordinates, and no setup that is oriented sees it. Take its coordinates in as control.`;
  if (s.sights.length === 0) return "No backsight is given. Name one whose coordinates are known.";
  const missing = s.sights.filter((b) => b.place < 0 || !known[b.place]).map((b) => b.number);
  return missing.length === s.sights.length ? `Backsight ${missing.join(", ")} has no coordinates. Take them in as control, or name another.` : "No circle reading on a known backsight is given.";
}
