/** Where constructed points stand, apart from all others: what a window is told that has the points as they are stored. */
import { rowOf, type PointTable } from "../points/table";
import type { Program } from "./program";

/** The columns that sources decide. */
export const STANDING_COLUMNS = ["e", "n", "z", "deleted", "follows"] as const;

/** One slot for each constructed point. */
export interface StandingRows {
  id: Int32Array;
  e: Float64Array;
  n: Float64Array;
  z: Float64Array;
  deleted: Uint8Array;
  follows: Uint8Array;
}

export function standingRows({ points: t, program }: { points: PointTable; program: Program }): StandingRows {
  const rows = [...program.steps, ...program.circular].map((s) => s.row),
    of = <C extends Float64Array | Uint8Array | Int32Array>(column: C) => {
      const out = column.slice(0, rows.length) as C;
      rows.forEach((i, k) => (out[k] = column[i]!));
      return out;
    };
  return { id: of(t.id), e: of(t.e), n: of(t.n), z: of(t.z), deleted: of(t.deleted), follows: of(t.follows) };
}

/** The table with constructed points where they stand; the same table where there is none. */
export function withStanding(t: PointTable, standing: StandingRows): PointTable {
  if (standing.id.length === 0) return t;
  const out = { ...t },
    rows = Array.from(standing.id, (id) => rowOf(t, id));
  for (const key of STANDING_COLUMNS) {
    const column = t[key].slice(),
      from = standing[key];
    rows.forEach((i, k) => {
      if (i >= 0) column[i] = from[k]!;
    });
    out[key] = column as never;
  }
  return out;
}
