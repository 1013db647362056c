/** An order of positions in which neighbours in the list are neighbours in plan: along a Hilbert curve. */

/** Bits of a cell's column and row: cells for some millions of positions, and keys that two rounds of sorting settle. */
const BITS = 12,
  CELLS = 2 ** BITS - 1;
/** Positions of one cell are ordered within their own box when there are more of them than this. */
const CROWD = 16;
/** How often a cell may be looked at anew: each time it is 4095 times finer, so that doubles are soon told apart. */
const DEEPEST = 60;
const DIGIT = BITS;

/** The indices of positions along the curve. Positions that are equal keep their order. */
export function alongCurve(x: Float64Array, y: Float64Array): Uint32Array {
  const order = inTurn(x.length);
  sortWithin(x, y, order, DEEPEST);
  return order;
}

/** The order in which things stand already. */
export function inTurn(count: number): Uint32Array {
  const order = new Uint32Array(count);
  for (let i = 0; i < count; i++) order[i] = i;
  return order;
}

/** Sorts a part of an order along the curve through the box of its own positions. */
function sortWithin(x: Float64Array, y: Float64Array, order: Uint32Array, deeper: number): void {
  const n = order.length;
  let minX = Infinity,
    minY = Infinity,
    maxX = -Infinity,
    maxY = -Infinity;
  for (let k = 0; k < n; k++) {
    const i = order[k]!,
      px = x[i]!,
      py = y[i]!;
    if (px < minX) minX = px;
    if (px > maxX) maxX = px;
    if (py < minY) minY = py;
    if (py > maxY) maxY = py;
  }
  const size = Math.max(maxX - minX, maxY - minY);
  if (!(size > 0)) return;
  const keys = new Uint32Array(n);
  for (let k = 0; k < n; k++) {
    const i = order[k]!;
    keys[k] = curveKey(((x[i]! - minX) / size) * CELLS, ((y[i]! - minY) / size) * CELLS);
  }
  sortByKeys(keys, order);
  if (deeper === 0) return;
  for (let from = 0, to = 1; from < n; from = to++) {
    while (to < n && keys[to] === keys[from]) to++;
    // One cell that holds all is as far as doubles go.
    if (to - from > CROWD && to - from < n) sortWithin(x, y, order.subarray(from, to), deeper - 1);
  }
}

/**
 * Steps of the curve four bits at a time. A quarter turned over (bit 0 of the state: its axes exchanged; bit 1: both
 * mirrored) with four bits of column and row gives eight bits of the key, and how the quarter that they name is turned.
 */
const STEPS = new Uint16Array(4 * 256);
for (let at = 0; at < STEPS.length; at++) {
  let state = at >> 8,
    key = 0;
  for (let bit = 3; bit >= 0; bit--) {
    const [c, r] = [(at >> (4 + bit)) ^ (state >> 1), (at >> bit) ^ (state >> 1)].map((v) => v & 1) as [number, number],
      [u, v] = state & 1 ? [r, c] : [c, r];
    key = (key << 2) | ((3 * u) ^ v);
    if (v === 0) state ^= u === 1 ? 3 : 1;
  }
  STEPS[at] = (key << 2) | state;
}

/** Where a cell lies along the Hilbert curve of 2¹² × 2¹² cells (Hilbert 1891). */
export function curveKey(column: number, row: number): number {
  let key = 0,
    state = 0;
  for (let shift = BITS - 4; shift >= 0; shift -= 4) {
    const step = STEPS[(state << 8) | (((column >> shift) & 15) << 4) | ((row >> shift) & 15)]!;
    key = (key << 8) | (step >> 2);
    state = step & 3;
  }
  return key;
}

/** Sorts keys, and an order along with them, digit by digit; stable. */
function sortByKeys(keys: Uint32Array, order: Uint32Array): void {
  const n = keys.length;
  if (n < 2048) return sortFew(keys, order);
  // Digits are two, so that what is sorted ends where it was.
  let from: { keys: Uint32Array; order: Uint32Array } = { keys, order },
    to: typeof from = { keys: new Uint32Array(n), order: new Uint32Array(n) };
  const size = 1 << DIGIT,
    next = new Uint32Array(size);
  for (let shift = 0; shift < 2 * BITS; shift += DIGIT) {
    next.fill(0);
    for (let i = 0; i < n; i++) next[(from.keys[i]! >>> shift) & (size - 1)]!++;
    for (let d = 0, sum = 0; d < size; d++) {
      const count = next[d]!;
      next[d] = sum;
      sum += count;
    }
    for (let i = 0; i < n; i++) {
      const key = from.keys[i]!,
        at = next[(key >>> shift) & (size - 1)]!++;
      to.keys[at] = key;
      to.order[at] = from.order[i]!;
    }
    [from, to] = [to, from];
  }
}

function sortFew(keys: Uint32Array, order: Uint32Array): void {
  const by = Array.from(keys, (_, k) => k).sort((a, b) => keys[a]! - keys[b]! || a - b),
    [k0, o0] = [keys.slice(), order.slice()];
  by.forEach((from, to) => {
    keys[to] = k0[from]!;
    order[to] = o0[from]!;
  });
}
