/**
 * How the triangles of two surfaces lie to one another: which lie whole on one side, and which must be cut into pieces.
 * First by patches, whose planes tell most of them; where a patch does not tell, triangle by triangle.
 */
import { insideRing } from "../math/ring";
import type { Surface } from "../surface/model";
import type { OutlineSides } from "../surface/outline-sides";
import { kindOf, MIXED, type Overlay } from "./overlay";
import { overPlane, PATCH, planeOf, type Patches } from "./patches";

/** Triangles of the first surface that lie on nothing. */
export const NOWHERE = -2;
/** Triangles of the second under several kinds of the first, or not whole under it. */
export const SPLIT = -1;

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
  /** 1 where nothing is beyond one of a triangle's sides. It hangs on the plan alone, as NOWHERE does. */
  private readonly border: Uint8Array;
  private there: Overlay;
  /** Memory for one list of triangles at a time. */
  private list = new Int32Array(16 * PATCH);
  private under = this.list;
  private readonly patches: Patches;
  private readonly otherPatches: Patches;
  private readonly outline: OutlineSides;

  /** `there` is the first surface on the second, `back` the second on the first. */
  constructor(
    there: Overlay,
    back: Overlay,
    private readonly deadband: number,
  ) {
    this.there = there;
    const { from, to } = there.pair as { from: Surface; to: Surface };
    this.patches = back.touching!.patches;
    this.otherPatches = there.touching!.patches;
    this.outline = back.touching!.outline;
    this.from = new Int32Array(from.tri.length / 3);
    this.to = new Int32Array(to.tri.length / 3).fill(NOWHERE);
    this.ofPatch = new Int32Array(this.patches.count);
    this.border = new Uint8Array(this.from.length);
    for (let p = 0; p < this.patches.count; p++) this.look(p);
    this.findBorder();
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
      const [w, s, e, n] = [boxes[4 * q]! + oe, boxes[4 * q + 1]! + on, boxes[4 * q + 2]! + oe, boxes[4 * q + 3]! + on];
      for (const p of this.patches.meeting(w, s, e, n)) again.add(p);
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
    this.to[u] = was === NOWHERE || was === kind ? kind : SPLIT;
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
        kind = (this.from[t] = isOn ? there.kind(this.deadband) : NOWHERE);
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
    const kind = kindOf(lowest - high, highest - low, this.deadband);
    return kind === MIXED ? MIXED : 3 * part + kind;
  }

  /** Triangles of the second surface whose boxes meet that of a patch of the first: all under it, and some more. */
  private meeting(p: number): Int32Array {
    const { boxes } = this.patches,
      [oe, on] = this.offset(),
      w = boxes[4 * p]! - oe,
      s = boxes[4 * p + 1]! - on,
      e = boxes[4 * p + 2]! - oe,
      n = boxes[4 * p + 3]! - on,
      { x, y, tri } = this.there.touching!.mesh,
      others = this.otherPatches.meeting(w, s, e, n);
    if (this.list.length < PATCH * others.length) this.list = new Int32Array(2 * PATCH * others.length);
    const { list } = this;
    let count = 0;
    for (const q of others) {
      const theirs = this.otherPatches.trianglesOf(q);
      for (let k = 0; k < theirs.length; k++) {
        const u = theirs[k]!,
          a = tri[3 * u]!,
          b = tri[3 * u + 1]!,
          c = tri[3 * u + 2]!,
          xa = x[a]!,
          ya = y[a]!,
          xb = x[b]!,
          yb = y[b]!,
          xc = x[c]!,
          yc = y[c]!;
        if ((xa < w && xb < w && xc < w) || (xa > e && xb > e && xc > e)) continue;
        if ((ya < s && yb < s && yc < s) || (ya > n && yb > n && yc > n)) continue;
        list[count++] = u;
      }
    }
    return (this.under = list.subarray(0, count));
  }

  /** What reaches beyond the first surface, or beyond the areas along its sides, is not whole under it. */
  private findBorder(): void {
    const { from, border, there } = this,
      { twin } = there.pair.from,
      { touching } = there;
    for (let t = 0; t < from.length; t++) {
      if (from[t] === NOWHERE) continue;
      for (let h = 3 * t; h < 3 * t + 3 && border[t] === 0; h++)
        if (twin[h]! < 0 || from[Math.floor(twin[h]! / 3)] === NOWHERE) border[t] = 1;
      if (border[t] === 0 || !there.lay(3 * t)) continue;
      for (let k = 0; k < touching!.count; k++) this.to[touching!.found[k]!] = SPLIT;
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
    for (const p of this.patches.meeting(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys))) {
      if (this.ofPatch[p]! >= 0) this.mark(u, this.ofPatch[p]!);
      let over = lists.get(p);
      if (!over) lists.set(p, (over = this.foundOver(p)));
      for (const [t, found] of over) if (found.has(u)) this.mark(u, this.border[t] === 1 ? SPLIT : this.from[t]!);
    }
    return this.to[u];
  }

  /** What lies under those triangles of a patch that mark by themselves: single ones, and those at a border. */
  private foundOver(p: number): Map<number, Set<number>> {
    const { there } = this,
      { touching } = there,
      out = new Map<number, Set<number>>();
    for (const t of this.patches.trianglesOf(p)) {
      if ((this.ofPatch[p] !== MIXED && this.border[t] === 0) || this.from[t] === NOWHERE || !there.lay(3 * t))
        continue;
      out.set(t, new Set(touching!.found.subarray(0, touching!.count)));
    }
    return out;
  }
}
