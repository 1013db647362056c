/**
 * Circles through plan positions. Coordinates are east, north relative to any near origin; the callers use the first anchor.
 * Sweeps are in radians, + to the right (clockwise), as the contract's arcs are.
 */

import { largest } from "../math/many";
import { positiveAngle } from "../math/angles";

export interface Circle {
  e: number;
  n: number;
  radius: number;
}

/** The circle through three positions; undefined when they are on one line. */
export function circleThrough(
  ae: number,
  an: number,
  be: number,
  bn: number,
  ce: number,
  cn: number,
): Circle | undefined {
  const ue = be - ae,
    un = bn - an,
    ve = ce - ae,
    vn = cn - an;
  const d = 2 * (ue * vn - un * ve);
  if (d === 0) return undefined;
  const uu = ue * ue + un * un,
    vv = ve * ve + vn * vn;
  const e = (vn * uu - un * vv) / d,
    n = (ue * vv - ve * uu) / d;
  const radius = Math.hypot(e, n);
  return Number.isFinite(radius) ? { e: ae + e, n: an + n, radius } : undefined;
}

/** The sweep along a circle from one position to another, going right (clockwise) or left; in (0, 2π] by size. */
export function sweepBetween(
  c: { e: number; n: number },
  ae: number,
  an: number,
  be: number,
  bn: number,
  right: boolean,
): number {
  const turned = Math.atan2(an - c.n, ae - c.e) - Math.atan2(bn - c.n, be - c.e);
  const clockwise = positiveAngle(turned);
  return right ? clockwise || 2 * Math.PI : (clockwise || 2 * Math.PI) - 2 * Math.PI || -2 * Math.PI;
}

export interface FittedArc {
  circle: Circle;
  right: boolean;
  misfit: number;
}

/**
 * The arc from a to b that lies nearest to the positions between: of all circles exactly through both anchors, the one
 * with the least sum of squared radial distances. The arc runs on the side of the chord where the sum of their signed
 * distances lies. Undefined when the anchors are one position or the positions are on both sides alike.
 *
 * With the chord along x, half its length c and the arc's side +y, each such circle has its centre at y = c·sinh s and
 * the radius c·cosh s; the least sum is searched along s and refined to the last digits by bisection of its derivative.
 */
export function fitArc(
  ae: number,
  an: number,
  be: number,
  bn: number,
  between: readonly (readonly [number, number])[],
): FittedArc | undefined {
  const de = be - ae,
    dn = bn - an,
    chord = Math.hypot(de, dn);
  if (chord === 0) return undefined;
  const c = chord / 2,
    ue = de / chord,
    un = dn / chord,
    me = (ae + be) / 2,
    mn = (an + bn) / 2;
  const local = between.map(
    ([e, n]) => [(e - me) * ue + (n - mn) * un, (n - mn) * ue - (e - me) * un] as [number, number],
  );
  const lean = local.reduce((s, p) => s + p[1], 0);
  if (lean === 0) return undefined;
  const sideSign = lean > 0 ? 1 : -1; // + is left of the chord
  for (const p of local) p[1] *= sideSign;

  const residual = (s: number, [x, y]: readonly [number, number]) => {
    const t = c * Math.sinh(s),
      r = c * Math.cosh(s),
      d = Math.hypot(x, y - t);
    return { r: (x * x + y * y - c * c - 2 * y * t) / (d + r), slope: d === 0 ? 0 : (-(y - t) / d) * r - t };
  };
  const total = (s: number) => local.reduce((sum, p) => sum + residual(s, p).r ** 2, 0);
  const slope = (s: number) =>
    local.reduce((sum, p) => {
      const { r, slope: k } = residual(s, p);
      return sum + r * k;
    }, 0);

  let best = 0,
    least = Infinity;
  for (let s = -13; s <= 13; s += 0.25) {
    const f = total(s);
    if (f < least) [best, least] = [s, f];
  }
  const s = bisect(slope, best - 0.25, best + 0.25, best);
  const t = c * Math.sinh(s) * sideSign,
    radius = c * Math.cosh(s);
  const circle = { e: me - un * t, n: mn + ue * t, radius };
  return { circle, right: sideSign > 0, misfit: largest(local.map((p) => Math.abs(residual(s, p).r))) };
}

