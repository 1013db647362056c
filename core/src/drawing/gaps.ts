/** Gaps in contours behind their labels: what of a chord lies outside the labels' boxes. */
import type { Layout } from "./layout";

interface Box {
  e: number;
  n: number;
  cos: number;
  sin: number;
  halfWidth: number;
  halfHeight: number;
}

/** Air round a label, as a share of its height. */
const AIR = 0.3;

export class LabelGaps {
  private readonly cells = new Map<string, Box[]>();
  private readonly cell: number = 1;

  /** The labels of a surface's contours; none where there is no layout. */
  constructor(layout: Layout | undefined, surface: string) {
    const boxes = (layout?.texts ?? [])
      .filter((t) => t.is === "contour" && t.layer === surface)
      .map((t): Box => {
        const height = t.height * layout!.unitsPerMm;
        return {
          e: t.e,
          n: t.n,
          cos: Math.cos(t.angle),
          sin: Math.sin(t.angle),
          halfWidth: t.halfWidth * layout!.unitsPerMm + AIR * height,
          halfHeight: (0.5 + AIR) * height,
        };
      });
    this.cell = Math.max(0, ...boxes.map((b) => b.halfWidth + b.halfHeight)) || 1;
    for (const b of boxes)
      for (let i = -1; i <= 1; i++)
        for (let j = -1; j <= 1; j++) {
          const key = this.keyOf(b.e + i * this.cell, b.n + j * this.cell);
          this.cells.set(key, [...(this.cells.get(key) ?? []), b]);
        }
  }

  get areNone(): boolean {
    return this.cells.size === 0;
  }

  private keyOf(e: number, n: number): string {
    return `${Math.floor(e / this.cell)} ${Math.floor(n / this.cell)}`;
  }

  /** The parts of a chord outside all labels, as shares of it, one after another. */
  outside(ae: number, an: number, be: number, bn: number): [from: number, to: number][] {
    let parts: [number, number][] = [[0, 1]];
    for (const b of this.near(ae, an, be, bn)) {
      const [p, q] = [intoBox(b, ae, an), intoBox(b, be, bn)],
        [t0, t1] = within(p, q, b);
      if (t0 >= t1) continue;
      parts = parts.flatMap(([from, to]): [number, number][] => [
        ...(Math.min(to, t0) > from ? [[from, Math.min(to, t0)] as [number, number]] : []),
        ...(Math.max(from, t1) < to ? [[Math.max(from, t1), to] as [number, number]] : []),
      ]);
    }
    return parts;
  }

  /** Labels whose boxes a chord may meet: long chords are looked at in steps of a cell. */
  private near(ae: number, an: number, be: number, bn: number): Set<Box> {
    const steps = Math.min(1000, Math.ceil(Math.hypot(be - ae, bn - an) / this.cell)),
      found = new Set<Box>();
    for (let k = 0; k <= steps; k++) {
      const t = steps === 0 ? 0 : k / steps;
      for (const b of this.cells.get(this.keyOf(ae + t * (be - ae), an + t * (bn - an))) ?? []) found.add(b);
    }
    return found;
  }
}

const intoBox = (b: Box, e: number, n: number): [number, number] => [
  (e - b.e) * b.cos + (n - b.n) * b.sin,
  (n - b.n) * b.cos - (e - b.e) * b.sin,
];

/** The share of the way from p to q that lies in a box about the origin; the first not before the last for none. */
function within(p: [number, number], q: [number, number], b: Box): [number, number] {
  let [t0, t1] = [0, 1];
  for (const [axis, half] of [
    [0, b.halfWidth],
    [1, b.halfHeight],
  ] as const) {
    const d = q[axis] - p[axis];
    if (d === 0) {
      if (Math.abs(p[axis]) > half) return [1, 0];
      continue;
    }
    const [u, v] = [(-half - p[axis]) / d, (half - p[axis]) / d];
    t0 = Math.max(t0, Math.min(u, v));
    t1 = Math.min(t1, Math.max(u, v));
  }
  return [t0, t1];
}
