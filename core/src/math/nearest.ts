/** The nearest points to a position: a search of the kd-tree (kdbush) that has no such search of its own. Frame E, N. */
import KDBush from "kdbush";

export interface NearestIndex {
  /**
   * The `most` points nearest to a position, nearest first, of equal distances the lower rank first: written to `into`,
   * their squared distances to `distances`. Returns how many there are.
   */
  nearest(e: number, n: number, most: number, into: Int32Array, distances: Float64Array): number;
}

const LEAF = 16;

/** An index over points without gaps: none of their coordinates is NaN. Their rank is their index where none is given. */
export function nearestIndex(e: Float64Array, n: Float64Array, rank?: Int32Array): NearestIndex {
  if (e.length === 0) return { nearest: () => 0 };
  const tree = new KDBush(e.length, LEAF, Float64Array);
  for (let i = 0; i < e.length; i++) tree.add(e[i]!, n[i]!);
  tree.finish();
  const ids = tree.ids,
    rankOf = rank ?? Int32Array.from(e, (_, i) => i),
    at = tree.coords as Float64Array,
    // Left, right, axis of what waits; the tree is at most 32 deep. Beside them the least squared distances.
    waits = new Int32Array(3 * 64),
    leasts = new Float64Array(64);

  const nearest: NearestIndex["nearest"] = (qe, qn, most, into, distances) => {
    let found = 0,
      top = 1;
    waits[0] = 0;
    waits[1] = ids.length - 1;
    waits[2] = 0;
    leasts[0] = 0;
    while (top > 0) {
      top--;
      let left = waits[3 * top]!,
        right = waits[3 * top + 1]!,
        axis = waits[3 * top + 2]!;
      if (found === most && leasts[top]! > distances[most - 1]!) continue;
      // Down to the leaf on the side of the position; each other side waits.
      for (;;) {
        const isLeaf = right - left <= LEAF,
          middle = (left + right) >> 1;
        for (let k = isLeaf ? left : middle; k <= (isLeaf ? right : middle); k++) {
          const de = at[2 * k]! - qe,
            dn = at[2 * k + 1]! - qn,
            d = de * de + dn * dn;
          let to = found;
          if (found === most) {
            const last = distances[most - 1]!;
            if (d > last || (d === last && rankOf[ids[k]!]! > rankOf[into[most - 1]!]!)) continue;
            to = most - 1;
          } else found++;
          const id = ids[k]!;
          while (
            to > 0 &&
            (distances[to - 1]! > d || (distances[to - 1] === d && rankOf[into[to - 1]!]! > rankOf[id]!))
          ) {
            distances[to] = distances[to - 1]!;
            into[to] = into[to - 1]!;
            to--;
          }
          distances[to] = d;
          into[to] = id;
        }
        if (isLeaf) break;
        const beside = axis === 0 ? qe - at[2 * middle]! : qn - at[2 * middle + 1]!,
          isLow = beside <= 0;
        waits[3 * top] = isLow ? middle + 1 : left;
        waits[3 * top + 1] = isLow ? right : middle - 1;
        axis = 1 - axis;
        waits[3 * top + 2] = axis;
        leasts[top++] = beside * beside;
        if (isLow) right = middle - 1;
        else left = middle + 1;
      }
    }
    return found;
  };
  return { nearest };
}
