/**
 * The shots whose levels are checked against one another: those that make terrain, in the order in which each crew took
 * them, with the lines that they stand on. Lengths in metres, whatever the job's unit; offsets from a near origin.
 */
import type { CodedPoints } from "../../codes/read";
import type { Chains } from "../../lines/flatten";
import type { Line } from "../../lines/model";
import { METRES, type Unit } from "../../math/units";
import { KINDS } from "../../records/kinds";
import { shotsByIntake } from "../../points/shots";
import type { PointTable } from "../../points/table";
import { alongCurve } from "../../surface/curve";

/** A line's shots in the field, in order. */
export interface FieldString {
  shots: Int32Array;
  closed: boolean;
  /** A fixed breakline: the ground bends there, and what lies on one side says nothing of the other. */
  divides: boolean;
}

export interface LevelField {
  count: number;
  /** East, north and level from which x, y and z count, in the job's unit. */
  origin: readonly [number, number, number];
  x: Float64Array;
  y: Float64Array;
  /** Above a level near the middle of all. */
  z: Float64Array;
  /** Table row of each shot; of shots that are equally far from a position the lower row is the nearer. */
  row: Int32Array;
  /** Shots in the order in which they were taken, one intake after another; what no crew measured is in none. */
  order: Int32Array;
  /** First position in `order` of each intake's shots, and the end. */
  starts: Int32Array;
  strings: readonly FieldString[];
  /** The pieces of dividing lines: x, y of both ends. */
  walls: Float64Array;
}

type Columns = Pick<PointTable, "count" | "e" | "n" | "z" | "kind" | "surface" | "deleted" | "intake" | "row" | "time">;

/** Shots of one very position that enter: more say nothing new of the ground, and are told as coincident. */
const AT_ONE_POSITION = 4;

/** Counts how often positions come, by their bits. */
class PositionCounts {
  private readonly mask: number;
  private readonly first: Int32Array;
  private readonly counts: Uint8Array;
  private readonly at = new Float64Array(2);
  private readonly bits = new Int32Array(this.at.buffer);

  constructor(
    private readonly e: Float64Array,
    private readonly n: Float64Array,
  ) {
    const size = 2 ** Math.ceil(Math.log2(2 * e.length + 2));
    this.mask = size - 1;
    this.first = new Int32Array(size).fill(-1);
    this.counts = new Uint8Array(size);
  }

  /** True while the position of row i has come no more than so many times. */
  isAmongFirst(i: number, most: number): boolean {
    // 0 and −0 are one position.
    this.at[0] = this.e[i]! + 0;
    this.at[1] = this.n[i]! + 0;
    let h = 0;
    for (const b of this.bits) h = Math.imul(h ^ b ^ (b >>> 15), 0x2c1b3c6d) ^ (h >>> 13);
    for (let k = h & this.mask; ; k = (k + 1) & this.mask) {
      const other = this.first[k]!;
      if (other < 0) this.first[k] = i;
      else if (this.e[other] !== this.e[i] || this.n[other] !== this.n[i]) continue;
      if (this.counts[k]! >= most) return false;
      this.counts[k]!++;
      return true;
    }
  }
}

/**
 * The field of a job. `doubtful` marks rows that another check takes out first: zero elevations, exchanged axes. Shots of
 * draped lines do not enter by their own level, as in surfaces.
 */
export function fieldOfJob(
  t: Columns,
  coded: Pick<CodedPoints, "ground" | "usable">,
  lines: readonly Line[],
  chains: Chains,
  doubtful: ReadonlySet<number>,
  unit: Unit,
): LevelField {
  const metres = METRES[unit];
  const draped = new Set<number>();
  for (const l of lines) if (l.entry.breakline === "draped") for (const i of l.shots) draped.add(i);
  for (const l of lines) if (l.entry.breakline === "fixed") for (const i of l.shots) draped.delete(i);
  const positions = new PositionCounts(t.e, t.n),
    taken: number[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || !coded.ground[i] || !coded.usable[i] || !Number.isFinite(t.z[i]!)) continue;
    if (!Number.isFinite(t.e[i]!) || !Number.isFinite(t.n[i]!) || doubtful.has(i) || draped.has(i)) continue;
    if (positions.isAmongFirst(i, AT_ONE_POSITION)) taken.push(i);
  }
  const count = taken.length,
    x = new Float64Array(count),
    y = new Float64Array(count),
    z = new Float64Array(count);
  // Rounded, so that another level of the first shot leaves the others as they are.
  const [oe, on, oz] = count
    ? [t.e[taken[0]!]!, t.n[taken[0]!]!, t.z[taken[0]!]!].map((c) => 100 * Math.round(c / 100))
    : [0, 0, 0];
  // What is near in plan is near in memory: each shot is asked together with those round it.
  const row = Int32Array.from(
      alongCurve(
        Float64Array.from(taken, (i) => t.e[i]!),
        Float64Array.from(taken, (i) => t.n[i]!),
      ),
      (k) => taken[k]!,
    ),
    shotOf = new Int32Array(t.count).fill(-1);
  for (let k = 0; k < count; k++) {
    const i = row[k]!;
    shotOf[i] = k;
    x[k] = (t.e[i]! - oe!) * metres;
    y[k] = (t.n[i]! - on!) * metres;
    z[k] = (t.z[i]! - oz!) * metres;
  }

  const measured = KINDS.indexOf("measured"),
    order = new Int32Array(count),
    starts = [0];
  let ordered = 0;
  for (const shots of shotsByIntake(t)) {
    for (const i of shots) if (shotOf[i]! >= 0 && t.kind[i] === measured) order[ordered++] = shotOf[i]!;
    if (ordered > starts.at(-1)!) starts.push(ordered);
  }

  const strings: FieldString[] = [],
    walls: number[] = [];
  lines.forEach((l, k) => {
    const divides = l.entry.breakline === "fixed";
    const shots = Int32Array.from(l.shots.map((i) => (i >= 0 ? shotOf[i]! : -1)).filter((s) => s >= 0));
    if (!l.companion && shots.length > 1) strings.push({ shots, closed: l.closed, divides });
    if (divides)
      for (let v = chains.starts[k]! + 1; v < chains.starts[k + 1]!; v++)
        for (const w of [v - 1, v])
          walls.push((chains.xyz[3 * w]! - oe!) * metres, (chains.xyz[3 * w + 1]! - on!) * metres);
  });
  return {
    count,
    origin: [oe!, on!, oz!],
    x,
    y,
    z,
    row,
    order: order.slice(0, ordered),
    starts: Int32Array.from(starts),
    strings,
    walls: Float64Array.from(walls),
  };
}
