/** The order in which a person would walk points whose numbers zigzag: nearest neighbours, then crossings taken out (2-opt, Croes 1958). */

/** Length of the way through positions (E, N pairs) in an order. */
export function pathLength(e: ArrayLike<number>, n: ArrayLike<number>, order: readonly number[]): number {
  let sum = 0;
  for (let k = 1; k < order.length; k++)
    sum += Math.hypot(e[order[k]!]! - e[order[k - 1]!]!, n[order[k]!]! - n[order[k - 1]!]!);
  return sum;
}

/** Beyond this many points only the first is tried as the start. */
const TRY_ALL = 120;
/** Beyond this many points crossings are left: each round looks at all pairs. */
const UNCROSS = 1500;

/** An order of all positions along an open path that is short; never longer than the order given. */
export function nearestPath(e: ArrayLike<number>, n: ArrayLike<number>): number[] {
  const count = e.length,
    given = Array.from({ length: count }, (_, k) => k);
  if (count < 3) return given;
  let best = given,
    least = pathLength(e, n, given);
  for (let start = 0; start < (count <= TRY_ALL ? count : 1); start++) {
    const order = uncrossed(e, n, neighbours(e, n, start)),
      length = pathLength(e, n, order);
    if (length < least - 1e-9) [best, least] = [order, length];
  }
  // The end at which the numbers begin comes first.
  return best[0]! > best.at(-1)! ? best.slice().reverse() : best;
}

function neighbours(e: ArrayLike<number>, n: ArrayLike<number>, start: number): number[] {
  const left = new Set(Array.from({ length: e.length }, (_, k) => k)),
    order = [start];
  left.delete(start);
  while (left.size) {
    const at = order.at(-1)!;
    let next = -1,
      least = Infinity;
    for (const k of left) {
      const d = (e[k]! - e[at]!) ** 2 + (n[k]! - n[at]!) ** 2;
      if (d < least) [next, least] = [k, d];
    }
    order.push(next);
    left.delete(next);
  }
  return order;
}

function uncrossed(e: ArrayLike<number>, n: ArrayLike<number>, order: number[]): number[] {
  const count = order.length,
    d = (a: number, b: number) => (a < 0 || b < 0 ? 0 : Math.hypot(e[a]! - e[b]!, n[a]! - n[b]!));
  if (count > UNCROSS) return order;
  for (let round = 0; round < 50; round++) {
    let better = false;
    for (let i = 0; i < count - 1; i++)
      for (let j = i + 1; j < count; j++) {
        const before = order[i - 1] ?? -1,
          after = order[j + 1] ?? -1;
        if (d(before, order[j]!) + d(order[i]!, after) < d(before, order[i]!) + d(order[j]!, after) - 1e-9) {
          for (let a = i, b = j; a < b; a++, b--) [order[a], order[b]] = [order[b]!, order[a]!];
          better = true;
        }
      }
    if (!better) break;
  }
  return order;
}

/** A piece of a way this many times the median piece is a jump. */
const JUMP = 5;

/**
 * The stretches of a way through positions (E, N), parted at its jumps, by their first and the one behind their last; one
 * where nothing jumps, or where a part would be a single position.
 */
export function stretchesOf(e: ArrayLike<number>, n: ArrayLike<number>): [from: number, to: number][] {
  const whole: [number, number][] = [[0, e.length]],
    pieces = Array.from({ length: Math.max(0, e.length - 1) }, (_, k) =>
      Math.hypot(e[k + 1]! - e[k]!, n[k + 1]! - n[k]!),
    ),
    limit = JUMP * (pieces.toSorted((a, b) => a - b)[(pieces.length - 1) >> 1] ?? 0),
    cuts = pieces.flatMap((x, k) => (x > limit ? [k + 1] : []));
  if (!(limit > 0) || cuts.length === 0) return whole;
  const ends = [0, ...cuts, e.length],
    parts = cuts.concat(e.length).map((to, k): [number, number] => [ends[k]!, to]);
  return parts.every(([from, to]) => to - from >= 2) ? parts : whole;
}
