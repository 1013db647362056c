/**
 * The window onto the relief: a parallel projection, so that lengths along one direction are alike everywhere and a
 * position on the screen is a straight line through the ground. Directions are bearings clockwise from north, in radians.
 */
import { LIGHTS, type Light } from "../../lib/state/choices";
import type { Box } from "../../lib/box";
import type { SurfaceReader } from "@bramble/core/surface/locate";

export interface Orbit {
  /** What stands in the middle of the window: job coordinates and level. */
  e: number;
  n: number;
  z: number;
  /** Which way one looks. */
  bearing: number;
  /** How steeply one looks down: 0 along the ground, π/2 as on the plan. */
  tilt: number;
  /** How many times higher than they are heights are shown. */
  heights: number;
  /** Pixels (CSS) for one unit of the job across the way one looks. */
  scale: number;
  width: number;
  height: number;
}

export const LEAST_TILT = (8 / 180) * Math.PI,
  MOST_TILT = Math.PI / 2;

/** A box with its lowest and highest level. */
export interface Room extends Box {
  minZ: number;
  maxZ: number;
}

let last: { v: Orbit; s: number; c: number; st: number; ct: number } | undefined;

/** Sines and cosines of a window's bearing and tilt: a window is never changed, and is asked for each point. */
function trig(v: Orbit) {
  if (last?.v !== v)
    last = { v, s: Math.sin(v.bearing), c: Math.cos(v.bearing), st: Math.sin(v.tilt), ct: Math.cos(v.tilt) };
  return last;
}

/** The pixel of a position and how far back it lies, in units of the job. */
export function seenAt(v: Orbit, e: number, n: number, z: number): [x: number, y: number, back: number] {
  const { s, c, st, ct } = trig(v),
    [de, dn, dz] = [e - v.e, n - v.n, (z - v.z) * v.heights],
    on = de * s + dn * c;
  return [v.width / 2 + v.scale * (de * c - dn * s), v.height / 2 - v.scale * (on * st + dz * ct), on * ct - dz * st];
}

/** How a step on level ground to the east and to the north moves on the screen, in pixels for one unit. */
export function groundAxes(v: Orbit): { east: [number, number]; north: [number, number] } {
  const { s, c, st } = trig(v);
  return { east: [v.scale * c, -v.scale * s * st], north: [-v.scale * s, -v.scale * c * st] };
}

/** The position at a level that a pixel shows. */
export function atLevel(v: Orbit, x: number, y: number, z: number): [e: number, n: number] {
  const { s, c, st, ct } = trig(v),
    across = (x - v.width / 2) / v.scale,
    on = ((v.height / 2 - y) / v.scale - (z - v.z) * v.heights * ct) / st;
  return [v.e + across * c + on * s, v.n - across * s + on * c];
}

/** Steps in which a pixel's line is followed through the ground at most. */
const MOST_STEPS = 4000;

/** What a line of sight meets first: the ground, or one of the sides that it stands on. */
export interface Met {
  e: number;
  n: number;
  level: number;
  isSide: boolean;
}

/**
 * What a pixel's line of sight first meets of a surface between two levels; undefined where it meets nothing. The line is
 * followed from above in steps of a pixel of ground, and halved where it passes through.
 */
