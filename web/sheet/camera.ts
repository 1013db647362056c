/** The window onto the plan: centre in job coordinates and scale, with the ways from one to the other. */
export interface PlanView {
  /** Job coordinates at the middle of the sheet. */
  e: number;
  n: number;
  /** Pixels (CSS) for one unit of the job. */
  scale: number;
  width: number;
  height: number;
}

export function toPixel(v: PlanView, e: number, n: number): [number, number] {
  return [v.width / 2 + (e - v.e) * v.scale, v.height / 2 - (n - v.n) * v.scale];
}

export function toPlan(v: PlanView, x: number, y: number): [number, number] {
  return [v.e + (x - v.width / 2) / v.scale, v.n - (y - v.height / 2) / v.scale];
}

/** Pixels along the upper and the left side of the sheet that are kept free for the coordinates. */
export const MARGIN = 20;

/**
 * Whether a text about a pixel stands whole within the window, clear of its margin: what is cut is easily misread. One
 * that is larger than the window is written all the same. Half sizes in pixels, the angle in radians.
 */
export function isWhole(v: PlanView, x: number, y: number, halfWidth: number, halfHeight: number, angle = 0): boolean {
  const [c, s] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))],
    [dx, dy] = [c * halfWidth + s * halfHeight, s * halfWidth + c * halfHeight];
  const fits = (at: number, d: number, from: number, to: number) =>
    2 * d > to - from ? at + d > from && at - d < to : at - d >= from && at + d <= to;
  return fits(x, dx, MARGIN, v.width) && fits(y, dy, MARGIN, v.height);
}

export function zoomAt(v: PlanView, x: number, y: number, factor: number): PlanView {
  const [e, n] = toPlan(v, x, y);
  const scale = Math.min(1e6, Math.max(1e-5, v.scale * factor));
  return { ...v, scale, e: e - (x - v.width / 2) / scale, n: n + (y - v.height / 2) / scale };
}

/** The view that shows a rectangle whole, with a margin; a single position is shown at a scale of about 1:500. */
export function fitTo(
  v: PlanView,
  box: { minE: number; minN: number; maxE: number; maxN: number },
  metres: number,
): PlanView {
  const margin = 48,
    w = box.maxE - box.minE,
    h = box.maxN - box.minN;
  const largest = (3780 / 500) * metres;
  const scale = Math.min(
    largest,
    (v.width - 2 * margin) / Math.max(w, 1e-9),
    (v.height - 2 * margin) / Math.max(h, 1e-9),
  );
  return { ...v, e: (box.minE + box.maxE) / 2, n: (box.minN + box.maxN) / 2, scale: Math.max(scale, 1e-5) };
}

/** Denominator of the scale on a screen of 96 dots an inch. */
export function denominator(v: PlanView, metres: number): number {
  return (metres / v.scale) * (96 / 0.0254);
}
