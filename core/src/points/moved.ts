/** Points moved, turned, scaled, raised, or fitted to others: what a recipe's EDIT does to their positions. */
import { refusal } from "../errors";
import { fitted, planMap, type FitOptions, type Fitted, type PlanMap, type Transform } from "../math/similarity";
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
export interface FitMade extends Omit<Fitted, "plan" | "rise"> {
  /** Its index among the edits. */
  edit: number;
  pairs: [string, string][];
}

interface Moving {
  plan: PlanMap;
  /** Undefined where levels stay. */
  rise?: ((e: number, n: number) => number) | undefined;
}

/**
 * The table with the points of some rows moved. Where they were observed their positions are their own from now on, as if
 * typed; what is reduced from them follows.
 */
function movedRows(table: PointTable, rows: readonly number[], { plan, rise }: Moving): PointTable {
  const t = asShot(table),
    [e, n, z, follows] = [t.e.slice(), t.n.slice(), t.z.slice(), t.follows.slice()];
  for (const i of new Set(rows)) {
    if (t.deleted[i]! & GONE_UNPLACED) continue;
    const [we, wn] = [t.e[i]!, t.n[i]!];
    [e[i], n[i]] = plan(we, wn);
    follows[i]! &= ~(FOLLOWS_E | FOLLOWS_N);
    if (!rise) continue;
    z[i]! += rise(we, wn);
    follows[i]! &= ~FOLLOWS_Z;
  }
  return { ...t, e, n, z, follows };
}

export function transformedRows(t: PointTable, rows: readonly number[], transform: Transform): PointTable {
  const dZ = transform.move?.[2] ?? 0;
  return movedRows(t, rows, { plan: planMap(transform), rise: dZ === 0 ? undefined : () => dZ });
}

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
  const { plan, rise, ...told } = made;
  return {
    table: movedRows(t, rows, { plan, rise: levels === "none" ? undefined : rise }),
    fit: { ...told, edit, pairs: pairs.map(([a, b]) => [a, b]) },
  };
}