export function meetGround(
  v: Orbit,
  reader: SurfaceReader,
  [lowest, highest]: readonly [number, number],
  x: number,
  y: number,
): Met | undefined {
  // The lowest and the highest point of the ground are ground too, however they are rounded.
  const beyond = 1e-9 * (1 + highest - lowest),
    [minZ, maxZ] = [lowest - beyond, highest + beyond],
    pixels = ((maxZ - minZ) * v.heights * v.scale) / Math.tan(v.tilt),
    steps = Math.min(MOST_STEPS, Math.ceil(pixels) + 1),
    levelAt = (k: number) => maxZ - ((maxZ - minZ) * k) / steps;
  const above = (z: number) => {
    const under = reader.at(...atLevel(v, x, y, z));
    return under ? z - under.level : NaN;
  };
  for (let k = 0, before = NaN; k <= steps; k++) {
    const now = above(levelAt(k));
    if (now <= 0) {
      if (!(before > 0) && now < 0) {
        const [e, n] = atLevel(v, x, y, levelAt(k));
        return { e, n, level: levelAt(k), isSide: true };
      }
      let [high, low] = [levelAt(Math.max(0, k - 1)), levelAt(k)];
      for (let middle = (high + low) / 2; middle < high && middle > low; middle = (high + low) / 2)
        if (above(middle) > 0) high = middle;
        else low = middle;
      const [e, n] = atLevel(v, x, y, low);
      return { e, n, level: reader.at(e, n)?.level ?? low, isSide: false };
    }
    before = now;
  }
  return undefined;
}

/** The window that shows a room whole, with a margin. */
export function fitRoom(v: Orbit, room: Room, margin = 40): Orbit {
  const middle = {
    ...v,
    e: (room.minE + room.maxE) / 2,
    n: (room.minN + room.maxN) / 2,
    z: (room.minZ + room.maxZ) / 2,
    scale: 1,
  };
  let [wide, high] = [1e-9, 1e-9];
  for (const e of [room.minE, room.maxE])
    for (const n of [room.minN, room.maxN])
      for (const z of [room.minZ, room.maxZ]) {
        const [x, y] = seenAt(middle, e, n, z);
        wide = Math.max(wide, 2 * Math.abs(x - v.width / 2));
        high = Math.max(high, 2 * Math.abs(y - v.height / 2));
      }
  const scale = Math.min((v.width - 2 * margin) / wide, (v.height - 2 * margin) / high);
  return { ...middle, scale: Math.min(1e6, Math.max(1e-5, scale)) };
}

/** Nearer or farther by a factor, with what a pixel shows staying there. */
export function zoomOrbit(v: Orbit, x: number, y: number, factor: number): Orbit {
  const scale = Math.min(1e6, Math.max(1e-5, v.scale * factor)),
    next = { ...v, scale },
    [e0, n0] = atLevel(v, x, y, v.z),
    [e1, n1] = atLevel(next, x, y, v.z);
  return { ...next, e: v.e + e0 - e1, n: v.n + n0 - n1 };
}

/** The window moved by pixels, along the ground. */
export function moveOrbit(v: Orbit, dx: number, dy: number): Orbit {
  const [e0, n0] = atLevel(v, 0, 0, v.z),
    [e1, n1] = atLevel(v, dx, dy, v.z);
  return { ...v, e: v.e + e0 - e1, n: v.n + n0 - n1 };
}

/** Turned about the middle by pixels of a drag: across it turns, along it tilts. */
export function turnOrbit(v: Orbit, dx: number, dy: number): Orbit {
  const turn = 2 * Math.PI,
    bearing = (((v.bearing + (dx / 400) * Math.PI) % turn) + turn) % turn;
  return { ...v, bearing, tilt: Math.min(MOST_TILT, Math.max(LEAST_TILT, v.tilt + (dy / 400) * Math.PI)) };
}

export const HEIGHTS = [1, 1.5, 2, 3, 5, 10] as const;

/** The least exaggeration with which a room's relief is a tenth of its breadth; the largest where none is enough. */
export function heightsFor(room: Room): number {
  const across = Math.hypot(room.maxE - room.minE, room.maxN - room.minN);
  return HEIGHTS.find((k) => (room.maxZ - room.minZ) * k >= across / 10) ?? HEIGHTS.at(-1)!;
}

/** The direction to the light (E, N, up), 40 degrees above the ground. */
export function towardsLight(light: Light): [number, number, number] {
  const a = (LIGHTS[light] / 180) * Math.PI,
    up = (40 / 180) * Math.PI;
  return [Math.sin(a) * Math.cos(up), Math.cos(a) * Math.cos(up), Math.sin(up)];
}
