/**
 * The point table: one column per property, one slot per point, never an object per point.
 *
 * Frames: `e`, `n`, `z` are easting, northing, elevation in the job's unit; a missing elevation is NaN.
 * Texts are kept once in `texts` (`texts[0]` is the empty text) and named by their index.
 */
import { KINDS, type PointKind } from "../records/kinds";
import { CHOICE_FIELDS, LENGTH_FIELDS, TEXT_FIELDS, type ChoiceField } from "../records/fields";
import { joinMeasured, pickMeasured, type MeasuredColumns } from "../records/measured";
import type { AttributeColumn, FieldColumns } from "../records/records";
import type { Movement } from "../math/similarity";
import { TextStore } from "../math/texts";

export type Position = readonly [e: number, n: number, z: number];

/** Where points were shot, by id; those that are where they were shot have no entry. */
export type ShotPositions = ReadonlyMap<number, Position>;

/**
 * The numbers that renumbered points came with, by id. What the field wrote (cues, backsights) speaks of points by these.
 */
export type CameAs = Readonly<Record<number, string>>;

/**
 * Bits of PointTable.deleted: taken out by the office; observed only from setups that give it no position; giving way to a
 * point of another delivery (points/giving-way.ts). Of the first and the last the number is free for others.
 */
export const GONE_DELETED = 1,
  GONE_UNPLACED = 2,
  GONE_GAVE_WAY = 4,
  GONE = GONE_DELETED | GONE_GAVE_WAY;

/** Beside what is named here one column for each described field: lengths, texts, choices by their index. */
export interface PointTable extends FieldColumns, Record<ChoiceField["column"], Uint8Array> {
  count: number;
  /** Stable within the job. */
  id: Int32Array;
  /** Index into the job's intakes; −1 for a point that the office made. */
  intake: Int32Array;
  /** Physical line of the intake's file. */
  row: Int32Array;
  number: string[];
  /** Why the point is not there (GONE_*); 0 for a living point. */
  deleted: Uint8Array;
  /** Which coordinates follow from raw observations (FOLLOWS_*); 0 where the point's own are given. */
  follows: Uint8Array;
  /** Milliseconds since 1970 as written (no time zone), NaN when not given. */
  time: Float64Array;
  /** The office's edits of the description's cues (codes/cue-edits.ts), as an index into `texts`; 0 for none. */
  cues: Uint32Array;
  texts: string[];
  attributes: AttributeColumn[];
  measured: MeasuredColumns;
  /** Points that stand elsewhere than they were shot: `e`, `n`, `z` are where they stand. */
  shotAt?: ShotPositions;
  /** Only where a point was renumbered. */
  cameAs?: CameAs;
  /** Only of points as they stand, where some were moved (points/moves.ts). */
  stored?: OwnPositions;
}

/** What is stored of points that stand elsewhere because they were moved: what a change speaks of. */
export interface OwnPositions extends Pick<PointTable, "e" | "n" | "z" | "follows" | "shotAt"> {
  /** In the order in which they are carried out. */
  moves: readonly MovedRows[];
}

export interface MovedRows {
  name: string;
  movement: Movement;
  /** Rows of the table, rising. */
  rows: Int32Array;
  /** Rows from whose positions the movement itself follows, and whether it follows from their levels too. */
  pairs: readonly number[];
  byLevels: boolean;
}

export function emptyTable(): PointTable {
  return tableOf(0);
}

/** A table of so many points of no intake, of which nothing is known; their numbers are the caller's. */
export function tableOf(count: number): PointTable {
  return {
    ...(Object.fromEntries([
      ...LENGTH_FIELDS.map((f) => [f.column, new Float64Array(count).fill(f.required ? 0 : NaN)]),
      ...TEXT_FIELDS.map((f) => [f.column, new Uint32Array(count)]),
      ...CHOICE_FIELDS.map((f) => [f.column, new Uint8Array(count)]),
    ]) as FieldColumns & Record<ChoiceField["column"], Uint8Array>),
    count,
    id: new Int32Array(count),
    intake: new Int32Array(count).fill(-1),
    row: new Int32Array(count),
    number: [],
    deleted: new Uint8Array(count),
    follows: new Uint8Array(count),
    time: new Float64Array(count).fill(NaN),
    cues: new Uint32Array(count),
    texts: [""],
    attributes: [],
    measured: {},
  };
}

/** Names of the columns that hold one value for each point. */
const COLUMNS = [
  ...(["id", "intake", "row", "deleted", "follows", "time", "cues"] as const),
  ...[...LENGTH_FIELDS, ...TEXT_FIELDS, ...CHOICE_FIELDS].map((f) => f.column),
];
export type ColumnName = (typeof COLUMNS)[number];

/** Those of them that are indices into the texts. */
const OF_TEXTS = ["cues" as const, ...TEXT_FIELDS.map((f) => f.column)];

/**
 * A table of both tables' points in order; the second's texts join the first's, attribute columns are united by name.
 */
