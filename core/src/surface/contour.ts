/**
 * Contours of a surface: linear in its triangles, joined by walking from side to side.
 * High ground is on the left of a line's direction. A vertex exactly at the level counts as above.
 */
import type { ContoursRecipe, Surface } from "./model";
import { refusal } from "../errors";
import { decimalSteps } from "../math/decimal";
import { formatFixed } from "../math/round";
import { Sum } from "../math/sum";
import { next } from "./mesh";

/**
 * All lines of all levels: line k has the vertices [starts[k], starts[k + 1]) of `xy`, offsets from the surface's
 * origin.
 */
export interface Contours {
  surface: string;
  interval: number;
  origin: [number, number];
  xy: Float64Array;
  /** The half-edge of the surface that each vertex lies on; −1 where it is a vertex of the surface itself. */
  sides: Int32Array;
  starts: Uint32Array;
  /** Level of each line. */
  level: Float64Array;
  /** 1 for a line of an index contour. */
  index: Uint8Array;
  /** 1 for a closed line; its first vertex is repeated at the end. */
  closed: Uint8Array;
}

const MOST_LEVELS = 20_000;

/** Contours at base + k × interval; every `index`-th is an index contour (0 for none). */
export function contour(surface: Surface, recipe: ContoursRecipe): Contours {
  const { levels, isIndex } = levelsOf(surface, recipe);
  return trace(surface, levels, isIndex, recipe.interval);
}

/** The levels within a surface, rising, and which of them have index contours. Refuses too many. */
export function levelsOf(
  surface: Surface,
  recipe: ContoursRecipe,
): { levels: Float64Array; isIndex: (k: number) => boolean } {
  const { interval, index: every = 5, base = 0 } = recipe;
  let minZ = Infinity,
    maxZ = -Infinity;
  for (const z of surface.z) {
    if (z < minZ) minZ = z;
    if (z > maxZ) maxZ = z;
  }
  // Levels are decimals as they are meant; which of them lie within is seen from themselves, not from a rounded
  // quotient.
  const levelAt = decimalSteps(base, interval);
  let low = Math.ceil((minZ - base) / interval),
    high = Math.floor((maxZ - base) / interval);
  if (high - low > MOST_LEVELS) {
    throw refusal("request-wrong", {
      why: `Contours of “${surface.name}” at ${interval} would be ${high - low} levels; choose a larger interval`,
    });
  }
  while (levelAt(low - 1) >= minZ) low--;
  while (levelAt(low) < minZ) low++;
  while (levelAt(high + 1) <= maxZ) high++;
  while (levelAt(high) > maxZ) high--;
  const levels = Float64Array.from({ length: Math.max(0, high - low + 1) }, (_, k) => levelAt(low + k));
  return { levels, isIndex: (k) => every > 0 && (((low + k) % every) + every) % every === 0 };
}

