/**
 * How the triangles of two surfaces lie to one another: which lie whole on one side, and which must be cut into pieces.
 * First by patches, whose planes tell most of them; where a patch does not tell, triangle by triangle.
 */
import { insideRing } from "../math/ring";
import type { Surface } from "../surface/model";
import type { OutlineSides } from "../surface/outline-sides";
import { MIXED, NEAR, type Overlay } from "./overlay";
import { overPlane, PATCH, planeOf, type Patches } from "./patches";

/** Triangles of the first surface that lie on nothing. */
export const NOWHERE = -2;
/** Triangles of the second under several kinds of the first, or not whole under it. */
export const SPLIT = -1;
/** So many times the noise of single differences a patch's bounds may be off. */
const JUST = 1024;

/** Triangles of the two surfaces. */
export interface Triangles {
  from: Set<number>;
  to: Set<number>;
}

export class Kinds {
  /** Of each triangle of the first surface 3 × its part of the areas + BELOW, ABOVE or NEAR; MIXED, NOWHERE. */
  readonly from: Int32Array;
  /** Of each of the second the one kind of all that lie over it; SPLIT, NOWHERE. */
  readonly to: Int32Array;
  /** The kind that a patch of the first was found to have as a whole; MIXED where its triangles were looked at. */
  private readonly ofPatch: Int32Array;
  /**
   * 1 where a triangle of the second is not told to lie all within the first and all in one part of the areas: where a
   * side of either's outline comes into its box. Of the others each lies all within or all without, so that whatever is
   * found over it, were it by rounding alone, says which. It hangs on the plan alone.
   */
  private readonly rim: Uint8Array;
  private there: Overlay;
  /** Memory for one list of triangles at a time. */
  private list = new Int32Array(16 * PATCH);
  private under = this.list;
  private readonly patches: Patches;
  private readonly otherPatches: Patches;
  private readonly outline: OutlineSides;

  /** `there` is the first surface on the second, `back` the second on the first. */
  constructor(there: Overlay, back: Overlay) {
    this.there = there;
    const { from, to } = there.pair as { from: Surface; to: Surface };
    this.patches = back.touching!.patches;
    this.otherPatches = there.touching!.patches;
    this.outline = back.touching!.outline;
    this.from = new Int32Array(from.tri.length / 3);
    this.to = new Int32Array(to.tri.length / 3).fill(NOWHERE);
    this.ofPatch = new Int32Array(this.patches.count);
    this.rim = this.findRim();
    for (let p = 0; p < this.patches.count; p++) this.look(p);
  }

  /** After levels changed: looks again at what they touch; returns all triangles that may give something else now. */
  follow(there: Overlay, changed: Triangles): Triangles {
    this.there = there;
    const again = new Set<number>(),
      out: Triangles = { from: new Set(changed.from), to: new Set(changed.to) },
      { boxes } = this.otherPatches,
      [oe, on] = this.offset();
    for (const t of changed.from) again.add(this.patches.of[t]!);
    for (const q of new Set([...changed.to].map((u) => this.otherPatches.of[u]!))) {
      const [w, s, e, n] = [boxes[4 * q]! + oe, boxes[4 * q + 1]! + on, boxes[4 * q + 2]! + oe, boxes[4 * q + 3]! + on],
        reach = roundingOf(w, s, e, n);
      for (const p of this.patches.meeting(w - reach, s - reach, e + reach, n + reach)) again.add(p);
    }
    const others = new Set<number>();
    for (const p of again) {
      const list = this.patches.trianglesOf(p),
        was = list.map((t) => this.from[t]!),
        wasPatch = this.ofPatch[p];
      this.look(p, false);
      for (const t of list) out.from.add(t);
      if (wasPatch !== this.ofPatch[p] || list.some((t, k) => this.from[t] !== was[k]))
        for (const u of this.meeting(p)) others.add(u);
    }
    const lists = new Map<number, Map<number, Set<number>>>();
    for (const u of others) {
      this.to[u] = this.kindUnder(u, lists);
      out.to.add(u);
    }
    return out;
  }

  /** From the second surface's frame to the first's. */
  private offset(): [number, number] {
    const { from, to } = this.there.pair as { from: Surface; to: Surface };
    return [to.origin[0] - from.origin[0], to.origin[1] - from.origin[1]];
  }

  private mark(u: number, kind: number): void {
    const was = this.to[u]!;
    this.to[u] = this.rim[u] === 0 && (was === NOWHERE || was === kind) ? kind : SPLIT;
  }

