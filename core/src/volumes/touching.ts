/** Which triangles of a mesh lie over a triangle, found by walking from neighbour to neighbour. */
import { boxIndex, type BoxIndex } from "../math/near";
import { SurfaceReader } from "../surface/locate";
import { next } from "../surface/mesh";
import type { Surface } from "../surface/model";

/** Steps of a walk after which it starts again from a hint. */
const FAR = 64;

/**
 * Finds the triangles of one mesh that may share area with a given triangle, and says where their corners lie in it: in
 * shares u and v of its first two corners (the third's share is 1 − u − v), in which all clipping is done.
 *
 * A walk finds the triangle under the centroid, then neighbours are followed through the sides that pass the triangle.
 * Where a side of the mesh's outline passes it, other parts of the mesh may lie over it too: those are entered from
 * the outline's sides near by.
 */
export class Touching {
  /** The triangles found, by their number, how many they are, and the shares u, v of their corners, six numbers each. */
  found = new Int32Array(64);
  corners = new Float64Array(6 * 64);
  count = 0;

  private readonly seen: Int32Array;
  private stamp = 0;
  private last = 0;
  private hints?: { cells: Int32Array; across: number; west: number; south: number; size: number };
  private outline?: { sides: Int32Array; index: BoxIndex };
  private exact?: SurfaceReader;
  private stack = new Int32Array(64);
  private top = 0;
  private met = false;
  private readonly box: readonly [number, number, number, number];
  // Shares of a position: u = ux·(x − cx) + uy·(y − cy), v likewise.
  private cx = 0;
  private cy = 0;
  private ux = 0;
  private uy = 0;
  private vx = 0;
  private vy = 0;

  constructor(readonly mesh: Pick<Surface, "x" | "y" | "z" | "tri" | "twin" | "origin">) {
    this.seen = new Int32Array(mesh.tri.length / 3);
    this.box = boxOfMesh(mesh);
  }

  /** Finds what lies over the counter-clockwise triangle a, b, c, in the mesh's frame; how many there are. */
  over(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
    this.count = 0;
    const det = (ax - cx) * (by - cy) - (bx - cx) * (ay - cy);
    if (!(det > 0) || this.mesh.tri.length === 0) return 0;
    const { box } = this;
    if (Math.max(ax, bx, cx) < box[0] || Math.max(ay, by, cy) < box[1]) return 0;
    if (Math.min(ax, bx, cx) > box[2] || Math.min(ay, by, cy) > box[3]) return 0;
    this.cx = cx;
    this.cy = cy;
    this.ux = (by - cy) / det;
    this.uy = (cx - bx) / det;
    this.vx = (cy - ay) / det;
    this.vy = (ax - cx) / det;
    this.stamp++;
    this.met = false;
    const under = this.find((ax + bx + cx) / 3, (ay + by + cy) / 3);
    if (under >= 0) this.follow(under);
    if (under < 0 || this.met) {
      const { sides, index } = (this.outline ??= this.outlineIndex());
      const near = index.search(Math.min(ax, bx, cx), Math.min(ay, by, cy), Math.max(ax, bx, cx), Math.max(ay, by, cy));
      for (const k of near.sort((p, q) => p - q)) {
        this.follow(Math.floor(sides[k]! / 3));
      }
    }
    return this.count;
  }

  /** Follows neighbours from a triangle on as long as they lie over the one in hand. */
  private follow(first: number): void {
    const { mesh, cx, cy, ux, uy, vx, vy } = this,
      { x, y, tri, twin } = mesh;
    this.enter(first);
    while (this.top > 0) {
      const t = this.stack[--this.top]!,
        h = 3 * t,
        p = tri[h]!,
        q = tri[h + 1]!,
        r = tri[h + 2]!;
      const px = x[p]! - cx,
        py = y[p]! - cy,
        qx = x[q]! - cx,
        qy = y[q]! - cy,
        rx = x[r]! - cx,
        ry = y[r]! - cy;
      const u0 = ux * px + uy * py,
        v0 = vx * px + vy * py,
        u1 = ux * qx + uy * qy,
        v1 = vx * qx + vy * qy,
        u2 = ux * rx + uy * ry,
        v2 = vx * rx + vy * ry;
      // Beside which of the three sides a corner lies, as bits.
      const c0 = (u0 <= 0 ? 1 : 0) | (v0 <= 0 ? 2 : 0) | (u0 + v0 >= 1 ? 4 : 0),
        c1 = (u1 <= 0 ? 1 : 0) | (v1 <= 0 ? 2 : 0) | (u1 + v1 >= 1 ? 4 : 0),
        c2 = (u2 <= 0 ? 1 : 0) | (v2 <= 0 ? 2 : 0) | (u2 + v2 >= 1 ? 4 : 0);
      if ((c0 & c1 & c2) !== 0) continue;
      if (this.count === this.found.length) this.grow();
      const at = 6 * this.count;
      this.found[this.count++] = t;
      const { corners } = this;
      corners[at] = u0;
      corners[at + 1] = v0;
      corners[at + 2] = u1;
      corners[at + 3] = v1;
      corners[at + 4] = u2;
      corners[at + 5] = v2;
      if ((c0 & c1) === 0) this.through(twin[h]!);
      if ((c1 & c2) === 0) this.through(twin[h + 1]!);
      if ((c2 & c0) === 0) this.through(twin[h + 2]!);
    }
  }

