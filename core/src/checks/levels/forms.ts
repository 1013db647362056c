/**
 * Linear forms: what the level of a shot should be by the shots round it, r = z_i − Σ c_j z_j. They follow from plan
 * positions and lines alone, so that a level changed leaves them as they are.
 *
 * A shot in open ground has one form, by its nearest visible shots (no dividing line between). One on dividing lines has
 * one for each side, none of which mixes sides. Any shot within a line has one along it. Weights by a cubic radial
 * function with a linear tail and a nugget (Wendland 2005, ch. 8). Lengths in metres.
 */
import { Bytes, Doubles, Ints, Singles } from "../../math/grow";
import { nearestIndex, type NearestIndex } from "../../math/nearest";
import type { FieldString, LevelField } from "./field";
import { membersOf, type Member, type Members } from "./members";
import { Radial } from "./radial";
import { COINCIDENT, Sight } from "./walls";

/** All forms of a field: form f has the entries [starts[f], starts[f + 1]), its own shot's first, with coefficient 1. */
export interface LevelForms {
  count: number;
  starts: Int32Array;
  shots: Int32Array;
  /** 1 for the own shot, −c_j for the others. */
  coefs: Float32Array;
  /** The square root of 1 + Σ c²: how much one form's noise exceeds a level's. */
  spread: Float64Array;
  /** Forms of shot i are [of[i], of[i + 1]). */
  of: Int32Array;
  /** 1 where the shots of a form lie on all sides of its own: only then may its shot alone be accused. */
  inner: Uint8Array;
  /** 1 for forms along a line. */
  along: Uint8Array;
  /**
   * Pairs of shots of a line whose straight way or its prolongation comes to a shot: two on one side of it, the nearer
   * first, or one on either side. Those of shot i are pairs [pairsOf[i], pairsOf[i + 1]); the level there is
   * z_a + share (z_b − z_a).
   */
  pairs: Int32Array;
  pairShares: Float64Array;
  pairsOf: Int32Array;
  /** The NEAR shots nearest to each, itself first; −1 where there are fewer. */
  near: Int32Array;
}

/** The forms of the shots [from, to) of a field: `of`, `pairsOf` and `near` are of these alone. */
export interface FormPart {
  from: number;
  to: number;
  forms: LevelForms;
}

/** A form that only weighs what lines say against the open ground; spread as of other forms. */
export interface OpenGround {
  shots: number[];
  weights: number[];
  spread: number;
}

/** What the open ground says of each shot; undefined where it says nothing. */
export type OpenGrounds = (shot: number) => OpenGround | undefined;

/** How far a shot's level is off what the open ground says. */
export function offOpenGround({ z }: { z: Float64Array }, shot: number, open: OpenGround): number {
  return open.shots.reduce((off, j, k) => off - open.weights[k]! * z[j]!, z[shot]!);
}

/** As many nearest shots make the scale of a residual. */
export const NEAR = 30;
/** As many visible shots make a form; on one side of a line so many off it, and so many of the line either way. */
const ROUND = 20,
  BESIDE = 14,
  LEAST_BESIDE = 6,
  OF_LINE = 3;
/** Σ c² above which a form along a line leans too far. */
const TOO_FAR_ALONG = 3;
/** Looked at for visible ones: as many nearest shots at first, beside lines, and at most. */
const LOOKED = NEAR + 1,
  LOOKED_BESIDE = 88,
  MOST_LOOKED = 176;
/** With more empty ground on one side, nearly half a turn, a shot stands at the edge. */
const WIDEST_GAP = Math.PI * 0.95;

