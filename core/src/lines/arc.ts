/** Arcs from shots marked `via` (FIELD-CODES.md, "Geometry, exactly"). */
import { largest } from "../math/many";
import { circleThrough, fitArc, fitCircle, sweepBetween, type Circle } from "./circle";
import type { ArcPiece, KnownLevel, Piece, Position } from "./model";

export interface ArcLimits {
  /** A mid shot this close to the chord makes no arc: 0.1 mm in the job's unit. */
  flat: number;
  /** A radius above this makes no arc: 100 km in the job's unit. */
  largestRadius: number;
}

export interface Shot {
  position: Position;
  index: number;
}

export interface ArcOutcome {
  pieces: Piece[];
  flat?: boolean;
  misfit?: number;
  ignored?: boolean;
}

/** The pieces from anchor `a` past the via shots to anchor `b`; `a` and `b` may be one shot on a closed line. */
export function arcPieces(a: Shot, vias: readonly Shot[], b: Shot, limits: ArcLimits): ArcOutcome {
  const [ae, an] = a.position;
  // Work near the origin: the first anchor.
  const near = (p: Position): [number, number] => [p[0] - ae, p[1] - an];
  const positions = vias.map((v) => near(v.position)),
    end = near(b.position);
  const straight = (more: Omit<ArcOutcome, "pieces">): ArcOutcome => ({
    pieces: straightPieces([a, ...vias, b]),
    ...more,
  });

  if (a.index === b.index) {
    const circle =
      vias.length < 2
        ? undefined
        : vias.length === 2
          ? circleThrough(0, 0, ...positions[0]!, ...positions[1]!)
          : fitCircle(positions, [0, 0]);
    if (!circle) return straight({ ignored: true });
    if (circle.radius > limits.largestRadius) return straight({ flat: true });
    const misfit = largest(positions.map((p) => radialDistance(circle, p)));
    return {
      pieces: [arcPiece(a, vias, b, circle, turnsRight([[0, 0], ...positions]), vias.length === 2)],
      misfit: vias.length > 2 ? misfit : 0,
    };
  }
  if (vias.length === 1) {
    const [ve, vn] = positions[0]!;
    const cross = end[0] * vn - end[1] * ve,
      chord = Math.hypot(...end);
    if (chord === 0) return straight({ ignored: true });
    const circle = circleThrough(0, 0, ve, vn, end[0], end[1]);
    if (Math.abs(cross) / chord <= limits.flat || !circle || circle.radius > limits.largestRadius)
      return straight({ flat: true });
    return { pieces: [arcPiece(a, vias, b, circle, cross > 0, true)] };
  }
  const fit = fitArc(0, 0, end[0], end[1], positions);
  if (!fit) return straight(Math.hypot(...end) === 0 ? { ignored: true } : { flat: true });
  if (fit.circle.radius > limits.largestRadius) return straight({ flat: true });
  return { pieces: [arcPiece(a, vias, b, fit.circle, fit.right, false)], misfit: fit.misfit };
}

/** The full circle of a closed line whose shots are all via: exact through three, least squares for more. */
export function fullCircle(shots: readonly Shot[], limits: ArcLimits): ArcOutcome {
  const [oe, on] = shots[0]!.position;
  const positions = shots.map((s) => [s.position[0] - oe, s.position[1] - on] as [number, number]);
  const circle =
    positions.length === 3 ? circleThrough(...positions[0]!, ...positions[1]!, ...positions[2]!) : fitCircle(positions);
  if (!circle || circle.radius > limits.largestRadius)
    return { pieces: straightPieces([...shots, shots[0]!]), flat: true };
  const misfit = positions.length === 3 ? 0 : largest(positions.map((p) => radialDistance(circle, p)));
  return {
    pieces: [arcPiece(shots[0]!, shots.slice(1), shots[0]!, circle, turnsRight(positions), positions.length === 3)],
    misfit,
  };
}

export function straightPieces(shots: readonly Shot[]): Piece[] {
  return shots
    .slice(1)
    .map((to, i) => ({
      type: "straight",
      from: shots[i]!.position,
      to: to.position,
      shots: [shots[i]!.index, to.index],
    }));
}

function radialDistance(c: Circle, p: readonly [number, number]): number {
  return Math.abs(Math.hypot(p[0] - c.e, p[1] - c.n) - c.radius);
}

/** Whether a ring of positions runs to the right (clockwise), by its signed area. */
function turnsRight(ring: readonly (readonly [number, number])[]): boolean {
  let twice = 0;
  ring.forEach(([e, n], i) => {
    const [fe, fn] = ring[(i + 1) % ring.length]!;
    twice += e * fn - fe * n;
  });
  return twice < 0;
}

/**
 * `circle` is relative to the first anchor. A via shot's level holds at its nearest position on the arc, by its direction
 * from the centre; `exact` says that the via shots stand on the circle itself.
 */
function arcPiece(a: Shot, vias: readonly Shot[], b: Shot, circle: Circle, right: boolean, exact: boolean): ArcPiece {
  const [ae, an] = a.position;
  const way = (p: Position) => sweepBetween(circle, 0, 0, p[0] - ae, p[1] - an, right);
  const sweep = way(b.position);
  const levels: KnownLevel[] = [{ share: 0, level: a.position[2] }];
  for (const v of vias) {
    const share = way(v.position) / sweep;
    if (share > levels.at(-1)!.share && share < 1 && !Number.isNaN(v.position[2])) {
      levels.push({ share, level: v.position[2], ...(exact ? { shot: v } : {}) });
    }
  }
  levels.push({ share: 1, level: b.position[2] });
  return {
    type: "arc",
    from: a.position,
    to: b.position,
    center: [ae + circle.e, an + circle.n],
    radius: circle.radius,
    sweep,
    levels,
    shots: [a.index, ...vias.map((v) => v.index), b.index],
  };
}

/** The position at a share of an arc's sweep, with its level linear between the levels known. */
export function positionOnArc(arc: ArcPiece, share: number): Position {
  if (share <= 0) return arc.from;
  if (share >= 1) return arc.to;
  const start = Math.atan2(arc.from[1] - arc.center[1], arc.from[0] - arc.center[0]);
  const angle = start - arc.sweep * share;
  return [
    arc.center[0] + arc.radius * Math.cos(angle),
    arc.center[1] + arc.radius * Math.sin(angle),
    levelOnArc(arc, share),
  ];
}

/** The level at a share of an arc's sweep, linear in arc length between the levels known. */
export function levelOnArc(arc: ArcPiece, share: number): number {
  // The first level known at the share or beyond it.
  let next = 0,
    high = arc.levels.length;
  while (next < high) {
    const middle = (next + high) >> 1;
    if (arc.levels[middle]!.share >= share) high = middle;
    else next = middle + 1;
  }
  if (next === 0 || next === arc.levels.length) return arc.levels[0]!.level;
  const b = arc.levels[next]!;
  const a = arc.levels[next - 1]!;
  return b.share === a.share ? b.level : a.level + ((b.level - a.level) * (share - a.share)) / (b.share - a.share);
}
