/** Triangles that are coloured by a value: of each triangle, or one that runs straight between its corners. */
import type { Picture, Window } from "./picture";

export interface Faces {
  /** Positions as offsets from the scene's origin: corner k is at [2k], [2k + 1]. */
  corners: Float32Array;
  /** Three corners each. */
  triangles: Uint32Array | Int32Array;
  /** A value of each corner, or of each triangle. */
  values: Float32Array | Float64Array;
  perTriangle: boolean;
  /** The colour of a value, as `packed` makes it, at a pixel counted from the lower left. */
  shade: (value: number, x: number, y: number) => number;
  order: number;
}

export const faceCount = (f: Faces) => f.triangles.length / 3;

/**
 * Paints the triangles [from, to): the pixels whose middles lie in them. Of two with a common side none is left out and
 * none is painted twice, since both find the side at the same position.
 */
export function paintFaces(p: Picture, w: Window, f: Faces, from: number, to: number): void {
  const { pixels, width, height } = p,
    { west, north, scale } = w,
    { corners, triangles, values, perTriangle, shade } = f;
  for (let t = from; t < to; t++) {
    const a = triangles[3 * t]!,
      b = triangles[3 * t + 1]!,
      c = triangles[3 * t + 2]!;
    const ax = (corners[2 * a]! - west) * scale - 0.5,
      bx = (corners[2 * b]! - west) * scale - 0.5,
      cx = (corners[2 * c]! - west) * scale - 0.5;
    if ((ax < 0 && bx < 0 && cx < 0) || (ax > width && bx > width && cx > width)) continue;
    const ay = (north - corners[2 * a + 1]!) * scale - 0.5,
      by = (north - corners[2 * b + 1]!) * scale - 0.5,
      cy = (north - corners[2 * c + 1]!) * scale - 0.5;
    const low = Math.max(0, Math.ceil(Math.min(ay, by, cy))),
      high = Math.min(height, Math.ceil(Math.max(ay, by, cy)));
    if (!(low < high)) continue;
    // The value's plane over pixels.
    const twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (twice === 0) continue;
    const va = values[perTriangle ? t : a]!,
      db = perTriangle ? 0 : values[b]! - va,
      dc = perTriangle ? 0 : values[c]! - va,
      alongX = (db * (cy - ay) - dc * (by - ay)) / twice,
      alongY = (dc * (bx - ax) - db * (cx - ax)) / twice;
    for (let y = low; y < high; y++) {
      const ab = crossing(ax, ay, bx, by, y),
        bc = crossing(bx, by, cx, cy, y),
        ca = crossing(cx, cy, ax, ay, y);
      // A row within a triangle meets two of its sides.
      const left = least(ab, bc, ca),
        right = -least(-ab, -bc, -ca);
      const begin = Math.max(0, Math.ceil(left)),
        end = Math.min(width, Math.ceil(right));
      for (let x = begin; x < end; x++)
        pixels[y * width + x] = shade(va + (x - ax) * alongX + (y - ay) * alongY, x, height - 1 - y);
    }
  }
}

/** Where a side meets a row of pixels, counted from its upper end, whichever way it runs; NaN where it does not. */
function crossing(x0: number, y0: number, x1: number, y1: number, y: number): number {
  if (y0 <= y === y1 <= y) return NaN;
  return y0 < y1 ? x0 + ((y - y0) * (x1 - x0)) / (y1 - y0) : x1 + ((y - y1) * (x0 - x1)) / (y0 - y1);
}

/** The least of three numbers, of which some are NaN. */
function least(a: number, b: number, c: number): number {
  const ab = a <= b || Number.isNaN(b) ? a : b;
  return ab <= c || Number.isNaN(c) ? ab : c;
}
