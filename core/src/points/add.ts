/** Points that the office makes: columns of a change, put into the table and taken out again. */
import { TextStore } from "../math/texts";
import { KINDS, type PointKind } from "../records/kinds";
import { emptyTable, type PointTable } from "./table";

/** One value for each point. Coordinates in the job's unit; a missing level, precision or target height is null. */
export interface AddedPoints {
  /** Rising, and the job's own for ever. */
  id: number[];
  number: string[];
  easting: number[];
  northing: number[];
  elevation: (number | null)[];
  description: string[];
  note?: string[];
  /** Computed, unless it says otherwise. */
  kind?: Exclude<PointKind, "reference">[];
  precision?: (number | null)[];
  targetHeight?: (number | null)[];
}

const orNaN = (list: readonly (number | null)[] | undefined, count: number) =>
  Float64Array.from({ length: count }, (_, i) => list?.[i] ?? NaN);

/** The added points as a table of their own, of no intake. */
export function tableOfAdded(p: AddedPoints): PointTable {
  const count = p.id.length,
    empty = emptyTable(),
    store = TextStore.over(empty.texts);
  const texts = (list: readonly string[] | undefined) =>
    Uint32Array.from({ length: count }, (_, i) => store.of(list?.[i] ?? ""));
  return {
    ...empty,
    count,
    id: Int32Array.from(p.id),
    intake: new Int32Array(count).fill(-1),
    row: new Int32Array(count),
    number: [...p.number],
    e: Float64Array.from(p.easting),
    n: Float64Array.from(p.northing),
    z: orNaN(p.elevation, count),
    kind: Uint8Array.from({ length: count }, (_, i) => KINDS.indexOf(p.kind?.[i] ?? "computed")),
    surface: new Uint8Array(count),
    deleted: new Uint8Array(count),
    follows: new Uint8Array(count),
    precision: orNaN(p.precision, count),
    targetHeight: orNaN(p.targetHeight, count),
    time: new Float64Array(count).fill(NaN),
    description: texts(p.description),
    note: texts(p.note),
    cues: new Uint32Array(count),
    texts: store.texts,
  };
}

/** The columns of some rows of a table, as a change holds them. */
export function addedOf(t: PointTable, rows: readonly number[]): AddedPoints {
  const of = <T>(value: (i: number) => T) => rows.map(value),
    level = (x: number) => (Number.isNaN(x) ? null : x);
  return {
    id: of((i) => t.id[i]!),
    number: of((i) => t.number[i]!),
    easting: of((i) => t.e[i]!),
    northing: of((i) => t.n[i]!),
    elevation: of((i) => level(t.z[i]!)),
    description: of((i) => t.texts[t.description[i]!]!),
    note: of((i) => t.texts[t.note[i]!]!),
    kind: of((i) => KINDS[t.kind[i]!] as Exclude<PointKind, "reference">),
    precision: of((i) => level(t.precision[i]!)),
    targetHeight: of((i) => level(t.targetHeight[i]!)),
  };
}
