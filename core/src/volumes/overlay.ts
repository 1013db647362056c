/**
 * Two surfaces laid over one another, triangle by triangle of the first: the pieces on which their difference is
 * linear. Everything that is said of a comparison (figures, weights, maps) is said over these pieces.
 */
import type { Surface } from "../surface/model";
import type { Regions } from "./regions";
import { Touching } from "./touching";

/** What is compared: from a surface to another, or to a level, within areas where there are some. */
export interface Pair {
  from: Surface;
  to: Surface | number;
  within?: Regions;
}

/** Takes a piece: how many corners it has, and which part of the areas it lies in (0 where there are none). */
export type TakePiece = (count: number, part: number) => void;

/** Where the triangles of a mesh lie: `known` where that is of a mesh that is the same in plan. */
export function touchingOf(mesh: Touching["mesh"], known?: Touching): Touching {
  const k = known?.mesh;
  return known && k && k.x === mesh.x && k.y === mesh.y && k.tri === mesh.tri ? known : new Touching(mesh);
}

/** Room for the corners of a piece: of a triangle, cut by two others, nine at most. */
const ROOM = 3 * 16;

/** How a whole triangle lies: below the other surface by more than the deadband, above it, or within the deadband. */
export const BELOW = 0,
  ABOVE = 1,
  NEAR = 2;
/** It has several kinds of pieces, or is not on the other surface and in one part of the areas with all of itself. */
export const MIXED = -1;

/**
 * Pieces of one triangle after another. A piece is a convex polygon; its corners are told by the shares u, v of the
 * triangle's first two corners (the third's is 1 − u − v), counter-clockwise, with the difference d = to − from at each.
 *
 * Clipping (Sutherland and Hodgman 1974) is done in those shares, and levels are carried along as linear in them, so that
 * what is computed for a corner by either neighbour agrees to rounding, wherever the surfaces lie and however they touch.
 */
export class Overlay {
  /** The corners of the piece in hand: u, v and d, one after another. */
  uvd = new Float64Array(ROOM);
  /** Twice the plan area of the triangle in hand, and the levels of its corners. */
  doubled = 0;
  za = 0;
  zb = 0;
  zc = 0;
  /** Triangle of the other surface that the piece lies under; −1 for a level. */
  other = -1;
  /** Which of those found it is: where its corners lie is told by `touching`. */
  slot = 0;
  readonly touching: Touching | undefined;

  readonly areas: Touching | undefined;
  /** What rounding may make of a difference of levels; the same for levels of one order of size. */
  readonly noise: number;
  /** Between these a difference is just at the deadband. */
  private readonly near: number;
  private readonly far: number;
  private spare = new Float64Array(ROOM);
  private readonly sides = new Float64Array(ROOM / 3);
  /** The piece before it is cut by areas. */
  private readonly uncut = new Float64Array(ROOM);

  /** What `last` knows of where triangles lie is taken over where the meshes are the same in plan. */
  constructor(
    readonly pair: Pair,
    readonly deadband = 0,
    last?: Overlay,
  ) {
    const { to } = pair;
    if (typeof to !== "number") this.touching = touchingOf(to, last?.touching);
    this.noise = noiseOf(pair);
    this.near = deadband - justOf(pair);
    this.far = deadband + justOf(pair);
    if (pair.within) this.areas = touchingOf(pair.within.mesh, last?.areas);
  }

  /** Calls `take` for each piece over the triangle with the first half-edge h. */
  pieces(h: number, take: TakePiece): void {
    if (this.lay(h)) this.each(take);
  }

  /** Lays the triangle with the first half-edge h on the other surface and the areas; false where it is on nothing. */
  lay(h: number): boolean {
    const { from, to } = this.pair,
      { x, y, z, tri } = from,
      a = tri[h]!,
      b = tri[h + 1]!,
      c = tri[h + 2]!,
      ax = x[a]!,
      ay = y[a]!,
      bx = x[b]!,
      by = y[b]!,
      cx = x[c]!,
      cy = y[c]!;
    this.doubled = (ax - cx) * (by - cy) - (bx - cx) * (ay - cy);
    if (!(this.doubled > 0) || (this.areas && !this.isWithin(ax, ay, bx, by, cx, cy))) return false;
    this.za = z[a]!;
    this.zb = z[b]!;
    this.zc = z[c]!;
    if (typeof to === "number") return true;
    const oe = from.origin[0] - to.origin[0],
      on = from.origin[1] - to.origin[1];
    return this.touching!.over(ax + oe, ay + on, bx + oe, by + on, cx + oe, cy + on) > 0;
  }

