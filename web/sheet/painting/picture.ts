/**
 * A picture that the processor paints: an opaque one, pixel by pixel. A software graphics card, which is what most office
 * machines offer from afar, takes some microseconds for each line and each triangle; this takes a tenth of one.
 */
import type { PlanView } from "../camera";

export interface Picture {
  /** Row by row from the upper left; each pixel as `packed` makes it. */
  pixels: Uint32Array;
  width: number;
  height: number;
}

/** From offsets from the scene's origin to pixels of a picture: x = (e − west) · scale, y = (north − n) · scale. */
export interface Window {
  west: number;
  north: number;
  scale: number;
  /** Pixels of the picture for one of the page. */
  ratio: number;
}

export function windowOf(v: PlanView, origin: readonly [number, number], ratio: number, p: Picture): Window {
  const scale = v.scale * ratio;
  return { west: v.e - origin[0] - p.width / 2 / scale, north: v.n - origin[1] + p.height / 2 / scale, scale, ratio };
}

/** A colour (0 to 1) as one pixel of a picture, whatever the machine's order of bytes. */
export function packed([r, g, b]: readonly number[]): number {
  const bytes = new Uint8ClampedArray([r! * 255, g! * 255, b! * 255, 255]);
  return new Uint32Array(bytes.buffer)[0]!;
}
