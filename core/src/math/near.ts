/**
 * What is near a position: the one spatial index, over points (kdbush) and over boxes (flatbush). Frames E, N. Boxes are
 * kept as doubles, so that what is decided exactly afterwards misses nothing.
 */
import Flatbush from "flatbush";
import KDBush from "kdbush";

export interface BoxIndex {
  /** Indices of the boxes that meet a rectangle, in no order. */
  search(minE: number, minN: number, maxE: number, maxN: number): number[];
}

export interface PointIndex {
  /** Indices of the points in a rectangle, in no order. */
  range(minE: number, minN: number, maxE: number, maxN: number): number[];
}

const NONE = { search: () => [], range: () => [] };

/** An index over `count` boxes, each west, south, east, north; one with a corner that is no number is near nothing. */
export function boxIndex(count: number, box: (k: number) => readonly [number, number, number, number]): BoxIndex {
  if (count === 0) return NONE;
  const index = new Flatbush(count, 16, Float64Array);
  for (let k = 0; k < count; k++) {
    const [w, s, e, n] = box(k);
    if (w <= e && s <= n) index.add(w, s, e, n);
    else index.add(Infinity, Infinity, Infinity, Infinity);
  }
  index.finish();
  return index;
}

const ofColumns = new WeakMap<Float64Array, { n: Float64Array; deleted: Uint8Array; index: PointIndex }>();

/** An index over the living points of columns; made once for the same columns, when it is first asked for. */
export function pointIndex(t: { e: Float64Array; n: Float64Array; deleted: Uint8Array }): PointIndex {
  const known = ofColumns.get(t.e);
  if (known?.n === t.n && known.deleted === t.deleted) return known.index;
  const rows = Int32Array.from({ length: t.e.length }, (_, i) => i).filter((i) => t.deleted[i] === 0);
  let index: PointIndex = NONE;
  if (rows.length) {
    const tree = new KDBush(rows.length, 64, Float64Array);
    for (const i of rows) tree.add(t.e[i]!, t.n[i]!);
    tree.finish();
    index = { range: (...box) => tree.range(...box).map((k) => rows[k]!) };
  }
  ofColumns.set(t.e, { n: t.n, deleted: t.deleted, index });
  return index;
}