/** A root of f between lo and hi where its sign changes; `otherwise` where it does not. */
function bisect(f: (x: number) => number, lo: number, hi: number, otherwise: number): number {
  const low = f(lo);
  if (low === 0) return lo;
  if (low * f(hi) > 0) return otherwise;
  for (let i = 0; i < 200; i++) {
    const mid = (lo + hi) / 2;
    if (mid <= lo || mid >= hi) break;
    if (low * f(mid) > 0) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}

/**
 * The circle with the least sum of squared radial distances to the positions; with `through` among those that pass
 * through that position. Gauss-Newton with damping (Levenberg 1944) from the algebraic circle. Undefined on one line.
 */
export function fitCircle(
  positions: readonly (readonly [number, number])[],
  through?: readonly [number, number],
): Circle | undefined {
  const start = algebraicCircle(through ? [through, ...positions] : positions);
  if (!start) return undefined;
  let p = through ? [start.e, start.n] : [start.e, start.n, start.radius];
  const radiusOf = (q: number[]) => (through ? Math.hypot(through[0] - q[0]!, through[1] - q[1]!) : q[2]!);
  const cost = (q: number[]) =>
    positions.reduce((s, [e, n]) => s + (Math.hypot(e - q[0]!, n - q[1]!) - radiusOf(q)) ** 2, 0);
  let damping = 1e-3,
    now = cost(p);
  for (let step = 0; step < 200 && damping < 1e12; step++) {
    const size = p.length;
    const normal = Array.from({ length: size }, () => Array.from({ length: size + 1 }, () => 0));
    const radius = radiusOf(p);
    for (const [e, n] of positions) {
      const d = Math.hypot(e - p[0]!, n - p[1]!) || 1e-300;
      const j = [-(e - p[0]!) / d, -(n - p[1]!) / d];
      if (through) {
        j[0]! += (through[0] - p[0]!) / radius;
        j[1]! += (through[1] - p[1]!) / radius;
      } else j.push(-1);
      for (let a = 0; a < size; a++) {
        for (let b = 0; b < size; b++) normal[a]![b]! += j[a]! * j[b]!;
        normal[a]![size]! -= j[a]! * (d - radius);
      }
    }
    for (let a = 0; a < size; a++) normal[a]![a]! *= 1 + damping;
    const change = solve(normal);
    const next = change && p.map((x, i) => x + change[i]!);
    const then = next ? cost(next) : Infinity;
    if (next && then <= now) {
      const settled = change!.every((x, i) => Math.abs(x) <= 1e-15 * (1 + Math.abs(p[i]!)));
      [p, now] = [next, then];
      damping = Math.max(damping / 10, 1e-15);
      if (settled) break;
    } else damping *= 10;
  }
  return { e: p[0]!, n: p[1]!, radius: radiusOf(p) };
}

/** Least squares of x² + y² + ax + by + c about the mean position (Kåsa 1976): a start for the fit. */
function algebraicCircle(positions: readonly (readonly [number, number])[]): Circle | undefined {
  const me = positions.reduce((s, p) => s + p[0], 0) / positions.length,
    mn = positions.reduce((s, p) => s + p[1], 0) / positions.length;
  let ee = 0,
    en = 0,
    nn = 0,
    eq = 0,
    nq = 0,
    q = 0;
  for (const [pe, pn] of positions) {
    const e = pe - me,
      n = pn - mn,
      s = e * e + n * n;
    ee += e * e;
    en += e * n;
    nn += n * n;
    eq += e * s;
    nq += n * s;
    q += s;
  }
  const d = 2 * (ee * nn - en * en);
  if (Math.abs(d) <= 1e-14 * (ee + nn) ** 2) return undefined;
  const ce = (eq * nn - nq * en) / d,
    cn = (nq * ee - eq * en) / d;
  return { e: me + ce, n: mn + cn, radius: Math.sqrt(ce * ce + cn * cn + q / positions.length) };
}

/** Solves a small augmented system with pivoting; undefined when it is singular. */
function solve(m: number[][]): number[] | undefined {
  const size = m.length;
  for (let c = 0; c < size; c++) {
    let pivot = c;
    for (let r = c + 1; r < size; r++) if (Math.abs(m[r]![c]!) > Math.abs(m[pivot]![c]!)) pivot = r;
    if (m[pivot]![c] === 0) return undefined;
    [m[c], m[pivot]] = [m[pivot]!, m[c]!];
    for (let r = 0; r < size; r++) {
      if (r === c) continue;
      const f = m[r]![c]! / m[c]![c]!;
      for (let k = c; k <= size; k++) m[r]![k]! -= f * m[c]![k]!;
    }
  }
  const x = m.map((row, i) => row[size]! / row[i]!);
  return x.every(Number.isFinite) ? x : undefined;
}
