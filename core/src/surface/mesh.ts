/**
 * A triangle mesh on half-edges in typed arrays that grow, the working form of a surface.
 *
 * Memory: triangle t owns half-edges 3t, 3t+1, 3t+2, counter-clockwise in east/north. Half-edge h starts at vertex
 * `tri[h]`; `twin[h]` is the same side seen from the neighbour, −1 on the outline; `owner[h]` is 0 for a free side,
 * else 1 + the index of the breakline piece it belongs to, with RING where a drawn ring runs along it. `edgeOf[v]` is
 * some half-edge that starts at v, −1 for none.
 * Coordinates are offsets from the surface's origin.
 */
import { inCircle, side } from "../math/predicates";

/** Marks sides of rings in their owner, beside the piece. */
export const RING = 2 ** 30;

export class TriMesh {
  owner: Int32Array;
  edgeOf: Int32Array;
  triangles: number;
  vertices: number;

  constructor(
    public x: Float64Array,
    public y: Float64Array,
    public z: Float64Array,
    public tri: Int32Array,
    public twin: Int32Array,
  ) {
    this.triangles = tri.length / 3;
    this.vertices = x.length;
    this.owner = withRoom(Int32Array, tri.length);
    this.edgeOf = withRoom(Int32Array, x.length).fill(-1);
    for (let h = 0; h < tri.length; h++) this.edgeOf[tri[h]!] = h;
  }

  side(a: number, b: number, c: number): number {
    const { x, y } = this;
    return side(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!);
  }

  inCircle(a: number, b: number, c: number, d: number): number {
    const { x, y } = this;
    return inCircle(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!, x[d]!, y[d]!);
  }

  addVertex(x: number, y: number, z: number): number {
    const v = this.vertices++;
    if (v >= this.x.length) {
      const room = Math.max(16, lengthWithRoom(this.x.length));
      [this.x, this.y, this.z] = [grown(this.x, room), grown(this.y, room), grown(this.z, room)];
      this.edgeOf = grown(this.edgeOf, room);
    }
    this.x[v] = x;
    this.y[v] = y;
    this.z[v] = z;
    this.edgeOf[v] = -1;
    return v;
  }

  /** First half-edge of a new triangle; its contents are set by the caller. */
  addTriangle(): number {
    const h = 3 * this.triangles++;
    if (h >= this.tri.length) {
      const room = Math.max(48, lengthWithRoom(this.tri.length));
      [this.tri, this.twin, this.owner] = [grown(this.tri, room), grown(this.twin, room), grown(this.owner, room)];
    }
    return h;
  }

  link(a: number, b: number): void {
    this.twin[a] = b;
    if (b >= 0) this.twin[b] = a;
  }

  setOwner(h: number, owner: number): void {
    this.owner[h] = owner;
    if (this.twin[h]! >= 0) this.owner[this.twin[h]!] = owner;
  }

  /**
   * Exchanges the side h for the other diagonal of its two triangles.
   *
   *        w                w
   *      / | \            /   \
   *     u  |  v   ...    u     v        before h: u → v seen from w, twin b: v → u seen from x;
   *      \ | /            \   /         after: triangles (x, v, w) in h's slot and (w, u, x) in b's
   *        x                x
   */
  flip(h: number): void {
    const { tri, twin, owner, edgeOf } = this;
    const b = twin[h]!,
      hn = next(h),
      hp = prev(h),
      bn = next(b),
      bp = prev(b);
    const u = tri[h]!,
      v = tri[b]!,
      w = tri[hp]!,
      x = tri[bp]!;
    const outerH = twin[bp]!,
      outerB = twin[hp]!,
      ownH = owner[bp]!,
      ownB = owner[hp]!;
    tri[h] = x;
    tri[b] = w;
    this.link(h, outerH);
    this.link(b, outerB);
    this.link(hp, bp);
    owner[h] = ownH;
    owner[b] = ownB;
    owner[hp] = owner[bp] = 0;
    edgeOf[u] = bn;
    edgeOf[v] = hn;
  }

