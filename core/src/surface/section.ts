/** A vertical section of a surface along a straight line in plan. */
import { side } from "../math/predicates";
import { SurfaceReader } from "./locate";
import { next } from "./mesh";
import type { Surface } from "./model";

/** Stations from the line's start, rising, with the surface's level; NaN where the line leaves it until it comes again. */
export interface Section {
  station: number[];
  level: number[];
}

/**
 * The section from one position (E, N) to another: its corners are where the line crosses sides of triangles, so that it
 * is the surface itself and no sample of it. `reader` is one of the surface.
 */
export function sectionOf(
  s: Surface,
  from: readonly [number, number],
  to: readonly [number, number],
  reader = new SurfaceReader(s),
): Section {
  const [ax, ay] = [from[0] - s.origin[0], from[1] - s.origin[1]],
    [bx, by] = [to[0] - s.origin[0], to[1] - s.origin[1]],
    length = Math.hypot(bx - ax, by - ay),
    out: Section = { station: [], level: [] };
  if (!(length > 0)) return out;
  const [ux, uy] = [(bx - ax) / length, (by - ay) / length],
    found: [station: number, level: number][] = [];
  const along = (x: number, y: number) => (x - ax) * ux + (y - ay) * uy;
  for (const p of [from, to]) {
    const under = reader.at(...(p as [number, number]));
    if (under) found.push([p === from ? 0 : length, under.level]);
  }
  const { x, y, z, tri, twin } = s,
    offset = new Float64Array(x.length);
  for (let v = 0; v < x.length; v++) offset[v] = side(ax, ay, bx, by, x[v]!, y[v]!);
  for (let h = 0; h < tri.length; h++) {
    if (twin[h]! > h) continue;
    const [p, q] = [tri[h]!, tri[next(h)]!],
      [dp, dq] = [offset[p]!, offset[q]!];
    if ((dp > 0 && dq > 0) || (dp < 0 && dq < 0)) continue;
    // A side along the line has both its ends on it.
    const shares = dp === dq ? [0, 1] : [dp / (dp - dq)];
    for (const t of shares) {
      const station = along(x[p]! + t * (x[q]! - x[p]!), y[p]! + t * (y[q]! - y[p]!));
      if (station >= 0 && station <= length) found.push([station, z[p]! + t * (z[q]! - z[p]!)]);
    }
  }
  found.sort((a, b) => a[0] - b[0]);
  // Crossings of sides that meet at a vertex are one; between two that are not, the line may lie off the surface.
  const near = 1e-9 * (length + 1);
  for (const [station, level] of found) {
    const last = out.station.at(-1);
    if (last !== undefined && station - last <= near) continue;
    if (last !== undefined) {
      const middle = (last + station) / 2;
      if (!reader.at(from[0] + middle * ux, from[1] + middle * uy)) {
        out.station.push(middle);
        out.level.push(NaN);
      }
    }
    out.station.push(station);
    out.level.push(level);
  }
  return out;
}

/** The level of a section at a station, linear between its corners; NaN where it has none. */
export function levelOn({ station, level }: Section, at: number): number {
  let lo = 0,
    hi = station.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (station[mid]! < at) lo = mid + 1;
    else hi = mid;
  }
  if (station[lo] === at) return level[lo]!;
  if (lo === 0 || lo === station.length) return NaN;
  const t = (at - station[lo - 1]!) / (station[lo]! - station[lo - 1]!);
  return level[lo - 1]! + t * (level[lo]! - level[lo - 1]!);
}
