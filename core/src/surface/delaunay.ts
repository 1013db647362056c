/**
 * Delaunay triangulation by insertion (Bowyer 1981, Watson 1981) along a Hilbert curve, in rounds from coarse to fine: a
 * point is looked for from the last one (visibility walk), the triangles whose circle holds it give way to a fan. Outside
 * the outline are triangles to one corner at infinity, so that nothing is a case of its own. Decisions are exact (Shewchuk
 * 1997): what plain arithmetic with its error bound cannot tell is decided again; of positions on one circle the last of
 * all, from west to east, counts as a hair outside it (Edelsbrunner, Mücke 1990). So there is one triangulation of a set
 * of positions, and it is given in one order: however it was come by, by inserting all or by changing a few.
 */
import { inCircle, side } from "../math/predicates";
import { alongCurve } from "./curve";
import { inOneOrder, type Triangles } from "./one-order";

/** On a grid as fine as this, of a power of two, plain arithmetic is exact for positions so many steps apart. */
const FINEST = 2 ** -20,
  EXACT_STEPS = 2 ** 11;
/** Each round inserts every 8th of what is left. */
const COARSER = 8;
/** Inserted in one call, or the compiler gives up on the loop. */
const BATCH = 512;
const EPSILON = 2 ** -53;
/** Error bounds of the plain determinants (Shewchuk 1997); that of the circle holds for ab + bc + ca of its lifts. */
const SIDE_BOUND = (3 + 16 * EPSILON) * EPSILON,
  CIRCLE_BOUND = (10 + 128 * EPSILON) * EPSILON;

/**
 * The Delaunay triangles of positions, given as offsets from a near origin: 0 or of a size whose fourth power is a
 * double (see VertexList), or no decision is exact. Of equal positions one has triangles. None at
 * all where all positions are on one line. They are inserted in the order given, which is fast where neighbours in it are
 * neighbours in plan.
 */
export function delaunay(x: Float64Array, y: Float64Array, order = alongCurve(x, y)): Triangles {
  const insertion = new Insertion(x, y, order);
  return insertion.begin() ? insertion.all().finished(order) : { tri: new Int32Array(), twin: new Int32Array() };
}

/** Positions inserted one after another; see `delaunay` and `delaunayAgain`, which alone use it. */
export class Insertion {
  /** The corner at infinity; corners below it are positions in the order given. */
  readonly n: number;
  /** Positions in that order; the last is the corner at infinity: not a number, so that no plain test decides on it. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly tri: Int32Array;
  readonly twin: Int32Array;
  /** Half-edges in use, three for each triangle. */
  used = 0;
  /** First half-edge of a real triangle near the last point. */
  last = 0;
  /** The corners of the first triangle, if it was begun with. */
  private first: readonly [number, number, number] = [-1, -1, -1];
  /** Positions no farther apart than this either way are decided exactly by plain arithmetic; 0 where none are. */
  private readonly plain: number;
  private stack: Int32Array = new Int32Array(256);
  private outer: Int32Array = new Int32Array(256);
  private corners: Int32Array = new Int32Array(256);
  private removed: Int32Array = new Int32Array(256);

  constructor(x: Float64Array, y: Float64Array, order: ArrayLike<number>) {
    const n = (this.n = order.length);
    this.x = new Float64Array(n + 1);
    this.y = new Float64Array(n + 1);
    for (let s = 0; s < n; s++) {
      this.x[s] = x[order[s]!]!;
      this.y[s] = y[order[s]!]!;
    }
    this.x[n] = this.y[n] = NaN;
    this.plain = EXACT_STEPS * gridOf(this.x, this.y, n);
    // By Euler a sphere of n + 1 corners has 2n − 2 triangles.
    this.tri = new Int32Array(Math.max(0, 3 * (2 * n - 2)));
    this.twin = new Int32Array(this.tri.length);
  }

  /** The first triangle, with the three outside it; false where there is none. */
  begin(): boolean {
    const { x, y, n } = this;
    let b = 1;
    while (b < n && x[b] === x[0] && y[b] === y[0]) b++;
    let c = b + 1;
    while (c < n && side(x[0]!, y[0]!, x[b]!, y[b]!, x[c]!, y[c]!) === 0) c++;
    if (c >= n) return false;
    this.first = [0, b, c];
    const [u, v, w] = side(x[0]!, y[0]!, x[b]!, y[b]!, x[c]!, y[c]!) > 0 ? [0, b, c] : [0, c, b];
    this.tri.set([u, v, w, v, u, n, w, v, n, u, w, n]);
    this.twin.set([3, 6, 9, 0, 11, 7, 1, 5, 10, 2, 8, 4]);
    this.used = 12;
    return true;
  }

