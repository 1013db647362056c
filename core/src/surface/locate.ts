/** What the surface is under the cursor: level, slope and its direction. */
import { side } from "../math/predicates";
import { next } from "./mesh";
import type { Surface } from "./model";
import { OutlineSides } from "./outline-sides";

export interface Underfoot {
  level: number;
  /** Rise over run of the triangle, ≥ 0. */
  slope: number;
  /** Azimuth of steepest fall in radians, clockwise from north; NaN on the level. */
  fall: number;
  triangle: number;
}

/** Finds the triangle at a position by walking from the last one asked for. */
export class SurfaceReader {
  private last = 0;
  private outline?: OutlineSides;

  constructor(readonly surface: Surface) {}

  /** Level and slope at east, north; undefined where there is no triangle. */
  at(e: number, n: number): Underfoot | undefined {
    const { surface: s } = this;
    const px = e - s.origin[0],
      py = n - s.origin[1];
    const t = this.find(px, py);
    if (t < 0) return undefined;
    this.last = t;
    const a = s.tri[t]!,
      b = s.tri[t + 1]!,
      c = s.tri[t + 2]!;
    const bx = s.x[b]! - s.x[a]!,
      by = s.y[b]! - s.y[a]!,
      bz = s.z[b]! - s.z[a]!;
    const cx = s.x[c]! - s.x[a]!,
      cy = s.y[c]! - s.y[a]!,
      cz = s.z[c]! - s.z[a]!;
    const det = bx * cy - by * cx;
    const gx = (bz * cy - by * cz) / det,
      gy = (bx * cz - bz * cx) / det;
    const level = s.z[a]! + gx * (px - s.x[a]!) + gy * (py - s.y[a]!);
    const slope = Math.hypot(gx, gy);
    const fall = slope === 0 ? NaN : (Math.atan2(-gx, -gy) + 2 * Math.PI) % (2 * Math.PI);
    return { level, slope, fall, triangle: t / 3 };
  }

  /** First half-edge of the triangle that holds the position; −1 for none. */
  private find(px: number, py: number): number {
    const { x, y, tri, twin } = this.surface;
    if (tri.length === 0) return -1;
    let t = this.last;
    for (let steps = 0; steps < tri.length; steps++) {
      let across = -2;
      for (let k = 0; k < 3 && across < 0; k++) {
        const h = t + ((k + steps) % 3),
          a = tri[h]!,
          b = tri[next(h)]!;
        if (side(x[a]!, y[a]!, x[b]!, y[b]!, px, py) < 0) across = twin[h]!;
      }
      if (across === -2) return t;
      // Past the outline: the position may still lie in another part of a surface with hollows.
      if (across === -1) return (this.outline ??= new OutlineSides(this.surface)).holding(px, py);
      t = across - (across % 3);
    }
    return this.search(px, py);
  }

  private search(px: number, py: number): number {
    const { x, y, tri } = this.surface;
    for (let t = 0; t < tri.length; t += 3) {
      let inside = true;
      for (let h = t; inside && h < t + 3; h++) {
        const a = tri[h]!,
          b = tri[next(h)]!;
        // Plain arithmetic rules most triangles out at once; the exact test decides the rest.
        inside =
          (x[b]! - x[a]!) * (py - y[a]!) - (y[b]! - y[a]!) * (px - x[a]!) >= -1e-6 &&
          side(x[a]!, y[a]!, x[b]!, y[b]!, px, py) >= 0;
      }
      if (inside) return t;
    }
    return -1;
  }
}