/** The lines at some levels, which rise. */
export function trace(s: Surface, levels: Float64Array, isIndex: (k: number) => boolean, interval: number): Contours {
  const { x, y, z, tri, twin } = s;
  const triangles = tri.length / 3;
  // Which triangles does each level cut? Counted, then sorted into one list.
  const from = new Int32Array(triangles),
    to = new Int32Array(triangles);
  const starts = new Uint32Array(levels.length + 1);
  for (let t = 0; t < triangles; t++) {
    const a = z[tri[3 * t]!]!,
      b = z[tri[3 * t + 1]!]!,
      c = z[tri[3 * t + 2]!]!;
    // Levels above the lowest vertex and not above the highest.
    from[t] = firstAbove(levels, Math.min(a, b, c));
    to[t] = firstAbove(levels, Math.max(a, b, c));
    for (let k = from[t]!; k < to[t]!; k++) starts[k + 1]!++;
  }
  for (let k = 0; k < levels.length; k++) starts[k + 1]! += starts[k]!;
  const list = new Int32Array(starts[levels.length]!),
    fill = starts.slice();
  for (let t = 0; t < triangles; t++) for (let k = from[t]!; k < to[t]!; k++) list[fill[k]!++] = t;

  let xy = new Float64Array(Math.max(64, 2 * list.length + 2 * levels.length)),
    sides = new Int32Array(xy.length / 2),
    used = 0;
  const lineStarts = [0],
    level: number[] = [],
    index: number[] = [],
    closed: number[] = [];
  const seen = new Int32Array(triangles).fill(-1);
  for (let k = 0; k < levels.length; k++) {
    const L = levels[k]!,
      marked = isIndex(k) ? 1 : 0;
    const above = (h: number) => z[tri[h]!]! >= L;
    /** The side by which the line leaves triangle t (from below to above, seen from inside), or enters it. */
    const exit = (t: number) => (!above(t) && above(t + 1) ? t : !above(t + 1) && above(t + 2) ? t + 1 : t + 2);
    const entry = (t: number) => (above(t) && !above(t + 1) ? t : above(t + 1) && !above(t + 2) ? t + 1 : t + 2);

    for (const openPass of [true, false]) {
      for (let i = starts[k]!; i < starts[k + 1]!; i++) {
        const t0 = list[i]!;
        if (seen[t0] === k) continue;
        const first = entry(3 * t0);
        if (openPass && twin[first]! >= 0) continue;
        const begin = used;
        let h = first;
        push(h, L, begin);
        for (;;) {
          const t = (h - (h % 3)) / 3;
          seen[t] = k;
          const out = exit(3 * t);
          push(out, L, begin);
          h = twin[out]!;
          if (h < 0 || seen[(h - (h % 3)) / 3] === k) break;
        }
        if (used - begin < 4) used = begin;
        else {
          lineStarts.push(used / 2);
          level.push(L);
          index.push(marked);
          closed.push(openPass ? 0 : 1);
        }
      }
    }
  }
  return {
    surface: s.name,
    interval,
    origin: s.origin,
    xy: xy.slice(0, used),
    sides: sides.slice(0, used / 2),
    starts: Uint32Array.from(lineStarts),
    level: Float64Array.from(level),
    index: Uint8Array.from(index),
    closed: Uint8Array.from(closed),
  };

  /**
   * Adds the position where the level cuts side h, unless it is the position before. Computed from the lower end, so that
   * both triangles agree.
   */
  function push(h: number, L: number, begin: number): void {
    let a = tri[h]!,
      b = tri[next(h)]!;
    if (z[a]! > z[b]!) [a, b] = [b, a];
    const t = (L - z[a]!) / (z[b]! - z[a]!);
    const px = t === 1 ? x[b]! : x[a]! + t * (x[b]! - x[a]!),
      py = t === 1 ? y[b]! : y[a]! + t * (y[b]! - y[a]!);
    if (used > begin && xy[used - 2] === px && xy[used - 1] === py) return;
    if (used + 2 > xy.length) {
      const wider = new Float64Array(xy.length * 2),
        more = new Int32Array(xy.length);
      wider.set(xy);
      more.set(sides);
      [xy, sides] = [wider, more];
    }
    sides[used / 2] = t === 1 ? -1 : h;
    xy[used++] = px;
    xy[used++] = py;
  }
}

/** Index of the first level above v; levels rise. */
export function firstAbove(levels: Float64Array, v: number): number {
  let lo = 0,
    hi = levels.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (levels[mid]! > v) hi = mid;
    else lo = mid + 1;
  }
  return lo;
}

export interface ContourLevel {
  level: number;
  index: boolean;
  lines: number;
  closed: number;
  length: number;
}

/** The levels that have a line, each with its count and length. */
export function contourLevels(c: Contours): ContourLevel[] {
  const out: ContourLevel[] = [];
  let length = new Sum();
  for (let k = 0; k < c.level.length; k++) {
    if (out.at(-1)?.level !== c.level[k]) {
      out.push({ level: c.level[k]!, index: c.index[k] === 1, lines: 0, closed: 0, length: 0 });
      length = new Sum();
    }
    const now = out.at(-1)!;
    for (let i = c.starts[k]! + 1; i < c.starts[k + 1]!; i++) {
      length.add(Math.hypot(c.xy[2 * i]! - c.xy[2 * i - 2]!, c.xy[2 * i + 1]! - c.xy[2 * i - 1]!));
    }
    now.lines++;
    now.closed += c.closed[k]!;
    now.length = length.value;
  }
  return out;
}

