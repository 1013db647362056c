/** Few points far from all others: a slip of a digit, exchanged axes, another unit (COMPUTATION.md, "Far away"). */
import { notice, pts, say, type Noticed } from "../finding";
import type { IntakeInfo } from "../intake/model";
import { decimalSteps } from "../math/decimal";
import { formatFixed } from "../math/round";
import { decimalsOf, lengthText, unitFactor, UNITS, type Unit } from "../math/units";
import type { PointTable } from "../points/table";

/** Positions east and north, two columns of one length and one unit; those not there are left out beforehand. */
export interface Positions {
  e: ArrayLike<number>;
  n: ArrayLike<number>;
}

/** What would bring a point back to the others. */
export interface Explained {
  /** In words, after “its”: “northing may have a wrong digit”. */
  words: string;
  /** Where the point would be then, in the frame and the unit of the positions. */
  e: number;
  n: number;
}

/** A box along the axes, in the unit of the positions. */
interface Box {
  minE: number;
  maxE: number;
  minN: number;
  maxN: number;
}

/** Shares of a job, and a number, that few points are at most; one point is few in any job that has so many. */
const FEW_SHARE = 0.01,
  FEW = 20,
  ENOUGH = 20;
/** So many more than few may be far at first: one after another the nearest is counted among the others. */
const MORE = 8;
/** The box of the others lies between these shares of their coordinates. */
const SHARE = 0.01;
/** Cells each way into which the box is divided to find what is near without looking at all. */
const CELLS = 64;

export interface FarAway {
  /** Indices into the positions, rising, and how far each is from the nearest other, in their unit. */
  far: number[];
  distance: number[];
  /** The others' box. */
  box: Box;
}

/**
 * The few positions that are farther from all others than the larger side of the others' box; none where they are more
 * than few, or too few others tell what is usual. Linear but for a sort.
 */
export function farAway({ e, n }: Positions): FarAway | undefined {
  const count = e.length;
  if (count < ENOUGH) return undefined;
  const few = Math.min(FEW, Math.ceil(FEW_SHARE * count)),
    [east, north] = [Float64Array.from(e).sort(), Float64Array.from(n).sort()];
  // Without as many at either end as few points are, and as the others' box leaves out: no larger than that is.
  let box = boxOf(east.subarray(few, count - few), north.subarray(few, count - few), SHARE),
    suspects = beyond({ e, n }, box, undefined);
  for (;;) {
    if (suspects.length === 0) return undefined;
    const without = new Set(suspects.map((x) => x.at));
    box = boxOf(restOf(east, e, without), restOf(north, n, without), SHARE);
    const still = beyond({ e, n }, box, without);
    if (still.length < suspects.length) suspects = still;
    else if (still.length <= few) return { far: still.map((x) => x.at), distance: still.map((x) => x.distance), box };
    else if (still.length > few + MORE) return undefined;
    else {
      // Too many of them: the nearest counts among the others, and whether the rest stay far is seen again.
      const nearest = Math.min(...still.map((x) => x.distance));
      suspects = still.filter((x) => x.distance > nearest);
    }
  }
}

/** A rising list of numbers without those at some indices of the list that it was sorted from. */
function restOf(sorted: Float64Array, of: ArrayLike<number>, without: ReadonlySet<number>): Float64Array {
  const gone = Float64Array.from(without, (i) => of[i]!).sort(),
    out = new Float64Array(sorted.length - gone.length);
  for (let k = 0, g = 0, to = 0; k < sorted.length; k++)
    if (g < gone.length && sorted[k] === gone[g]) g++;
    else out[to++] = sorted[k]!;
  return out;
}

function boxOf(e: Float64Array, n: Float64Array, share: number): Box {
  const last = e.length - 1,
    [low, high] = [Math.floor(share * last), Math.ceil((1 - share) * last)];
  return { minE: e[low]!, maxE: e[high]!, minN: n[low]!, maxN: n[high]! };
}

/** Of `among` (all where left out) those farther than the box's larger side from all that are not such themselves. */
function beyond(
  { e, n }: Positions,
  box: Box,
  among: ReadonlySet<number> | undefined,
): { at: number; distance: number }[] {
  const limit = Math.max(box.maxE - box.minE, box.maxN - box.minN),
    { standIn, reach } = standIns({ e, n }, box),
    outside: number[] = [];
  for (let i = 0; i < e.length; i++)
    if (e[i]! < box.minE || e[i]! > box.maxE || n[i]! < box.minN || n[i]! > box.maxN) outside.push(i);
  const between = (i: number, j: number) => Math.hypot(e[i]! - e[j]!, n[i]! - n[j]!);
  /** How far the nearest within the box is: exactly where that matters, else within or beyond the limit. */
  const toBox = (i: number) => {
    let nearest = Infinity;
    for (const j of standIn) {
      nearest = Math.min(nearest, between(i, j));
      if (nearest <= limit) return nearest;
    }
    if (nearest - reach > limit) return nearest;
    for (let j = 0; j < e.length; j++)
      if (e[j]! >= box.minE && e[j]! <= box.maxE && n[j]! >= box.minN && n[j]! <= box.maxN)
        nearest = Math.min(nearest, between(i, j));
    return nearest;
  };
  let alone: { at: number; distance: number }[] = [];
  const near: number[] = [];
  for (const i of outside) {
    const distance = among && !among.has(i) ? 0 : toBox(i);
    if (distance > limit) alone.push({ at: i, distance });
    else near.push(i);
  }
  // What lies near one that is not alone is not alone either.
  for (let fresh = near; fresh.length > 0 && alone.length > 0;) {
    const joined: number[] = [];
    alone = alone.filter((a) => {
      for (const j of fresh) a.distance = Math.min(a.distance, between(a.at, j));
      if (a.distance <= limit) joined.push(a.at);
      return a.distance > limit;
    });
    fresh = joined;
  }
  return alone;
}

