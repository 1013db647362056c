/**
 * Parallels of a line in plan (FIELD-CODES.md, `off`): straights shifted, arcs of changed radius, curves as chords; joined by mitres, on the
 * inner side cut where they meet, bevelled where a mitre would be longer than four times the distance or the pieces do not meet.
 */
import { chordsOfCurve, placeOnCurve } from "./curve";
import { circleCircle, lineCircle, lineLine, unit, type Circle } from "./meet";
import type { ArcPiece, Line, Piece, Place, StraightPiece } from "./model";
import { endDirection, startDirection } from "./pieces";

type Simple = StraightPiece | ArcPiece;

const MITRE_LIMIT = 4;
/** Directions that differ by less than this go on without a corner. */
const SMOOTH = 1e-9;

/** `right` is positive to the right of the line's direction; `chord` the largest distance of a curve's chords. `vanished` tells that an arc was too tight. */
export function parallel(line: Line, right: number, up: number, chord: number): { pieces: Piece[]; vanished: boolean } {
  const base = line.pieces.flatMap((p) => simple(p, chord));
  let vanished = false;
  const shifted: { base: Simple; moved: Simple }[] = [];
  for (const p of base) {
    const moved = p.type === "arc" ? movedArc(p, right, up) : movedStraight(p, right, up);
    if (moved) shifted.push({ base: p, moved });
    else if (p.type === "arc") vanished = true;
  }
  if (shifted.length === 0) return { pieces: [], vanished };
  // Corners one after another; a closed parallel has one between its last piece and its first as well.
  const pieces: Piece[] = shifted.map((s) => s.moved);
  const bevels: (Piece | undefined)[] = shifted.map(() => undefined);
  const corners = line.closed ? shifted.length : shifted.length - 1;
  for (let k = 0; k < corners; k++) {
    const next = (k + 1) % shifted.length;
    // Where they meet follows from the pieces as shifted: one cut at its other end may have no length left.
    const tip = corner(shifted[k]!, shifted[next]!, right, up);
    if (tip === "smooth") continue;
    if (tip === undefined) {
      const from = pieces[k]!.to, to = pieces[next]!.from;
      bevels[k] = { type: "straight", from, to, shots: [-1, -1] };
      continue;
    }
    pieces[k] = endAt(pieces[k] as Simple, tip);
    pieces[next] = startAt(pieces[next] as Simple, tip);
  }
  return { pieces: pieces.flatMap((p, k) => (bevels[k] ? [p, bevels[k]!] : [p])), vanished };
}

/** Curves as their chords; a straight without length has no direction and is left out. */
function simple(p: Piece, chord: number): Simple[] {
  if (p.type === "arc") return [p];
  if (p.type === "straight") return p.from[0] === p.to[0] && p.from[1] === p.to[1] ? [] : [p];
  const parts = chordsOfCurve(p, chord), places = Array.from({ length: parts + 1 }, (_, k) => placeOnCurve(p, k / parts));
  return places.slice(1).map((to, k) => ({ type: "straight", from: places[k]!, to, shots: [-1, -1] }));
}

/** A place moved to the right of a direction, and up. */
function beside(p: Place, direction: readonly [number, number], right: number, up: number): Place {
  const [e, n] = unit(direction);
  return [p[0] + n * right, p[1] - e * right, p[2] + up];
}

function movedStraight(p: StraightPiece, right: number, up: number): StraightPiece {
  const direction = startDirection(p);
  return { type: "straight", from: beside(p.from, direction, right, up), to: beside(p.to, direction, right, up), shots: [-1, -1] };
}

/** Turning right the centre lies to the right, so that the parallel there is tighter. */
function movedArc(p: ArcPiece, right: number, up: number): ArcPiece | undefined {
  const radius = p.radius - Math.sign(p.sweep) * right;
  if (radius <= 0) return undefined;
  return {
    ...p, radius, from: beside(p.from, startDirection(p), right, up), to: beside(p.to, endDirection(p), right, up),
    levels: p.levels.map((l) => ({ share: l.share, level: l.level + up })), shots: p.shots.map(() => -1),
  };
}

/** Where two neighbouring parallels meet: "smooth" when they do so by themselves, undefined when they are to be bevelled. */
function corner(a: { base: Simple; moved: Simple }, b: { base: Simple; moved: Simple }, right: number, up: number): Place | "smooth" | undefined {
  const [ae, an] = unit(endDirection(a.base)), [be, bn] = unit(startDirection(b.base));
  const base = a.base.to;
  if (Math.abs(ae * bn - an * be) < SMOOTH && ae * be + an * bn > 0) return "smooth";
  const tip = meeting(a.moved, b.moved, base);
  if (!tip) return undefined;
  const length = Math.hypot(tip[0] - base[0], tip[1] - base[1]);
  return length > MITRE_LIMIT * Math.abs(right) ? undefined : [tip[0], tip[1], base[2] + up];
}

/** Of the places where the prolonged pieces meet, the one nearest to the line's corner. */
function meeting(a: Simple, b: Simple, near: Place): [number, number] | undefined {
  const [oe, on] = near;
  const at = (p: Place): [number, number] => [p[0] - oe, p[1] - on];
  const candidates = a.type === "straight" && b.type === "straight" ? lineLine(at(a.from), at(a.to), at(b.from), at(b.to))
    : a.type === "straight" ? lineCircle(at(a.from), at(a.to), circleOf(b as ArcPiece, oe, on))
      : b.type === "straight" ? lineCircle(at(b.from), at(b.to), circleOf(a, oe, on))
        : circleCircle(circleOf(a, oe, on), circleOf(b, oe, on));
  let best: [number, number] | undefined;
  for (const c of candidates) if (!best || Math.hypot(...c) < Math.hypot(...best)) best = c;
  return best && [best[0] + oe, best[1] + on];
}

function circleOf(p: ArcPiece, oe: number, on: number): Circle {
  return { e: p.center[0] - oe, n: p.center[1] - on, radius: p.radius };
}

/** The piece with another end; an arc keeps its circle and runs on or stops short on it. */
function endAt(p: Simple, to: Place): Simple {
  if (p.type === "straight") return { ...p, to };
  const change = turnBetween(p, p.to, to);
  return cutArc(p, p.from, to, p.sweep + change);
}

function startAt(p: Simple, from: Place): Simple {
  if (p.type === "straight") return { ...p, from };
  const change = turnBetween(p, p.from, from);
  return cutArc(p, from, p.to, p.sweep - change);
}

/** Signed angle, + to the right, from one place on the arc's circle to another, the short way. */
function turnBetween(p: ArcPiece, a: Place, b: Place): number {
  const ae = a[0] - p.center[0], an = a[1] - p.center[1], be = b[0] - p.center[0], bn = b[1] - p.center[1];
  return Math.atan2(an * be - ae * bn, ae * be + an * bn);
}

function cutArc(p: ArcPiece, from: Place, to: Place, sweep: number): ArcPiece {
  return { ...p, from, to, sweep, levels: [{ share: 0, level: from[2] }, { share: 1, level: to[2] }] };
}

