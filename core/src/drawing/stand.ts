/**
 * Where texts stand on the paper: beside their symbols, along their lines, within their areas, clear of one another.
 * Lengths in mm.
 */
import type { LabelPlace } from "../codes/model";
import polylabel from "polylabel";
import { positionsAlong, wayLength, type OnWay } from "./along";
import type { Crowd, TextBox } from "./crowd";
import { CAP_HEIGHT, textWidth } from "./text-width";

/** A text that wants a place. Its lines stand one below the other. */
export interface Wanted {
  lines: readonly string[];
  /** Font size. */
  height: number;
  place: LabelPlace;
  align: "start" | "middle" | "end";
}

export interface Stand extends TextBox {
  /** From the symbol to a text that had to stand apart: x, y, x, y. */
  leader?: [number, number, number, number];
  /** Towards which side the text's lines are drawn: −1 to the left. */
  align?: -1 | 0 | 1;
}

const LINE_STEP = 1.18;

/** Half the width and height of a text's box. */
export function halfSize(w: Pick<Wanted, "lines" | "height">): [number, number] {
  const widest = Math.max(...w.lines.map(textWidth));
  return [(widest * w.height) / 2, ((CAP_HEIGHT + (w.lines.length - 1) * LINE_STEP) * w.height) / 2];
}

/** The baseline of each line of a text that stands in a box, from the box's centre, along its own up direction. */
export function baselines(count: number, height: number): number[] {
  return Array.from({ length: count }, (_, k) => height * (((count - 1) / 2 - k) * LINE_STEP - CAP_HEIGHT / 2));
}

/** Directions in the order in which an eye expects a note. */
const AROUND: Record<string, readonly [number, number]> = {
  right: [1, 0],
  "right above": [1, 1],
  "right below": [1, -1],
  left: [-1, 0],
  "left above": [-1, 1],
  "left below": [-1, -1],
  above: [0, 1],
  below: [0, -1],
};

/**
 * Beside a symbol that reaches `radius` from x, y; at the end of a leader when there is no room beside it, if
 * `leaders`.
 */
export function besideSymbol(
  w: Wanted,
  x: number,
  y: number,
  radius: number,
  crowd: Crowd,
  leaders: boolean,
): Stand | undefined {
  const [hw, hh] = halfSize(w);
  if (w.place === "centre") {
    const stand: Stand = { x, y, halfWidth: hw, halfHeight: hh, angle: 0 };
    return crowd.isFree(stand) ? stand : undefined;
  }
  const names = Object.keys(AROUND).sort((a, b) => Number(b === w.place) - Number(a === w.place));
  let best: Stand | undefined,
    least = Infinity;
  const tryAt = (name: string, distance: number, cost: number) => {
    const [dx, dy] = AROUND[name]!;
    // Beside a corner the text begins where the symbol's circle ends.
    const off = dx !== 0 && dy !== 0 ? distance * 0.75 : distance;
    const shift = dx === 0 ? (w.align === "start" ? hw : w.align === "end" ? -hw : 0) : dx * (off + hw);
    const stand: Stand = {
      x: x + shift,
      y: y + dy * (off + hh),
      halfWidth: hw,
      halfHeight: hh,
      angle: 0,
      align: dx === 0 ? 0 : dx > 0 ? -1 : 1,
    };
    if (cost >= least || !crowd.isFreeBeside(stand, x, y)) return;
    const whole = cost + crowd.crossings(stand);
    if (whole < least) [best, least] = [stand, whole];
  };
  names.forEach((name, k) => tryAt(name, radius + 0.45, 0.15 * k));
  if (best || !leaders) return best;
  for (const apart of [2.5, 4.5, 7, 10]) {
    names.forEach((name, k) => tryAt(name, radius + apart, 0.15 * k));
    if (!best) continue;
    const stand = best as Stand,
      to = nearestOnBox(stand, x, y),
      size = Math.hypot(to[0] - x, to[1] - y) || 1;
    const from: [number, number] = [x + ((to[0] - x) * radius) / size, y + ((to[1] - y) * radius) / size];
    if (!crowd.strikesText(...from, ...to)) return { ...stand, leader: [...from, ...to] };
    best = undefined;
    least = Infinity;
  }
  return undefined;
}

function nearestOnBox(b: TextBox, x: number, y: number): [number, number] {
  const edge = 0.3;
  return [
    Math.max(b.x - b.halfWidth - edge, Math.min(b.x + b.halfWidth + edge, x)),
    Math.max(b.y - b.halfHeight - edge, Math.min(b.y + b.halfHeight + edge, y)),
  ];
}

