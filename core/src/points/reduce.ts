/**
 * Raw observations → positions, as COMPUTATION.md says: orientation from the backsights, faces averaged, earth curvature
 * and refraction (one coefficient k), plan distances times the scale factor.
 *
 * Setups are reduced in rounds: all whose station and backsights are known, then those that these made known, so that
 * the order of the file does not matter. A point that a later setup stands on or sights is fixed in the round that
 * first gives it; every other point is the mean of all that was observed of it. Shots on known points are checks.
 */
import type { SetupEdit } from "./setups";
import type { Delivered } from "../records/delivered";
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z, KINDS } from "../records/kinds";
import { fieldIndex } from "./index";
import { likelySights } from "./likely-sight";
import { pointings, reduceShot, type Pointings } from "./pointings";
import type { ReduceOptions } from "./reduce-options";
import type { SetupReport } from "./setup-report";
import { canOrient, circleOn, meanShot, orient, othersKnown, problemOf, type Station } from "./station";
import { GONE_UNPLACED, rowIndex, type Position, type PointTable } from "./table";

export interface Reduced {
  points: PointTable;
  setups: SetupReport[];
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
      const edit = edits.find((x) => x.intakeIndex === intake && x.setup === setup.id),
        renamed = new Map(edit?.renamed?.map(({ was, is }) => [was, is]));
      for (const [was, is] of renamed) renameShots(shots, index, was, is, locate(is, undefined));
      const height = edit?.instrumentHeight ?? (Number.isNaN(setup.instrumentHeight) ? 0 : setup.instrumentHeight);
      // What the file states of the place of a sight is of the number that it wrote.
      const received = setup.backsights.map((b) =>
        renamed.has(b.number) ? { ...b, number: renamed.get(b.number)!, at: undefined } : b,
      );
      const sights = (
        edit?.backsights?.map(
          (number) => received.find((b) => b.number === number) ?? { number, circle: NaN, azimuth: NaN, at: undefined },
        ) ?? received
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
        sights: setup.backsights.map((b) => b.number),
        likely: [],
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
  suggest();
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

  /** Looks for the numbers that sights likely have, where what was observed does not fit those that were written. */
  function suggest(): void {
    const doubtful = stations.filter((s) => !s.report.out && s.row >= 0 && known[s.row] && s.sights.some(doubts(s)));
    if (doubtful.length === 0) return;
    const candidates: number[] = [];
    for (let i = 0; i < t.count; i++) if (known[i] && !t.deleted[i] && Number.isFinite(e[i]!)) candidates.push(i);
    for (const s of doubtful.slice(0, MOST_SUGGESTED)) {
      const at = { e, n, z };
      for (const b of s.sights.filter(doubts(s)))
        s.report.likely.push(
          ...likelySights(
            { number: b.number, row: b.row, circle: circleOn(s, b), ...meanShot(s, b.number, options) },
            { row: s.row, others: othersKnown(s, b.number, known, options) },
            candidates,
            at,
            (i) => ({ number: t.number[i]!, isControl: t.kind[i] === KINDS.indexOf("control") }),
            options,
          ),
        );
    }
  }

  /** Whether a sight is not known, or is not where it was observed. */
  function doubts(s: Station): (b: Station["sights"][number]) => boolean {
    const off = new Map(s.report.backsights.map((b) => [b.number, Math.abs(b.distance)]));
    return (b) => b.row < 0 || !known[b.row] || (off.get(b.number) ?? 0) > options.tolerance.repeat;
  }

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

/** Setups with doubtful sights for which likely numbers are looked for. */
const MOST_SUGGESTED = 50;

/** From now on all that a setup observed of one number is of another, which has a row of its own. */
function renameShots(p: Pointings, setup: number, was: string, is: string, row: number): void {
  const from = p.numbers.indexOf(was);
  if (from < 0 || was === is) return;
  let to = p.numbers.indexOf(is);
  if (to < 0) to = p.numbers.push(is) - 1;
  for (let k = p.starts[setup]!; k < p.starts[setup + 1]!; k++)
    if (p.number[k] === from) {
      p.number[k] = to;
      p.row[k] = row;
    }
}
