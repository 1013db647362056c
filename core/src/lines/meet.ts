/** Where straights and circles meet in plan. Positions are east, north, best near the origin. */

export interface Circle {
  e: number;
  n: number;
  radius: number;
}

/** Where two prolonged straights meet, each through two positions. */
export function lineLine(
  a: [number, number],
  b: [number, number],
  c: [number, number],
  d: [number, number],
): [number, number][] {
  const ue = b[0] - a[0],
    un = b[1] - a[1],
    ve = d[0] - c[0],
    vn = d[1] - c[1],
    cross = ue * vn - un * ve;
  // Of a line that turns straight back the parallels lie side by side.
  if (Math.abs(cross) <= 1e-12 * Math.hypot(ue, un) * Math.hypot(ve, vn)) return [];
  const t = ((c[0] - a[0]) * vn - (c[1] - a[1]) * ve) / cross;
  return [[a[0] + t * ue, a[1] + t * un]];
}

/** Where a prolonged straight meets a circle. */
export function lineCircle(a: [number, number], b: [number, number], c: Circle): [number, number][] {
  const [ue, un] = unit([b[0] - a[0], b[1] - a[1]]);
  const along = (c.e - a[0]) * ue + (c.n - a[1]) * un,
    across = (c.e - a[0]) * un - (c.n - a[1]) * ue;
  const half = c.radius * c.radius - across * across;
  if (half < 0) return [];
  return [along - Math.sqrt(half), along + Math.sqrt(half)].map((s) => [a[0] + s * ue, a[1] + s * un]);
}

export function circleCircle(a: Circle, b: Circle): [number, number][] {
  const de = b.e - a.e,
    dn = b.n - a.n,
    d = Math.hypot(de, dn);
  if (d === 0) return [];
  const along = (d * d + a.radius * a.radius - b.radius * b.radius) / (2 * d),
    half = a.radius * a.radius - along * along;
  if (half < 0) return [];
  const h = Math.sqrt(half),
    e = a.e + (along * de) / d,
    n = a.n + (along * dn) / d;
  return [
    [e - (h * dn) / d, n + (h * de) / d],
    [e + (h * dn) / d, n - (h * de) / d],
  ];
}

export function unit([e, n]: readonly [number, number]): [number, number] {
  const size = Math.hypot(e, n);
  return [e / size, n / size];
}