export function concatTables(a: PointTable, b: PointTable): PointTable {
  const out = tableOf(a.count + b.count);
  for (const key of COLUMNS) {
    out[key].set(a[key] as never, 0);
    out[key].set(b[key] as never, a.count);
  }
  if (a.shotAt || b.shotAt) out.shotAt = new Map([...(a.shotAt ?? []), ...(b.shotAt ?? [])]);
  if (a.cameAs || b.cameAs) out.cameAs = { ...a.cameAs, ...b.cameAs };
  out.number = a.number.concat(b.number);
  const store = TextStore.over(a.texts);
  const moved = Uint32Array.from(b.texts, (t) => store.of(t));
  for (const key of OF_TEXTS) {
    const [from, to] = [b[key], out[key]];
    for (let i = 0; i < b.count; i++) to[a.count + i] = moved[from[i]!]!;
  }
  out.measured = joinMeasured([a.measured, a.count], [b.measured, b.count], (x) => moved[x]!);
  out.texts = store.texts;
  const names = new Set([...a.attributes, ...b.attributes].map((c) => c.name));
  for (const name of names) {
    const values = new Uint32Array(out.count);
    const from = a.attributes.find((c) => c.name === name);
    if (from) values.set(from.values);
    const more = b.attributes.find((c) => c.name === name);
    if (more) for (let i = 0; i < b.count; i++) values[a.count + i] = moved[more.values[i]!]!;
    const column: AttributeColumn = { name, values };
    if (from?.taken || more?.taken) {
      column.taken = new Uint8Array(out.count);
      if (from?.taken) column.taken.set(from.taken);
      if (more?.taken) column.taken.set(more.taken, a.count);
    }
    out.attributes.push(column);
  }
  return out;
}

/** The points at the given rows of the table, in that order; texts are shared. */
export function pickRows(t: PointTable, rows: ArrayLike<number>): PointTable {
  const out = tableOf(rows.length);
  for (const key of COLUMNS) {
    const from = t[key],
      to = out[key];
    for (let i = 0; i < rows.length; i++) to[i] = from[rows[i]!]!;
  }
  out.number = Array.from(rows, (r) => t.number[r]!);
  out.texts = t.texts;
  out.measured = pickMeasured(t.measured, rows);
  if (t.shotAt) out.shotAt = t.shotAt;
  if (t.cameAs) out.cameAs = t.cameAs;
  out.attributes = t.attributes.map(({ name, values, taken }) => ({
    name,
    values: Uint32Array.from(rows, (r) => values[r]!),
    ...(taken && { taken: Uint8Array.from(rows, (r) => taken[r]!) }),
  }));
  return out;
}

export function kindOf(t: PointTable, i: number): PointKind {
  return KINDS[t.kind[i]!]!;
}

export function descriptionOf(t: PointTable, i: number): string {
  return t.texts[t.description[i]!]!;
}

/** Key → row in the table for the points of intakes, by intake and row. */
export function rowIndex(t: Pick<PointTable, "count" | "intake" | "row">): (intake: number, row: number) => number {
  const index = new Map<number, number>();
  // Rows stay below 2^31 and intakes below 2^21, so that one number holds both.
  for (let i = 0; i < t.count; i++) index.set(t.intake[i]! * 2 ** 31 + t.row[i]!, i);
  return (intake, row) => index.get(intake * 2 ** 31 + row) ?? -1;
}

/** Row of an id in a table, whose ids rise; −1 for none. */
export function rowOf(t: Pick<PointTable, "count" | "id">, id: number): number {
  let lo = 0,
    hi = t.count - 1;
  while (lo <= hi) {
    const mid = (lo + hi) >> 1;
    if (t.id[mid] === id) return mid;
    if (t.id[mid]! < id) lo = mid + 1;
    else hi = mid - 1;
  }
  return -1;
}

/**
 * The table with more points, in the order of their ids. Refuses nothing: the caller knows that ids and numbers are
 * free.
 */
export function insertPoints(t: PointTable, added: PointTable): PointTable {
  const all = concatTables(t, added);
  if (added.count === 0 || t.count === 0 || added.id[0]! > t.id[t.count - 1]!) return all;
  return pickRows(
    all,
    Int32Array.from({ length: all.count }, (_, i) => i).sort((a, b) => all.id[a]! - all.id[b]!),
  );
}

/** The table without some of its rows. */
export function withoutRows(t: PointTable, rows: readonly number[]): PointTable {
  const gone = new Set(rows);
  return pickRows(
    t,
    Int32Array.from({ length: t.count }, (_, i) => i).filter((i) => !gone.has(i)),
  );
}

export function livingCount(t: Pick<PointTable, "deleted">): number {
  let count = 0;
  for (const d of t.deleted) if (d === 0) count++;
  return count;
}

export interface Extent {
  minE: number;
  minN: number;
  maxE: number;
  maxN: number;
  minZ: number;
  maxZ: number;
}

/** Extent of the living points; undefined when there is none. Levels are NaN when none is known. */
export function extentOf(t: PointTable): Extent | undefined {
  const x: Extent = {
    minE: Infinity,
    minN: Infinity,
    maxE: -Infinity,
    maxN: -Infinity,
    minZ: Infinity,
    maxZ: -Infinity,
  };
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    const e = t.e[i]!,
      n = t.n[i]!,
      z = t.z[i]!;
    if (e < x.minE) x.minE = e;
    if (e > x.maxE) x.maxE = e;
    if (n < x.minN) x.minN = n;
    if (n > x.maxN) x.maxN = n;
    if (z < x.minZ) x.minZ = z;
    if (z > x.maxZ) x.maxZ = z;
  }
  if (x.minE > x.maxE) return undefined;
  if (x.minZ > x.maxZ) x.minZ = x.maxZ = NaN;
  return x;
}
