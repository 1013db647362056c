/**
 * Points as dots: a million takes some ten milliseconds and copies nothing. From near they are crosses; control is a
 * triangle.
 */
import type { PlanView } from "../camera";

/** Points to draw, read from the job's own columns. Positions in the job's unit, east and north. */
export interface Dots {
  count: number;
  e: Float64Array;
  n: Float64Array;
  /** From one position to the next in both; 2 where they are pairs in one array. */
  stride: number;
  /** The colour of a point, as `packed` makes it; 0 where it is not drawn. */
  color: (i: number) => number;
  control: (i: number) => boolean;
  /** About how far apart they stand, in the job's unit. */
  spacing: number;
  /** Pixels across of each where they do not follow from how far apart they stand; such dots are never faint. */
  size?: number;
}

/** Where the pixel of a picture has its opacity, whatever the machine's order of bytes. */
const OPACITY = new Uint8Array(Uint32Array.of(0x01000000).buffer)[3] === 1 ? 24 : 0;
/** Pixels between points from which on each is seen; nearer to one another they are a faint density, as faint at least. */
const SEEN_FROM = 6,
  FAINTEST = 0.12;

/** The opacity of points so many pixels apart, 0 to 1. */
export const opacityOf = (pixels: number) => Math.min(1, Math.max(FAINTEST, pixels / SEEN_FROM));

/** Pixels across of a dot: points close together shrink, so that the lines stay to be seen. */
const LEAST = 2,
  LARGEST = 7,
  /** From this size on a point is a cross. */
  CROSS = 5,
  CONTROL = 11;

/**
 * Draws over what stands in the picture, which is `width` × `height` pixels at `ratio` pixels for one of the page. Points
 * that crowd are faint, unless `faint` is false, as on paper.
 */
export function paintDots(
  picture: Uint32Array,
  width: number,
  height: number,
  ratio: number,
  plan: PlanView,
  d: Dots,
  faint = true,
): void {
  const apart = d.spacing * plan.scale,
    across = (d.size ?? Math.min(LARGEST, Math.max(LEAST, apart * 0.3))) * ratio;
  const dot = stampOf(
      d.size === undefined && across > CROSS * ratio ? crossOf(across, ratio) : squareOf(Math.round(across)),
      width,
    ),
    triangle = stampOf(triangleOf(CONTROL * ratio, ratio), width);
  const scale = plan.scale * ratio,
    opacity = Math.round(255 * (faint && d.size === undefined ? opacityOf(apart) : 1)),
    rest = ~(255 << OPACITY),
    left = plan.e - width / 2 / scale,
    top = plan.n + height / 2 / scale;
  for (let i = 0; i < d.count; i++) {
    const x = Math.floor((d.e[i * d.stride]! - left) * scale),
      y = Math.floor((top - d.n[i * d.stride]!) * scale);
    if (!(x >= 0 && x < width && y >= 0 && y < height)) continue;
    const color = d.color(i);
    if (color === 0) continue;
    const { offsets, reach } = d.control(i) ? triangle : dot;
    if (x < reach || y < reach || x >= width - reach || y >= height - reach) continue;
    const at = y * width + x,
      seen = offsets === triangle.offsets ? color : (color & rest) | (opacity << OPACITY);
    for (let k = 0; k < offsets.length; k++) picture[at + offsets[k]!] = seen;
  }
}

/** The pixels of a shape, as steps from its middle within a picture of a width. */
function stampOf(pixels: readonly [number, number][], width: number): { offsets: Int32Array; reach: number } {
  return {
    offsets: Int32Array.from(pixels, ([x, y]) => y * width + x),
    reach: Math.max(0, ...pixels.flat().map(Math.abs)),
  };
}

function pixelsWhere(reach: number, inside: (x: number, y: number) => boolean): [number, number][] {
  const out: [number, number][] = [],
    r = Math.ceil(reach);
  for (let y = -r; y <= r; y++) for (let x = -r; x <= r; x++) if (inside(x, y)) out.push([x, y]);
  return out;
}

function squareOf(side: number): [number, number][] {
  const from = -Math.floor(side / 2);
  return pixelsWhere(side, (x, y) => x >= from && x < from + side && y >= from && y < from + side);
}

function crossOf(across: number, ratio: number): [number, number][] {
  const arm = Math.round(across / 2),
    half = Math.max(0, Math.round(ratio / 2 - 0.5));
  return pixelsWhere(arm, (x, y) => Math.min(Math.abs(x), Math.abs(y)) <= half);
}

/** An outline standing on its base. */
function triangleOf(across: number, ratio: number): [number, number][] {
  const h = across / 2;
  // How far a pixel lies outside each of the three sides.
  const outside = (x: number, y: number) => Math.max(y - h * 0.8, (Math.abs(x) * 2 - (y + h)) / Math.sqrt(5));
  return pixelsWhere(h, (x, y) => outside(x, y) <= 0 && outside(x, y) > -Math.max(1.2, 1.4 * ratio));
}

/** About how far apart points are: the side of the square that each would have of the middle half of their extent. */
export function spacingOf(e: Float64Array, n: Float64Array, count: number, stride = 1): number {
  if (count < 4) return Infinity;
  // Of very many a few thousand tell as much.
  const size = Math.min(count, 20_000),
    step = count / size;
  const middle = (of: Float64Array) => {
    const sorted = new Float64Array(size);
    for (let i = 0; i < size; i++) sorted[i] = of[Math.floor(i * step) * stride]!;
    sorted.sort();
    return sorted[Math.floor(0.75 * size)]! - sorted[Math.floor(0.25 * size)]!;
  };
  return Math.sqrt((middle(e) * middle(n) * 4) / count) || 1;
}