  /** Calls `take` for each piece over the triangle laid last; with `only`, of those under some triangles of the other. */
  each(take: TakePiece, only?: (other: number) => boolean): void {
    const { to } = this.pair;
    if (typeof to === "number") {
      this.other = -1;
      this.set(0, 1, 0, to - this.za);
      this.set(3, 0, 1, to - this.zb);
      this.set(6, 0, 0, to - this.zc);
      this.cut(3, take);
      return;
    }
    const { found, corners, count } = this.touching!;
    for (let k = 0; k < count; k++) {
      if (only && !only(found[k]!)) continue;
      this.other = found[k]!;
      this.slot = k;
      this.setOther(to, corners, k);
      let beside = 0;
      for (let g = 6 * k; g < 6 * k + 6; g += 2) {
        const u = corners[g]!,
          v = corners[g + 1]!;
        beside |= (u < 0 ? 1 : 0) | (v < 0 ? 2 : 0) | (u + v > 1 ? 4 : 0);
      }
      let n = 3;
      if ((beside & 1) !== 0) n = this.clip(n, 1, 0, 0);
      if ((beside & 2) !== 0) n = this.clip(n, 0, 1, 0);
      if ((beside & 4) !== 0) n = this.clip(n, -1, -1, 1);
      if (n > 2) this.cut(n, take);
    }
  }

  /**
   * How the triangle laid last lies, all of it: 3 × the part of the areas, and BELOW, ABOVE or NEAR; MIXED where that
   * cannot be said. Over each of the other's triangles the difference is linear, and largest and smallest at corners: at
   * those of either triangle.
   */
  kind(): number {
    const { to, within } = this.pair,
      { touching, areas } = this;
    if (typeof to === "number" || !touching!.isWhole) return MIXED;
    let part = 0;
    if (areas && within) {
      if (!areas.isWhole) return MIXED;
      part = within.partOf[areas.found[0]!]!;
      for (let k = 1; k < areas.count; k++) if (within.partOf[areas.found[k]!]! !== part) return MIXED;
    }
    const { corners, count } = touching!;
    let kind = MIXED;
    for (let k = 0; k < count; k++) {
      this.setOther(to, corners, k);
      const d = this.uvd,
        is = this.kindWithin(Math.min(d[2]!, d[5]!, d[8]!), Math.max(d[2]!, d[5]!, d[8]!)),
        here = is === MIXED ? this.kindByOwnCorners(corners, 6 * k) : is;
      if (here === MIXED || (k > 0 && here !== kind)) return MIXED;
      kind = here;
    }
    return 3 * part + kind;
  }

  /** By the other triangle's plane at the corners of the one in hand. */
  private kindByOwnCorners(c: Float64Array, g: number): number {
    const { uvd } = this,
      pu = c[g]! - c[g + 4]!,
      pv = c[g + 1]! - c[g + 5]!,
      qu = c[g + 2]! - c[g + 4]!,
      qv = c[g + 3]! - c[g + 5]!,
      e = uvd[2]! - uvd[8]!,
      f = uvd[5]! - uvd[8]!,
      det = pu * qv - qu * pv,
      du = (e * qv - f * pv) / det,
      dv = (pu * f - qu * e) / det,
      d2 = uvd[8]! - du * c[g + 4]! - dv * c[g + 5]!;
    return this.kindWithin(Math.min(d2, d2 + du, d2 + dv), Math.max(d2, d2 + du, d2 + dv));
  }

  /**
   * Between which bounds a difference lies: beyond the deadband on one side, within it, or on several of these. What is
   * just at the deadband counts as within it, by whatever way it was computed.
   */
  kindWithin(least: number, most: number): number {
    const { near, far } = this;
    if (most <= far && least >= -far) return NEAR;
    if (least >= near && most > far) return BELOW;
    return most <= -near && least < -far ? ABOVE : MIXED;
  }

  /** Sets the corners of one of the triangles found, with the difference at each. */
  private setOther(to: Surface, corners: Float64Array, k: number): void {
    const { uvd, noise, zc } = this,
      da = this.za - zc,
      db = this.zb - zc,
      first = 3 * this.touching!.found[k]!;
    for (let i = 0, g = 6 * k; i < 3; i++, g += 2) {
      const u = corners[g]!,
        v = corners[g + 1]!,
        d = to.z[to.tri[first + i]!]! - zc - u * da - v * db;
      uvd[3 * i] = u;
      uvd[3 * i + 1] = v;
      // Where both surfaces are the same their difference is rounding: it is neither cut nor fill.
      uvd[3 * i + 2] = Math.abs(d) <= noise * (1 + Math.abs(u) + Math.abs(v)) ? 0 : d;
    }
  }