/** Times that a note is repeated along one line. */
const MOST_TIMES = 2000;

/**
 * Along a way, `beside` mm from it, once in each stretch of `every` (once in all when it is 0), reading upright;
 * `isDone` tells that the text of a stretch is placed already.
 */
export function alongWay(
  w: Wanted,
  way: readonly number[],
  every: number,
  crowd: Crowd,
  beside: number,
  isDone: (time: number, middle: OnWay) => boolean = () => false,
): { stands: { stand: Stand; time: number; middle: OnWay }[]; missed: number; done: number } {
  const [hw, hh] = halfSize(w),
    length = wayLength(way),
    count = every > 0 ? Math.max(1, Math.min(MOST_TIMES, Math.floor(length / every))) : 1;
  const stands: { stand: Stand; time: number; middle: OnWay }[] = [];
  let done = 0;
  for (let m = 0; m < count; m++) {
    const from = (length * m) / count,
      span = length / count;
    let isPlaced = false,
      own: OnWay | undefined;
    positionsAlong(way, [from + span / 2], (middle) => (isPlaced = isDone(m, (own = middle))));
    if (isPlaced) {
      done++;
      continue;
    }
    let best: Stand | undefined,
      least = Infinity;
    for (const share of [0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8]) {
      const middle = from + share * span;
      if (middle - hw < -1e-9 || middle + hw > length + 1e-9) continue;
      const at: OnWay[] = [];
      positionsAlong(way, [Math.max(0, middle - hw), middle, Math.min(length, middle + hw)], (p) => at.push(p));
      if (at.length < 3) continue;
      const [a, , b] = at as [OnWay, OnWay, OnWay],
        chord = Math.hypot(b.x - a.x, b.y - a.y);
      // Where the line bends too much within the text it would run through it.
      if (chord < 1.92 * hw) continue;
      let angle = Math.atan2(b.y - a.y, b.x - a.x),
        turned = false;
      if (angle > Math.PI / 2 + 1e-9 || angle <= -Math.PI / 2 + 1e-9) {
        angle += angle > 0 ? -Math.PI : Math.PI;
        turned = true;
      }
      const base: [number, number] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
      for (const up of sidesOf(w.place, turned)) {
        const off = up * (hh + beside),
          stand: Stand = {
            x: base[0] - Math.sin(angle) * off,
            y: base[1] + Math.cos(angle) * off,
            halfWidth: hw,
            halfHeight: hh,
            angle,
          };
        if (!crowd.isFree(stand)) continue;
        const cost = Math.abs(share - 0.5) + (up === 0 ? 0 : crowd.crossings(stand));
        if (cost < least) [best, least] = [stand, cost];
      }
    }
    if (best) {
      stands.push({ stand: best, time: m, middle: own! });
      crowd.addBox(best);
    }
  }
  return { stands, missed: count - stands.length - done, done };
}

/** An angle by which a text reads from the bottom or from the right. */
export function upright(angle: number): number {
  if (angle > Math.PI / 2 + 1e-9) return angle - Math.PI;
  return angle <= -Math.PI / 2 + 1e-9 ? angle + Math.PI : angle;
}

/** On which side of the line the text stands, as it is read: 1 above, −1 below, 0 on it. */
function sidesOf(place: LabelPlace, turned: boolean): number[] {
  switch (place) {
    case "centre":
      return [0];
    case "above":
      return [1];
    case "below":
      return [-1];
    case "left":
      return [turned ? -1 : 1];
    case "right":
      return [turned ? 1 : -1];
    default:
      return [1, -1];
  }
}

/** Within a ring, where there is most room; elsewhere inside it when that place is taken. */
export function insideRing(w: Wanted, ring: readonly number[], crowd: Crowd): Stand | undefined {
  const corners: [number, number][] = [];
  for (let i = 0; i < ring.length; i += 2) corners.push([ring[i]!, ring[i + 1]!]);
  const [x, y] = polylabel([corners], 0.5),
    [hw, hh] = halfSize(w);
  for (const [dx, dy] of [
    [0, 0],
    [0, 1.2],
    [0, -1.2],
    [0.6, 0],
    [-0.6, 0],
    [0, 2.4],
    [0, -2.4],
    [0.6, 1.2],
    [-0.6, -1.2],
  ] as const) {
    const stand: Stand = { x: x + 2 * dx * hw, y: y + 2 * dy * hh, halfWidth: hw, halfHeight: hh, angle: 0 };
    if (crowd.isFree(stand)) return stand;
  }
  return undefined;
}
