/**
 * Vertical cuts through surfaces along parallel lines. They go over the triangles of each surface alone, so that what is
 * made of them is an opinion independent of the overlay of both.
 */
import { boxIndex, type BoxIndex } from "../math/near";
import type { Corner } from "../math/ring";
import type { Surface } from "../surface/model";

/** Parallel lines: where they run (azimuth in degrees) and how far each lies to the right of the origin E, N; rising. */
export interface ParallelLines {
  origin: readonly [number, number];
  azimuth: number;
  at: Float64Array;
}

/** Along and across: c counts along the lines, s to their right. */
export function frameOf({ azimuth }: Pick<ParallelLines, "azimuth">) {
  const [sin, cos] = [Math.sin((azimuth * Math.PI) / 180), Math.cos((azimuth * Math.PI) / 180)];
  return { along: (e: number, n: number) => e * sin + n * cos, across: (e: number, n: number) => e * cos - n * sin };
}

/** What one line cuts from a surface: from where to where along it, with the levels there, four numbers a triangle. */
export type Cut = Float64Array;

/** The first position of a rising list that is not below a value. */
export function firstFrom(list: Float64Array, value: number): number {
  let lo = 0,
    hi = list.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (list[mid]! < value) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}

const triangleBoxes = new WeakMap<Surface, BoxIndex>();

/** First half-edges of the triangles of a surface near a rectangle (E, N), rising. */
export function trianglesNear(s: Surface, [w, south, e, n]: readonly [number, number, number, number]): number[] {
  let index = triangleBoxes.get(s);
  const { x, y, tri, origin } = s;
  if (!index) {
    index = boxIndex(tri.length / 3, (k) => {
      const [a, b, c] = [tri[3 * k]!, tri[3 * k + 1]!, tri[3 * k + 2]!];
      return [
        Math.min(x[a]!, x[b]!, x[c]!),
        Math.min(y[a]!, y[b]!, y[c]!),
        Math.max(x[a]!, x[b]!, x[c]!),
        Math.max(y[a]!, y[b]!, y[c]!),
      ];
    });
    triangleBoxes.set(s, index);
  }
  return index
    .search(w - origin[0], south - origin[1], e - origin[0], n - origin[1])
    .map((k) => 3 * k)
    .sort((a, b) => a - b);
}

/**
 * The cut of each line, in order along it, of all triangles or of those that are given. A vertex exactly on a line counts
 * as to the right of it.
 */
export function cutsOf(s: Surface, lines: ParallelLines, some?: readonly number[]): Cut[] {
  const { along, across } = frameOf(lines),
    [oe, on] = [s.origin[0] - lines.origin[0], s.origin[1] - lines.origin[1]],
    { x, y, z, tri } = s,
    found: number[][] = Array.from(lines.at, () => []);
  // Of few triangles only their own corners are looked at.
  const slotOf = some
    ? new Map([...new Set(some.flatMap((h) => [tri[h]!, tri[h + 1]!, tri[h + 2]!]))].map((v, k) => [v, k]))
    : undefined;
  const c = new Float64Array(slotOf?.size ?? x.length),
    r = new Float64Array(c.length),
    slot = (v: number) => (slotOf ? slotOf.get(v)! : v);
  for (const v of slotOf?.keys() ?? x.keys()) {
    c[slot(v)] = along(x[v]! + oe, y[v]! + on);
    r[slot(v)] = across(x[v]! + oe, y[v]! + on);
  }
  const count = some?.length ?? tri.length / 3;
  for (let k = 0; k < count; k++) {
    const h = some?.[k] ?? 3 * k,
      corners = [tri[h]!, tri[h + 1]!, tri[h + 2]!],
      slots = corners.map(slot),
      [r0, r1, r2] = [r[slots[0]!]!, r[slots[1]!]!, r[slots[2]!]!],
      low = Math.min(r0, r1, r2),
      high = Math.max(r0, r1, r2);
    for (let k = firstFrom(lines.at, low); k < lines.at.length && lines.at[k]! <= high; k++) {
      const at = lines.at[k]!,
        ends: number[] = [];
      for (let i = 0; i < 3; i++) {
        const [p, q] = [slots[i]!, slots[(i + 1) % 3]!];
        if (r[p]! >= at === r[q]! >= at) continue;
        const t = (at - r[p]!) / (r[q]! - r[p]!),
          [zp, zq] = [z[corners[i]!]!, z[corners[(i + 1) % 3]!]!];
        ends.push(c[p]! + t * (c[q]! - c[p]!), zp + t * (zq - zp));
      }
      if (ends.length < 4) continue;
      if (ends[0]! <= ends[2]!) found[k]!.push(ends[0]!, ends[1]!, ends[2]!, ends[3]!);
      else found[k]!.push(ends[2]!, ends[3]!, ends[0]!, ends[1]!);
    }
  }
  return found.map((list) => {
    const order = Array.from({ length: list.length / 4 }, (_, k) => 4 * k).sort(
      (a, b) => list[a]! - list[b]! || list[a + 2]! - list[b + 2]!,
    );
    return Float64Array.from(order.flatMap((k) => list.slice(k, k + 4)));
  });
}

