/**
 * Breakline pieces into a Delaunay mesh: constrained Delaunay triangulation by local re-triangulation of the
 * triangles a piece crosses (Sloan 1993, Anglada 1997). All decisions are exact (predicates); only positions where two
 * pieces cross are computed.
 */
import { next, prev, RING, type TriMesh } from "./mesh";

/** A piece of a breakline between two vertices; levels along it are linear between its ends. */
export interface PieceEnds {
  a: number;
  b: number;
  line: number;
}

/** Two pieces that cross away from any vertex: their position, the level of each there, and which they are. */
export interface Crossing {
  x: number;
  y: number;
  levels: [number, number];
  pieces: [number, number];
}

/** The level that the surface takes where two pieces cross. */
export type CrossingRule = (crossing: Crossing) => number;

export class Constrainer {
  readonly crossings: Crossing[] = [];
  /** Half-edges along the two sides of the strip just walked, and its triangles. */
  private right: number[] = [];
  private left: number[] = [];
  private strip: number[] = [];
  private direct = -1;
  /** Vertices that the piece in hand has been at: among some that rounding cannot tell apart it never turns back. */
  private readonly passed = new Set<number>();
  private marks: Int32Array;
  private mark = 0;

  /**
   * `noise` is the rounding of the coordinates: a crossing made before counts as on the way within it. `flag` is put on
   * all sides that pieces run along, beside their owner.
   */
  constructor(
    readonly mesh: TriMesh,
    readonly pieces: PieceEnds[],
    private readonly level: CrossingRule,
    private readonly noise = 0,
    private readonly flag = 0,
  ) {
    this.marks = new Int32Array(mesh.triangles);
  }

  /** Vertices that stand on the way from a to b within `noise` (the rounding of the coordinates), in order, ends left out. */
  verticesOn(a: number, b: number, noise: number): number[] {
    const on: number[] = [];
    this.passed.clear();
    for (let u = a; u !== b;) {
      this.passed.add(u);
      u = this.walk(u, b, noise, false);
      if (u < 0) break;
      if (u !== b) on.push(u);
    }
    return on;
  }

  /**
   * Makes piece k a chain of sides of the mesh. False when it could not be followed to its end, which exact decisions
   * rule out inside the hull.
   */
  insert(k: number): boolean {
    const { a, b } = this.pieces[k]!;
    this.passed.clear();
    for (let u = a, guard = 0; u !== b; guard++) {
      this.passed.add(u);
      u = this.leg(u, b, k, 0);
      if (u < 0 || guard > 3 * this.mesh.triangles) return false;
    }
    return true;
  }

  /** Joins u towards v as far as the first vertex met; returns that vertex, −1 on failure. */
  private leg(u: number, v: number, k: number, depth: number): number {
    const { mesh } = this;
    const end = this.walk(u, v, this.noise, true);
    if (end >= 0) {
      if (this.direct >= 0) {
        mesh.setOwner(this.direct, (mesh.owner[this.direct] || k + 1) | this.flag);
      } else this.fill(u, end, (k + 1) | this.flag);
      return end;
    }
    if (end === FAILED || depth > 60) return -1;
    const met = this.cross(-2 - end, k);
    return met === u ? -1 : this.leg(u, met, k, depth + 1);
  }

  /** The vertex where piece k meets the side c of another piece: a new one, or the side's end when rounding leaves no room between. */
  private cross(c: number, k: number): number {
    const { mesh, pieces } = this;
    const other = (mesh.owner[c]! & ~RING) - 1;
    const s = pieces[k]!,
      o = pieces[other]!;
    const dx = mesh.x[s.b]! - mesh.x[s.a]!,
      dy = mesh.y[s.b]! - mesh.y[s.a]!;
    const ox = mesh.x[o.b]! - mesh.x[o.a]!,
      oy = mesh.y[o.b]! - mesh.y[o.a]!;
    const wx = mesh.x[o.a]! - mesh.x[s.a]!,
      wy = mesh.y[o.a]! - mesh.y[s.a]!;
    const det = dx * oy - dy * ox;
    const t = (wx * oy - wy * ox) / det,
      r = (wx * dy - wy * dx) / det;
    const x = mesh.x[s.a]! + t * dx,
      y = mesh.y[s.a]! + t * dy;
    const crossing: Crossing = {
      x,
      y,
      levels: [lerp(mesh.z[s.a]!, mesh.z[s.b]!, t), lerp(mesh.z[o.a]!, mesh.z[o.b]!, r)],
      pieces: [k, other],
    };
    const p = mesh.tri[c]!,
      q = mesh.tri[next(c)]!;
    const near = [p, q].find((w) => Math.hypot(mesh.x[w]! - x, mesh.y[w]! - y) <= this.noise);
    if (near !== undefined) {
      this.crossings.push(crossing);
      return near;
    }
    let v = mesh.addVertex(x, y, this.level(crossing));
    if (det !== 0 && this.hasRoom(c, v) && this.hasRoom(mesh.twin[c]!, v)) {
      mesh.splitEdge(c, v);
      if (this.marks.length < mesh.triangles) this.marks = new Int32Array(mesh.triangles * 2);
    } else {
      mesh.vertices--;
      v = Math.hypot(mesh.x[p]! - x, mesh.y[p]! - y) <= Math.hypot(mesh.x[q]! - x, mesh.y[q]! - y) ? p : q;
    }
    this.crossings.push(crossing);
    return v;
  }

