/**
 * Positions that the eye means near the cursor: points, ends, middles, crossings, arc centres, feet of perpendiculars,
 * nearest positions. Frames E, N.
 */
import { boxIndex, pointIndex, type BoxIndex } from "../math/near";
import type { PointTable } from "../points/table";
import { levelOnArc, positionOnArc } from "./arc";
import { chordsOfCurve, curveLengths, positionOnCurve } from "./curve";
import { circleCircle, lineCircle, lineLine } from "./meet";
import type { ArcPiece, CurvePiece, Line, Piece, Position, StraightPiece } from "./model";

/**
 * What is snapped to: what it is called under the cursor and in a sentence, from the one that wins to the one that
 * yields when several are within reach.
 */
export const SNAPS = {
  point: { name: "point", said: "at a point" },
  end: { name: "end", said: "at an end" },
  crossing: { name: "crossing", said: "at a crossing" },
  middle: { name: "middle", said: "in the middle" },
  centre: { name: "centre of the arc", said: "at the centre of an arc" },
  perpendicular: { name: "at right angles", said: "at right angles" },
  nearest: { name: "nearest on the line", said: "on the line" },
} as const;
export type SnapKind = keyof typeof SNAPS;
export const SNAP_KINDS = Object.keys(SNAPS) as SnapKind[];

export interface Snap {
  kind: SnapKind;
  e: number;
  n: number;
  /** NaN when no level is known there. */
  z: number;
  /** Table row of a point. */
  point?: number;
  /** Indices of the lines that it is of. */
  lines: number[];
  /** Table rows of the shots that give it: of a straight piece both ends (of two where they cross), of an arc three. */
  shots?: number[][];
}

/** East, north, level and the share of the piece's way at which it stands. */
interface OnPiece {
  position: Position;
  share: number;
}

/** An index over lines by where they can be snapped to; centres of arcs count in. */
export function snapIndex(lines: readonly Line[]): BoxIndex {
  return boxIndex(lines.length, (k) => {
    const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
    const take = (e: number, n: number) => {
      box[0] = Math.min(box[0], e);
      box[1] = Math.min(box[1], n);
      box[2] = Math.max(box[2], e);
      box[3] = Math.max(box[3], n);
    };
    for (const p of lines[k]!.pieces) {
      take(p.from[0], p.from[1]);
      take(p.to[0], p.to[1]);
      if (p.type === "arc") {
        take(p.center[0] - p.radius, p.center[1] - p.radius);
        take(p.center[0] + p.radius, p.center[1] + p.radius);
      } else if (p.type === "curve") {
        // A cubic lies within the hull of its four control positions.
        const [[ea, eb], [na, nb]] = p.cubic;
        take(p.from[0] + ea / 3, p.from[1] + na / 3);
        take(p.from[0] + (2 * ea + eb) / 3, p.from[1] + (2 * na + nb) / 3);
      }
    }
    return box;
  });
}

export interface Snapping {
  /** Farther from the cursor than this nothing is found. */
  reach: number;
  /** Within this of it what is nearest goes first, whatever it is; beyond, what stands higher among the kinds. */
  close: number;
  /** The largest distance from a curve to the chords by which it is looked at. */
  chord: number;
  /** The position that a perpendicular comes from. */
  from?: readonly [number, number] | undefined;
  kinds?: ReadonlySet<SnapKind>;
}

/** How many positions near a cursor are told. */
const MOST_SNAPS = 24;

