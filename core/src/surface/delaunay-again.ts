/**
 * A Delaunay triangulation after few positions came, went or moved: what went is taken out of it and its hole filled by
 * ears (Devillers 1999), what came is inserted; nothing else is decided anew. The result is that of `delaunay`, to the
 * order of its triangles.
 */
import { side } from "../math/predicates";
import { inTurn } from "./curve";
import { Insertion } from "./delaunay";
import { next, prev } from "./mesh";
import type { Triangles } from "./one-order";

/** More positions that came or went than this are as quickly made all anew. */
const FEW = 64;
/** A hole of more corners is filled slower than all is made anew. */
const WIDEST = 200;

export interface Triangulated extends Triangles {
  x: Float64Array;
  y: Float64Array;
}

/**
 * The triangles of positions by way of those of others, both inserted in turn; undefined where the short way is not
 * open: too many others, or too little that stays.
 */
export function delaunayAgain(was: Triangulated, x: Float64Array, y: Float64Array): Triangles | undefined {
  const moves = matched(was, x, y);
  if (!moves || was.tri.length === 0) return undefined;
  const { newOf, came, went } = moves,
    stays = x.length;
  // What went stands behind all others, until it is out.
  went.forEach((v, k) => (newOf[v] = stays + k));
  const withThose = (now: Float64Array, old: Float64Array) => {
    const list = new Float64Array(stays + went.length);
    list.set(now);
    went.forEach((v, k) => (list[stays + k] = old[v]!));
    return list;
  };
  const mesh = new Remeshing(withThose(x, was.x), withThose(y, was.y), stays);
  if (!mesh.take(was, newOf)) return undefined;
  for (let v = stays; v < mesh.n; v++) if (!mesh.remove(v)) return undefined;
  for (const v of came) if (!mesh.add(v)) return undefined;
  return mesh.finished(inTurn(stays));
}

/** Which of the new positions each old one is, −1 for none; undefined where more than few are others. */
function matched(
  { x: ox, y: oy }: Triangulated,
  x: Float64Array,
  y: Float64Array,
): { newOf: Int32Array; came: number[]; went: number[] } | undefined {
  const newOf = new Int32Array(ox.length).fill(-1),
    came: number[] = [],
    went: number[] = [];
  const isSame = (i: number, j: number) => ox[i] === x[j] && oy[i] === y[j];
  let i = 0,
    j = 0;
  while (i < ox.length || j < x.length) {
    if (isSame(i, j)) {
      newOf[i++] = j++;
      continue;
    }
    // The nearest way on: one moved, went or came; or several.
    let step = 1,
      [goes, comes] = [ox.length - i, x.length - j];
    for (; step <= FEW; step++) {
      const way = [
        [step, step],
        [step, 0],
        [0, step],
      ].find(([a, b]) => i + a! < ox.length && j + b! < x.length && isSame(i + a!, j + b!));
      if (!way) continue;
      [goes, comes] = way as [number, number];
      break;
    }
    if (went.length + came.length + goes + comes > FEW) return undefined;
    for (; goes > 0; goes--) went.push(i++);
    for (; comes > 0; comes--) came.push(j++);
  }
  return { newOf, came, went };
}

/** A finished triangulation opened again; positions from `stays` on are to go. */
class Remeshing extends Insertion {
  /** A half-edge that starts at each position that goes. */
  private readonly edgeOf = new Map<number, number>();

  constructor(
    x: Float64Array,
    y: Float64Array,
    private readonly stays: number,
  ) {
    super(x, y, inTurn(x.length));
  }

