/** The constructions of a job in the order in which they can be worked out: sources before what follows them. */
import { findPoints, idMade, type PointRef, type RefColumns } from "../points/refs";
import { rowOf } from "../points/table";
import { lineNamed, pairOf, pointsNamed, type Construction } from "./model";

export interface Step {
  /** Table row of the point. */
  row: number;
  construction: Construction;
}

export interface Program {
  steps: Step[];
  /** Those that follow one another in a circle, and what hangs on them. */
  circular: Step[];
  /** Rows of the points that constructions name; −1 where one is not there. */
  rowOf: ReadonlyMap<PointRef, number>;
  /** What these points are called. */
  numbers: ReadonlyMap<PointRef, string>;
  /** Whether positions are asked of lines of the job. */
  asksLines: boolean;
  /** Rows whose levels come from a surface, itself or by other constructions: that surface is made without them. */
  onSurface: ReadonlyMap<string, Int32Array>;
}

/** Of a job without constructions. */
export const NOTHING_FOLLOWS: Program = {
  steps: [],
  circular: [],
  rowOf: new Map(),
  numbers: new Map(),
  asksLines: false,
  onSurface: new Map(),
};

/** The program of a job's constructions. Those whose own point is gone are passed over. */
export function programOf(
  constructions: readonly Construction[],
  t: RefColumns,
  intakes: readonly { id: string }[],
): Program {
  const found = findPoints(t, intakes),
    rows = new Map<PointRef, number>(),
    steps: Step[] = [];
  for (const construction of constructions) {
    const row = rowOf(t, construction.point);
    if (row < 0 || t.deleted[row] || t.intake[row]! >= 0) continue;
    steps.push({ row, construction });
    for (const ref of pointsNamed(construction)) if (!rows.has(ref)) rows.set(ref, found.rowOf(ref));
  }
  const { order, circular } = inOrder(steps, (ref) => rows.get(ref)!);
  return {
    steps: order,
    circular,
    rowOf: rows,
    numbers: new Map([...rows.keys()].map((ref) => [ref, found.numberOf(ref)])),
    asksLines: steps.some(({ construction: c }) => isOfJob(c)),
    onSurface: surfacesAsked(order, (ref) => rows.get(ref)!),
  };
}

/**
 * Ids of points that follow themselves, as far as their references say without the job's points: an office's points by
 * their ids. What a circle leads through whatever the table of points says is found by `programOf`.
 */
export function circularPoints(constructions: readonly Construction[]): number[] {
  const steps = constructions.map((construction) => ({ row: construction.point, construction }));
  return inOrder(steps, (ref) => idMade(ref) ?? -1).circular.map((s) => s.row);
}

/** Rows of the points that would not be there any more without some others, which are not among them. */
export function followersOf({ steps, rowOf: rows }: Program, gone: Iterable<number>): number[] {
  const without = new Set(gone),
    lost: number[] = [];
  for (const { row, construction: c } of steps) {
    if (without.has(row) || !c.by || !pointsNamed({ by: c.by }).some((ref) => without.has(rows.get(ref)!))) continue;
    without.add(row);
    lost.push(row);
  }
  return lost;
}

function isOfJob({ by }: Construction): boolean {
  const line = lineNamed(by);
  return line !== undefined && ("code" in line || "hand" in line);
}

/** Sources first; those in a circle, and what hangs on it, apart. Of as many steps as there are references. */
function inOrder(steps: readonly Step[], rowNamed: (ref: PointRef) => number): { order: Step[]; circular: Step[] } {
  const at = new Map(steps.map((s, k) => [s.row, k])),
    followers: number[][] = steps.map(() => []),
    waits = new Int32Array(steps.length);
  steps.forEach(({ construction }, k) => {
    for (const source of new Set(pointsNamed(construction).map((ref) => at.get(rowNamed(ref)))))
      if (source !== undefined) {
        followers[source]!.push(k);
        waits[k]!++;
      }
  });
  const ready = steps.flatMap((_, k) => (waits[k] === 0 ? [k] : []));
  for (let next = 0; next < ready.length; next++)
    for (const k of followers[ready[next]!]!) if (--waits[k]! === 0) ready.push(k);
  return { order: ready.map((k) => steps[k]!), circular: steps.filter((_, k) => waits[k]! > 0) };
}

/** Which levels a surface must be made without. The steps are in order. */
function surfacesAsked(steps: readonly Step[], rowNamed: (ref: PointRef) => number): Map<string, Int32Array> {
  const of = new Map<number, ReadonlySet<string>>(),
    rows = new Map<string, number[]>();
  for (const { row, construction: c } of steps) {
    const { elevation: level } = c,
      sources = !level ? [] : "of" in level ? [level.of] : "along" in level ? ((c.by && pairOf(c.by)) ?? []) : [],
      all = new Set(level && "surface" in level ? [level.surface] : []);
    for (const ref of sources) for (const name of of.get(rowNamed(ref)) ?? []) all.add(name);
    if (all.size === 0) continue;
    of.set(row, all);
    for (const name of all) {
      const list = rows.get(name);
      if (list) list.push(row);
      else rows.set(name, [row]);
    }
  }
  return new Map([...rows].map(([name, list]) => [name, Int32Array.from(list).sort()]));
}
