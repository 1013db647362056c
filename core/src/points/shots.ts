/**
 * Points that stand elsewhere than they were shot (`past`): the table's positions are those of the objects, what was shot
 * is kept by id.
 */
import type { PointTable } from "./table";

/** The table with every point where it was shot; the same table when none stands elsewhere. */
export function asShot(t: PointTable): PointTable {
  if (!t.shotAt?.size) return t;
  const { shotAt, ...rest } = t;
  const e = t.e.slice(),
    n = t.n.slice(),
    z = t.z.slice();
  for (let i = 0; i < t.count; i++) {
    const own = shotAt.get(t.id[i]!);
    if (own) [e[i], n[i], z[i]] = own;
  }
  return { ...rest, e, n, z };
}

/** What the order of shots follows from. */
export type ShotColumns = Pick<PointTable, "count" | "intake" | "row" | "time" | "deleted">;

/** Living points of each intake in shot order: by time if every one has a time, else by row; equal times by row. */
export function shotsByIntake(t: ShotColumns): Int32Array[] {
  const counts = new Map<number, number>();
  for (let i = 0; i < t.count; i++)
    if (!t.deleted[i] && t.intake[i]! >= 0) counts.set(t.intake[i]!, (counts.get(t.intake[i]!) ?? 0) + 1);
  const lists = new Map(
    [...counts].sort((a, b) => a[0] - b[0]).map(([intake, n]) => [intake, { list: new Int32Array(n), n: 0 }]),
  );
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || t.intake[i]! < 0) continue;
    const l = lists.get(t.intake[i]!)!;
    l.list[l.n++] = i;
  }
  return [...lists.values()].map(({ list }) => {
    const timed = list.every((i) => !Number.isNaN(t.time[i]!));
    const rising = (a: number, b: number) => (timed ? t.time[a]! - t.time[b]! : 0) || t.row[a]! - t.row[b]!;
    // Most files come in their order.
    for (let k = 1; k < list.length; k++) if (rising(list[k - 1]!, list[k]!) > 0) return list.sort(rising);
    return list;
  });
}
