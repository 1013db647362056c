/** Figures of two surfaces by cutting every triangle of one with every triangle of the other: slow, and with nothing of the core's. */
import type { Surface } from "../../src/surface/model";
import type { Figures } from "../../src/volumes/model";

type P = [x: number, y: number];

const turn = (a: P, b: P, c: P) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** The part of a convex ring where a value, linear in plan, is not below zero (Sutherland and Hodgman 1974). */
function where(ring: P[], value: (p: P) => number): P[] {
  const out: P[] = [];
  ring.forEach((q, k) => {
    const p = ring[(k + ring.length - 1) % ring.length]!,
      [a, b] = [value(p), value(q)];
    if ((a < 0 && b > 0) || (a > 0 && b < 0)) {
      const t = a / (a - b);
      out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
    }
    if (b >= 0) out.push(q);
  });
  return out;
}

/** Area of a convex ring, and ∫ of a linear value over it. */
function integral(ring: P[], value: (p: P) => number): [area: number, volume: number] {
  let [area, volume] = [0, 0];
  for (let k = 2; k < ring.length; k++) {
    const [a, b, c] = [ring[0]!, ring[k - 1]!, ring[k]!],
      plan = turn(a, b, c) / 2;
    area += plan;
    volume += (plan * (value(a) + value(b) + value(c))) / 3;
  }
  return [area, volume];
}

/** Each triangle's corners from one frame, and its level at a position. */
function trianglesOf({ x, y, z, tri, origin }: Surface, [e, n]: P) {
  return Array.from({ length: tri.length / 3 }, (_, t) => {
    const at = [0, 1, 2].map((k) => tri[3 * t + k]!),
      [a, b, c] = at.map((v): P => [x[v]! + (origin[0] - e), y[v]! + (origin[1] - n)]) as [P, P, P],
      [za, zb, zc] = at.map((v) => z[v]!) as [number, number, number],
      whole = turn(a, b, c);
    const level = (p: P) => (za * turn(p, b, c) + zb * turn(a, p, c) + zc * turn(a, b, p)) / whole;
    return { ring: [a, b, c], level };
  });
}

/** What is exactly as far apart as the deadband counts as nothing: differences within a millionth of it are taken for it. */
export function byPlainClipping(from: Surface, to: Surface, deadband: number): Figures {
  const f: Figures = { cut: 0, fill: 0, net: 0, area: 0, cutArea: 0, fillArea: 0 },
    others = trianglesOf(to, from.origin);
  for (const { ring, level } of trianglesOf(from, from.origin))
    for (const other of others) {
      let piece = ring;
      other.ring.forEach((a, k) => {
        const b = other.ring[(k + 1) % 3]!;
        if (piece.length > 2) piece = where(piece, (p) => turn(a, b, p));
      });
      if (piece.length < 3) continue;
      f.area += integral(piece, () => 0)[0];
      for (const [sign, volume, area] of [
        [1, "fill", "fillArea"],
        [-1, "cut", "cutArea"],
      ] as const) {
        const d = (p: P) => sign * (other.level(p) - level(p));
        if (!piece.some((p) => d(p) - deadband > 1e-6)) continue;
        const [size, sum] = integral(
          where(piece, (p) => d(p) - deadband),
          d,
        );
        f[area] += size;
        f[volume] += sum;
      }
    }
  f.net = f.fill - f.cut;
  return f;
}