  all(): this {
    const { n } = this;
    let step = 1;
    while (step * COARSER < n) step *= COARSER;
    for (let coarser = 0; step >= 1; coarser = step, step /= COARSER)
      for (let from = 0; from < n; from += BATCH * step)
        this.insert(from, Math.min(n, from + BATCH * step), step, coarser);
    return this;
  }

  /** Inserts every `step`-th position from `from` to `to`, but for those that a coarser round inserted. */
  insert(from: number, to: number, step: number, coarser: number): void {
    const { x, y, tri, twin, first } = this;
    let { stack, outer, corners, removed, used, last } = this;
    for (let s = from; s < to; s += step) {
      if ((coarser !== 0 && s % coarser === 0) || s === first[0] || s === first[1] || s === first[2]) continue;
      const px = x[s]!,
        py = y[s]!;

      // The triangle that holds it, or one outside that sees it; h is a side that it lies left of.
      let h = last;
      if (this.isRight(h, px, py)) h = twin[h]!;
      for (;;) {
        const t = h - (h % 3);
        const h1 = h === t + 2 ? t : h + 1,
          h2 = h === t ? t + 2 : h - 1;
        const b = tri[h1]!,
          c = tri[h2]!;
        const ax = x[tri[h]!]! - px,
          ay = y[tri[h]!]! - py,
          bx = x[b]! - px,
          by = y[b]! - py,
          cx = x[c]! - px,
          cy = y[c]! - py;
        // Sides to infinity are never a number: they are told apart by their corner.
        let l = bx * cy,
          r = by * cx,
          d = l - r,
          bound = SIDE_BOUND * (Math.abs(l) + Math.abs(r));
        if (d < -bound || (!(d > bound) && this.isRight(h1, px, py))) {
          h = twin[h1]!;
          continue;
        }
        l = cx * ay;
        r = cy * ax;
        d = l - r;
        bound = SIDE_BOUND * (Math.abs(l) + Math.abs(r));
        if (d < -bound || (!(d > bound) && this.isRight(h2, px, py))) {
          h = twin[h2]!;
          continue;
        }
        break;
      }
      const start = h - (h % 3);
      if (this.isCorner(start, px, py)) continue;

      // All triangles whose circle holds it; their outline in order, counter-clockwise.
      let top = 3,
        around = 0,
        gone = 1;
      removed[0] = start;
      stack[0] = start + 2;
      stack[1] = start + 1;
      stack[2] = start;
      while (top > 0) {
        const inner = stack[--top]!,
          o = twin[inner]!,
          t = o - (o % 3);
        const a = tri[t]!,
          b = tri[t + 1]!,
          c = tri[t + 2]!;
        const ax = x[a]! - px,
          ay = y[a]! - py,
          bx = x[b]! - px,
          by = y[b]! - py,
          cx = x[c]! - px,
          cy = y[c]! - py;
        const al = ax * ax + ay * ay,
          bl = bx * bx + by * by,
          cl = cx * cx + cy * cy;
        const d = al * (bx * cy - by * cx) + bl * (cx * ay - cy * ax) + cl * (ax * by - ay * bx),
          bound = CIRCLE_BOUND * (al * bl + bl * cl + cl * al);
        if (d > bound || (!(d < -bound) && this.holds(t, px, py))) {
          if (top + 2 > stack.length) this.stack = stack = doubled(stack);
          if (gone === removed.length) this.removed = removed = doubled(removed);
          removed[gone++] = t;
          stack[top++] = o === t ? t + 2 : o - 1;
          stack[top++] = o === t + 2 ? t : o + 1;
        } else {
          if (around === outer.length) {
            this.outer = outer = doubled(outer);
            this.corners = corners = doubled(corners);
          }
          outer[around] = o;
          corners[around++] = tri[inner]!;
        }
      }

      // A fan from the position to that outline: two triangles more than went.
      let before = -1,
        begun = -1;
      const infinite = this.n;
      for (let k = 0; k < around; k++) {
        let t: number;
        if (k < gone) t = removed[k]!;
        else {
          t = used;
          used += 3;
        }
        const a = corners[k]!,
          b = corners[k + 1 === around ? 0 : k + 1]!,
          o = outer[k]!;
        tri[t] = s;
        tri[t + 1] = a;
        tri[t + 2] = b;
        twin[t + 1] = o;
        twin[o] = t + 1;
        if (before < 0) begun = t;
        else {
          twin[t] = before + 2;
          twin[before + 2] = t;
        }
        before = t;
        if (a !== infinite && b !== infinite) last = t;
      }
      twin[begun] = before + 2;
      twin[before + 2] = begun;
    }
    this.used = used;
    this.last = last;
  }

  /** Whether a position lies right of a side, exactly; of a side to infinity none does. */
  private isRight(h: number, px: number, py: number): boolean {
    const { x, y, tri, n } = this,
      a = tri[h]!,
      b = tri[h % 3 === 2 ? h - 2 : h + 1]!;
    return a !== n && b !== n && side(x[a]!, y[a]!, x[b]!, y[b]!, px, py) < 0;
  }

