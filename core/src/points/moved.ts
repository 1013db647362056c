/** Points moved, turned, scaled, raised, or fitted to others: what a recipe's EDIT does to their positions. */
import { refusal } from "../errors";
import {
  fitted,
  moveInPlan,
  movementOf,
  riseAt,
  type FitOptions,
  type Fitted,
  type Movement,
  type Transform,
} from "../math/similarity";
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z } from "../records/kinds";
import { numberIndex } from "./index";
import { asShot } from "./shots";
import { GONE_UNPLACED, type PointTable } from "./table";

export interface FitGiven {
  /** The first of each comes to the second, by their numbers. */
  pairs: [from: string, to: string][];
  scale?: FitOptions["scale"];
  levels?: FitOptions["levels"];
}

/** A fit as it was carried out by an edit. */
export interface FitMade extends Omit<Fitted, "movement"> {
  /** Its index among the edits. */
  edit: number;
  pairs: [string, string][];
}

type Moved = Pick<PointTable, "e" | "n" | "z" | "follows">;

/**
 * Columns with the points of some rows moved, in place. Where they were observed their positions are their own from now
 * on, as if typed.
 */
export function moveRows({ e, n, z, follows }: Moved, rows: Iterable<number>, { plan, rise }: Movement): void {
  for (const i of rows) {
    const [we, wn] = [e[i]!, n[i]!];
    [e[i], n[i]] = moveInPlan(plan, we, wn);
    follows[i]! &= ~(FOLLOWS_E | FOLLOWS_N);
    if (!rise) continue;
    z[i]! += riseAt(rise, we, wn);
    follows[i]! &= ~FOLLOWS_Z;
  }
}

/** The table with the points of some rows moved, where they were shot; what is reduced from them follows. */
export function movedRows(table: PointTable, rows: readonly number[] | Int32Array, movement: Movement): PointTable {
  const t = asShot(table),
    columns = { e: t.e.slice(), n: t.n.slice(), z: t.z.slice(), follows: t.follows.slice() };
  moveRows(
    columns,
    [...new Set(rows)].filter((i) => !(t.deleted[i]! & GONE_UNPLACED)),
    movement,
  );
  return { ...t, ...columns };
}

export const transformedRows = (t: PointTable, rows: readonly number[], transform: Transform): PointTable =>
  movedRows(t, rows, movementOf(transform));

/** Throws a Refusal where a point of a pair is not there, or the fit cannot be made. */
export function fittedRows(
  t: PointTable,
  rows: readonly number[],
  { pairs, scale = 1, levels = "none" }: FitGiven,
  edit: number,
  path: string,
): { table: PointTable; fit: FitMade } {
  const index = numberIndex(t),
    shot = asShot(t);
  const at = (number: string, where: string): [number, number, number] => {
    const i = index.get(number);
    if (i === undefined || t.deleted[i])
      throw refusal("recipe-field", { path: where, why: `there is no point “${number}”` });
    return [shot.e[i]!, shot.n[i]!, shot.z[i]!];
  };
  const made = fitted(
    pairs.map(([from, to], k) => ({ from: at(from, `${path}.pairs[${k}][0]`), to: at(to, `${path}.pairs[${k}][1]`) })),
    { scale, levels },
  );
  if (typeof made === "string") throw refusal("recipe-field", { path, why: `the fit cannot be made: ${made}` });
  const { movement, ...told } = made;
  return { table: movedRows(t, rows, movement), fit: { ...told, edit, pairs: pairs.map(([a, b]) => [a, b]) } };
}