  /** Whether v leaves both new triangles on this side of side c the right way round. */
  private hasRoom(c: number, v: number): boolean {
    if (c < 0) return true;
    const { tri } = this.mesh;
    const p = tri[c]!,
      q = tri[next(c)]!,
      r = tri[prev(c)]!;
    return this.mesh.side(p, v, r) > 0 && this.mesh.side(v, q, r) > 0;
  }

  /**
   * Follows the straight way from u to v through the mesh. Returns the first vertex on it (v at the latest), with
   * `direct` a half-edge to it if there is one, else the strip crossed in `right`, `left` and `strip`.
   * With `stop` a side of another piece ends the walk: the result is −2 − its half-edge.
   */
  private walk(u: number, v: number, noise: number, stop: boolean): number {
    const { mesh } = this;
    const { x, y, tri, twin, owner } = mesh;
    const dx = x[v]! - x[u]!,
      dy = y[v]! - y[u]!,
      length2 = dx * dx + dy * dy,
      near = noise * Math.sqrt(length2);
    const ahead = (w: number) => {
      const along = (x[w]! - x[u]!) * dx + (y[w]! - y[u]!) * dy;
      return along > 0 && along < length2 && !this.passed.has(w);
    };
    this.direct = -1;
    this.right.length = this.left.length = this.strip.length = 0;

    // Which triangle around u does the way enter?
    let c = -1;
    const first = mesh.edgeOf[u]!;
    for (let h = first, turnedBack = false; ;) {
      const p = tri[next(h)]!,
        q = tri[prev(h)]!;
      if (p === v) return ((this.direct = h), v);
      if (q === v) return ((this.direct = prev(h)), v);
      const sp = mesh.side(u, v, p),
        sq = mesh.side(u, v, q);
      if (Math.abs(sp) <= near && ahead(p)) return ((this.direct = h), p);
      if (Math.abs(sq) <= near && ahead(q)) return ((this.direct = prev(h)), q);
      if (sp < 0 && sq > 0) {
        c = next(h);
        this.right.push(h);
        this.left.push(prev(h));
        this.strip.push((h - (h % 3)) / 3);
        break;
      }
      // Turn counter-clockwise; at the outline start again clockwise from the first.
      let onward: number = turnedBack ? twin[h]! : twin[prev(h)]!;
      if (onward >= 0 && turnedBack) onward = next(onward);
      if (onward < 0 && !turnedBack) {
        turnedBack = true;
        onward = twin[first]!;
        if (onward >= 0) onward = next(onward);
      }
      if (onward < 0 || onward === first) return FAILED;
      h = onward;
    }
    for (;;) {
      if (stop && owner[c] !== 0) return -2 - c;
      const d = twin[c]!;
      if (d < 0) return FAILED;
      const w = tri[prev(d)]!;
      this.strip.push((d - (d % 3)) / 3);
      const sw = w === v ? 0 : mesh.side(u, v, w);
      if (w === v || (Math.abs(sw) <= near && ahead(w))) {
        this.right.push(next(d));
        this.left.push(prev(d));
        return w;
      }
      if (sw > 0) {
        this.left.push(prev(d));
        c = next(d);
      } else {
        this.right.push(next(d));
        c = prev(d);
      }
    }
  }

  /** Replaces the strip's triangles by those of the two polygons on either side of the new side u → v. */
  private fill(u: number, v: number, owner: number): void {
    const { mesh, strip, marks } = this;
    const stamp = ++this.mark;
    for (const t of strip) marks[t] = stamp;
    this.left.reverse();
    const sides = [this.right, this.left].map((chain) => ({
      old: chain.slice(),
      outer: chain.map((h) => mesh.twin[h]!),
      owner: chain.map((h) => mesh.owner[h]!),
      // The right chain runs u → v, the left one (turned about) v → u: both have the strip on their left.
      vertex: [...chain.map((h) => mesh.tri[h]!), chain === this.right ? v : u],
    }));
    let used = 0;
    // A side with strip triangles on both sides stands twice in the chains: link its two new half-edges when both are known.
    const renewed = new Map<number, number>();
    const bases = sides.map((s) => {
      let base = -1;
      const last = s.old.length;
      const work: [number, number, number][] = [[0, last, -1]];
      while (work.length) {
        const [lo, hi, under] = work.pop()!;
        // The apex whose circle over the base lo–hi holds no other vertex of the chain.
        let apex = lo + 1;
        for (let j = lo + 2; j < hi; j++) {
          if (mesh.inCircle(s.vertex[lo]!, s.vertex[apex]!, s.vertex[hi]!, s.vertex[j]!) > 0) apex = j;
        }
        const h = 3 * strip[used++]!;
        for (const [k, w] of [s.vertex[hi]!, s.vertex[lo]!, s.vertex[apex]!].entries()) {
          mesh.tri[h + k] = w;
          mesh.edgeOf[w] = h + k;
          mesh.owner[h + k] = 0;
        }
        if (under >= 0) mesh.link(h, under);
        else base = h;
        for (const [from, to, half] of [
          [lo, apex, h + 1],
          [apex, hi, h + 2],
        ] as const) {
          if (to > from + 1) {
            work.push([from, to, half]);
            continue;
          }
          mesh.owner[half] = s.owner[from]!;
          const outer = s.outer[from]!;
          renewed.set(s.old[from]!, half);
          if (outer < 0 || marks[(outer - (outer % 3)) / 3] !== stamp) mesh.link(half, outer);
          else if (renewed.has(outer)) mesh.link(half, renewed.get(outer)!);
        }
      }
      return base;
    });
    mesh.link(bases[0]!, bases[1]!);
    mesh.setOwner(bases[0]!, owner);
  }
}

const FAILED = -1;

function lerp(a: number, b: number, t: number): number {
  return a + (b - a) * t;
}
