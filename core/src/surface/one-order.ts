/** Triangles in the one order that hangs on nothing but which they are. */
import { withRoom } from "./mesh";

/** Triangle t has the corners tri[3t], tri[3t + 1], tri[3t + 2] counter-clockwise; twins of sides, −1 on the outline. */
export interface Triangles {
  tri: Int32Array;
  twin: Int32Array;
}

/** Triangles with the same lowest corner are sorted by inserting where they are fewer. */
const FEW = 24;

/**
 * Triangles by their lowest corner, which comes first in each, then by the next one. Those with the corner `infinite`,
 * which is above all others, are left out; corners are named by `names` in what is returned. Where a triangle goes and
 * which of its corners comes first are one number (4 × the one + the other), so that next to nothing is divided.
 */
export function inOneOrder(
  tri: Int32Array,
  twin: Int32Array,
  used: number,
  infinite: number,
  names: Uint32Array,
): Triangles {
  const starts = new Int32Array(names.length + 1);
  let count = 0;
  for (let h = 0; h < used; h += 3) {
    const a = tri[h]!,
      b = tri[h + 1]!,
      c = tri[h + 2]!;
    if (a === infinite || b === infinite || c === infinite) continue;
    starts[Math.min(a, b, c) + 1]!++;
    count++;
  }
  for (let v = 0; v < names.length; v++) starts[v + 1]! += starts[v]!;

  // Each start moves on to where its bucket ends.
  const out = { tri: withRoom(Int32Array, 3 * count), twin: withRoom(Int32Array, 3 * count) },
    to = out.tri,
    from = new Int32Array(count),
    wentTo = new Int32Array((used / 3) | 0).fill(-1);
  for (let h = 0, code = 0; h < used; h += 3, code += 4) {
    const a = tri[h]!,
      b = tri[h + 1]!,
      c = tri[h + 2]!;
    if (a === infinite || b === infinite || c === infinite) continue;
    if (a < b && a < c) put(a, b, c, code);
    else if (b < c) put(b, c, a, code + 1);
    else put(c, a, b, code + 2);
  }
  function put(low: number, next: number, last: number, code: number): void {
    const k = starts[low]!++;
    from[k] = code;
    wentTo[code >> 2] = 4 * k + (code & 3);
    to[3 * k] = low;
    to[3 * k + 1] = next;
    to[3 * k + 2] = last;
  }
  for (let v = 0, first = 0; v < names.length; v++) {
    const end = starts[v]!;
    if (end - first > FEW ? sortMany(to, from, first, end) : sortFew(to, from, first, end))
      for (let k = first; k < end; k++) wentTo[from[k]! >> 2] = 4 * k + (from[k]! & 3);
    first = end;
  }

  const twinOf = (h: number) => {
    const t = (h / 3) | 0,
      code = wentTo[t]!;
    if (code < 0) return -1;
    const corner = h - 3 * t - (code & 3);
    return 3 * (code >> 2) + (corner < 0 ? corner + 3 : corner);
  };
  for (let k = 0, h = 0; k < count; k++, h += 3) {
    to[h] = names[to[h]!]!;
    to[h + 1] = names[to[h + 1]!]!;
    to[h + 2] = names[to[h + 2]!]!;
    const first = from[k]! & 3,
      t = 3 * (from[k]! >> 2);
    out.twin[h] = twinOf(twin[t + first]!);
    out.twin[h + 1] = twinOf(twin[t + (first === 2 ? 0 : first + 1)]!);
    out.twin[h + 2] = twinOf(twin[t + (first === 0 ? 2 : first - 1)]!);
  }
  return out;
}

/** Sorts a bucket by the second corners; whether anything moved. */
function sortFew(to: Int32Array, from: Int32Array, first: number, end: number): boolean {
  let moved = false;
  for (let k = first + 1; k < end; k++) {
    const code = from[k]!,
      next = to[3 * k + 1]!,
      last = to[3 * k + 2]!;
    let at = k;
    for (; at > first && to[3 * at - 2]! > next; at--) {
      from[at] = from[at - 1]!;
      to[3 * at + 1] = to[3 * at - 2]!;
      to[3 * at + 2] = to[3 * at - 1]!;
    }
    if (at === k) continue;
    moved = true;
    from[at] = code;
    to[3 * at + 1] = next;
    to[3 * at + 2] = last;
  }
  return moved;
}

function sortMany(to: Int32Array, from: Int32Array, first: number, end: number): boolean {
  const were = to.slice(3 * first, 3 * end),
    codes = from.slice(first, end),
    order = Int32Array.from(codes.keys()).sort((a, b) => were[3 * a + 1]! - were[3 * b + 1]!);
  order.forEach((was, k) => {
    from[first + k] = codes[was]!;
    to.set(were.subarray(3 * was, 3 * was + 3), 3 * (first + k));
  });
  return true;
}