  /** Finds the kinds of a patch's triangles; with `marks` those under them are marked at once. */
  private look(p: number, marks = true): void {
    const whole = (this.ofPatch[p] = this.patchKind(p)),
      list = this.patches.trianglesOf(p),
      { there, under } = this,
      { touching } = there;
    // What was found under the patch is there still.
    if (whole >= 0 && marks) for (let k = 0; k < under.length; k++) this.mark(under[k]!, whole);
    for (let i = 0; i < list.length; i++) {
      const t = list[i]!;
      if (whole !== MIXED) {
        this.from[t] = whole;
        continue;
      }
      const isOn = there.lay(3 * t),
        kind = (this.from[t] = isOn ? there.kind() : NOWHERE);
      if (isOn && marks) for (let k = 0; k < touching!.count; k++) this.mark(touching!.found[k]!, kind);
    }
  }

  /** The kind of a whole patch by its plane; MIXED where that does not tell. */
  private patchKind(p: number): number {
    const { from, to, within } = this.there.pair as { from: Surface; to: Surface; within?: Overlay["pair"]["within"] },
      { boxes } = this.patches,
      [w, s, e, n] = [boxes[4 * p]!, boxes[4 * p + 1]!, boxes[4 * p + 2]!, boxes[4 * p + 3]!],
      [me, mn] = [(w + e) / 2, (s + n) / 2];
    let part = 0;
    if (within) {
      const [ae, an] = from.origin;
      if (within.sides.search(w + ae, s + an, e + ae, n + an).length) return MIXED;
      const holds = within.areaRings.flatMap(({ area, ring }) => (insideRing(ring, me + ae, mn + an) ? [area] : []));
      part = within.partHeldBy(holds);
      if (part === 0) return NOWHERE;
    }
    // Near the outline of the first surface some of what the box holds is not under it.
    if (this.outline.near(w, s, e, n).length) return MIXED;
    const [oe, on] = this.offset(),
      { outline } = this.there.touching!;
    if (outline.near(w - oe, s - on, e - oe, n - on).length) return MIXED;
    if (!outline.covers(me - oe, mn - on)) return NOWHERE;
    const own = this.patches.trianglesOf(p),
      plane = planeOf(from, own),
      [low, high] = overPlane(from, plane, own, 0, 0),
      [lowest, highest] = overPlane(to, plane, this.meeting(p), oe, on);
    const [least, most] = [lowest - high, highest - low],
      kind = this.there.kindWithin(least, most),
      // What a plane tells only just is left to the triangles, whose differences are settled.
      isClear = kind === NEAR || Math.max(least, -most) > this.there.deadband + JUST * this.there.noise;
    return kind === MIXED || !isClear ? MIXED : 3 * part + kind;
  }

  /** Triangles of the second surface whose boxes meet that of a patch of the first: all under it, and some more. */
  private meeting(p: number): Int32Array {
    const [w, s, e, n] = this.boxOf(p),
      { mesh } = this.there.touching!,
      others = this.otherPatches.meeting(w, s, e, n);
    if (this.list.length < PATCH * others.length) this.list = new Int32Array(2 * PATCH * others.length);
    const { list } = this;
    let count = 0;
    for (const q of others) {
      const theirs = this.otherPatches.trianglesOf(q);
      for (let k = 0; k < theirs.length; k++) if (meets(mesh, theirs[k]!, w, s, e, n)) list[count++] = theirs[k]!;
    }
    return (this.under = list.subarray(0, count));
  }

  /** The box of a patch of the first surface in the second's frame, with what rounding adds. */
  private boxOf(p: number): [w: number, s: number, e: number, n: number] {
    const { boxes } = this.patches,
      [oe, on] = this.offset(),
      [w, s, e, n] = [boxes[4 * p]! - oe, boxes[4 * p + 1]! - on, boxes[4 * p + 2]! - oe, boxes[4 * p + 3]! - on],
      reach = roundingOf(w, s, e, n);
    return [w - reach, s - reach, e + reach, n + reach];
  }

  /** The triangles of the second surface into whose boxes a side of the first's outline, or of the areas, comes. */
  private findRim(): Uint8Array {
    const { to, within } = this.there.pair as { to: Surface; within?: Overlay["pair"]["within"] },
      rim = new Uint8Array(this.to.length),
      [oe, on] = this.offset(),
      [te, tn] = to.origin;
    for (const [ax, ay, bx, by] of this.outline.ends()) this.markRim(rim, ax - oe, ay - on, bx - oe, by - on);
    for (const { ring } of within?.areaRings ?? [])
      ring.forEach(([ae, an], k) => {
        const [be, bn] = ring[(k + 1) % ring.length]!;
        this.markRim(rim, ae - te, an - tn, be - te, bn - tn);
      });
    return rim;
  }