/** One position of each cell of a box that has any, and how far others of its cell may be from it. */
function standIns({ e, n }: Positions, { minE, maxE, minN, maxN }: Box): { standIn: number[]; reach: number } {
  const [wide, high] = [(maxE - minE) / CELLS, (maxN - minN) / CELLS],
    cells = new Int32Array(CELLS * CELLS).fill(-1),
    cell = (x: number, size: number) => (size > 0 ? Math.min(CELLS - 1, Math.floor(x / size)) : 0);
  for (let i = 0; i < e.length; i++)
    if (e[i]! >= minE && e[i]! <= maxE && n[i]! >= minN && n[i]! <= maxN)
      cells[CELLS * cell(n[i]! - minN, high) + cell(e[i]! - minE, wide)] = i;
  const standIn = Array.from(cells).filter((i) => i >= 0),
    off = (i: number) => Math.hypot(e[i]! - (minE + maxE) / 2, n[i]! - (minN + maxN) / 2);
  // The middle one first: next to all that lies beside the box is near that.
  const middle = standIn.reduce((best, i) => (off(i) < off(best) ? i : best), standIn[0]!);
  return { standIn: [middle, ...standIn], reach: Math.hypot(wide, high) };
}

/** What explains a position far from a box, the likeliest first; nothing where nothing brings it back. */
export function explained(e: number, n: number, box: Box, unit: Unit): Explained[] {
  const out: Explained[] = [],
    isIn = (x: number, y: number) => x >= box.minE && x <= box.maxE && y >= box.minN && y <= box.maxN;
  if (isIn(n, e)) out.push({ words: "northing and easting may be exchanged", e: n, n: e });
  for (const other of UNITS) {
    const factor = unitFactor(other, unit);
    if (factor !== 1 && isIn(e * factor, n * factor))
      out.push({ words: `coordinates may be in ${other}`, e: e * factor, n: n * factor });
  }
  const inN = n >= box.minN && n <= box.maxN,
    inE = e >= box.minE && e <= box.maxE;
  if (inN !== inE) {
    const [name, x, low, high] = inN
      ? (["easting", e, box.minE, box.maxE] as const)
      : (["northing", n, box.minN, box.maxN] as const);
    const slip = slipOf(x, low, high);
    if (slip) out.push({ words: `${name} may have ${slip.words}`, e: inN ? slip.value : e, n: inN ? n : slip.value });
  }
  return out;
}

/** The one slip of the keyboard that brings a number between two bounds; undefined where none does, or several do. */
function slipOf(x: number, low: number, high: number): { words: string; value: number } | undefined {
  const found: { words: string; value: number }[] = [];
  const within = (value: number) => value >= low && value <= high;
  for (let power = 0; power <= 8; power++)
    for (let digit = 1; digit <= 9; digit++)
      for (const sign of [-1, 1]) {
        const value = decimalSteps(x, sign * digit * 10 ** power)(1);
        // A wrong digit changes no sign.
        if (within(value) && value < 0 === x < 0) found.push({ words: "a wrong digit", value });
      }
  for (const factor of [0.001, 0.01, 0.1, 10, 100, 1000])
    if (within(x * factor)) found.push({ words: "its decimal point shifted", value: x * factor });
  if (within(-x)) found.push({ words: "the wrong sign", value: -x });
  return found.length === 1 ? found[0] : undefined;
}

type Placed = Pick<PointTable, "count" | "e" | "n" | "deleted" | "intake" | "row">;

/** One finding for each point far from all others; those that are told as exchanged (`told`) are left out. */
export function farAwayFindings(
  t: Placed,
  intakes: readonly IntakeInfo[],
  unit: Unit,
  told: ReadonlySet<number>,
): Noticed[] {
  const rows: number[] = [];
  for (let i = 0; i < t.count; i++) if (t.deleted[i] === 0 && !told.has(i)) rows.push(i);
  const of = (x: Float64Array) => Float64Array.from(rows, (i) => x[i]!),
    found = farAway({ e: of(t.e), n: of(t.n) });
  if (!found) return [];
  return found.far.map((k, which) => {
    const i = rows[k]!,
      { file, id } = intakes[t.intake[i]!] ?? { file: "", id: undefined },
      why = explained(t.e[i]!, t.n[i]!, found.box, unit),
      where = file === "" ? "made by the office" : `${file}, row ${t.row[i]!}`;
    const words = say`Point ${pts(i)} (${where}) lies ${lengthText(found.distance[which]!, unit, 0)} from all others, farther than they spread. `;
    return notice("far-away", "error", [...words, adviceOf(why, t.e[i]!, t.n[i]!, unit)], {
      points: [i],
      at: [t.e[i]!, t.n[i]!],
      data: {
        ...(id === undefined ? {} : { intake: id, row: t.row[i]! }),
        distance: found.distance[which]!,
        explained: why,
      },
    });
  });
}

/** What explains a far point, in words, and what can be done. */
export function adviceOf(why: readonly Explained[], e: number, n: number, unit: Unit): string {
  const [first] = why;
  if (!first) return "Correct its coordinates, or accept it where it was measured there.";
  const text = (x: number) => formatFixed(x, decimalsOf(unit)),
    changed = [
      ...(first.e === e ? [] : [`E ${text(first.e)} for ${text(e)}`]),
      ...(first.n === n ? [] : [`N ${text(first.n)} for ${text(n)}`]),
    ];
  return `Its ${first.words}: ${changed.join(", ")}. Correct it, or accept it where it was measured there.`;
}
