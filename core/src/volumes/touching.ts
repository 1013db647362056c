/** Which triangles of a mesh lie over a triangle, found by walking from neighbour to neighbour. */
import type { Surface } from "../surface/model";
import { OutlineSides } from "../surface/outline-sides";
import { Patches } from "./patches";

/** Steps of a walk after which it starts again from a hint. */
const FAR = 64;

/**
 * Finds the triangles of one mesh that share area with a given triangle, and says where their corners lie in it: in
 * shares u and v of its first two corners (the third's share is 1 − u − v), in which all clipping is done.
 *
 * A walk finds the triangle under the centroid, then neighbours are followed through the sides that pass the triangle.
 * Where a side of the mesh's outline passes it, other parts of the mesh may lie over it too: those are entered from
 * the outline's sides near by. The loops are plain and long on purpose: this is where a comparison's time goes.
 */
export class Touching {
  /** The triangles found, by their number, how many they are, and the shares u, v of their corners, six numbers each. */
  found = new Int32Array(64);
  corners = new Float64Array(6 * 64);
  count = 0;
  /** Whether all of the triangle lies on the mesh. */
  isWhole = false;

  private readonly seen: Int32Array;
  private stamp = 0;
  private last = 0;
  private knownPatches?: Patches;
  private knownOutline?: OutlineSides;
  private stack = new Int32Array(64);
  private met = false;
  // Shares of a position: u = ux·(x − cx) + uy·(y − cy), v likewise.
  private cx = 0;
  private cy = 0;
  private ux = 0;
  private uy = 0;
  private vx = 0;
  private vy = 0;

  constructor(readonly mesh: Pick<Surface, "x" | "y" | "z" | "tri" | "twin" | "origin">) {
    this.seen = new Int32Array(mesh.tri.length / 3);
  }

  get patches(): Patches {
    return (this.knownPatches ??= new Patches(this.mesh));
  }

  get outline(): OutlineSides {
    return (this.knownOutline ??= new OutlineSides(this.mesh));
  }

  /** Finds what lies over the counter-clockwise triangle a, b, c, in the mesh's frame; how many there are. */
  over(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
    this.count = 0;
    this.isWhole = false;
    const det = (ax - cx) * (by - cy) - (bx - cx) * (ay - cy);
    if (!(det > 0) || this.mesh.tri.length === 0) return 0;
    this.cx = cx;
    this.cy = cy;
    this.ux = (by - cy) / det;
    this.uy = (cx - bx) / det;
    this.vx = (cy - ay) / det;
    this.vy = (ax - cx) / det;
    this.stamp++;
    this.met = false;
    const px = (ax + bx + cx) / 3,
      py = (ay + by + cy) / 3;
    let under = this.walk(px, py);
    // The mesh may have hollows, so that it goes on behind its outline.
    if (under < 0) under = Math.floor(this.outline.holding(px, py) / 3);
    if (under >= 0) this.follow(under);
    // A triangle of next to no width may hold the middle, and by rounding share nothing.
    if (under >= 0 && this.count === 0) this.enterFromBox(ax, ay, bx, by, cx, cy);
    if (under < 0 || this.met) this.enterFromOutline(ax, ay, bx, by, cx, cy);
    else this.isWhole = true;
    if (this.count > 1 && (under < 0 || this.isOnSide(under, px, py))) this.sort();
    return this.count;
  }

  /** Whether a position of a triangle lies on one of its sides, or next to one: then the walk might have ended beyond it. */
  private isOnSide(t: number, px: number, py: number): boolean {
    const { x, y, tri } = this.mesh,
      a = tri[3 * t]!,
      b = tri[3 * t + 1]!,
      c = tri[3 * t + 2]!,
      xa = x[a]!,
      ya = y[a]!,
      xb = x[b]!,
      yb = y[b]!,
      xc = x[c]!,
      yc = y[c]!,
      ofA = (xb - xa) * (py - ya) - (yb - ya) * (px - xa),
      ofB = (xc - xb) * (py - yb) - (yc - yb) * (px - xb),
      ofC = (xa - xc) * (py - yc) - (ya - yc) * (px - xc);
    return Math.min(ofA, ofB, ofC) <= 1e-9 * (ofA + ofB + ofC);
  }

  /** Puts what was found in the order of the mesh: where it began hung on the way that the walk came. */
  private sort(): void {
    const { found, corners, count } = this,
      order = Array.from({ length: count }, (_, k) => k).sort((a, b) => found[a]! - found[b]!),
      [wasFound, wasCorners] = [found.slice(0, count), corners.slice(0, 6 * count)];
    order.forEach((k, to) => {
      found[to] = wasFound[k]!;
      for (let i = 0; i < 6; i++) corners[6 * to + i] = wasCorners[6 * k + i]!;
    });
  }

  private enterFromOutline(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): void {
    const [west, south, east, north] = boxOf(ax, ay, bx, by, cx, cy);
    for (const h of this.outline.near(west, south, east, north)) this.enter(Math.floor(h / 3));
  }

  private enterFromBox(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): void {
    for (const p of this.patches.meeting(...boxOf(ax, ay, bx, by, cx, cy)))
      for (const t of this.patches.trianglesOf(p)) this.enter(t);
  }

