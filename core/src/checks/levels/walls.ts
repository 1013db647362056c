/** Which shots are seen from a position: none behind a dividing line. */
import { boxIndex, type BoxIndex } from "../../math/near";
import type { LevelField } from "./field";

/** Shots within this many metres are one. */
export const COINCIDENT = 0.001;
/** Numbers kept of each wall near a position: its two ends from there, its length, and the position's side of it. */
const A_X = 0,
  A_Y = 1,
  B_X = 2,
  B_Y = 3,
  LENGTH = 4,
  SIDE = 5,
  NUMBERS = 6;

export class Sight {
  private readonly index: BoxIndex;
  private px = 0;
  private py = 0;
  /** Walls that may hide something, the nearest first, with the squares of their distances. */
  private count = 0;
  private walls = new Int32Array(16);
  private nearest = new Float64Array(16);
  private of = new Float64Array(16 * NUMBERS);

  constructor(private readonly field: LevelField) {
    const { walls: w } = field;
    this.index = boxIndex(w.length / 4, (k) => [
      Math.min(w[4 * k]!, w[4 * k + 2]!),
      Math.min(w[4 * k + 1]!, w[4 * k + 3]!),
      Math.max(w[4 * k]!, w[4 * k + 2]!),
      Math.max(w[4 * k + 1]!, w[4 * k + 3]!),
    ]);
  }

  /** Stands at a position, to look no farther than a distance. */
  from(px: number, py: number, reach: number): void {
    const w = this.field.walls,
      near = w.length ? this.index.search(px - reach, py - reach, px + reach, py + reach) : [];
    this.px = px;
    this.py = py;
    this.count = 0;
    if (near.length > this.walls.length) {
      this.walls = new Int32Array(2 * near.length);
      this.nearest = new Float64Array(2 * near.length);
      this.of = new Float64Array(2 * near.length * NUMBERS);
    }
    const { of, nearest, walls } = this;
    for (const k of near) {
      const ax = w[4 * k]! - px,
        ay = w[4 * k + 1]! - py,
        dx = w[4 * k + 2]! - w[4 * k]!,
        dy = w[4 * k + 3]! - w[4 * k + 1]!,
        square = dx * dx + dy * dy;
      // A wall that the position stands on hides nothing.
      if (!((dy * ax - dx * ay) ** 2 > COINCIDENT * COINCIDENT * square)) continue;
      const along = Math.max(0, Math.min(1, -(ax * dx + ay * dy) / square)),
        // By a hair nearer than it is, for rounding.
        distance = ((ax + along * dx) ** 2 + (ay + along * dy) ** 2) * (1 - 1e-9);
      let to = this.count++;
      for (; to > 0 && nearest[to - 1]! > distance; to--) {
        nearest[to] = nearest[to - 1]!;
        walls[to] = walls[to - 1]!;
      }
      nearest[to] = distance;
      walls[to] = k;
    }
    for (let k = 0; k < this.count; k++) {
      const c = 4 * walls[k]!,
        at = NUMBERS * k,
        dx = w[c + 2]! - w[c]!,
        dy = w[c + 3]! - w[c + 1]!,
        length = Math.sqrt(dx * dx + dy * dy);
      of[at + A_X] = w[c]! - px;
      of[at + A_Y] = w[c + 1]! - py;
      of[at + B_X] = w[c + 2]! - px;
      of[at + B_Y] = w[c + 3]! - py;
      of[at + LENGTH] = length;
      of[at + SIDE] = (dx * (py - w[c + 1]!) - dy * (px - w[c]!)) / length;
    }
  }

  /** Whether a wall stands between the position and a shot, at a squared distance; one that the shot stands on does not. */
  isHidden(j: number, distance: number): boolean {
    const { of, nearest, count } = this,
      dx = this.field.x[j]! - this.px,
      dy = this.field.y[j]! - this.py;
    for (let k = 0; k < count && nearest[k]! <= distance; k++) {
      const at = NUMBERS * k,
        ax = of[at + A_X]!,
        ay = of[at + A_Y]!,
        bx = of[at + B_X]!,
        by = of[at + B_Y]!;
      // An end that lies exactly in the line of sight belongs to one side, so that two pieces that meet there leave no gap.
      if (dx * ay - dy * ax >= 0 === dx * by - dy * bx >= 0) continue;
      const q = ((bx - ax) * (dy - ay) - (by - ay) * (dx - ax)) / of[at + LENGTH]!;
      if (Math.abs(q) > COINCIDENT && q > 0 !== of[at + SIDE]! > 0) return true;
    }
    return false;
  }
}