  /** Takes triangles over, corners renamed, and closes them by those to infinity; false where a position has none. */
  take({ tri, twin, x }: Triangulated, nameOf: Int32Array): boolean {
    const { n } = this;
    for (let h = 0; h < tri.length; h++) this.set(h, nameOf[tri[h]!]!);
    this.twin.set(twin);
    /** The side from where each side of the outline begins to infinity, and that from infinity to where it ends. */
    const out = new Map<number, number>(),
      back = new Map<number, number>();
    let used = tri.length;
    for (let h = 0; h < tri.length; h++) {
      if (twin[h]! >= 0) continue;
      const a = this.tri[h]!,
        b = this.tri[next(h)]!;
      this.tri.set([b, a, n], used);
      this.link(used, h);
      out.set(a, used + 1);
      back.set(b, used + 2);
      used += 3;
    }
    for (const [v, h] of out) this.link(h, back.get(v)!);
    this.used = used;
    // By Euler, of a sphere with one corner more.
    return used === 3 * (2 * x.length - 2);
  }

  /** Puts a position in; false where one stands there. */
  add(s: number): boolean {
    const { used } = this;
    this.insert(s, s + 1, 1, 0);
    return this.used > used;
  }

  /** Takes a position out and fills its hole; false where that is not to be done in few steps. */
  remove(s: number): boolean {
    const { tri, twin, n } = this,
      first = this.edgeOf.get(s);
    if (first === undefined) return false;
    // The hole's corners counter-clockwise, and from outside the side after each.
    const corners: number[] = [],
      outer: number[] = [],
      slots: number[] = [];
    for (let h = first; ;) {
      corners.push(tri[next(h)]!);
      outer.push(twin[next(h)]!);
      slots.push(h - (h % 3));
      if (corners.length > WIDEST) return false;
      h = twin[prev(h)]!;
      if (h === first) break;
    }
    const near = outer.find((h) => {
      const t = h - (h % 3);
      return tri[t] !== n && tri[t + 1] !== n && tri[t + 2] !== n;
    });
    for (const t of slots) tri[t] = tri[t + 1] = tri[t + 2] = n;
    let at = 1,
      tried = 0;
    while (corners.length > 3) {
      const m = corners.length,
        i = (at + m - 1) % m,
        j = at % m,
        k = (at + 1) % m;
      if (!this.isEar(corners, i, j, k)) {
        if (++tried > m) return false;
        at = (at + 1) % m;
        continue;
      }
      tried = 0;
      const t = slots.pop()!;
      this.fill(t, corners[i]!, corners[j]!, corners[k]!);
      this.link(t, outer[i]!);
      this.link(t + 1, outer[j]!);
      outer[i] = t + 2;
      corners.splice(j, 1);
      outer.splice(j, 1);
      at = i;
    }
    const [a, b, c] = corners as [number, number, number],
      t = slots.pop()!;
    if (!this.isLeft(a, b, c)) return false;
    this.fill(t, a, b, c);
    for (let k = 0; k < 3; k++) this.link(t + k, outer[k]!);
    this.last = near ?? -1;
    return this.last >= 0;
  }

  /** Whether three corners of a hole in a row are a triangle whose circle holds no other corner of it. */
  private isEar(corners: readonly number[], i: number, j: number, k: number): boolean {
    const { x, y, n } = this,
      [a, b, c] = [corners[i]!, corners[j]!, corners[k]!];
    return (
      this.isLeft(a, b, c) &&
      corners.every((d, at) => at === i || at === j || at === k || d === n || !this.circleHolds(a, b, c, x[d]!, y[d]!))
    );
  }

  private isLeft(a: number, b: number, c: number): boolean {
    const { x, y, n } = this;
    return a === n || b === n || c === n || side(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!) > 0;
  }

  private fill(t: number, a: number, b: number, c: number): void {
    this.set(t, a);
    this.set(t + 1, b);
    this.set(t + 2, c);
  }

  private set(h: number, corner: number): void {
    this.tri[h] = corner;
    if (corner >= this.stays && corner < this.n) this.edgeOf.set(corner, h);
  }

  private link(h: number, g: number): void {
    this.twin[h] = g;
    this.twin[g] = h;
  }
}