/** Makes the forms of a field, those of some shots at a time. */
export class FormMaker {
  private readonly index: NearestIndex;
  private readonly sight: Sight;
  readonly members: Members;
  private readonly found = new Int32Array(MOST_LOOKED);
  private readonly distances = new Float64Array(MOST_LOOKED);
  private readonly radial = new Radial(Math.max(ROUND, BESIDE + 2 * OF_LINE));
  private readonly near = new Ints();
  private readonly of = new Ints();
  private readonly starts = new Ints();
  private readonly shots = new Ints();
  private readonly coefs = new Singles();
  private readonly spread = new Doubles();
  private readonly inner = new Bytes();
  private readonly along = new Bytes();
  private readonly pairsOf = new Ints();
  private readonly pairs = new Ints();
  private readonly pairShares = new Doubles();
  private readonly open = new Map<number, OpenGround | undefined>();

  constructor(private readonly field: LevelField) {
    this.index = nearestIndex(field.x, field.y, field.row);
    this.sight = new Sight(field);
    this.members = membersOf(field);
  }

  /** The forms of the shots [from, to). */
  make(from: number, to: number): FormPart {
    for (let i = from; i < to; i++) {
      this.of.push(this.starts.count);
      this.pairsOf.push(this.pairShares.count);
      this.formsOf(i);
    }
    const { count } = this.starts;
    this.starts.push(this.shots.count);
    this.of.push(count);
    this.pairsOf.push(this.pairShares.count);
    return {
      from,
      to,
      forms: {
        count,
        starts: this.starts.take(),
        shots: this.shots.take(),
        coefs: this.coefs.take(),
        spread: this.spread.take(),
        of: this.of.take(),
        inner: this.inner.take(),
        along: this.along.take(),
        pairs: this.pairs.take(),
        pairShares: this.pairShares.take(),
        pairsOf: this.pairsOf.take(),
        near: this.near.take(),
      },
    };
  }

  /** The level at a position by the shots round it: their indices and weights; undefined where nothing is near enough. */
  predictor(x: number, y: number): { shots: number[]; weights: number[] } | undefined {
    const seen = this.visible(x, y, -1, LOOKED, ROUND);
    return seen.length < LEAST_BESIDE ? undefined : this.radial.weights(this.field, x, y, seen);
  }

  /**
   * What the open ground says of a shot, lines left out: weights of the shots in its sight that stand on none; undefined
   * where these are few, or all to one side. Made when asked for the first time.
   */
  openGround(i: number): OpenGround | undefined {
    if (!this.open.has(i)) this.open.set(i, this.openGroundOf(i));
    return this.open.get(i);
  }

  private openGroundOf(i: number): OpenGround | undefined {
    const { field, members } = this,
      { x, y } = field;
    const seen = this.visible(x[i]!, y[i]!, i, LOOKED_BESIDE, Infinity)
      .filter((j) => members.of(j).length === 0)
      .slice(0, ROUND);
    if (seen.length < LEAST_BESIDE) return undefined;
    const found = this.radial.weights(field, x[i]!, y[i]!, seen);
    if (!found) return undefined;
    return { ...found, spread: Math.sqrt(1 + found.weights.reduce((sum, w) => sum + w * w, 0)) };
  }

  private formsOf(i: number): void {
    const { field, members, near } = this,
      { x, y } = field;
    const lines = members.of(i),
      rays = raysOf(field, lines);
    const seen = this.visible(x[i]!, y[i]!, i, rays.length ? LOOKED_BESIDE : LOOKED, rays.length ? Infinity : ROUND);
    for (let k = 0; k < NEAR; k++) near.push(k < this.looked ? this.found[k]! : -1);
    for (const m of lines) {
      const s = field.strings[m.string]!;
      this.alongLine(i, s, m.at);
      const before = shotsAlong(s, m.at, -1, 2),
        after = shotsAlong(s, m.at, 1, 2);
      for (const [near, far] of [before, after]) this.pair(i, near, far, -1);
      this.pair(i, before[0], after[0], 1);
    }
    if (rays.length === 0) {
      if (seen.length >= LEAST_BESIDE) this.put(i, seen, !standsAtEdge(field, i, seen));
    } else if (rays.length > 1) this.besideLines(i, rays, seen);
  }

