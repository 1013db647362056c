/** The nearest points to a position: a search of the kd-tree (kdbush) that has no such search of its own. Frame E, N. */
import KDBush from "kdbush";

export interface NearestIndex {
  /**
   * The `most` points nearest to a position, nearest first, of equal distances the lower index first: written to `into`,
   * their squared distances to `distances`. Returns how many there are.
   */
  nearest(e: number, n: number, most: number, into: Int32Array, distances: Float64Array): number;
}

const LEAF = 16;

/** An index over points without gaps: none of their coordinates is NaN. */
export function nearestIndex(e: Float64Array, n: Float64Array): NearestIndex {
  if (e.length === 0) return { nearest: () => 0 };
  const tree = new KDBush(e.length, LEAF, Float64Array);
  for (let i = 0; i < e.length; i++) tree.add(e[i]!, n[i]!);
  tree.finish();
  const ids = tree.ids,
    at = tree.coords as Float64Array,
    // Left, right, axis and the least squared distance of what waits; the tree is at most 32 deep.
    waits = new Float64Array(4 * 64);

  const nearest: NearestIndex["nearest"] = (qe, qn, most, into, distances) => {
    let found = 0,
      top = 4;
    waits.set([0, ids.length - 1, 0, 0]);
    const look = (k: number) => {
      const de = at[2 * k]! - qe,
        dn = at[2 * k + 1]! - qn,
        d = de * de + dn * dn,
        id = ids[k]!;
      let to = found;
      if (found === most) {
        const last = distances[most - 1]!;
        if (d > last || (d === last && id > into[most - 1]!)) return;
        to = most - 1;
      } else found++;
      while (to > 0 && (distances[to - 1]! > d || (distances[to - 1] === d && into[to - 1]! > id))) {
        distances[to] = distances[to - 1]!;
        into[to] = into[to - 1]!;
        to--;
      }
      distances[to] = d;
      into[to] = id;
    };
    while (top > 0) {
      top -= 4;
      const left = waits[top]!,
        right = waits[top + 1]!,
        axis = waits[top + 2]!;
      if (found === most && waits[top + 3]! > distances[most - 1]!) continue;
      if (right - left <= LEAF) {
        for (let k = left; k <= right; k++) look(k);
        continue;
      }
      const middle = (left + right) >> 1,
        beside = axis === 0 ? qe - at[2 * middle]! : qn - at[2 * middle + 1]!;
      look(middle);
      // The half that the position lies in is looked through first.
      for (const [from, to, least] of beside <= 0
        ? [
            [middle + 1, right, beside * beside],
            [left, middle - 1, 0],
          ]
        : [
            [left, middle - 1, beside * beside],
            [middle + 1, right, 0],
          ]) {
        waits[top] = from!;
        waits[top + 1] = to!;
        waits[top + 2] = 1 - axis;
        waits[top + 3] = least!;
        top += 4;
      }
    }
    return found;
  };
  return { nearest };
}