/** The positions near the cursor, the one that is meant first. What is merely somewhere on a line comes after all that is close. */
export function snapsAt(
  t: PointTable,
  lines: readonly Line[],
  index: BoxIndex,
  e: number,
  n: number,
  { reach, close, chord, from, kinds = new Set(SNAP_KINDS) }: Snapping,
): Snap[] {
  const found = new Map<string, { snap: Snap; d: number }>();
  const offer = (
    kind: SnapKind,
    position: readonly [number, number, number],
    of: number[],
    more: Partial<Snap> = {},
  ) => {
    const d = Math.hypot(position[0] - e, position[1] - n),
      key = kind === "nearest" ? kind : `${kind} ${position[0]} ${position[1]} ${more.point ?? ""}`,
      last = found.get(key);
    if (kinds.has(kind) && d <= reach && !(last && last.d <= d))
      found.set(key, { d, snap: { kind, e: position[0], n: position[1], z: position[2], lines: of, ...more } });
  };
  const around = [e - reach, n - reach, e + reach, n + reach] as const;
  // In their order: of two as near the first one wins.
  if (kinds.has("point"))
    for (const i of pointIndex(t)
      .range(...around)
      .sort((a, b) => a - b))
      offer("point", [t.e[i]!, t.n[i]!, t.z[i]!], [], { point: i });
  const near: { piece: Piece; line: number }[] = [];
  for (const k of index.search(...around).sort((a, b) => a - b)) {
    const { pieces, closed } = lines[k]!;
    if (!closed && pieces.length) for (const end of [pieces[0]!.from, pieces.at(-1)!.to]) offer("end", end, [k]);
    for (const p of pieces) {
      const on = straightShots(p);
      offer("end", p.from, [k]);
      offer("end", p.to, [k]);
      offer("middle", middleOf(p), [k], on && { shots: [on] });
      if (p.type === "arc") offer("centre", [...p.center, NaN], [k], roundShots(p) && { shots: [roundShots(p)!] });
      const { position } = nearestOn(p, e, n, chord);
      offer("nearest", position, [k], on && { shots: [on] });
      if (Math.hypot(position[0] - e, position[1] - n) <= reach) near.push({ piece: p, line: k });
      if (from) for (const foot of feet(p, from, chord)) offer("perpendicular", foot, [k], on && { shots: [on] });
    }
  }
  for (let a = 0; a < near.length; a++)
    for (let b = a + 1; b < near.length; b++) {
      const [p, q] = [near[a]!, near[b]!],
        [on, off] = [straightShots(p.piece), straightShots(q.piece)];
      for (const position of crossings(p.piece, q.piece, chord))
        offer("crossing", position, [p.line, q.line], on && off && { shots: [on, off] });
    }
  const rank = (kind: SnapKind) => SNAP_KINDS.indexOf(kind),
    // What stands at one position to a hair is told apart by its kind.
    order = ({ snap: { kind }, d }: { snap: Snap; d: number }) =>
      d > close
        ? [2, rank(kind), d]
        : kind === "nearest"
          ? [1, 0, d]
          : [0, Math.round(d / (1e-3 * close || 1)), rank(kind)];
  return [...found.values()]
    .map((x) => ({ x, by: order(x) }))
    .sort((a, b) => a.by[0]! - b.by[0]! || a.by[1]! - b.by[1]! || a.by[2]! - b.by[2]!)
    .slice(0, MOST_SNAPS)
    .map(({ x }) => x.snap);
}

/** The shots at both ends of a straight piece, where there are two. */
function straightShots(p: Piece): [number, number] | undefined {
  const [a, b] = [p.shots[0] ?? -1, p.shots.at(-1) ?? -1];
  return p.type === "straight" && a >= 0 && b >= 0 && a !== b ? [a, b] : undefined;
}

/** Three shots on an arc, which give its centre. */
function roundShots(p: ArcPiece): number[] | undefined {
  const shots = [...new Set(p.shots)].filter((s) => s >= 0);
  return shots.length === 3 ? shots : undefined;
}

/** The position halfway along a piece. */
export function middleOf(p: Piece): Position {
  if (p.type === "straight") return [(p.from[0] + p.to[0]) / 2, (p.from[1] + p.to[1]) / 2, (p.from[2] + p.to[2]) / 2];
  if (p.type === "arc") return positionOnArc(p, 0.5);
  // Half the length, found by halving: the length up to u is that of the piece cut there.
  const half = curveLengths(p)[0] / 2;
  let lo = 0,
    hi = 1;
  for (let k = 0; k < 50; k++) {
    const u = (lo + hi) / 2;
    if (curveLengths(cutCurve(p, u))[0] < half) lo = u;
    else hi = u;
  }
  return positionOnCurve(p, (lo + hi) / 2);
}

function cutCurve(p: CurvePiece, u: number): CurvePiece {
  return {
    ...p,
    cubic: p.cubic.map(([a, b, c]) => [a * u, b * u * u, c * u * u * u]) as unknown as CurvePiece["cubic"],
  };
}