  /** Marks the triangles of the second surface into whose boxes a side, in its frame, comes. */
  private markRim(rim: Uint8Array, ax: number, ay: number, bx: number, by: number): void {
    const { mesh } = this.there.touching!,
      { boxes } = this.otherPatches,
      reach = roundingOf(ax, ay, bx, by),
      [w, e, s, n] = [
        Math.min(ax, bx) - reach,
        Math.max(ax, bx) + reach,
        Math.min(ay, by) - reach,
        Math.max(ay, by) + reach,
      ],
      passes = sidePasses(ax, ay, bx, by, reach);
    for (const q of this.otherPatches.meeting(w, s, e, n)) {
      if (!passes(boxes[4 * q]!, boxes[4 * q + 1]!, boxes[4 * q + 2]!, boxes[4 * q + 3]!)) continue;
      for (const u of this.otherPatches.trianglesOf(q)) {
        if (rim[u] === 1) continue;
        const [a, b, c] = [mesh.tri[3 * u]!, mesh.tri[3 * u + 1]!, mesh.tri[3 * u + 2]!],
          west = Math.min(mesh.x[a]!, mesh.x[b]!, mesh.x[c]!),
          east = Math.max(mesh.x[a]!, mesh.x[b]!, mesh.x[c]!),
          south = Math.min(mesh.y[a]!, mesh.y[b]!, mesh.y[c]!),
          north = Math.max(mesh.y[a]!, mesh.y[b]!, mesh.y[c]!);
        if (west <= e && east >= w && south <= n && north >= s && passes(west, south, east, north)) rim[u] = 1;
      }
    }
  }

  /** The kind of a triangle of the second surface anew. `lists`: what was found over triangles of the first already. */
  private kindUnder(u: number, lists: Map<number, Map<number, Set<number>>>): number {
    const { x, y, tri } = this.there.touching!.mesh,
      [oe, on] = this.offset(),
      at = [tri[3 * u]!, tri[3 * u + 1]!, tri[3 * u + 2]!],
      xs = at.map((v) => x[v]! + oe),
      ys = at.map((v) => y[v]! + on);
    this.to[u] = NOWHERE;
    const [w, s, e, n] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)],
      // Amply: whether it meets a patch is told by the patch.
      reach = 4 * roundingOf(w, s, e, n);
    for (const p of this.patches.meeting(w - reach, s - reach, e + reach, n + reach)) {
      if (!meets(this.there.touching!.mesh, u, ...this.boxOf(p))) continue;
      if (this.ofPatch[p]! >= 0) this.mark(u, this.ofPatch[p]!);
      let over = lists.get(p);
      if (!over) lists.set(p, (over = this.foundOver(p)));
      for (const [t, found] of over) if (found.has(u)) this.mark(u, this.from[t]!);
    }
    return this.to[u];
  }

  /** What lies under those triangles of a patch that mark by themselves. */
  private foundOver(p: number): Map<number, Set<number>> {
    const { there } = this,
      { touching } = there,
      out = new Map<number, Set<number>>();
    if (this.ofPatch[p] !== MIXED) return out;
    for (const t of this.patches.trianglesOf(p)) {
      if (this.from[t] === NOWHERE || !there.lay(3 * t)) continue;
      out.set(t, new Set(touching!.found.subarray(0, touching!.count)));
    }
    return out;
  }
}

/** Whether a triangle's box meets another. */
function meets(
  { x, y, tri }: Pick<Surface, "x" | "y" | "tri">,
  u: number,
  w: number,
  s: number,
  e: number,
  n: number,
): boolean {
  const a = tri[3 * u]!,
    b = tri[3 * u + 1]!,
    c = tri[3 * u + 2]!,
    xa = x[a]!,
    ya = y[a]!,
    xb = x[b]!,
    yb = y[b]!,
    xc = x[c]!,
    yc = y[c]!;
  if ((xa < w && xb < w && xc < w) || (xa > e && xb > e && xc > e)) return false;
  return !((ya < s && yb < s && yc < s) || (ya > n && yb > n && yc > n));
}

/**
 * By how much what touches a box may lie outside it by rounding: its frame is another's moved, and shares are rounded too, of
 * long narrow triangles by more than coordinates.
 */
const roundingOf = (ax: number, ay: number, bx: number, by: number) =>
  2 ** -30 * (1 + Math.max(Math.abs(ax), Math.abs(ay), Math.abs(bx), Math.abs(by)));

/** Whether a segment comes within a distance of a box whose own box does: no corner's side of it holds the whole box. */
function sidePasses(ax: number, ay: number, bx: number, by: number, reach: number) {
  const [de, dn] = [bx - ax, by - ay],
    least = reach * Math.hypot(de, dn);
  return (west: number, south: number, east: number, north: number) => {
    const over = (x: number, y: number) => de * (y - ay) - dn * (x - ax),
      of = [over(west, south), over(east, south), over(east, north), over(west, north)];
    return !(of.every((s) => s > least) || of.every((s) => s < -least));
  };
}
