/**
 * Exact decisions about plan positions, the only place that imports `robust-predicates`
 * (Shewchuk 1997). Axes are east and north, y up; the package's signs are for y down.
 */
import { incircle, orient2d } from "robust-predicates";

/** > 0 when c lies left of a → b, < 0 right, 0 exactly on the line. Sign exact, size about twice the triangle's area. */
export function side(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  // 0 − x, so that "on the line" is never −0.
  return 0 - orient2d(ax, ay, bx, by, cx, cy);
}

/** > 0 when d lies inside the circle through the counter-clockwise triangle a, b, c. Sign exact. */
export function inCircle(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
): number {
  return incircle(ax, ay, bx, by, cx, cy, dx, dy);
}