  private enter(t: number): void {
    if (this.seen[t] !== this.stamp) this.follow(t);
  }

  /** Follows neighbours from a triangle on as long as they lie over the one in hand. */
  private follow(first: number): void {
    const { mesh, cx, cy, ux, uy, vx, vy, seen, stamp } = this,
      { x, y, tri, twin } = mesh;
    let { found, corners, stack, count } = this,
      top = 1;
    stack[0] = first;
    seen[first] = stamp;
    while (top > 0) {
      const t = stack[--top]!,
        h = 3 * t,
        p = tri[h]!,
        q = tri[h + 1]!,
        r = tri[h + 2]!,
        px = x[p]! - cx,
        py = y[p]! - cy,
        qx = x[q]! - cx,
        qy = y[q]! - cy,
        rx = x[r]! - cx,
        ry = y[r]! - cy,
        u0 = ux * px + uy * py,
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
      // On which side of each of its own sides the corners of the one in hand lie: > 0 left, < 0 right.
      const du0 = u1 - u0,
        dv0 = v1 - v0,
        du1 = u2 - u1,
        dv1 = v2 - v1,
        du2 = u0 - u2,
        dv2 = v0 - v2,
        e0 = dv0 * u0 - du0 * v0,
        f0 = e0 - dv0,
        g0 = e0 + du0,
        e1 = dv1 * u1 - du1 * v1,
        f1 = e1 - dv1,
        g1 = e1 + du1,
        e2 = dv2 * u2 - du2 * v2,
        f2 = e2 - dv2,
        g2 = e2 + du2;
      if ((e0 <= 0 && f0 <= 0 && g0 <= 0) || (e1 <= 0 && f1 <= 0 && g1 <= 0) || (e2 <= 0 && f2 <= 0 && g2 <= 0))
        continue;
      if (count === found.length) {
        this.count = count;
        this.grow();
        ({ found, corners } = this);
      }
      const at = 6 * count;
      found[count++] = t;
      corners[at] = u0;
      corners[at + 1] = v0;
      corners[at + 2] = u1;
      corners[at + 3] = v1;
      corners[at + 4] = u2;
      corners[at + 5] = v2;
      if (top + 3 > stack.length) stack = this.deeper();
      // On through the sides that pass it.
      if ((c0 & c1) === 0 && (e0 < 0 || f0 < 0 || g0 < 0)) {
        const o = twin[h]!;
        if (o < 0) this.met = true;
        else {
          const s = (o / 3) | 0;
          if (seen[s] !== stamp) {
            seen[s] = stamp;
            stack[top++] = s;
          }
        }
      }
      if ((c1 & c2) === 0 && (e1 < 0 || f1 < 0 || g1 < 0)) {
        const o = twin[h + 1]!;
        if (o < 0) this.met = true;
        else {
          const s = (o / 3) | 0;
          if (seen[s] !== stamp) {
            seen[s] = stamp;
            stack[top++] = s;
          }
        }
      }
      if ((c2 & c0) === 0 && (e2 < 0 || f2 < 0 || g2 < 0)) {
        const o = twin[h + 2]!;
        if (o < 0) this.met = true;
        else {
          const s = (o / 3) | 0;
          if (seen[s] !== stamp) {
            seen[s] = stamp;
            stack[top++] = s;
          }
        }
      }
    }
    this.count = count;
  }

  private deeper(): Int32Array<ArrayBuffer> {
    const more = new Int32Array(2 * this.stack.length);
    more.set(this.stack);
    return (this.stack = more);
  }

  private grow(): void {
    const found = new Int32Array(2 * this.count),
      corners = new Float64Array(12 * this.count);
    found.set(this.found);
    corners.set(this.corners);
    this.found = found;
    this.corners = corners;
  }

  /** The triangle under a position, by plain arithmetic from the last one; −1 where the walk leaves the mesh. */
  private walk(px: number, py: number): number {
    const { x, y, tri, twin } = this.mesh;
    let h = 3 * this.last;
    for (let steps = 0; steps < tri.length; steps++) {
      if (steps === FAR) h = 3 * (this.patches.triangleNear(px, py) ?? h / 3);
      const a = tri[h]!,
        b = tri[h + 1]!,
        c = tri[h + 2]!,
        xa = x[a]!,
        ya = y[a]!,
        xb = x[b]!,
        yb = y[b]!,
        xc = x[c]!,
        yc = y[c]!;
      let across = -2;
      if ((xb - xa) * (py - ya) - (yb - ya) * (px - xa) < 0) across = twin[h]!;
      else if ((xc - xb) * (py - yb) - (yc - yb) * (px - xb) < 0) across = twin[h + 1]!;
      else if ((xa - xc) * (py - yc) - (ya - yc) * (px - xc) < 0) across = twin[h + 2]!;
      if (across === -2) return (this.last = h / 3);
      if (across < 0) return -1;
      h = across - (across % 3);
    }
    return -1;
  }
}

/** West, south, east, north of a triangle. */
function boxOf(ax: number, ay: number, bx: number, by: number, cx: number, cy: number) {
  return [Math.min(ax, bx, cx), Math.min(ay, by, cy), Math.max(ax, bx, cx), Math.max(ay, by, cy)] as const;
}