  /** Flips free sides until all those reached from the stack are Delaunay (Lawson 1977); decided exactly. */
  legalize(stack: number[]): void {
    const { tri, twin, owner } = this;
    while (stack.length) {
      const h = stack.pop()!,
        b = twin[h]!;
      if (b < 0 || owner[h] !== 0) continue;
      if (this.inCircle(tri[h]!, tri[next(h)]!, tri[prev(h)]!, tri[prev(b)]!) > 0) {
        this.flip(h);
        stack.push(h, next(h), b, next(b));
      }
    }
  }

  /** Puts vertex v on the side c, dividing one or two triangles; both halves keep the side's owner. */
  splitEdge(c: number, v: number): void {
    const f = this.addTriangle();
    const d = this.twin[c]!;
    const g = d >= 0 ? this.addTriangle() : -1;
    const { tri, twin, owner, edgeOf } = this;
    const cn = next(c),
      cp = prev(c),
      p = tri[c]!,
      q = tri[cn]!,
      r = tri[cp]!,
      own = owner[c]!;
    // (p, q, r) becomes (p, v, r) and (v, q, r).
    tri[f] = v;
    tri[f + 1] = q;
    tri[f + 2] = r;
    this.link(f + 1, twin[cn]!);
    owner[f + 1] = owner[cn]!;
    tri[cn] = v;
    this.link(cn, f + 2);
    owner[cn] = owner[f + 2] = 0;
    owner[f] = own;
    edgeOf[v] = f;
    edgeOf[p] = c;
    edgeOf[q] = f + 1;
    // Also the new sides themselves: rounding may have put the vertex a little beside the side.
    const stack = [cn, cp, f + 1];
    if (d >= 0) {
      // (q, p, s) becomes (q, v, s) and (v, p, s).
      const dn = next(d),
        dp = prev(d),
        s = tri[dp]!;
      tri[g] = v;
      tri[g + 1] = p;
      tri[g + 2] = s;
      this.link(g + 1, twin[dn]!);
      owner[g + 1] = owner[dn]!;
      tri[dn] = v;
      this.link(dn, g + 2);
      owner[dn] = owner[g + 2] = 0;
      owner[g] = own;
      this.link(c, g);
      this.link(d, f);
      stack.push(dn, dp, g + 1);
    } else twin[f] = -1;
    this.legalize(stack);
  }