  private through(side: number): void {
    if (side < 0) this.met = true;
    else this.enter(Math.trunc(side / 3));
  }

  private enter(t: number): void {
    if (this.seen[t] === this.stamp) return;
    this.seen[t] = this.stamp;
    if (this.top === this.stack.length) {
      const more = new Int32Array(2 * this.top);
      more.set(this.stack);
      this.stack = more;
    }
    this.stack[this.top++] = t;
  }

  private grow(): void {
    const found = new Int32Array(2 * this.count),
      corners = new Float64Array(12 * this.count);
    found.set(this.found);
    corners.set(this.corners);
    this.found = found;
    this.corners = corners;
  }

  /** The triangle under a position, by plain arithmetic from the last one; −1 where there is none. */
  private find(px: number, py: number): number {
    const { x, y, tri, twin } = this.mesh;
    let t = this.last,
      hinted = false;
    for (let steps = 0; steps < tri.length; steps++) {
      if (steps === FAR && !hinted) {
        hinted = true;
        t = this.hint(px, py, t);
      }
      let across = -2;
      for (let k = 0; k < 3 && across === -2; k++) {
        const h = t + ((k + steps) % 3),
          a = tri[h]!,
          b = tri[next(h)]!;
        if ((x[b]! - x[a]!) * (py - y[a]!) - (y[b]! - y[a]!) * (px - x[a]!) < 0) across = twin[h]!;
      }
      if (across === -2) {
        this.last = t;
        return t / 3;
      }
      // Past the outline: the mesh may have hollows, so that it goes on behind.
      if (across < 0) break;
      t = across - (across % 3);
    }
    const { origin } = this.mesh;
    this.exact ??= new SurfaceReader(this.mesh as Surface);
    const under = this.exact.at(px + origin[0], py + origin[1]);
    if (!under) return -1;
    this.last = 3 * under.triangle;
    return under.triangle;
  }

  /** A triangle near a position, of a coarse grid; `other` where the grid knows none. */
  private hint(px: number, py: number, other: number): number {
    const g = (this.hints ??= this.grid());
    const col = Math.floor((px - g.west) / g.size),
      row = Math.floor((py - g.south) / g.size),
      at = col >= 0 && col < g.across && row >= 0 ? row * g.across + col : -1;
    return at >= 0 && at < g.cells.length && g.cells[at]! >= 0 ? g.cells[at]! : other;
  }

  private grid() {
    const { x, y, tri } = this.mesh;
    const [west, south, east, north] = this.box;
    const [wide, high] = [east - west, north - south],
      size = Math.max(Math.sqrt((wide * high) / Math.max(1, tri.length / 24)), Math.max(wide, high) / 4096),
      across = Math.floor(wide / size) + 1,
      cells = new Int32Array(across * (Math.floor(high / size) + 1)).fill(-1);
    for (let t = 0; t < tri.length; t += 3) {
      const [a, b, c] = [tri[t]!, tri[t + 1]!, tri[t + 2]!];
      const col = Math.floor(((x[a]! + x[b]! + x[c]!) / 3 - west) / size),
        row = Math.floor(((y[a]! + y[b]! + y[c]!) / 3 - south) / size);
      cells[row * across + col] = t;
    }
    return { cells, across, west, south, size };
  }

  private outlineIndex() {
    const { x, y, tri, twin } = this.mesh,
      list: number[] = [];
    for (let h = 0; h < tri.length; h++) if (twin[h] === -1) list.push(h);
    const sides = Int32Array.from(list);
    const index = boxIndex(sides.length, (k) => {
      const [a, b] = [tri[sides[k]!]!, tri[next(sides[k]!)]!];
      return [Math.min(x[a]!, x[b]!), Math.min(y[a]!, y[b]!), Math.max(x[a]!, x[b]!), Math.max(y[a]!, y[b]!)];
    });
    return { sides, index };
  }
}

function boxOfMesh({ x, y, tri }: Touching["mesh"]): readonly [number, number, number, number] {
  let west = Infinity,
    south = Infinity,
    east = -Infinity,
    north = -Infinity;
  for (let h = 0; h < tri.length; h++) {
    const v = tri[h]!;
    if (x[v]! < west) west = x[v]!;
    if (x[v]! > east) east = x[v]!;
    if (y[v]! < south) south = y[v]!;
    if (y[v]! > north) north = y[v]!;
  }
  return [west, south, east, north];
}