/** Where each line lies within at least one of some rings: pairs from, to, rising. */
export function withinRings(rings: readonly Corner[][], lines: ParallelLines): Float64Array[] {
  const { along, across } = frameOf(lines),
    [oe, on] = lines.origin;
  const turned = rings.map((ring) => ring.map(([e, n]) => [along(e - oe, n - on), across(e - oe, n - on)] as const));
  return Array.from(lines.at, (at) => {
    // +1 where a ring is entered, −1 where it is left.
    const marks: [c: number, step: number][] = [];
    for (const ring of turned) {
      const cs: number[] = [];
      ring.forEach(([pc, pr], k) => {
        const [qc, qr] = ring[(k + 1) % ring.length]!;
        if (pr >= at !== qr >= at) cs.push(pc + ((at - pr) / (qr - pr)) * (qc - pc));
      });
      cs.sort((a, b) => a - b).forEach((c, k) => marks.push([c, k % 2 === 0 ? 1 : -1]));
    }
    marks.sort((a, b) => a[0] - b[0] || b[1] - a[1]);
    const out: number[] = [];
    let depth = 0;
    for (const [c, step] of marks) {
      if (depth === 0) out.push(c);
      depth += step;
      if (depth === 0) out.push(c);
    }
    return Float64Array.from(out);
  });
}

/**
 * Calls `take(from, to, d0, d1)` for each stretch on which two cuts (or one and a level) go on straight, with their
 * differences at its ends; within the given stretches where there are some.
 */
export function differenceAlong(
  first: Cut,
  second: Cut | number,
  within: Float64Array | undefined,
  take: (from: number, to: number, d0: number, d1: number) => void,
): void {
  const levelAt = (cut: Cut, k: number, c: number) => {
    const [c0, z0, c1, z1] = [cut[k]!, cut[k + 1]!, cut[k + 2]!, cut[k + 3]!];
    return c1 > c0 ? z0 + ((c - c0) / (c1 - c0)) * (z1 - z0) : z0;
  };
  let i = 0,
    j = 0,
    w = 0;
  while (i < first.length && (typeof second === "number" || j < second.length) && (!within || w < within.length)) {
    const from = Math.max(
        first[i]!,
        typeof second === "number" ? -Infinity : second[j]!,
        within ? within[w]! : -Infinity,
      ),
      ends = [
        first[i + 2]!,
        typeof second === "number" ? Infinity : second[j + 2]!,
        within ? within[w + 1]! : Infinity,
      ],
      to = Math.min(...ends);
    if (to > from) {
      const d = (c: number) => (typeof second === "number" ? second : levelAt(second, j, c)) - levelAt(first, i, c);
      take(from, to, d(from), d(to));
    }
    if (ends[0] === to) i += 4;
    else if (ends[1] === to) j += 4;
    else w += 2;
  }
}