  /** One form for each side of the dividing lines through a shot. */
  private besideLines(i: number, rays: Ray[], seen: number[]): void {
    const { field, members } = this,
      mine = new Set(rays.map((r) => r.string));
    const angles = rays.map((r) => angle(field, i, r.towards)),
      by = rays.map((_, k) => k).sort((a, b) => angles[a]! - angles[b]!);
    const off = seen.filter((j) => !members.of(j).some((m) => mine.has(m.string)));
    by.forEach((a, k) => {
      const b = by[(k + 1) % by.length]!,
        from = angles[a]!,
        width = turn(angles[b]! - from) || (by.length > 1 ? 0 : 2 * Math.PI);
      const beside = off.filter((j) => {
        const t = turn(angle(field, i, j) - from);
        return t > 1e-9 && t < width - 1e-9;
      });
      if (beside.length < LEAST_BESIDE) return;
      const shots = new Set(beside.slice(0, BESIDE));
      for (const ray of [rays[a]!, rays[b]!])
        for (const j of shotsAlong(field.strings[ray.string]!, ray.at, ray.way, OF_LINE))
          if (j !== i && this.apart(i, j)) shots.add(j);
      this.put(i, [...shots], true);
    });
  }

  /** The cubic through two shots before and two after, by chainage. */
  private alongLine(i: number, s: FieldString, at: number): void {
    const { x, y } = this.field;
    const n = s.shots.length,
      indexAt = (k: number) => (s.closed ? (((at + k) % n) + n) % n : at + k);
    if (s.closed ? n < 5 : at < 2 || at + 2 >= n) return;
    const shots: number[] = [],
      chainage: number[] = [];
    for (const way of [-1, 1]) {
      let far = 0,
        before = i;
      for (let k = 1; k <= 2; k++) {
        const j = s.shots[indexAt(way * k)]!;
        far += Math.hypot(x[j]! - x[before]!, y[j]! - y[before]!);
        shots.push(j);
        chainage.push(way * far);
        before = j;
      }
    }
    if (Math.min(-chainage[0]!, chainage[2]!, chainage[0]! - chainage[1]!, chainage[3]! - chainage[2]!) < COINCIDENT)
      return;
    const c = chainage.map((a, k) => chainage.reduce((w, b, l) => (l === k ? w : (w * b) / (b - a)), 1));
    if (c.reduce((sum, w) => sum + w * w, 0) < TOO_FAR_ALONG) this.push(i, shots, c, true, true);
  }

  /** A pair of a line's shots: `way` is 1 where the shot stands between them, −1 where it stands before the first. */
  private pair(i: number, a: number | undefined, b: number | undefined, way: 1 | -1): void {
    if (a === undefined || b === undefined || a === i || b === i || !this.apart(a, b)) return;
    const { x, y } = this.field,
      toA = Math.hypot(x[i]! - x[a]!, y[i]! - y[a]!),
      whole = way > 0 ? toA + Math.hypot(x[i]! - x[b]!, y[i]! - y[b]!) : Math.hypot(x[a]! - x[b]!, y[a]! - y[b]!);
    this.pairs.push(a);
    this.pairs.push(b);
    this.pairShares.push((way * toA) / whole);
  }

  private put(i: number, shots: number[], inner: boolean): void {
    const { x, y } = this.field,
      found = this.radial.weights(this.field, x[i]!, y[i]!, shots);
    if (found) this.push(i, found.shots, found.weights, inner, false);
  }

  private push(i: number, shots: number[], c: number[], inner: boolean, along: boolean): void {
    this.starts.push(this.shots.count);
    this.shots.push(i);
    this.coefs.push(1);
    let square = 1;
    shots.forEach((j, k) => {
      this.shots.push(j);
      this.coefs.push(-c[k]!);
      square += c[k]! * c[k]!;
    });
    this.spread.push(Math.sqrt(square));
    this.inner.push(inner ? 1 : 0);
    this.along.push(along ? 1 : 0);
  }

  /** How many shots `visible` looked at last; they stand in `found`. */
  private looked = 0;