/** The position of a piece that is nearest in plan. */
export function nearestOn(p: Piece, e: number, n: number, chord: number): OnPiece {
  if (p.type === "straight") return onStraight(p, straightShare(p, e, n));
  if (p.type === "arc") {
    const share = arcShare(p, e, n);
    if (share !== undefined) return { position: positionOnArc(p, share), share };
    return Math.hypot(p.from[0] - e, p.from[1] - n) <= Math.hypot(p.to[0] - e, p.to[1] - n)
      ? { position: p.from, share: 0 }
      : { position: p.to, share: 1 };
  }
  const parts = Math.max(8, chordsOfCurve(p, chord)),
    d = (u: number) => {
      const q = positionOnCurve(p, u);
      return Math.hypot(q[0] - e, q[1] - n);
    };
  let at = 0;
  for (let k = 1; k <= parts; k++) if (d(k / parts) < d(at)) at = k / parts;
  // Between its neighbours the distance has one least position: thirds close in on it.
  let lo = Math.max(0, at - 1 / parts),
    hi = Math.min(1, at + 1 / parts);
  for (let k = 0; k < 80; k++) {
    const a = lo + (hi - lo) / 3,
      b = hi - (hi - lo) / 3;
    if (d(a) < d(b)) hi = b;
    else lo = a;
  }
  const u = (lo + hi) / 2;
  return { position: positionOnCurve(p, u), share: u };
}

function straightShare(p: StraightPiece, e: number, n: number): number {
  const de = p.to[0] - p.from[0],
    dn = p.to[1] - p.from[1],
    size = de * de + dn * dn;
  return size === 0 ? 0 : Math.min(1, Math.max(0, ((e - p.from[0]) * de + (n - p.from[1]) * dn) / size));
}

function onStraight(p: StraightPiece, share: number): OnPiece {
  if (share <= 0) return { position: p.from, share: 0 };
  if (share >= 1) return { position: p.to, share: 1 };
  return { position: [0, 1, 2].map((k) => p.from[k]! + share * (p.to[k]! - p.from[k]!)) as unknown as Position, share };
}

/** The share of an arc at which the ray from its centre through a position meets it; undefined beside it. */
function arcShare(p: ArcPiece, e: number, n: number): number | undefined {
  const ae = p.from[0] - p.center[0],
    an = p.from[1] - p.center[1],
    be = e - p.center[0],
    bn = n - p.center[1];
  if (be === 0 && bn === 0) return 0;
  let turn = Math.atan2(an * be - ae * bn, ae * be + an * bn);
  if (p.sweep > 0 && turn < -1e-12) turn += 2 * Math.PI;
  if (p.sweep < 0 && turn > 1e-12) turn -= 2 * Math.PI;
  const share = turn / p.sweep;
  return share >= -1e-9 && share <= 1 + 1e-9 ? Math.min(1, Math.max(0, share)) : undefined;
}

/** Feet of perpendiculars from a position, on the piece itself. */
function feet(p: Piece, [e, n]: readonly [number, number], chord: number): Position[] {
  if (p.type === "arc") {
    return [1, -1].flatMap((side) => {
      const share = arcShare(p, p.center[0] + side * (e - p.center[0]), p.center[1] + side * (n - p.center[1]));
      return share === undefined ? [] : [positionOnArc(p, share)];
    });
  }
  const { position, share } = nearestOn(p, e, n, chord);
  return share > 0 && share < 1 ? [position] : [];
}

/** Where two pieces cross, with the level of the first; curves by their chords. */
export function crossings(a: Piece, b: Piece, chord: number): Position[] {
  const [oe, on] = a.from;
  const out: Position[] = [];
  for (const p of simple(a, chord))
    for (const q of simple(b, chord)) {
      for (const [e, n] of meetings(p, q, oe, on)) {
        const onP = shareOf(p, e + oe, n + on),
          onQ = shareOf(q, e + oe, n + on);
        if (onP === undefined || onQ === undefined) continue;
        const z = p.type === "arc" ? levelOnArc(p, onP) : p.from[2] + onP * (p.to[2] - p.from[2]);
        out.push([e + oe, n + on, z]);
      }
    }
  return out;
}