  /** Takes triangle t away; the last triangle moves into its slot. */
  removeTriangle(t: number): void {
    const { tri, twin, owner, edgeOf } = this;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const v = tri[h]!,
        before = twin[prev(h)]!,
        after = twin[h]!;
      edgeOf[v] = before >= 0 ? before : after >= 0 ? next(after) : -1;
    }
    for (let h = 3 * t; h < 3 * t + 3; h++) if (twin[h]! >= 0) twin[twin[h]!] = -1;
    const last = 3 * --this.triangles;
    if (last === 3 * t) return;
    for (let k = 0; k < 3; k++) {
      const from = last + k,
        to = 3 * t + k;
      tri[to] = tri[from]!;
      owner[to] = owner[from]!;
      this.link(to, twin[from]!);
      edgeOf[tri[to]!] = to;
    }
  }

  /** Puts vertex v strictly inside the triangle of half-edge h. */
  splitTriangle(h: number, v: number): void {
    const f = this.addTriangle(),
      g = this.addTriangle();
    const { tri, twin, owner, edgeOf } = this;
    const hn = next(h),
      hp = prev(h),
      a = tri[h]!,
      b = tri[hn]!,
      c = tri[hp]!;
    // (a, b, c) becomes (a, b, v), (b, c, v), (c, a, v).
    tri[f] = b;
    tri[f + 1] = c;
    tri[f + 2] = v;
    tri[g] = c;
    tri[g + 1] = a;
    tri[g + 2] = v;
    this.link(f, twin[hn]!);
    owner[f] = owner[hn]!;
    this.link(g, twin[hp]!);
    owner[g] = owner[hp]!;
    tri[hp] = v;
    this.link(hn, f + 2);
    this.link(f + 1, g + 2);
    this.link(g + 1, hp);
    owner[hn] = owner[hp] = owner[f + 1] = owner[f + 2] = owner[g + 1] = owner[g + 2] = 0;
    edgeOf[v] = hp;
    edgeOf[a] = h;
    edgeOf[b] = f;
    edgeOf[c] = g;
    this.legalize([h, f, g]);
  }

  /**
   * A half-edge whose triangle holds the position (its side, when the position is on a side), by walking from `from`; −1
   * when the position is outside.
   * Remembering walk (Devillers, Pion, Teillaud 2002): exact decisions, so it ends on a Delaunay mesh; a count guards the constrained one.
   */
  locate(x: number, y: number, from = 0): number {
    const { tri, twin } = this;
    let t = from - (from % 3);
    for (let steps = 0; steps < 3 * this.triangles + 9; steps++) {
      let across = -2;
      // A different first side at each step keeps the walk from circling.
      for (let k = 0; k < 3; k++) {
        const h = t + ((k + steps) % 3);
        const a = tri[h]!,
          b = tri[next(h)]!;
        if (side(this.x[a]!, this.y[a]!, this.x[b]!, this.y[b]!, x, y) < 0) {
          across = twin[h]!;
          if (across >= 0) break;
        }
      }
      if (across === -2) {
        for (let h = t; h < t + 3; h++) {
          const a = tri[h]!,
            b = tri[next(h)]!;
          if (side(this.x[a]!, this.y[a]!, this.x[b]!, this.y[b]!, x, y) === 0) return h;
        }
        return t;
      }
      if (across === -1) return -1;
      t = across - (across % 3);
    }
    return -1;
  }

  /** The level at a position inside the triangle of half-edge h, linear. */
  levelIn(h: number, x: number, y: number): number {
    const a = this.tri[h]!,
      b = this.tri[next(h)]!,
      c = this.tri[prev(h)]!;
    const bx = this.x[b]! - this.x[a]!,
      by = this.y[b]! - this.y[a]!,
      cx = this.x[c]! - this.x[a]!,
      cy = this.y[c]! - this.y[a]!;
    const px = x - this.x[a]!,
      py = y - this.y[a]!,
      det = bx * cy - by * cx;
    const u = (px * cy - py * cx) / det,
      v = (bx * py - by * px) / det;
    return this.z[a]! + u * (this.z[b]! - this.z[a]!) + v * (this.z[c]! - this.z[a]!);
  }
}

export function next(h: number): number {
  return h % 3 === 2 ? h - 2 : h + 1;
}

export function prev(h: number): number {
  return h % 3 === 0 ? h + 2 : h - 1;
}

/** An array's length with room to grow: a twelfth, whole triangles. */
const lengthWithRoom = (length: number) => length + 3 * Math.ceil(length / 36);

/** An array of zeros whose buffer has room behind it, which `grown` takes up without copying. */
export function withRoom<T extends Float64Array | Int32Array>(
  kind: { new (buffer: ArrayBuffer, from: number, length: number): T; BYTES_PER_ELEMENT: number },
  length: number,
): T {
  return new kind(new ArrayBuffer(kind.BYTES_PER_ELEMENT * lengthWithRoom(length)), 0, length);
}

function grown<T extends Float64Array | Int32Array>(old: T, room: number): T {
  const kind = old.constructor as new (from: number | ArrayBufferLike, begin?: number, length?: number) => T;
  if (old.byteOffset === 0 && old.buffer.byteLength >= old.BYTES_PER_ELEMENT * room)
    return new kind(old.buffer, 0, room);
  const made = new kind(room);
  made.set(old as never);
  return made;
}

/** The longest side of each triangle in plan. */
export function longestSides({ x, y, tri }: { x: Float64Array; y: Float64Array; tri: Int32Array }): Float32Array {
  const out = new Float32Array(tri.length / 3);
  for (let h = 0; h < tri.length; h++) {
    const [a, b] = [tri[h]!, tri[next(h)]!],
      t = (h - (h % 3)) / 3;
    out[t] = Math.max(out[t]!, Math.hypot(x[b]! - x[a]!, y[b]! - y[a]!));
  }
  return out;
}
