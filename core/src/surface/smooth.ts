/**
 * Contours with their corners rounded, for drawing only: lengths and levels stay those of the exact lines.
 *
 * A corner lies on a side between two triangles. It is replaced by a quadratic curve between two positions on its legs
 * (halfway, or nearer to it), with the corner as control, as a quadratic B-spline has them. They are taken so near that
 * the chord between them crosses that same side within its ends, at a level within half an interval: then the curve stays
 * in the two triangles, where the ground is nowhere half an interval off, and where no other line of its level is. So
 * smoothed lines neither cross nor touch.
 */
import type { Contours } from "./contour";
import { next } from "./mesh";
import type { Surface } from "./model";

/** Chords of a rounded corner. */
const CHORDS = 4;
/** Legs that turn by less than this (its sine) are straight as they are. */
const STRAIGHT = 0.01;
/** How far towards its limits a curve may come. */
const CLEAR = 0.999;

/** The contours of a surface with rounded corners; ends, and corners at vertices of the surface, stay. */
export function smoothContours(s: Surface, c: Contours): Contours {
  let xy = new Float64Array(2 * CHORDS * Math.max(16, c.sides.length)),
    used = 0;
  const starts = new Uint32Array(c.starts.length);
  const push = (x: number, y: number, begin: number) => {
    if (used > begin && xy[used - 2] === x && xy[used - 1] === y) return;
    if (used + 2 > xy.length) {
      const wider = new Float64Array(2 * xy.length);
      wider.set(xy);
      xy = wider;
    }
    xy[used++] = x;
    xy[used++] = y;
  };
  for (let k = 0; k < c.level.length; k++) {
    const from = c.starts[k]!,
      to = c.starts[k + 1]!,
      begin = used;
    if (!c.closed[k]) push(c.xy[2 * from]!, c.xy[2 * from + 1]!, begin);
    for (let i = from + (c.closed[k] ? 0 : 1); i < to - 1; i++)
      round(s, c, i === from ? to - 2 : i - 1, i, i + 1, c.interval / 2, (x, y) => push(x, y, begin));
    if (c.closed[k]) push(xy[begin]!, xy[begin + 1]!, begin);
    else push(c.xy[2 * to - 2]!, c.xy[2 * to - 1]!, begin);
    starts[k + 1] = used / 2;
  }
  return { ...c, xy: xy.slice(0, used), sides: new Int32Array(used / 2).fill(-1), starts };
}

/** Gives the positions of one corner, between its neighbours a and c, rounded as far as it may be. */
function round(
  s: Surface,
  { xy, sides }: Contours,
  a: number,
  b: number,
  c: number,
  most: number,
  give: (x: number, y: number) => void,
): void {
  const [bx, by] = [xy[2 * b]!, xy[2 * b + 1]!],
    h = sides[b]!,
    // Half of each leg.
    [px, py] = [(xy[2 * a]! - bx) / 2, (xy[2 * a + 1]! - by) / 2],
    [qx, qy] = [(xy[2 * c]! - bx) / 2, (xy[2 * c + 1]! - by) / 2],
    turn = px * qy - py * qx;
  if (h < 0 || Math.abs(turn) <= STRAIGHT * Math.hypot(px, py) * Math.hypot(qx, qy)) return give(bx, by);
  const [v, w] = [s.tri[h]!, s.tri[next(h)]!],
    [sx, sy] = [s.x[w]! - s.x[v]!, s.y[w]! - s.y[v]!],
    long = sx * sx + sy * sy;
  // How far the legs' ends lie from the side, on either hand of it.
  const p = sx * py - sy * px,
    q = sx * qy - sy * qx;
  if (!(p * q < 0)) return give(bx, by);
  const t = p / (p - q),
    // Along the side, as a share of it: the corner, and from it the chord's crossing.
    at = ((bx - s.x[v]!) * sx + (by - s.y[v]!) * sy) / long,
    by1 = ((px + t * (qx - px)) * sx + (py + t * (qy - py)) * sy) / long,
    rise = Math.abs(by1 * (s.z[w]! - s.z[v]!));
  const room = by1 > 0 ? (1 - at) / by1 : at / -by1,
    near = Math.min(1, CLEAR * room, rise > 0 ? (CLEAR * most) / rise : 1);
  if (!(near > 0)) return give(bx, by);
  // Halfway two corners have one position: rounded alike from either.
  const ends = (other: number, dx: number, dy: number) =>
    near === 1 ? give((bx + xy[2 * other]!) / 2, (by + xy[2 * other + 1]!) / 2) : give(bx + near * dx, by + near * dy);
  ends(a, px, py);
  for (let k = 1; k < CHORDS; k++) {
    const u = k / CHORDS,
      [f, g] = [(1 - u) * (1 - u) * near, u * u * near];
    give(bx + f * px + g * qx, by + f * py + g * qy);
  }
  ends(c, qx, qy);
}
