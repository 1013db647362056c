/** Vertical sections of a surface: along a straight line in plan, or along a way with bends (a profile). */
import type { Chains } from "../lines/flatten";
import { side } from "../math/predicates";
import { stationing, straightLine } from "../math/station";
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

/** Corners E, N of a way in plan. */
export type PlanWay = readonly (readonly [e: number, n: number])[];

/** The section along a way with bends, stations counted along all of it. */
export function profileOf(s: Surface, way: PlanWay, reader = new SurfaceReader(s)): Section {
  const out: Section = { station: [], level: [] };
  let begin = 0;
  for (let k = 1; k < way.length; k++) {
    const leg = sectionOf(s, way[k - 1]!, way[k]!, reader);
    leg.station.forEach((station, i) => {
      const at = begin + station,
        last = out.station.at(-1);
      // At a bend both legs have the same corner.
      if (last !== undefined && at <= last) return;
      // A leg that begins off the surface leaves a gap behind what came before.
      if (i === 0 && last !== undefined && station > 0 && last < begin) {
        out.station.push((last + at) / 2);
        out.level.push(NaN);
      }
      out.station.push(at);
      out.level.push(leg.level[i]!);
    });
    begin += Math.hypot(way[k]![0] - way[k - 1]![0], way[k]![1] - way[k - 1]![1]);
  }
  return out;
}

/** A line of the job that a way crosses: which, at what station, and its level there (NaN where it is not known). */
export interface LineCrossed {
  line: number;
  station: number;
  level: number;
}

/** Lines that cross a way, by their place in the list, as the stations rise. */
export function linesCrossed({ xyz, starts }: Pick<Chains, "xyz" | "starts">, way: PlanWay): LineCrossed[] {
  const found: LineCrossed[] = [];
  let begin = 0;
  for (let k = 1; k < way.length; k++) {
    const [a, b] = [way[k - 1]!, way[k]!],
      length = Math.hypot(b[0] - a[0], b[1] - a[1]),
      [w, e, s, n] = [Math.min(a[0], b[0]), Math.max(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[1], b[1])];
    for (let line = 0; line + 1 < starts.length; line++)
      for (let v = starts[line]! + 1; v < starts[line + 1]!; v++) {
        const [pe, pn, qe, qn] = [xyz[3 * v - 3]!, xyz[3 * v - 2]!, xyz[3 * v]!, xyz[3 * v + 1]!];
        if ((pe < w && qe < w) || (pe > e && qe > e) || (pn < s && qn < s) || (pn > n && qn > n)) continue;
        const p = side(...a, ...b, pe, pn),
          q = side(...a, ...b, qe, qn);
        // A corner on the way belongs to what goes on to its left, so that it counts once.
        if (p >= 0 === q >= 0) continue;
        const share = p / (p - q),
          at =
            ((pe + share * (qe - pe) - a[0]) * (b[0] - a[0]) + (pn + share * (qn - pn) - a[1]) * (b[1] - a[1])) /
            length;
        if (at < 0 || at > length) continue;
        const [pz, qz] = [xyz[3 * v - 1]!, xyz[3 * v + 2]!];
        found.push({ line, station: begin + at, level: pz + share * (qz - pz) });
      }
    begin += length;
  }
  return found.sort((x, y) => x.station - y.station || x.line - y.line);
}

/** The length of a way in plan. */
export function lengthOfWay(way: PlanWay): number {
  let sum = 0;
  for (let k = 1; k < way.length; k++) sum += Math.hypot(way[k]![0] - way[k - 1]![0], way[k]![1] - way[k - 1]![1]);
  return sum;
}

/** The line across a way at a station, so far to either side, from its left to its right; undefined for a way of no length. */
export function acrossWay(way: PlanWay, station: number, half: number): PlanWay | undefined {
  const at = stationing(straightLine(way)),
    [left, right] = [at?.(station, -half), at?.(station, half)];
  return left && right && [[left.e, left.n] as const, [right.e, right.n] as const];
}

/** The position at a station of a way. */
export function positionOnWay(way: PlanWay, station: number): [e: number, n: number] | undefined {
  const at = stationing(straightLine(way))?.(station, 0);
  return at && [at.e, at.n];
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