export interface ContourLabel {
  /** Offset from the contours' origin. */
  x: number;
  y: number;
  /** Radians counter-clockwise from east, in (−π/2, π/2], so that it reads upright. */
  angle: number;
  text: string;
}

/** Labels along one contour: one that was typed a thousand times too far away holds nobody. */
const MOST_LABELS = 2000;

/**
 * Labels on index contours (on all, where there is no index), `spacing` apart along each line, where the line is about
 * straight under the text and no other label is nearer than the text is long. `height` is the text's, in the job's
 * unit.
 */
export function labelContours(
  c: Contours,
  spacing: number,
  height: number,
  mayStand: (label: ContourLabel) => boolean = () => true,
): ContourLabel[] {
  const decimals = Math.min(3, Math.max(0, (String(+c.interval.toPrecision(6)).split(".")[1] ?? "").length));
  const all = !c.index.includes(1);
  const labels: ContourLabel[] = [];
  const cell = height * 8;
  const taken = new Map<string, ContourLabel[]>();
  for (let k = 0; k < c.level.length; k++) {
    if (!all && !c.index[k]) continue;
    const text = formatFixed(c.level[k]!, decimals);
    const half = (text.length * height * 0.62) / 2;
    const from = c.starts[k]!,
      to = c.starts[k + 1]!;
    const along = [0];
    for (let i = from + 1; i < to; i++)
      along.push(along.at(-1)! + Math.hypot(c.xy[2 * i]! - c.xy[2 * i - 2]!, c.xy[2 * i + 1]! - c.xy[2 * i - 1]!));
    const whole = along.at(-1)!;
    if (whole < 6 * half) continue;
    const count = Math.max(1, Math.min(MOST_LABELS, Math.floor(whole / spacing)));
    for (let m = 0; m < count; m++) {
      // Try the middle of the label's share of the line, then positions beside it.
      for (const shift of [0, 0.2, -0.2, 0.35, -0.35]) {
        const middle = (whole * (m + 0.5 + shift)) / count;
        const a = positionAlong(middle - half),
          b = positionAlong(middle + half),
          p = positionAlong(middle);
        const chord = Math.hypot(b[0] - a[0], b[1] - a[1]);
        if (middle - half < 0 || middle + half > whole || chord < 1.9 * half || isTaken(p[0], p[1], 2.4 * half))
          continue;
        let angle = Math.atan2(b[1] - a[1], b[0] - a[0]);
        if (angle > Math.PI / 2) angle -= Math.PI;
        else if (angle <= -Math.PI / 2) angle += Math.PI;
        const label = { x: p[0], y: p[1], angle, text };
        if (!mayStand(label)) continue;
        labels.push(label);
        const key = `${Math.floor(p[0] / cell)} ${Math.floor(p[1] / cell)}`;
        taken.set(key, [...(taken.get(key) ?? []), label]);
        break;
      }
    }

    function positionAlong(d: number): [number, number] {
      let lo = 0,
        hi = along.length - 1;
      while (lo + 1 < hi) {
        const mid = (lo + hi) >> 1;
        if (along[mid]! <= d) lo = mid;
        else hi = mid;
      }
      const i = from + lo,
        step = along[hi]! - along[lo]!,
        t = step === 0 ? 0 : (d - along[lo]!) / step;
      return [
        c.xy[2 * i]! + t * (c.xy[2 * i + 2]! - c.xy[2 * i]!),
        c.xy[2 * i + 1]! + t * (c.xy[2 * i + 3]! - c.xy[2 * i + 1]!),
      ];
    }
  }
  return labels;

  function isTaken(x: number, y: number, reach: number): boolean {
    const cx = Math.floor(x / cell),
      cy = Math.floor(y / cell);
    for (let i = cx - 1; i <= cx + 1; i++)
      for (let j = cy - 1; j <= cy + 1; j++) {
        for (const l of taken.get(`${i} ${j}`) ?? []) if (Math.hypot(l.x - x, l.y - y) < reach) return true;
      }
    return false;
  }
}