  private isCorner(t: number, px: number, py: number): boolean {
    const { x, y, tri } = this;
    for (let h = t; h < t + 3; h++) if (x[tri[h]!] === px && y[tri[h]!] === py) return true;
    return false;
  }

  /** Whether a triangle's circle holds a position, exactly; that of a triangle outside is all beyond its side. */
  private holds(t: number, px: number, py: number): boolean {
    return this.circleHolds(this.tri[t]!, this.tri[t + 1]!, this.tri[t + 2]!, px, py);
  }

  /** The same of a triangle by its corners, counter-clockwise. */
  circleHolds(a: number, b: number, c: number, px: number, py: number): boolean {
    const { x, y, n } = this;
    if (a !== n && b !== n && c !== n) {
      const [ax, ay, bx, by, cx, cy] = [x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!];
      const near = Math.max(
        Math.abs(ax - px),
        Math.abs(ay - py),
        Math.abs(bx - px),
        Math.abs(by - py),
        Math.abs(cx - px),
        Math.abs(cy - py),
      );
      const d =
        near <= this.plain
          ? circleOf(ax - px, ay - py, bx - px, by - py, cx - px, cy - py)
          : isRectangle(ax, ay, bx, by, cx, cy, px, py)
            ? 0
            : inCircle(ax, ay, bx, by, cx, cy, px, py);
      return d > 0 || (d === 0 && holdsOnCircle(ax, ay, bx, by, cx, cy, px, py));
    }
    const [u, v] = a === n ? [b, c] : b === n ? [c, a] : [a, b],
      d = side(x[u]!, y[u]!, x[v]!, y[v]!, px, py);
    // On the outline itself it is between the ends of its side.
    return d > 0 || (d === 0 && (px - x[u]!) * (px - x[v]!) + (py - y[u]!) * (py - y[v]!) < 0);
  }

  /** The triangles between positions, `order` naming each; none to infinity. */
  finished(order: Uint32Array): Triangles {
    return inOneOrder(this.tri, this.twin, this.used, this.n, order);
  }
}

/** The step of a grid of a power of two on which all positions are; 0 where it is too fine to help. */
function gridOf(x: Float64Array, y: Float64Array, n: number): number {
  let step = 1;
  for (const list of [x, y])
    for (let i = 0; i < n; i++)
      while (!Number.isInteger(list[i]! / step)) {
        step /= 2;
        if (step < FINEST) return 0;
      }
  return step;
}

/** Above 0 where the circle through a, b, c (counter-clockwise, as seen from a position) holds that position. */
function circleOf(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  return (
    (ax * ax + ay * ay) * (bx * cy - by * cx) +
    (bx * bx + by * by) * (cx * ay - cy * ax) +
    (cx * cx + cy * cy) * (ax * by - ay * bx)
  );
}

/**
 * Of four positions on one circle, a, b, c counter-clockwise: whether p counts as within. The last of them, by x, then y,
 * is a hair outside: lifted so, it has p below the plane of the others where p is on its own side of the two.
 */
function holdsOnCircle(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  px: number,
  py: number,
): boolean {
  const isA = isAfter(ax, ay, bx, by) && isAfter(ax, ay, cx, cy),
    isB = !isA && isAfter(bx, by, cx, cy);
  const [lx, ly, ux, uy, vx, vy] = isA
    ? [ax, ay, bx, by, cx, cy]
    : isB
      ? [bx, by, cx, cy, ax, ay]
      : [cx, cy, ax, ay, bx, by];
  return isAfter(lx, ly, px, py) && side(ux, uy, vx, vy, px, py) > 0;
}

const isAfter = (ax: number, ay: number, bx: number, by: number) => ax > bx || (ax === bx && ay > by);

/** Whether p stands across a rectangle along the axes, of which u shares its x, v its y, and w is the corner opposite. */
const acrossFrom = (ux: number, uy: number, vx: number, vy: number, wx: number, wy: number, px: number, py: number) =>
  ux === px && vy === py && wx === vx && wy === uy;

/** Whether four positions are the corners of a rectangle along the axes, which is on one circle exactly. */
function isRectangle(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  px: number,
  py: number,
): boolean {
  return (
    acrossFrom(ax, ay, bx, by, cx, cy, px, py) ||
    acrossFrom(ax, ay, cx, cy, bx, by, px, py) ||
    acrossFrom(bx, by, ax, ay, cx, cy, px, py) ||
    acrossFrom(bx, by, cx, cy, ax, ay, px, py) ||
    acrossFrom(cx, cy, ax, ay, bx, by, px, py) ||
    acrossFrom(cx, cy, bx, by, ax, ay, px, py)
  );
}

function doubled(list: Int32Array): Int32Array {
  const made = new Int32Array(2 * list.length);
  made.set(list);
  return made;
}