type Simple = StraightPiece | ArcPiece;

function simple(p: Piece, chord: number): Simple[] {
  if (p.type !== "curve") return [p];
  const parts = Math.max(4, chordsOfCurve(p, chord)),
    positions = Array.from({ length: parts + 1 }, (_, k) => positionOnCurve(p, k / parts));
  return positions
    .slice(1)
    .map((to, k): StraightPiece => ({ type: "straight", from: positions[k]!, to, shots: [-1, -1] }));
}

function meetings(p: Simple, q: Simple, oe: number, on: number): [number, number][] {
  const at = (x: Position): [number, number] => [x[0] - oe, x[1] - on];
  const circle = (x: ArcPiece) => ({ e: x.center[0] - oe, n: x.center[1] - on, radius: x.radius });
  if (p.type === "straight" && q.type === "straight") return lineLine(at(p.from), at(p.to), at(q.from), at(q.to));
  if (p.type === "straight") return lineCircle(at(p.from), at(p.to), circle(q as ArcPiece));
  return q.type === "straight" ? lineCircle(at(q.from), at(q.to), circle(p)) : circleCircle(circle(p), circle(q));
}

/** The share of a piece at which a position of its prolongation stands; undefined when it is not on the piece itself. */
function shareOf(p: Simple, e: number, n: number): number | undefined {
  if (p.type === "arc") return arcShare(p, e, n);
  const de = p.to[0] - p.from[0],
    dn = p.to[1] - p.from[1],
    size = de * de + dn * dn;
  if (size === 0) return undefined;
  const share = ((e - p.from[0]) * de + (n - p.from[1]) * dn) / size;
  return share >= -1e-9 && share <= 1 + 1e-9 ? Math.min(1, Math.max(0, share)) : undefined;
}

export interface LineCrossing {
  /** The shots of both straight pieces that cross, where it is such that do. */
  shots?: number[][];
  e: number;
  n: number;
  z: number;
  /** The shot of the line after which it crosses: an index into its shots; −1 on a piece that no shot begins. */
  after: number;
}

/** Where one line crosses another, along the first. */
export function lineCrossings(line: Line, other: Line, chord: number): LineCrossing[] {
  const out: LineCrossing[] = [];
  let shot = 0;
  for (const p of line.pieces) {
    const after = p.shots[0]! < 0 ? -1 : line.shots.indexOf(p.shots[0]!, Math.max(0, shot - 1));
    if (after >= 0) shot = after;
    const here = other.pieces.flatMap((q) => {
      const [on, off] = [straightShots(p), straightShots(q)],
        shots = on && off && { shots: [on, off] };
      return crossings(p, q, chord).map(([e, n, z]) => ({ e, n, z, after, ...shots }));
    });
    out.push(
      ...here.sort(
        (a, b) => Math.hypot(a.e - p.from[0], a.n - p.from[1]) - Math.hypot(b.e - p.from[0], b.n - p.from[1]),
      ),
    );
  }
  // A crossing at a joint is on both its pieces.
  return out.filter(
    (c, k) => k === 0 || Math.hypot(c.e - out[k - 1]!.e, c.n - out[k - 1]!.n) > 1e-9 * (1 + Math.abs(c.e)),
  );
}

/**
 * How far a position lies to the right of a line (negative: left), from its nearest piece; undefined for a line without
 * pieces.
 */
export function rightOf(line: Line, e: number, n: number, chord: number): number | undefined {
  let best: { d: number; right: number } | undefined;
  for (const p of line.pieces) {
    const { position, share } = nearestOn(p, e, n, chord),
      d = Math.hypot(position[0] - e, position[1] - n);
    if (best && best.d <= d) continue;
    // The direction of the piece there, from positions a little before and after.
    const step = 1e-4,
      at = (u: number) =>
        p.type === "straight"
          ? onStraight(p, u).position
          : p.type === "arc"
            ? positionOnArc(p, u)
            : positionOnCurve(p, u);
    const a = at(Math.max(0, share - step)),
      b = at(Math.min(1, share + step));
    const side = (e - position[0]) * (b[1] - a[1]) - (n - position[1]) * (b[0] - a[0]);
    best = { d, right: side >= 0 ? d : -d };
  }
  return best?.right;
}
