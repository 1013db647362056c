/**
 * Parallels of a line in plan (FIELD-CODES.md, `off`): straights shifted, arcs of changed radius, curves as chords;
 * joined by mitres, on the inner side cut where they meet, bevelled where a mitre would be longer than four times the
 * distance or the pieces do not meet.
 */
import { positionOnArc } from "./arc";
import { chordsOfCurve, positionOnCurve } from "./curve";
import { circleCircle, lineCircle, lineLine, unit, type Circle } from "./meet";
import type { ArcPiece, Line, Piece, Position, StraightPiece } from "./model";
import { endDirection, startDirection } from "./pieces";

type Simple = StraightPiece | ArcPiece;

const MITRE_LIMIT = 4;
/** Directions that differ by less than this go on without a corner. */
const SMOOTH = 1e-9;

/** A piece of the line and its parallel; linked with its neighbours, so that one can be cut away. */
interface Shifted {
  base: Simple;
  moved: Simple;
  gone: boolean;
  before: number;
  after: number;
}

/** How two neighbours are joined: where they meet, by themselves, or by a bevel. */
type Joint = Position | "smooth" | undefined;

/**
 * `right` is positive to the right of the line's direction; `chord` the largest distance of a curve's chords. A
 * straight that would run backwards between the positions where it meets its neighbours is cut away, and they are joined
 * instead. `vanished` tells that an arc was too tight, `none` that the line has no room for its parallel at all.
 */
export function parallel(
  line: Line,
  right: number,
  up: number,
  chord: number,
): { pieces: Piece[]; vanished: boolean; none: boolean } {
  const base = line.pieces.flatMap((p) => simple(p, chord));
  let vanished = false;
  const shifted: Shifted[] = [];
  for (const p of base) {
    const moved = p.type === "arc" ? movedArc(p, right, up) : movedStraight(p, right, up);
    if (moved) shifted.push({ base: p, moved, gone: false, before: shifted.length - 1, after: shifted.length + 1 });
    else if (p.type === "arc") vanished = true;
  }
  const count = shifted.length;
  if (count === 0) return { pieces: [], vanished, none: false };
  // Corners one after another; a closed parallel has one between its last piece and its first as well.
  shifted[0]!.before = line.closed ? count - 1 : -1;
  shifted[count - 1]!.after = line.closed ? 0 : -1;
  const joints = joinAll(shifted, right, up);
  const pieces: Piece[] = [];
  shifted.forEach((s, k) => {
    if (s.gone) return;
    const [from, to] = [s.before < 0 ? undefined : joints[s.before], s.after < 0 ? undefined : joints[k]];
    pieces.push(cut(s.moved, from, to));
    // A bevel runs between the pieces as shifted: neither is cut there.
    if (s.after >= 0 && to === undefined)
      pieces.push({ type: "straight", from: s.moved.to, to: shifted[s.after]!.moved.from, shots: [-1, -1] });
  });
  // A ring that is narrower than its parallel needs comes out the other way round, or as less than a ring.
  const none =
    line.closed &&
    ((pieces.length < 3 && pieces.every((p) => p.type === "straight")) || enclosed(pieces) * enclosed(base) < 0);
  return { pieces: none ? [] : pieces, vanished, none };
}

/**
 * The joint after each piece. A straight that runs backwards is taken out, its neighbours are joined, and looked at
 * anew.
 */
function joinAll(shifted: Shifted[], right: number, up: number): Joint[] {
  const joints: Joint[] = shifted.map((s) => (s.after < 0 ? undefined : corner(s, shifted[s.after]!, right, up)));
  const waiting = shifted.map((_, k) => k).reverse();
  while (waiting.length) {
    const k = waiting.pop()!,
      s = shifted[k]!;
    if (s.gone || s.moved.type === "arc" || !backwards(s, joints, k)) continue;
    s.gone = true;
    if (s.before >= 0) shifted[s.before]!.after = s.after === k ? -1 : s.after;
    if (s.after >= 0) shifted[s.after]!.before = s.before === k ? -1 : s.before;
    if (s.before < 0 || s.after < 0 || s.before === k) continue;
    joints[s.before] = s.before === s.after ? undefined : corner(shifted[s.before]!, shifted[s.after]!, right, up);
    waiting.push(s.after, s.before);
  }
  return joints;
}

/**
 * Whether a straight, cut where it meets its neighbours, runs against its line; one that is cut to nothing does not.
 */
function backwards(s: Shifted, joints: readonly Joint[], k: number): boolean {
  const { from, to } = cut(s.moved, s.before < 0 ? undefined : joints[s.before], s.after < 0 ? undefined : joints[k]);
  const [e, n] = startDirection(s.moved);
  return (to[0] - from[0]) * e + (to[1] - from[1]) * n < 0;
}

function cut(p: Simple, from: Joint, to: Joint): Simple {
  const begun = Array.isArray(from) ? startAt(p, from as Position) : p;
  return Array.isArray(to) ? endAt(begun, to as Position) : begun;
}

/**
 * Twice the area of a ring by the ends of its pieces and the middles of its arcs, about its first position; + to the left.
 */
