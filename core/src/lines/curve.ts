/**
 * Smooth curves: centripetal Catmull-Rom splines (Yuksel, Schaefer, Keyser 2011) as cubic pieces between shots, in plan and level.
 * A piece is kept as its cubic in u from 0 to 1, relative to its first position, so that length, area and direction follow exactly.
 */
import type { CurvePiece, Position } from "./model";
import type { Shot } from "./arc";

type Vector = readonly [number, number, number];

/** The pieces of the curve through the shots in order. A periodic one returns to its first shot, which is not repeated in the list. */
export function curvePieces(shots: readonly Shot[], periodic: boolean): CurvePiece[] {
  const count = shots.length,
    pieces = periodic ? count : count - 1;
  if (count < 2) return [];
  const reflect = (p: Position, q: Position): Position => [2 * p[0] - q[0], 2 * p[1] - q[1], 2 * p[2] - q[2]];
  const at = (k: number): Position => {
    if (periodic) return shots[((k % count) + count) % count]!.position;
    if (k < 0) return reflect(shots[0]!.position, shots[1]!.position);
    if (k >= count) return reflect(shots[count - 1]!.position, shots[count - 2]!.position);
    return shots[k]!.position;
  };
  return Array.from({ length: pieces }, (_, k) => {
    const a = shots[k]!,
      b = shots[(k + 1) % count]!;
    return piece(at(k - 1), a, b, at(k + 2));
  });
}

/** The cubic between p1 and p2 with knots at the square roots of the chords in plan. */
function piece(p0: Position, a: Shot, b: Shot, p3: Position): CurvePiece {
  const p1 = a.position,
    p2 = b.position;
  const knot = (p: Position, q: Position) => Math.sqrt(Math.hypot(q[0] - p[0], q[1] - p[1]));
  const d0 = knot(p0, p1),
    d1 = knot(p1, p2),
    d2 = knot(p2, p3);
  const cubic = ([0, 1, 2] as const).map((axis) => {
    // Differences from the first position keep the digits of large coordinates.
    const x0 = p0[axis] - p1[axis],
      x2 = p2[axis] - p1[axis],
      x3 = p3[axis] - p1[axis];
    const m1 = d1 * (-x0 / d0 - (x2 - x0) / (d0 + d1) + x2 / d1),
      m2 = d1 * (x2 / d1 - x3 / (d1 + d2) + (x3 - x2) / d2);
    return [m1, 3 * x2 - 2 * m1 - m2, -2 * x2 + m1 + m2] as Vector;
  }) as [Vector, Vector, Vector];
  return { type: "curve", from: p1, to: p2, cubic, shots: [a.index, b.index] };
}

/** The position at u from 0 to 1; both ends are exactly the shots. */
export function positionOnCurve(p: CurvePiece, u: number): Position {
  if (u <= 0) return p.from;
  if (u >= 1) return p.to;
  const of = (axis: 0 | 1 | 2) => p.from[axis] + u * (p.cubic[axis][0] + u * (p.cubic[axis][1] + u * p.cubic[axis][2]));
  return [of(0), of(1), of(2)];
}

/** East and north of the derivative at u. */
export function directionOnCurve(p: CurvePiece, u: number): [number, number] {
  return [slope(p.cubic[0], u), slope(p.cubic[1], u)];
}

function slope([a, b, c]: Vector, u: number): number {
  return a + u * (2 * b + u * 3 * c);
}

/** Length in plan and along the slope, to about 1e-11 of each: Gauss-Legendre, halved until two counts agree. */
export function curveLengths(p: CurvePiece): [plan: number, slope: number] {
  lengthsBetween(p, 0, 1);
  return refined(p, 0, 1, counted[0]!, counted[1]!, 8);
}

function refined(p: CurvePiece, a: number, b: number, plan: number, slope: number, depth: number): [number, number] {
  const mid = (a + b) / 2;
  lengthsBetween(p, a, mid);
  const plan1 = counted[0]!,
    slope1 = counted[1]!;
  lengthsBetween(p, mid, b);
  const plan2 = counted[0]!,
    slope2 = counted[1]!,
    both = plan1 + plan2,
    bothSlope = slope1 + slope2;
  // Not a number stays one; eight halvings are far more than any real curve needs.
  const apart = Math.abs(both - plan) > 1e-11 * Math.abs(plan) || Math.abs(bothSlope - slope) > 1e-11 * Math.abs(slope);
  if (!apart || depth === 0) return [both, bothSlope];
  const left = refined(p, a, mid, plan1, slope1, depth - 1),
    right = refined(p, mid, b, plan2, slope2, depth - 1);
  return [left[0] + right[0], left[1] + right[1]];
}

/** Where lengthsBetween leaves its two sums: numbers of their own for each call would be many. */
const counted = new Float64Array(2);

/** Plain roots, since hypot takes several times as long and there are thirty positions for each piece at least. */
function lengthsBetween({ cubic: [[ea, eb, ec], [na, nb, nc], [za, zb, zc]] }: CurvePiece, a: number, b: number): void {
  const half = (b - a) / 2,
    mid = (a + b) / 2;
  let plan = 0,
    slope = 0;
  for (let k = 0; k < 10; k++) {
    const j = k < 5 ? k : k - 5,
      u = k < 5 ? mid - half * ABSCISSAE[j]! : mid + half * ABSCISSAE[j]!,
      w = WEIGHTS[j]! * half;
    const e = ea + u * (2 * eb + u * 3 * ec),
      n = na + u * (2 * nb + u * 3 * nc),
      z = za + u * (2 * zb + u * 3 * zc),
      flat = e * e + n * n;
    plan += w * Math.sqrt(flat);
    slope += w * Math.sqrt(flat + z * z);
  }
  counted[0] = plan;
  counted[1] = slope;
}

/** One half of the abscissae of ten points, and their weights. */
const ABSCISSAE: readonly number[] = [
  0.14887433898163122, 0.4333953941292472, 0.6794095682990244, 0.8650633666889845, 0.9739065285171717,
];
const WEIGHTS = [
  0.29552422471475287, 0.26926671930999635, 0.21908636251598204, 0.1494513491505806, 0.06667134430868814,
];

/**
 * Twice the signed area between the chord and the curve, + to the left of the chord's direction counted as in a ring:
 * ∫ e dn − n de beyond the chord's own.
 */
export function curveSegment(p: CurvePiece): number {
  const [e, n] = [p.cubic[0], p.cubic[1]];
  // ∫ (e n' − n e') du over 0..1 with e = a1 u + a2 u² + a3 u³: coefficient products integrate exactly.
  let twice = 0;
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) twice += ((j + 1) * (e[i]! * n[j]! - n[i]! * e[j]!)) / (i + j + 2);
  // Relative to the first position the chord contributes nothing.
  return twice;
}

/** Into how many equal parts of u the curve is cut so that its chords are no farther than `chord` from it. */
export function chordsOfCurve(p: CurvePiece, chord: number): number {
  // The second derivative bounds the distance of chords: h²/8 of its largest size over a step h.
  const second = (u: number) =>
    Math.hypot(2 * p.cubic[0][1] + 6 * p.cubic[0][2] * u, 2 * p.cubic[1][1] + 6 * p.cubic[1][2] * u);
  return Math.min(1000, Math.max(1, Math.ceil(Math.sqrt(Math.max(second(0), second(1)) / (8 * chord)))));
}
