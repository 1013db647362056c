/** Number → row in the table, made once for a table and carried on from edit to edit. */
import { GONE, rowOf, type PointTable } from "./table";

type Numbered = Pick<PointTable, "count" | "number" | "deleted">;
interface Kept {
  deleted: Uint8Array;
  index: Map<string, number>;
}

/** By the column of numbers, with the deletions that it was made for. */
const kept = new WeakMap<readonly string[], Kept>();

/**
 * The points that hold a number, whether they have a position or not; those taken out or giving way hold none. Never changed by who asks
 * for it.
 */
export function numberIndex(t: Numbered): ReadonlyMap<string, number> {
  const known = kept.get(t.number);
  if (known?.deleted === t.deleted) return known.index;
  const index = new Map<string, number>();
  for (let i = 0; i < t.count; i++) if (!(t.deleted[i]! & GONE)) index.set(t.number[i]!, i);
  kept.set(t.number, { deleted: t.deleted, index });
  return index;
}

/** What the field's names of points depend on. */
export type FieldNumbered = Numbered & Pick<PointTable, "id" | "intake" | "cameAs">;

/**
 * The living point that a file means by a number: its own point that came with it, else one of the job that came with it
 * and has it still, else one that came with it, else the one that has it now. −1 when there is none.
 */
export function fieldIndex(t: FieldNumbered): (intake: number, number: string) => number {
  const now = numberIndex(t);
  if (!t.cameAs) return (_, number) => now.get(number) ?? -1;
  const { cameAs } = t,
    renumbered = new Map<string, number[]>();
  for (const [id, first] of Object.entries(cameAs)) {
    const i = rowOf(t, Number(id));
    if (i < 0 || t.deleted[i]! & GONE) continue;
    const rows = renumbered.get(first);
    if (rows) rows.push(i);
    else renumbered.set(first, [i]);
  }
  return (intake, number) => {
    const came = renumbered.get(number) ?? [],
      holder = now.get(number),
      own = came.find((i) => t.intake[i] === intake);
    if (own !== undefined) return own;
    if (holder !== undefined && cameAs[t.id[holder]!] === undefined) return holder;
    return came.at(-1) ?? holder ?? -1;
  };
}

/**
 * Hands the index of one table on to the next, in which only the given rows changed their number or were deleted or
 * brought back: as many steps as there are such rows. The row of a point whose number another has too; −1 when
 * there is none.
 */
export function carryIndex(from: Numbered, to: Numbered, touched: readonly number[]): number {
  const index = numberIndex(from) as Map<string, number>;
  kept.delete(from.number);
  for (const i of touched) if (index.get(from.number[i]!) === i) index.delete(from.number[i]!);
  let twice = -1;
  for (const i of touched) {
    if (to.deleted[i]! & GONE) continue;
    const other = index.get(to.number[i]!);
    if (other !== undefined && other !== i) twice = i;
    else index.set(to.number[i]!, i);
  }
  // Where two points share a number the caller refuses; the next who asks counts anew.
  if (twice < 0) kept.set(to.number, { deleted: to.deleted, index });
  return twice;
}