function enclosed(pieces: readonly Piece[]): number {
  const [oe, on] = pieces[0]!.from;
  let sum = 0;
  for (const p of pieces) {
    const ways = p.type === "arc" ? [p.from, positionOnArc(p, 0.5), p.to] : [p.from, p.to];
    for (let k = 1; k < ways.length; k++)
      sum += (ways[k - 1]![0] - oe) * (ways[k]![1] - on) - (ways[k]![0] - oe) * (ways[k - 1]![1] - on);
  }
  return sum;
}

/** Curves as their chords; a straight without length has no direction and is left out. */
function simple(p: Piece, chord: number): Simple[] {
  if (p.type === "arc") return [p];
  if (p.type === "straight") return p.from[0] === p.to[0] && p.from[1] === p.to[1] ? [] : [p];
  const parts = chordsOfCurve(p, chord),
    positions = Array.from({ length: parts + 1 }, (_, k) => positionOnCurve(p, k / parts));
  return positions.slice(1).map((to, k) => ({ type: "straight", from: positions[k]!, to, shots: [-1, -1] }));
}

/** A position moved to the right of a direction, and up. */
function beside(p: Position, direction: readonly [number, number], right: number, up: number): Position {
  const [e, n] = unit(direction);
  return [p[0] + n * right, p[1] - e * right, p[2] + up];
}

function movedStraight(p: StraightPiece, right: number, up: number): StraightPiece {
  const direction = startDirection(p);
  return {
    type: "straight",
    from: beside(p.from, direction, right, up),
    to: beside(p.to, direction, right, up),
    shots: [-1, -1],
  };
}

/** Turning right the centre lies to the right, so that the parallel there is tighter. */
function movedArc(p: ArcPiece, right: number, up: number): ArcPiece | undefined {
  const radius = p.radius - Math.sign(p.sweep) * right;
  if (radius <= 0) return undefined;
  return {
    ...p,
    radius,
    from: beside(p.from, startDirection(p), right, up),
    to: beside(p.to, endDirection(p), right, up),
    levels: p.levels.map((l) => ({ share: l.share, level: l.level + up })),
    shots: p.shots.map(() => -1),
  };
}

/**
 * Where two neighbouring parallels meet: "smooth" when they do so by themselves, undefined when they are to be
 * bevelled.
 */
function corner(
  a: { base: Simple; moved: Simple },
  b: { base: Simple; moved: Simple },
  right: number,
  up: number,
): Joint {
  const [ae, an] = unit(endDirection(a.base)),
    [be, bn] = unit(startDirection(b.base));
  // Neighbours share a corner of the line; where a piece between them was cut away, what was there is between their
  // two.
  const p = a.base.to,
    q = b.base.from;
  const base: Position = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2],
    apart = Math.hypot(p[0] - q[0], p[1] - q[1]) / 2;
  if (apart === 0 && Math.abs(ae * bn - an * be) < SMOOTH && ae * be + an * bn > 0) return "smooth";
  const tip = meeting(a.moved, b.moved, base);
  if (!tip) return undefined;
  const length = Math.hypot(tip[0] - base[0], tip[1] - base[1]) - apart;
  return length > MITRE_LIMIT * Math.abs(right) ? undefined : [tip[0], tip[1], base[2] + up];
}

/** Of the positions where the prolonged pieces meet, the one nearest to the line's corner. */
function meeting(a: Simple, b: Simple, near: Position): [number, number] | undefined {
  const [oe, on] = near;
  const at = (p: Position): [number, number] => [p[0] - oe, p[1] - on];
  const candidates =
    a.type === "straight" && b.type === "straight"
      ? lineLine(at(a.from), at(a.to), at(b.from), at(b.to))
      : a.type === "straight"
        ? lineCircle(at(a.from), at(a.to), circleOf(b as ArcPiece, oe, on))
        : b.type === "straight"
          ? lineCircle(at(b.from), at(b.to), circleOf(a, oe, on))
          : circleCircle(circleOf(a, oe, on), circleOf(b, oe, on));
  let best: [number, number] | undefined;
  for (const c of candidates) if (!best || Math.hypot(...c) < Math.hypot(...best)) best = c;
  return best && [best[0] + oe, best[1] + on];
}

function circleOf(p: ArcPiece, oe: number, on: number): Circle {
  return { e: p.center[0] - oe, n: p.center[1] - on, radius: p.radius };
}

/** The piece with another end; an arc keeps its circle and runs on or stops short on it. */
function endAt(p: Simple, to: Position): Simple {
  if (p.type === "straight") return { ...p, to };
  const change = turnBetween(p, p.to, to);
  return cutArc(p, p.from, to, p.sweep + change);
}

function startAt(p: Simple, from: Position): Simple {
  if (p.type === "straight") return { ...p, from };
  const change = turnBetween(p, p.from, from);
  return cutArc(p, from, p.to, p.sweep - change);
}

/** Signed angle, + to the right, from one position on the arc's circle to another, the short way. */
function turnBetween(p: ArcPiece, a: Position, b: Position): number {
  const ae = a[0] - p.center[0],
    an = a[1] - p.center[1],
    be = b[0] - p.center[0],
    bn = b[1] - p.center[1];
  return Math.atan2(an * be - ae * bn, ae * be + an * bn);
}

function cutArc(p: ArcPiece, from: Position, to: Position, sweep: number): ArcPiece {
  return {
    ...p,
    from,
    to,
    sweep,
    levels: [
      { share: 0, level: from[2] },
      { share: 1, level: to[2] },
    ],
  };
}
