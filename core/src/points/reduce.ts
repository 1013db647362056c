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
import { likelySights } from "./likely-sight";
import { Determinations } from "./determined";
import { reduceShot } from "./pointings";
import type { ReduceOptions } from "./reduce-options";
import type { SetupReport } from "./setup-report";
import { canOrient, circleOn, meanShot, orient, othersKnown, problemOf, type Station } from "./station";
import { stationsOf, type Stations } from "./stations";
import { GONE_UNPLACED, type Position, type PointTable } from "./table";

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
  const reduction = new Reduction(t, stationsOf(t, delivered, edits), options);
  reduction.reduceInRounds();
  reduction.suggestSights();
  reduction.settle();
  return { points: { ...given, ...reduction.columns() }, setups: reduction.reports };
}

/** Setups with doubtful sights for which likely numbers are looked for. */
const MOST_SUGGESTED = 50;

/** One reduction of a table: its phases are called in their order. */
class Reduction {
  private readonly e: Float64Array;
  private readonly n: Float64Array;
  private readonly z: Float64Array;
  /** 1 for rows whose position is known so far. */
  private readonly known: Uint8Array;
  private readonly determined: Determinations;
  /** Rows that were fixed on the way. */
  private readonly fixed = new Set<number>();
  private readonly stations: readonly Station[];
  private readonly stated: ReadonlyMap<number, Position>;

  constructor(
    private readonly t: PointTable,
    { stations, elsewhere, stated }: Stations,
    private readonly options: ReduceOptions,
  ) {
    const size = t.count + elsewhere.length,
      column = (of: Float64Array, axis: 0 | 1 | 2) =>
        Float64Array.from({ length: size }, (_, i) => (i < t.count ? of[i]! : elsewhere[i - t.count]![axis]));
    [this.e, this.n, this.z] = [column(t.e, 0), column(t.n, 1), column(t.z, 2)];
    this.known = Uint8Array.from({ length: size }, (_, i) => (i >= t.count || t.follows[i] === 0 ? 1 : 0));
    this.determined = new Determinations(
      stations.reduce((sum, s) => sum + s.to - s.from, 0),
      t.count,
    );
    this.stations = stations;
    this.stated = stated;
  }

  get reports(): SetupReport[] {
    return this.stations.map((s) => s.report);
  }

  /** Setups whose station and sights are known, then those that these made known, until none follows any more. */
  reduceInRounds(): void {
    const { known, determined } = this;
    let pending = this.stations.filter((s) => !s.report.out);
    while (pending.length) {
      const ready = pending.filter((s) => s.row >= 0 && known[s.row] && canOrient(s, known));
      if (ready.length === 0) {
        // Nothing follows from what is known: positions that the file itself states are taken, all that pending setups wait
        // for.
        const waited = [...this.stated].filter(([row]) => !known[row]);
        if (waited.length === 0) break;
        for (const [row, at] of waited) this.hold(row, at);
        continue;
      }
      for (const s of ready) this.reduceSetup(s);
      pending = pending.filter((s) => !ready.includes(s));
      for (const s of pending)
        for (const p of [s.row, ...s.sights.map((b) => b.row)])
          if (p >= 0 && !known[p] && determined.has(p)) this.hold(p, determined.mean(p));
    }
    for (const s of pending) s.report.problem = problemOf(s, known);
  }

  /** Looks for the numbers that sights likely have, where what was observed does not fit those that were written. */
  suggestSights(): void {
    const { t, e, n, z, known, options } = this;
    const doubtful = this.stations.filter(
      (s) => !s.report.out && s.row >= 0 && known[s.row] && s.sights.some(this.doubts(s)),
    );
    if (doubtful.length === 0) return;
    const candidates: number[] = [];
    for (let i = 0; i < t.count; i++) if (known[i] && !t.deleted[i] && Number.isFinite(e[i]!)) candidates.push(i);
    for (const s of doubtful.slice(0, MOST_SUGGESTED)) {
      const at = { e, n, z };
      for (const b of s.sights.filter(this.doubts(s)))
        s.report.likely.push(
          ...likelySights(
            { number: b.number, row: b.row, circle: circleOn(s, b), ...meanShot(s, b.number, options) },
            { row: s.row, others: othersKnown(s, b.number, known, options) },
            candidates,
            at,
            (i) => ({ number: t.number[i]!, isControl: this.isControl(i) }),
            options,
          ),
        );
    }
  }