  /** The nearest shots seen from a position, nearest first: none that stands there, none behind a dividing line. */
  private visible(x: number, y: number, own: number, first: number, most: number): number[] {
    for (let look = first; ; look = Math.min(2 * look, MOST_LOOKED)) {
      this.looked = this.index.nearest(x, y, look, this.found, this.distances);
      const all = this.looked < look || look === MOST_LOOKED,
        reach = Math.sqrt(this.distances[this.looked - 1] ?? 0);
      this.sight.from(x, y, reach);
      const seen: number[] = [];
      for (let k = 0; k < this.looked && seen.length < most; k++) {
        const j = this.found[k]!;
        if (j === own || this.distances[k]! <= COINCIDENT * COINCIDENT) continue;
        if (!this.sight.isHidden(j, this.distances[k]!)) seen.push(j);
      }
      if (all || seen.length >= Math.min(most, ROUND)) return seen;
    }
  }

  private apart(i: number, j: number): boolean {
    const { x, y } = this.field;
    return Math.hypot(x[i]! - x[j]!, y[i]! - y[j]!) > COINCIDENT;
  }
}

/** A dividing line's way from a shot, one direction. */
interface Ray {
  string: number;
  at: number;
  way: 1 | -1;
  towards: number;
}

function raysOf(field: LevelField, lines: readonly Member[]): Ray[] {
  const rays: Ray[] = [];
  for (const { string, at } of lines) {
    const { shots, closed, divides } = field.strings[string]!;
    if (!divides) continue;
    for (const way of [-1, 1] as const) {
      const k = at + way,
        towards = shots[closed ? (k + shots.length) % shots.length : k];
      if (towards !== undefined) rays.push({ string, at, way, towards });
    }
  }
  return rays;
}

/** The next few shots of a line from one of its shots, in one direction. */
function shotsAlong({ shots, closed }: FieldString, at: number, way: 1 | -1, most: number): number[] {
  const out: number[] = [];
  for (let k = 1; k <= most; k++) {
    const p = at + way * k,
      j = shots[closed ? ((p % shots.length) + shots.length) % shots.length : p];
    if (j !== undefined) out.push(j);
  }
  return out;
}

const angle = ({ x, y }: LevelField, i: number, j: number) => Math.atan2(y[j]! - y[i]!, x[j]! - x[i]!);
/** A turn to the left, from 0 up to a whole one. */
const turn = (a: number) => {
  const t = a % (2 * Math.PI);
  return t < 0 ? t + 2 * Math.PI : t;
};

/** Whether the shots leave a gap round a shot that is wider than a sound one's. */
function standsAtEdge({ x, y }: LevelField, i: number, shots: readonly number[]): boolean {
  const n = shots.length;
  // By their directions, as a share of a turn of squares: it rises as angles do.
  for (let k = 0; k < n; k++) {
    const dx = x[shots[k]!]! - x[i]!,
      dy = y[shots[k]!]! - y[i]!,
      along = dx / (Math.abs(dx) + Math.abs(dy)),
      at = dy < 0 ? along - 1 : 1 - along;
    let to = k;
    for (; to > 0 && turns[to - 1]! > at; to--) {
      turns[to] = turns[to - 1]!;
      ways[2 * to] = ways[2 * to - 2]!;
      ways[2 * to + 1] = ways[2 * to - 1]!;
    }
    turns[to] = at;
    ways[2 * to] = dx;
    ways[2 * to + 1] = dy;
  }
  for (let k = 0; k < n; k++) {
    const next = (k + 1) % n,
      [ax, ay, bx, by] = [ways[2 * k]!, ways[2 * k + 1]!, ways[2 * next]!, ways[2 * next + 1]!],
      cross = ax * by - ay * bx,
      dot = ax * bx + ay * by;
    if (cross < 0 || (cross === 0 && dot < 0)) return true;
    if (dot < 0 && Math.atan2(cross, dot) > WIDEST_GAP) return true;
  }
  return false;
}

const turns = new Float64Array(ROUND),
  ways = new Float64Array(2 * ROUND);