  private set(at: number, u: number, v: number, d: number): void {
    this.uvd[at] = u;
    this.uvd[at + 1] = v;
    this.uvd[at + 2] = d;
  }

  /** Looks for the areas over a triangle; whether there are any. */
  private isWithin(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): boolean {
    const { from, within } = this.pair,
      { box, mesh, partOf } = within!,
      oe = from.origin[0] - mesh.origin[0],
      on = from.origin[1] - mesh.origin[1];
    if (Math.max(ax, bx, cx) + oe < box[0] || Math.min(ax, bx, cx) + oe > box[2]) return false;
    if (Math.max(ay, by, cy) + on < box[1] || Math.min(ay, by, cy) + on > box[3]) return false;
    const areas = this.areas!;
    areas.over(ax + oe, ay + on, bx + oe, by + on, cx + oe, cy + on);
    for (let k = 0; k < areas.count; k++) if (partOf[areas.found[k]!] !== 0) return true;
    return false;
  }

  /** Gives the piece in hand, cut by the areas that lie over the triangle. */
  private cut(n: number, take: TakePiece): void {
    const { areas } = this;
    if (!areas) {
      take(n, 0);
      return;
    }
    const { found, corners, count } = areas,
      { partOf } = this.pair.within!;
    if (count > 1) this.uncut.set(this.uvd);
    for (let k = 0, isFirst = true; k < count; k++) {
      const part = partOf[found[k]!]!;
      if (part === 0) continue;
      if (!isFirst) this.uvd.set(this.uncut);
      isFirst = false;
      const g = 6 * k;
      let m = n;
      for (let i = 0; i < 3 && m > 2; i++) {
        const pu = corners[g + 2 * i]!,
          pv = corners[g + 2 * i + 1]!,
          j = i === 2 ? g : g + 2 * i + 2,
          du = corners[j]! - pu,
          dv = corners[j + 1]! - pv;
        // Left of the side: du·(v − pv) − dv·(u − pu) ≥ 0.
        m = this.clip(m, -dv, du, dv * pu - du * pv);
      }
      if (m > 2) take(m, part);
    }
  }

  /** Keeps what lies where p·u + q·v + r ≥ 0; how many corners that has. */
  private clip(n: number, p: number, q: number, r: number): number {
    const { uvd, sides, spare } = this;
    let least = Infinity,
      most = -Infinity;
    for (let i = 0, at = 0; i < n; i++, at += 3) {
      const s = p * uvd[at]! + q * uvd[at + 1]! + r;
      sides[i] = s;
      if (s < least) least = s;
      if (s > most) most = s;
    }
    if (least >= 0) return n;
    if (most <= 0) return 0;
    let m = 0,
      from = 3 * (n - 1),
      before = sides[n - 1]!;
    for (let i = 0, at = 0; i < n; i++, at += 3) {
      const s = sides[i]!;
      if (s > 0 ? before < 0 : s < 0 && before > 0) {
        const t = before / (before - s),
          u = uvd[from]!,
          v = uvd[from + 1]!,
          d = uvd[from + 2]!;
        spare[m] = u + t * (uvd[at]! - u);
        spare[m + 1] = v + t * (uvd[at + 1]! - v);
        spare[m + 2] = d + t * (uvd[at + 2]! - d);
        m += 3;
      }
      if (s >= 0) {
        spare[m] = uvd[at]!;
        spare[m + 1] = uvd[at + 1]!;
        spare[m + 2] = uvd[at + 2]!;
        m += 3;
      }
      from = at;
      before = s;
    }
    this.uvd = spare;
    this.spare = uvd;
    return m / 3;
  }
}

/** What rounding may make of a difference between the levels of a pair. */
export function noiseOf({ from, to }: Pair): number {
  const size = Math.max(1, highest(from.z), typeof to === "number" ? Math.abs(to) : highest(to.z));
  return 2 ** (Math.ceil(Math.log2(size)) - 44);
}

/**
 * By so much a difference may pass the deadband and still be just at it: rounding of levels, and that of plan coordinates on
 * steep ground.
 */
export function justOf(pair: Pair): number {
  const { from, to } = pair,
    reach = (s: Surface) => Math.max(...s.origin.map(Math.abs), highest(s.x), highest(s.y)),
    plan = Math.max(reach(from), typeof to === "number" ? 0 : reach(to));
  return 4 * noiseOf(pair) + plan * 2 ** -46;
}

/** The largest number of a column, without signs. */
function highest(z: Float64Array): number {
  let most = 0;
  for (let v = 0; v < z.length; v++) if (Math.abs(z[v]!) > most) most = Math.abs(z[v]!);
  return most;
}
