/**
 * Where points stand other than they are stored, apart from all others: what a window is told that has the points as they are
 * stored. Moves go as what they do, so that a window carries them out on what is typed at once; positions that follow
 * (constructed points, shots from a moved station) go row by row.
 */
import { moveRows } from "../points/moved";
import { rowOf, type MovedRows, type PointTable } from "../points/table";
import type { Program } from "./program";

/** The columns that sources and moves decide. */
export const STANDING_COLUMNS = ["e", "n", "z", "deleted", "follows"] as const;

/** One slot for each point that follows others. */
export interface StandingRows {
  id: Int32Array;
  e: Float64Array;
  n: Float64Array;
  z: Float64Array;
  deleted: Uint8Array;
  follows: Uint8Array;
  /** With ids in place of rows, rising as rows do. */
  moves: (Omit<MovedRows, "rows" | "pairs"> & { ids: Int32Array; pairs: number[] })[];
}

/** Nothing stands elsewhere. */
export const NOTHING_STANDS: StandingRows = {
  id: new Int32Array(0),
  e: new Float64Array(0),
  n: new Float64Array(0),
  z: new Float64Array(0),
  deleted: new Uint8Array(0),
  follows: new Uint8Array(0),
  moves: [],
};

/** What is stored with moves carried out, as far as a window can do so by itself. */
function movedColumns(
  { e, n, z, follows }: Pick<PointTable, "e" | "n" | "z" | "follows">,
  moves: readonly MovedRows[],
) {
  const columns = { e: e.slice(), n: n.slice(), z: z.slice(), follows: follows.slice() };
  for (const m of moves) moveRows(columns, m.rows, m.movement);
  return columns;
}

export function standingRows({ points: t, program }: { points: PointTable; program: Program }): StandingRows {
  const rows = new Set([...program.steps, ...program.circular].map((s) => s.row)),
    { stored } = t;
  if (stored) {
    const own = movedColumns(stored, stored.moves);
    for (let i = 0; i < t.count; i++)
      if (
        !Object.is(own.e[i], t.e[i]) ||
        !Object.is(own.n[i], t.n[i]) ||
        !Object.is(own.z[i], t.z[i]) ||
        own.follows[i] !== t.follows[i]
      )
        rows.add(i);
  }
  const all = [...rows],
    of = <C extends Float64Array | Uint8Array | Int32Array>(column: C) => {
      const out = column.slice(0, all.length) as C;
      all.forEach((i, k) => (out[k] = column[i]!));
      return out;
    };
  return {
    id: of(t.id),
    e: of(t.e),
    n: of(t.n),
    z: of(t.z),
    deleted: of(t.deleted),
    follows: of(t.follows),
    moves: (stored?.moves ?? []).map(({ rows: moved, pairs, ...m }) => ({
      ...m,
      ids: moved.map((i) => t.id[i]!),
      pairs: pairs.map((i) => t.id[i]!),
    })),
  };
}

/** The table with points where they stand; the same table where all stand as they are stored. */
export function withStanding(t: PointTable, standing: StandingRows): PointTable {
  if (standing.id.length === 0 && standing.moves.length === 0) return t;
  const moves = standing.moves.map(({ ids, pairs, ...m }): MovedRows => {
      const there = (list: ArrayLike<number>) => Array.from(list, (id) => rowOf(t, id)).filter((i) => i >= 0);
      return { ...m, rows: Int32Array.from(there(ids)), pairs: there(pairs) };
    }),
    rows = Array.from(standing.id, (id) => rowOf(t, id));
  const { e, n, z, follows, shotAt } = t,
    out: PointTable = { ...t, ...(moves.length ? movedColumns(t, moves) : {}) };
  for (const key of STANDING_COLUMNS) {
    const column = out[key] === t[key] ? t[key].slice() : out[key],
      from = standing[key];
    rows.forEach((i, k) => {
      if (i >= 0) column[i] = from[k]!;
    });
    out[key] = column as never;
  }
  if (moves.length) out.stored = { e, n, z, follows, ...(shotAt ? { shotAt } : {}), moves };
  return out;
}
