/** A way of straight pieces, arcs and curves by its stations: where each is, its level and its direction. */
import { curveLengths, directionOnCurve, positionOnCurve } from "../lines/curve";
import type { CurvePiece, Piece, Position } from "../lines/model";
import { planLength } from "../lines/measure";
import { positiveAngle } from "../math/angles";

/** A line of the job, of a file, or drawn by its corners. */
export type DesignLine =
  | { points: [number, number][]; start?: number }
  | { file: string; alignment: string }
  | { code: string; run?: string; intake?: string };

/** A way of pieces with the station at which it begins. */
export interface DesignWay {
  pieces: readonly Piece[];
  start: number;
}

/** A place on a way. */
export interface OnWay {
  e: number;
  n: number;
  /** The way's own level; NaN where it has none. */
  z: number;
  /** Its direction, radians clockwise from north; at a bend the mean of both. */
  azimuth: number;
}

/** Curves are followed to so many halvings of their parameter: to the last digit. */
const HALVINGS = 60;

export class AlongWay {
  /** Station at which each piece begins, and the end of the last. */
  readonly stations: readonly number[];

  constructor(private readonly way: DesignWay) {
    const stations = [way.start];
    for (const p of way.pieces) stations.push(stations.at(-1)! + planLength(p));
    this.stations = stations;
  }

  get start(): number {
    return this.stations[0]!;
  }

  get end(): number {
    return this.stations.at(-1)!;
  }

  /** The place at a station; undefined beyond the way's ends. */
  at(station: number): OnWay | undefined {
    const { pieces } = this.way;
    if (!(station >= this.start && station <= this.end)) return undefined;
    let k = 0;
    while (k + 1 < pieces.length && this.stations[k + 1]! <= station) k++;
    const p = pieces[k]!,
      length = this.stations[k + 1]! - this.stations[k]!,
      far = station - this.stations[k]!,
      share = length === 0 ? 0 : p.type === "curve" ? curveShare(p, far) : far / length,
      [e, n, z] = positionAt(p, share),
      [de, dn] = wayAt(pieces, k, share);
    return { e, n, z, azimuth: positiveAngle(Math.atan2(de, dn)) };
  }

  /**
   * The place to the right of a station (negative: left), by the piece that starts there; beyond an end the way goes on
   * straight, along its direction there. Undefined where the way has no length.
   */
  beside(station: number, offset: number): { e: number; n: number; z: number } | undefined {
    const { pieces } = this.way;
    if (!(this.end > this.start)) return undefined;
    let k = 0;
    while (k + 1 < pieces.length && this.stations[k + 1]! <= station) k++;
    // A piece of no length has no direction.
    while (k > 0 && this.stations[k + 1] === this.stations[k]) k--;
    while (this.stations[k + 1] === this.stations[k]) k++;
    const p = pieces[k]!,
      length = this.stations[k + 1]! - this.stations[k]!,
      far = Math.min(length, Math.max(0, station - this.stations[k]!)),
      more = station - this.stations[k]! - far,
      share = p.type === "curve" ? curveShare(p, far) : far / length,
      [e, n, z] = positionAt(p, share),
      [de, dn] = unit(directionAt(p, share));
    return { e: e + de * more + dn * offset, n: n + dn * more - de * offset, z: more === 0 ? z : NaN };
  }

  /** Multiples of a spacing within the way, with its ends; of more than so many none. */
  even(spacing: number, most = Infinity): number[] | undefined {
    if (!(spacing > 0) || (this.end - this.start) / spacing > most) return undefined;
    const least = 1e-9 * (this.end - this.start),
      out = [this.start];
    for (let k = Math.floor(this.start / spacing); k * spacing < this.end - least; k++)
      if (k * spacing > this.start + least) out.push(k * spacing);
    out.push(this.end);
    return out;
  }
}

/** The parameter of a curve at a length from its start. */
function curveShare(p: CurvePiece, far: number): number {
  let [low, high] = [0, 1];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2;
    if (curveLengthTo(p, middle) < far) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

function positionAt(p: Piece, share: number): Position {
  if (p.type === "curve") return positionOnCurve(p, share);
  if (p.type === "straight") {
    const at = (axis: 0 | 1 | 2) => p.from[axis] + share * (p.to[axis] - p.from[axis]);
    return [at(0), at(1), at(2)];
  }
  const turned = p.sweep * share,
    [re, rn] = [p.from[0] - p.center[0], p.from[1] - p.center[1]],
    // A sweep to the right turns clockwise.
    e = p.center[0] + re * Math.cos(turned) + rn * Math.sin(turned),
    n = p.center[1] + rn * Math.cos(turned) - re * Math.sin(turned);
  const { levels } = p,
    k = Math.max(
      1,
      levels.findIndex((l) => l.share >= share),
    ),
    [a, b] = [levels[k - 1], levels[k]];
  const z = !a ? NaN : !b ? a.level : a.level + ((share - a.share) / (b.share - a.share || 1)) * (b.level - a.level);
  return [e, n, z];
}

/**
 * The direction (E, N, of any length) of a way at a share of one of its pieces; where two pieces meet the mean of theirs, so
 * that all outside a bend is on one side.
 */
export function wayAt(pieces: readonly Piece[], i: number, share: number): [number, number] {
  const own = unit(directionAt(pieces[i]!, share));
  if (share > 0 && share < 1) return own;
  const step = share <= 0 ? -1 : 1,
    first = pieces[0]!,
    last = pieces.at(-1)!,
    closed = first.from[0] === last.to[0] && first.from[1] === last.to[1];
  // A piece of no length has no direction: the one behind it speaks.
  for (let j = i + step, k = 1; k < pieces.length; j += step, k++) {
    if (!closed && (j < 0 || j >= pieces.length)) break;
    const other = pieces[(j + pieces.length) % pieces.length]!,
      at = unit(directionAt(other, step > 0 ? 0 : 1));
    if (at[0] !== 0 || at[1] !== 0) return [own[0] + at[0], own[1] + at[1]];
  }
  return own;
}

function unit([e, n]: readonly [number, number]): [number, number] {
  const size = Math.hypot(e, n);
  return size === 0 ? [0, 0] : [e / size, n / size];
}

/** The length of a curve up to a share of its parameter. */
export function curveLengthTo(p: CurvePiece, share: number): number {
  const [c1, c2, c3] = [0, 1, 2].map((k) => p.cubic.map((c) => c[k]!)) as [number[], number[], number[]],
    scaled = [0, 1, 2].map((a) => [c1[a]! * share, c2[a]! * share ** 2, c3[a]! * share ** 3] as const);
  return curveLengths({ ...p, to: positionOnCurve(p, share), cubic: scaled as unknown as CurvePiece["cubic"] })[0];
}

/** The direction of a piece at a share of it; its length does not matter. */
function directionAt(p: Piece, share: number): [number, number] {
  if (p.type === "straight") return [p.to[0] - p.from[0], p.to[1] - p.from[1]];
  if (p.type === "curve") return directionOnCurve(p, share);
  const turned = p.sweep * share,
    [re, rn] = [p.from[0] - p.center[0], p.from[1] - p.center[1]],
    [e, n] = [re * Math.cos(turned) + rn * Math.sin(turned), rn * Math.cos(turned) - re * Math.sin(turned)];
  // To the right of the radius where it turns right.
  return p.sweep > 0 ? [n, -e] : [-n, e];
}
