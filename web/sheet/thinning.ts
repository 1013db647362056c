/**
 * What is left out where the sheet would be all ink: seen from far away lines are thin, plain contours leave the index
 * contours alone, and points are a faint density (see dots.ts).
 */
import type { Contours } from "@bramble/core/surface/contour";
import { lastOf } from "../lib/last-of";
import type { View } from "../lib/view";

/** How far what is drawn lies apart on average, in the job's unit: area by length; Infinity where there is none. */
export interface Spacing {
  lines: number;
  contours: number;
}

/** What is seen from so far away that it is drawn thinly. */
export interface Far {
  lines: boolean;
  contours: boolean;
}

export const NEAR_BY: Far = { lines: false, contours: false };

/** Pixels between lines, and between contours, from which on all are drawn as they are. */
const APART = { lines: 16, contours: 4 };
/** A way seen from far away has no vertices nearer to one another, in pixels. */
const VERTICES_APART = 1.5;

type Drawn = Pick<View, "lines" | "chains">;

/** Of the job's lines and contours, over the box of its lines' and contours' vertices. */
export const spacingNow = lastOf(
  (chains: View["chains"], lines: View["lines"], contours: View["contours"]): Spacing => {
    const sets = contours.flatMap((c) => (c.value ? [c.value.contours] : []));
    return { lines: spacingOfLines({ chains, lines }), contours: Math.min(Infinity, ...sets.map(spacingOfContours)) };
  },
);

function spacingOfLines({ chains: { xyz }, lines }: Drawn): number {
  const length = lines.reduce((sum, l) => sum + l.length, 0);
  return apart(
    xyz.length / 3,
    (k) => xyz[3 * k]!,
    (k) => xyz[3 * k + 1]!,
    length,
  );
}

export function spacingOfContours({ xy, starts }: Pick<Contours, "xy" | "starts">): number {
  let length = 0;
  for (let l = 0; l + 1 < starts.length; l++)
    for (let i = starts[l]! + 1; i < starts[l + 1]!; i++)
      length += Math.hypot(xy[2 * i]! - xy[2 * i - 2]!, xy[2 * i + 1]! - xy[2 * i - 1]!);
  return apart(
    xy.length / 2,
    (k) => xy[2 * k]!,
    (k) => xy[2 * k + 1]!,
    length,
  );
}

function apart(count: number, e: (k: number) => number, n: (k: number) => number, length: number): number {
  let [minE, maxE, minN, maxN] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let k = 0; k < count; k++) {
    minE = Math.min(minE, e(k));
    maxE = Math.max(maxE, e(k));
    minN = Math.min(minN, n(k));
    maxN = Math.max(maxN, n(k));
  }
  const area = (maxE - minE) * (maxN - minN);
  return length > 0 && area > 0 ? area / length : Infinity;
}

/** `scale` in pixels for a job unit. */
export const farAt = ({ lines, contours }: Spacing, scale: number): Far => ({
  lines: lines * scale < APART.lines,
  contours: contours * scale < APART.contours,
});

/** As near to one another as vertices of what is seen from far away may be, in the job's unit. */
export const leastOf = (spacing: Spacing, of: keyof Far) => (VERTICES_APART * spacing[of]) / APART[of];

/** Calls `side` for the sides of a way that leaves out vertices nearer than `least` to the one before; both ends stay. */
export function thinned(
  from: number,
  to: number,
  at: (k: number) => readonly [number, number],
  least: number,
  side: (a: number, b: number) => void,
): void {
  let last = from;
  for (let k = from + 1; k < to; k++) {
    const [ae, an] = at(last),
      [be, bn] = at(k);
    if (k < to - 1 && Math.hypot(be - ae, bn - an) < least) continue;
    side(last, k);
    last = k;
  }
}
