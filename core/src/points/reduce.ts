/**
 * Raw observations → positions, as COMPUTATION.md says: orientation from the backsights, faces averaged, earth curvature
 * and refraction (one coefficient k), plan distances times the scale factor.
 *
 * Setups are reduced in rounds: all whose station and backsights are known, then those that these made known, so that
 * the order of the file does not matter. A point that a later setup stands on or sights is fixed in the round that
 * first gives it; every other point is the mean of all that was observed of it. Shots on known points are checks.
 */
import type { Tolerances } from "../math/tolerances";
import type { Curvature, SetupEdit } from "./setups";
import type { Delivered } from "../records/delivered";
import { KINDS } from "../records/kinds";
import { azimuthOf, circularMean, positiveAngle, signedAngle } from "../math/angles";
import { fromMetres, type Unit } from "../math/units";
import type { Survey, SurveySetup } from "../records/survey";
import { fieldIndex } from "./index";
import { GONE_UNPLACED, rowIndex, FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z, type Position, type PointTable } from "./table";

export interface ReduceOptions {
  unit: Unit;
  tolerance: Tolerances;
  curvature: Required<Exclude<Curvature, false>> | false;
  scaleFactor: number;
}

export interface BacksightReport {
  number: string;
  /** Circle reading used, radians. */
  circle: number;
  /**
   * Observed minus computed: direction in radians; plan distance and level in the unit, NaN where not observed or not
   * known.
   */
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

/**
 * A shot on a point that is known, or on one observed several times, that differs by more than the tolerance. `row`
 * is the point's in the table.
 */
export interface Outlying {
  row: number;
  of: "control" | "repeat";
  plan: number;
  level: number;
  at: [number, number];
}

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

export interface Reduced {
  points: PointTable;
  setups: SetupReport[];
}

interface Station {
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

/** Both faces of one pointing, averaged, or a lone one; ordered by setup. */
interface Pointings {
  /** Table row of the target, −1 for none; and its index among the survey's numbers. */
  row: Int32Array;
  number: Int32Array;
  numbers: readonly string[];
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

/**
 * The table with the positions that follow from observations; an observed point that none of them gives a position has
 * GONE_UNPLACED. The same table when none is observed. Inputs are not changed.
 */
export function reduceObservations(
  given: PointTable,
  delivered: readonly Delivered[],
  edits: readonly (SetupEdit & { intakeIndex: number })[],
  options: ReduceOptions,
): Reduced {
  if (!delivered.some((d) => d.survey)) return { points: given, setups: [] };
  // Whether a point has a position is found anew each time.
  const t = given.deleted.some((d) => d & GONE_UNPLACED)
    ? { ...given, deleted: given.deleted.map((d) => d & ~GONE_UNPLACED) }
    : given;
  const byRow = rowIndex(t),
    // Files name points by the numbers that these came with.
    fieldRow = fieldIndex(t);
  const isGiven = (i: number) => t.follows[i] === 0;
  const stated = new Map<number, Position>();

  // Behind the table's rows stand those that a file states for a station or backsight which is no point of the job.
  const elsewhere: Position[] = [];

  const stations = delivered.flatMap(({ survey }, intake): Station[] => {
    if (!survey) return [];
    // A survey speaks of its own points first, by the row that gave them, then of the job's.
    const rowOf = survey.numbers.map((number, k) => {
      const own = survey.numberRow[k] ? byRow(intake, survey.numberRow[k]!) : -1;
      return own >= 0 && !t.deleted[own] ? own : fieldRow(intake, number);
    });
    const named = new Map(survey.numbers.map((number, k) => [number, rowOf[k]!]));
    /** The row of a number; what the file states of it counts where the job has no point of that number. */
    const locate = (number: string, at: Position | undefined): number => {
      const row = named.get(number) ?? fieldRow(intake, number);
      if (!at) return row;
      if (row < 0) {
        const next = t.count + elsewhere.push(at) - 1;
        if (number !== "") named.set(number, next);
        return next;
      }
      if (row < t.count && !isGiven(row)) stated.set(row, at);
      return row;
    };
    const shots = pointings(survey, rowOf, t);
    return survey.setups.map((setup, index): Station => {
      const edit = edits.find((x) => x.intakeIndex === intake && x.setup === setup.id);
      const height = edit?.instrumentHeight ?? (Number.isNaN(setup.instrumentHeight) ? 0 : setup.instrumentHeight);
      const sights = (
        edit?.backsights?.map(
          (number) =>
            setup.backsights.find((b) => b.number === number) ?? { number, circle: NaN, azimuth: NaN, at: undefined },
        ) ?? setup.backsights
      ).map((b) => ({ number: b.number, row: locate(b.number, b.at), circle: b.circle, azimuth: b.azimuth }));
      const row = locate(setup.station, setup.stationAt);
      const from = shots.starts[index]!,
        to = shots.starts[index + 1]!;
      const report: SetupReport = {
        intake,
        id: setup.id,
        station: setup.station,
        instrumentHeight: height,
        receivedHeight: setup.instrumentHeight,
        backsights: [],
        orientation: NaN,
        faces: shots.faces[index]!,
        shots: to - from,
        outlying: [],
        out: edit?.out ?? false,
      };
      return { setup, report, row, height, sights, shots, from, to };
    });
  });

  const size = t.count + elsewhere.length;
  const column = (of: Float64Array, axis: 0 | 1 | 2) =>
    Float64Array.from({ length: size }, (_, i) => (i < t.count ? of[i]! : elsewhere[i - t.count]![axis]));
  const e = column(t.e, 0),
    n = column(t.n, 1),
    z = column(t.z, 2);
  const known = Uint8Array.from({ length: size }, (_, i) => (i >= t.count || isGiven(i) ? 1 : 0));

  // All determinations of positions, chained for each row from its first to its last.
  const most = stations.reduce((sum, s) => sum + s.to - s.from, 0);
  const de = new Float64Array(most),
    dn = new Float64Array(most),
    dz = new Float64Array(most),
    by = new Int32Array(most),
    next = new Int32Array(most).fill(-1);
  const first = new Int32Array(t.count).fill(-1),
    last = new Int32Array(t.count).fill(-1);
  let determined = 0;
  const fixed = new Set<number>();
  let pending = stations.filter((s) => !s.report.out);
  while (pending.length) {
    const ready = pending.filter((s) => s.row >= 0 && known[s.row] && canOrient(s, known));
    if (ready.length === 0) {
      // Nothing follows from what is known: positions that the file itself states are taken, all that pending setups wait
      // for.
      const waited = [...stated].filter(([row]) => !known[row]);
      if (waited.length === 0) break;
      for (const [row, at] of waited) hold(row, at);
      continue;
    }
    for (const s of ready) {
      orient(s, { e, n, z }, known, options);
      const index = stations.indexOf(s);
      for (let k = s.from; k < s.to; k++) {
        const target = s.shots.row[k]!;
        if (target < 0) continue;
        const { distance, rise } = reduceShot(
          s.shots.slope[k]!,
          s.shots.zenith[k]!,
          s.shots.targetHeight[k]!,
          s.height,
          options,
        );
        const azimuth = s.shots.isAzimuth[k] ? s.shots.direction[k]! : s.shots.direction[k]! + s.report.orientation;
        const d = determined++;
        de[d] = e[s.row]! + distance * Math.sin(azimuth);
        dn[d] = n[s.row]! + distance * Math.cos(azimuth);
        dz[d] = z[s.row]! + rise;
        by[d] = index;
        if (first[target]! < 0) first[target] = d;
        else next[last[target]!] = d;
        last[target] = d;
      }
    }
    pending = pending.filter((s) => !ready.includes(s));
    for (const s of pending)
      for (const p of [s.row, ...s.sights.map((b) => b.row)])
        if (p >= 0 && !known[p] && first[p]! >= 0) hold(p, meanOf(p));
  }
  for (const s of pending) s.report.problem = problemOf(s, known);
  for (let target = 0; target < t.count; target++) {
    if (first[target]! < 0) continue;
    if (known[target]) compare(target);
    else {
      const mean = meanOf(target);
      [e[target], n[target], z[target]] = mean;
      if (next[first[target]!]! >= 0) spread(target, mean);
    }
  }
  // Coordinates that the office holds stay as they are.
  for (let i = 0; i < t.count; i++) {
    if (!(t.follows[i]! & FOLLOWS_E)) e[i] = t.e[i]!;
    if (!(t.follows[i]! & FOLLOWS_N)) n[i] = t.n[i]!;
    if (!(t.follows[i]! & FOLLOWS_Z)) z[i] = t.z[i]!;
  }
  // Without observations that could be reduced, and not held by a file's own words, a point is nowhere.
  const deleted = t.deleted.map((d, i) =>
    t.follows[i]! & (FOLLOWS_E | FOLLOWS_N) && first[i]! < 0 && !fixed.has(i) ? d | GONE_UNPLACED : d,
  );
  for (let i = 0; i < t.count; i++) {
    if (!(deleted[i]! & GONE_UNPLACED)) continue;
    if (t.follows[i]! & FOLLOWS_E) e[i] = NaN;
    if (t.follows[i]! & FOLLOWS_N) n[i] = NaN;
    if (t.follows[i]! & FOLLOWS_Z) z[i] = NaN;
  }
  const own = (of: Float64Array) => (size === t.count ? of : of.slice(0, t.count));
  return { points: { ...given, e: own(e), n: own(n), z: own(z), deleted }, setups: stations.map((s) => s.report) };

  /** From now on the row is known; what the office holds of it comes first. */
  function hold(i: number, at: readonly [number, number, number]): void {
    known[i] = 1;
    fixed.add(i);
    if (t.follows[i]! & FOLLOWS_E) e[i] = at[0];
    if (t.follows[i]! & FOLLOWS_N) n[i] = at[1];
    if (t.follows[i]! & FOLLOWS_Z) z[i] = at[2];
  }

  function* determinations(target: number): Generator<number> {
    for (let d = first[target]!; d >= 0; d = next[d]!) yield d;
  }

  function meanOf(target: number): [number, number, number] {
    const f = first[target]!;
    // Means of differences from the first keep every digit of large coordinates.
    let se = 0,
      sn = 0,
      sz = 0,
      count = 0;
    for (let d = f; d >= 0; d = next[d]!, count++) {
      se += de[d]! - de[f]!;
      sn += dn[d]! - dn[f]!;
      sz += dz[d]! - dz[f]!;
    }
    return [de[f]! + se / count, dn[f]! + sn / count, dz[f]! + sz / count];
  }

  /** Shots on a known point are checks of it. */
  function compare(target: number): void {
    const control = t.kind[target] === KINDS.indexOf("control");
    // A point fixed by its only shot agrees with itself.
    if (fixed.has(target) && next[first[target]!]! < 0) return;
    for (const d of determinations(target)) {
      const plan = Math.hypot(de[d]! - e[target]!, dn[d]! - n[target]!),
        level = dz[d]! - z[target]!;
      if (plan > options.tolerance.repeat || Math.abs(level) > options.tolerance.repeat) {
        stations[by[d]!]!.report.outlying.push({
          row: target,
          of: control ? "control" : "repeat",
          plan,
          level,
          at: [e[target]!, n[target]!],
        });
      }
    }
  }

  /** The largest distance between two of the determinations of one point. */
  function spread(target: number, mean: readonly [number, number, number]): void {
    let plan = 0,
      level = 0;
    // Of very many the first stand for all: the pairs of a thousand shots on one point tell nothing more.
    const some = [...determinations(target)].slice(0, 200);
    for (const [k, a] of some.entries())
      for (const b of some.slice(k + 1)) {
        plan = Math.max(plan, Math.hypot(de[a]! - de[b]!, dn[a]! - dn[b]!));
        if (Math.abs(dz[a]! - dz[b]!) > level) level = Math.abs(dz[a]! - dz[b]!);
      }
    if (plan <= options.tolerance.repeat && level <= options.tolerance.repeat) return;
    stations[by[last[target]!]!]!.report.outlying.push({
      row: target,
      of: "repeat",
      plan,
      level,
      at: [mean[0], mean[1]],
    });
  }
}

/** Readings as pointings, ordered by setup: the k-th face one of a target with its k-th face two. */
function pointings({ setups, observations: o, numbers }: Survey, rowOf: readonly number[], t: PointTable): Pointings {
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
    numbers,
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

/** Pointings of one setup at a number. */
function shotsOn(s: Station, number: string): number[] {
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
function canOrient(s: Station, known: Uint8Array): boolean {
  return (
    s.sights.some(
      (b) => !Number.isNaN(circleOn(s, b)) && (!Number.isNaN(b.azimuth) || (b.row >= 0 && known[b.row] === 1)),
    ) || onlyAzimuths(s)
  );
}

/** The circle reading on a backsight: as observed, else as the setup states it. */
function circleOn(s: Station, b: { number: string; circle: number }): number {
  const read = shotsOn(s, b.number)
    .filter((k) => !s.shots.isAzimuth[k])
    .map((k) => s.shots.direction[k]!);
  return read.length ? circularMean(read) : b.circle;
}

function orient(
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

function problemOf(s: Station, known: Uint8Array): string {
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
