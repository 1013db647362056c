/**
 * Straight pieces of lines of one colour and width. What they cover of a pixel is the most that any of them covers, so that
 * a line of many short pieces is no thicker than one of few.
 */
import { packed, type Picture, type Window } from "./picture";

export interface Strokes {
  /** Both ends of each: east, north and height as offsets from the scene's origin; in plan the height says nothing. */
  ends: Float32Array;
  /** In pixels of the page. */
  width: number;
  /** 0 to 1. */
  color: readonly [number, number, number];
  /** What is of a higher order lies over what is of a lower. */
  order: number;
  /** About how far apart they are, in the job's unit, where they are to be faint when they crowd. */
  apart?: number;
}

/** Pixels of the page between strokes from which on each is seen; nearer to one another they are faint, at most so. */
const SEEN_FROM = 8,
  FAINTEST = 0.3;

/** How much strokes cover that lie so many pixels apart, 0 to 1. */
export const coverOf = (pixels: number) => Math.min(1, Math.max(FAINTEST, pixels / SEEN_FROM));

export const strokeCount = (s: Strokes) => s.ends.length / 6;

/** Coverage of a picture's pixels while strokes are painted: nothing is covered between two calls. */
export class Coverage {
  readonly of: Uint8Array;
  readonly touched: Int32Array;
  count = 0;

  constructor(readonly pixels: number) {
    this.of = new Uint8Array(pixels);
    this.touched = new Int32Array(pixels);
  }
}

/**
 * Paints the strokes [from, to) over a picture: each covers a pixel by how far the pixel's middle is from it, so that ends
 * are rounded and edges smooth.
 */
export function paintStrokes(p: Picture, w: Window, s: Strokes, from: number, to: number, coverage: Coverage): void {
  const { width, height } = p,
    { west, north, scale } = w,
    { ends } = s,
    // From the middle of a pixel to the middle of the stroke it is covered up to here, and not at all from here on.
    half = Math.max(0.5, (s.width * w.ratio) / 2),
    inner = half - 0.5,
    outer = half + 0.5;
  for (let k = 6 * from; k < 6 * to; k += 6) {
    // Middles of pixels are at whole numbers.
    const ax = (ends[k]! - west) * scale - 0.5,
      ay = (north - ends[k + 1]!) * scale - 0.5,
      bx = (ends[k + 3]! - west) * scale - 0.5,
      by = (north - ends[k + 4]!) * scale - 0.5;
    const minX = Math.max(0, Math.ceil((ax < bx ? ax : bx) - outer)),
      maxX = Math.min(width - 1, Math.floor((ax < bx ? bx : ax) + outer)),
      minY = Math.max(0, Math.ceil((ay < by ? ay : by) - outer)),
      maxY = Math.min(height - 1, Math.floor((ay < by ? by : ay) + outer));
    // Also for what is no number.
    if (!(minX <= maxX && minY <= maxY)) continue;
    cover(coverage, width, ax, ay, bx - ax, by - ay, minX, maxX, minY, maxY, inner, outer);
  }
  const strength = s.apart === undefined ? 1 : coverOf((s.apart * w.scale) / w.ratio);
  blend(p.pixels, coverage, packed(s.color), strength);
}

/**
 * Covers the pixels of a box that lie near a way: column by column where it is flat, row by row where it is steep. No object
 * is made for a stroke.
 */
function cover(
  c: Coverage,
  width: number,
  ax: number,
  ay: number,
  dx: number,
  dy: number,
  minX: number,
  maxX: number,
  minY: number,
  maxY: number,
  inner: number,
  outer: number,
): void {
  const square = dx * dx + dy * dy,
    flat = Math.abs(dx) >= Math.abs(dy),
    // How far the way reaches aside at one column or row.
    aside = square > 0 ? (outer * Math.sqrt(square)) / (flat ? Math.abs(dx) : Math.abs(dy)) : outer,
    slope = square > 0 ? (flat ? dy / dx : dx / dy) : 0,
    { of, touched } = c;
  const high = flat ? maxX : maxY,
    least = flat ? minY : minX,
    most = flat ? maxY : maxX;
  for (let u = flat ? minX : minY; u <= high; u++) {
    const middle = flat ? ay + (u - ax) * slope : ax + (u - ay) * slope,
      begin = Math.max(least, Math.ceil(middle - aside)),
      end = Math.min(most, Math.floor(middle + aside));
    for (let v = begin; v <= end; v++) {
      const x = flat ? u : v,
        y = flat ? v : u,
        px = x - ax,
        py = y - ay;
      let t = square > 0 ? (px * dx + py * dy) / square : 0;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      const ex = px - t * dx,
        ey = py - t * dy,
        far = ex * ex + ey * ey;
      if (far >= outer * outer) continue;
      const covered = far <= inner * inner ? 255 : (255 * (outer - Math.sqrt(far)) + 0.5) | 0,
        at = y * width + x,
        before = of[at]!;
      if (covered <= before) continue;
      if (before === 0) touched[c.count++] = at;
      of[at] = covered;
    }
  }
}

/** Lays a colour over the covered pixels, so strongly, and uncovers them. */
function blend(pixels: Uint32Array, c: Coverage, color: number, strength: number): void {
  const { of, touched } = c;
  for (let k = 0; k < c.count; k++) {
    const at = touched[k]!,
      share = Math.round(of[at]! * strength);
    of[at] = 0;
    pixels[at] = share === 255 ? color : mixed(pixels[at]!, color, share);
  }
  c.count = 0;
}

/** Between two opaque colours, byte by byte: `share` of 255 is the second. */
export function mixed(a: number, b: number, share: number): number {
  const rest = 255 - share;
  let out = 0;
  for (let shift = 0; shift < 32; shift += 8) {
    const x = ((a >>> shift) & 255) * rest + ((b >>> shift) & 255) * share;
    out |= ((x + 127) / 255) << shift;
  }
  return out >>> 0;
}
