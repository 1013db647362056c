/** Points that stand at one position become one vertex. */
import { withRoom } from "./mesh";

export interface Merged {
  x: Float64Array;
  y: Float64Array;
  z: Float64Array;
  /** Vertex of each input position. */
  vertexOf: Int32Array;
  /** Groups of input positions that became one vertex, only those of two or more. */
  groups: number[][];
}

/**
 * Merges positions linked by plan distances ≤ `tolerance` at their mean position and level. A level that is NaN does not count;
 * a group of none stays NaN. Inputs are offsets from a near origin. Cells of many tolerances in a hash table: linear time.
 */
export function mergeCoincident(x: Float64Array, y: Float64Array, z: Float64Array, tolerance: number): Merged {
  const n = x.length;
  const parent = linkNear(x, y, tolerance);
  if (!parent) return { x, y, z, vertexOf: counted(n), groups: [] };

  const find = (i: number) => root(parent, i);
  const members = new Map<number, number[]>();
  for (let i = 0; i < n; i++) if (parent[i] !== i) members.set(find(i), []);
  for (let i = 0; i < n; i++) members.get(find(i))?.push(i);

  const vertexOf = new Int32Array(n);
  const groups = [...members.values()];
  const count = n - groups.reduce((s, g) => s + g.length - 1, 0);
  const out = { x: withRoom(Float64Array, count), y: withRoom(Float64Array, count), z: withRoom(Float64Array, count) };
  let v = 0;
  for (let i = 0; i < n; i++) {
    if (find(i) !== i) continue;
    const group = members.get(i);
    const mean = (of: Float64Array) => {
      if (!group) return of[i]!;
      const known = group.filter((k) => !Number.isNaN(of[k]!));
      // Relative to one of them, so that equal values stay exactly what they are.
      return known.length
        ? of[known[0]!]! + known.reduce((s, k) => s + (of[k]! - of[known[0]!]!), 0) / known.length
        : NaN;
    };
    out.x[v] = mean(x);
    out.y[v] = mean(y);
    out.z[v] = mean(z);
    vertexOf[i] = v++;
  }
  for (let i = 0; i < n; i++) if (find(i) !== i) vertexOf[i] = vertexOf[find(i)]!;
  return { ...out, vertexOf, groups };
}

/** Cells are counted in doubles, exactly up to here. */
const FARTHEST = 2 ** 52;

function counted(n: number): Int32Array {
  const list = new Int32Array(n);
  for (let i = 0; i < n; i++) list[i] = i;
  return list;
}

function root(parent: Int32Array, i: number): number {
  while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
  return i;
}

/** Joins near positions in a forest whose roots are the smallest index; undefined when no two are near. */
function linkNear(x: Float64Array, y: Float64Array, tolerance: number): Int32Array | undefined {
  const n = x.length;
  const cell = Math.max(tolerance * 16, 1e-9),
    reach = tolerance * tolerance;
  const size = 1 << Math.max(4, Math.ceil(Math.log2(n * 2 + 1)));
  const head = new Int32Array(size).fill(-1),
    chain = new Int32Array(n).fill(-1);
  let parent: Int32Array | undefined;
  const slot = (a: number, b: number) => {
    let h = Math.imul(a | 0, 0x9e3779b1) ^ Math.imul(b | 0, 0x85ebca6b);
    h ^= h >>> 15;
    return (Math.imul(h, 0x2c1b3c6d) >>> 0) & (size - 1);
  };
  for (let i = 0; i < n; i++) {
    const fx = x[i]! / cell,
      fy = y[i]! / cell,
      a = Math.floor(fx),
      b = Math.floor(fy);
    // Beyond these doubles are no longer whole cells apart: there is no next one to look into.
    if (!(Math.abs(a) < FARTHEST && Math.abs(b) < FARTHEST)) continue;
    const west = fx - a <= 0.07 ? a - 1 : a,
      east = fx - a >= 0.93 ? a + 1 : a;
    const south = fy - b <= 0.07 ? b - 1 : b,
      north = fy - b >= 0.93 ? b + 1 : b;
    let repeated = false;
    for (let p = west; p <= east; p++)
      for (let q = south; q <= north; q++) {
        for (let k = head[slot(p, q)]!; k >= 0; k = chain[k]!) {
          const dx = x[k]! - x[i]!,
            dy = y[k]! - y[i]!;
          if (dx * dx + dy * dy > reach) continue;
          parent ??= counted(n);
          const r = root(parent, k),
            s = root(parent, i);
          if (r < s) parent[s] = r;
          else parent[r] = s;
          if (dx === 0 && dy === 0) repeated = true;
        }
      }
    // The very same position again links to the same neighbours: it need not stand in the table.
    if (repeated) continue;
    const h = slot(a, b);
    chain[i] = head[h]!;
    head[h] = i;
  }
  return parent;
}