  /** Points that were not known are where the mean of all that was observed of them is; what disagrees is told. */
  settle(): void {
    const { t, e, n, z, determined } = this;
    for (let row = 0; row < t.count; row++) {
      if (!determined.has(row)) continue;
      if (this.known[row]) this.compare(row);
      else {
        [e[row], n[row], z[row]] = determined.mean(row);
        if (determined.hasSeveral(row)) this.tellSpread(row);
      }
    }
  }

  /** The columns of the table that follow; coordinates that the office holds stay as they are. */
  columns(): Pick<PointTable, "e" | "n" | "z" | "deleted"> {
    const { t, e, n, z, determined, fixed } = this,
      axes = [
        [e, t.e, FOLLOWS_E],
        [n, t.n, FOLLOWS_N],
        [z, t.z, FOLLOWS_Z],
      ] as const;
    // Without observations that could be reduced, and not held by a file's own words, a point is nowhere.
    const deleted = t.deleted.map((d, i) =>
      t.follows[i]! & (FOLLOWS_E | FOLLOWS_N) && !determined.has(i) && !fixed.has(i) ? d | GONE_UNPLACED : d,
    );
    for (const [to, from, bit] of axes)
      for (let i = 0; i < t.count; i++) {
        if (!(t.follows[i]! & bit)) to[i] = from[i]!;
        else if (deleted[i]! & GONE_UNPLACED) to[i] = NaN;
      }
    const own = (of: Float64Array) => (of.length === t.count ? of : of.slice(0, t.count));
    return { e: own(e), n: own(n), z: own(z), deleted };
  }

  /** All that a setup observed, from where it stands. */
  private reduceSetup(s: Station): void {
    const { e, n, z, known, options, determined } = this,
      index = this.stations.indexOf(s);
    orient(s, { e, n, z }, known, options);
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
      determined.add(
        target,
        index,
        e[s.row]! + distance * Math.sin(azimuth),
        n[s.row]! + distance * Math.cos(azimuth),
        z[s.row]! + rise,
      );
    }
  }

  private isControl(row: number): boolean {
    return this.t.kind[row] === KINDS.indexOf("control");
  }

  /** Whether a sight is not known, or is not where it was observed. */
  private doubts(s: Station): (b: Station["sights"][number]) => boolean {
    const off = new Map(s.report.backsights.map((b) => [b.number, Math.abs(b.distance)]));
    return (b) => b.row < 0 || !this.known[b.row] || (off.get(b.number) ?? 0) > this.options.tolerance.repeat;
  }

  /** From now on the row is known; what the office holds of it comes first. */
  private hold(i: number, at: Position): void {
    const { t, e, n, z } = this;
    this.known[i] = 1;
    this.fixed.add(i);
    if (t.follows[i]! & FOLLOWS_E) e[i] = at[0];
    if (t.follows[i]! & FOLLOWS_N) n[i] = at[1];
    if (t.follows[i]! & FOLLOWS_Z) z[i] = at[2];
  }

  /** Shots on a known point are checks of it. */
  private compare(row: number): void {
    const { e, n, z, determined } = this,
      { repeat } = this.options.tolerance;
    // A point fixed by its only shot agrees with itself.
    if (this.fixed.has(row) && !determined.hasSeveral(row)) return;
    for (const d of determined.of(row)) {
      const plan = Math.hypot(d.e - e[row]!, d.n - n[row]!),
        level = d.z - z[row]!;
      if (plan > repeat || Math.abs(level) > repeat)
        this.stations[d.setup]!.report.outlying.push({
          row,
          of: this.isControl(row) ? "control" : "repeat",
          plan,
          level,
          at: [e[row]!, n[row]!],
        });
    }
  }

  /** Determinations of one point that lie too far apart. */
  private tellSpread(row: number): void {
    const { plan, level } = this.determined.spread(row),
      { repeat } = this.options.tolerance;
    if (plan <= repeat && level <= repeat) return;
    this.stations[this.determined.lastSetup(row)]!.report.outlying.push({
      row,
      of: "repeat",
      plan,
      level,
      at: [this.e[row]!, this.n[row]!],
    });
  }
}
