/**
 * Cut and fill between two surfaces, or a surface and a level: exact, over the pieces on which their difference is
 * linear (COMPUTATION.md, "Volumes").
 *
 * Most triangles lie all on one side of the other surface. For those ∫d = ∫to − ∫from, and each integral is that of whole
 * triangles: only triangles where the sign changes, or something ends, are cut into pieces. So each triangle of the first
 * surface gives its own part, each of the second its own, and after a changed level only those that it touches give anew.
 */
import { sumTriangles, movedVertices, type KeptSums } from "../surface/block-sums";
import type { Sum } from "../math/sum";
import type { Surface } from "../surface/model";
import type { Figures } from "./model";
import { Kinds, NOWHERE, SPLIT, type Triangles } from "./kinds";
import { ABOVE, BELOW, MIXED, NEAR, Overlay, type Pair } from "./overlay";
import { above, partAbove } from "./part-above";

/** What is kept between comparisons of one recipe, so that a changed level costs what it touches. */
export interface KeptComparison {
  last?: {
    pair: Pair;
    deadband: number;
    there: Overlay;
    back?: Overlay;
    kinds?: Kinds;
    ofFrom: KeptSums;
    ofTo: KeptSums;
  };
}

export interface Compared {
  whole: Figures;
  /** Of each area, in the recipe's order; of the whole alone where there are none. */
  areas: Figures[];
}

/** Sums of one part: common area, cut, fill, and the areas of those. */
const AREA = 0,
  CUT = 1,
  FILL = 2,
  CUT_AREA = 3,
  FILL_AREA = 4,
  SUMS = 5;

/**
 * Fill = ∫max(d, 0) and cut = ∫max(−d, 0) over the common area, d = to − from. Deadband t: where |d| ≤ t nothing counts,
 * elsewhere all of d does. Relative error about 1e-13; sums are compensated.
 */
export function compare(pair: Pair, deadband = 0, kept: KeptComparison = {}): Compared {
  const { from, to, within } = pair,
    parts = within?.holding.length ?? 1,
    before = kept.last,
    there = new Overlay(pair, deadband, before?.there),
    back = typeof to === "number" ? undefined : new Overlay({ from: to, to: from }, deadband, before?.back);
  // While something is made nothing is kept: it may be ended in the middle.
  kept.last = undefined;
  let touched: Triangles = { from: new Set(), to: new Set() },
    { kinds, ofFrom = {}, ofTo = {} } = before ?? {};
  const isSame = before?.deadband === deadband && before.there.noise === there.noise,
    changed = isSame ? changedLevels(before.pair, pair) : undefined;
  if (!changed) {
    kinds = back && new Kinds(there, back);
    [ofFrom, ofTo] = [{}, {}];
  } else if (kinds) touched = kinds.follow(there, changed);

  const gives = new Float64Array(SUMS * parts);
  const take = (count: number, part: number) => addPiece(there, count, gives, SUMS * part);
  const total = (list: readonly Sum[]) => {
    for (let k = 0; k < gives.length; k++) if (gives[k] !== 0) list[k]!.add(gives[k]!);
  };
  const sums = sumTriangles(
    from,
    gives.length,
    (h, list) => {
      const kind = kinds ? kinds.from[h / 3]! : MIXED;
      if (kind === NOWHERE) return;
      if (kind === MIXED) {
        gives.fill(0);
        there.pieces(h, take);
        total(list);
      } else addWhole(from, h, kind, list);
    },
    ofFrom,
    touched.from,
  );
  if (typeof to !== "number" && back && kinds) {
    const more = sumTriangles(to, 2 * parts, levelsOfWhole(to, back, kinds), ofTo, touched.to);
    for (let part = 0; part < parts; part++) {
      sums[SUMS * part + FILL]! += more[2 * part + BELOW]!;
      sums[SUMS * part + CUT]! -= more[2 * part + ABOVE]!;
    }
  }
  kept.last = { pair, deadband, there, back, kinds, ofFrom, ofTo };
  return figuresOf(sums, pair);
}

function figuresOf(sums: readonly number[], { within }: Pair): Compared {
  const holding = within?.holding ?? [[0]];
  const figures = (of: (holds: number[]) => boolean): Figures => {
    const total = new Float64Array(SUMS);
    holding.forEach((holds, part) => {
      if (of(holds)) for (let k = 0; k < SUMS; k++) total[k]! += sums[SUMS * part + k]!;
    });
    // Sums of levels of which nothing is left may end next to nothing below zero.
    const [area, cut, fill, cutArea, fillArea] = total.map((x) => Math.max(0, x)) as unknown as [
      number,
      number,
      number,
      number,
      number,
    ];
    return { cut, fill, net: fill - cut, area, cutArea, fillArea };
  };
  return {
    whole: figures((holds) => holds.length > 0),
    areas: (within?.areas ?? [""]).map((_, area) => figures((holds) => holds.includes(area))),
  };
}

/** What triangles of the second surface give: ∫level under those of the first that lie whole on one side, by their kind. */
function levelsOfWhole(to: Surface, back: Overlay, { from, to: under }: Kinds) {
  let list: readonly Sum[] = [];
  const slotOf = (kind: number) => 2 * Math.floor(kind / 3) + (kind % 3);
  const take = (count: number) => list[slotOf(from[back.other]!)]!.add(levelOver(back, count));
  const isWhole = (t: number) => from[t]! >= 0 && from[t]! % 3 !== NEAR;
  return (h: number, sums: readonly Sum[]) => {
    const kind = under[h / 3]!;
    if (kind === SPLIT) {
      list = sums;
      if (back.lay(h)) back.each(take, isWhole);
    } else if (kind >= 0 && kind % 3 !== NEAR) sums[slotOf(kind)]!.add(wholeLevel(to, h));
  };
}

/** What a triangle of the first surface gives that lies all on one side: its area, and its own level's part of ∫d. */
function addWhole(s: Surface, h: number, kind: number, list: readonly Sum[]): void {
  const at = SUMS * Math.floor(kind / 3),
    plan = planOf(s, h);
  list[at + AREA]!.add(plan);
  if (kind % 3 === NEAR) return;
  const isBelow = kind % 3 === BELOW;
  list[at + (isBelow ? FILL_AREA : CUT_AREA)]!.add(plan);
  const level = wholeLevel(s, h);
  list[at + (isBelow ? FILL : CUT)]!.add(isBelow ? -level : level);
}

function planOf({ x, y, tri }: Surface, h: number): number {
  const a = tri[h]!,
    b = tri[h + 1]!,
    c = tri[h + 2]!;
  return ((x[a]! - x[c]!) * (y[b]! - y[c]!) - (x[b]! - x[c]!) * (y[a]! - y[c]!)) / 2;
}

/** ∫ level over a triangle. */
function wholeLevel(s: Surface, h: number): number {
  return (planOf(s, h) * (s.z[s.tri[h]!]! + s.z[s.tri[h + 1]!]! + s.z[s.tri[h + 2]!]!)) / 3;
}

/** ∫ level over a piece of the triangle in hand, of its own level. */
function levelOver({ uvd, doubled, za, zb, zc }: Overlay, count: number): number {
  const level = (k: number) => zc + uvd[3 * k]! * (za - zc) + uvd[3 * k + 1]! * (zb - zc);
  let sum = 0;
  for (let k = 2; k < count; k++) {
    const cross =
      (uvd[3 * k - 3]! - uvd[0]!) * (uvd[3 * k + 1]! - uvd[1]!) - (uvd[3 * k]! - uvd[0]!) * (uvd[3 * k - 2]! - uvd[1]!);
    sum += cross * (level(0) + level(k - 1) + level(k));
  }
  return (sum * doubled) / 6;
}

/** What a piece with `count` corners gives, added to five numbers from `at` on. */
function addPiece(overlay: Overlay, count: number, to: Float64Array, at: number): void {
  const { uvd, doubled } = overlay,
    u0 = uvd[0]!,
    v0 = uvd[1]!,
    d0 = uvd[2]!;
  let least = d0,
    most = d0,
    area = 0,
    volume = 0,
    p = uvd[3]! - u0,
    q = uvd[4]! - v0,
    d1 = uvd[5]!;
  if (d1 < least) least = d1;
  if (d1 > most) most = d1;
  for (let k = 2; k < count; k++) {
    const r = uvd[3 * k]! - u0,
      s = uvd[3 * k + 1]! - v0,
      d2 = uvd[3 * k + 2]!,
      cross = p * s - r * q;
    if (d2 < least) least = d2;
    if (d2 > most) most = d2;
    area += cross;
    volume += cross * (d0 + d1 + d2);
    p = r;
    q = s;
    d1 = d2;
  }
  area *= doubled / 2;
  volume *= doubled / 6;
  to[at + AREA]! += area;
  const kind = overlay.kindWithin(least, most);
  if (kind === BELOW) {
    to[at + FILL]! += volume;
    to[at + FILL_AREA]! += area;
  } else if (kind === ABOVE) {
    to[at + CUT]! -= volume;
    to[at + CUT_AREA]! += area;
  } else if (kind === MIXED) addMixed(uvd, count, doubled, overlay.deadband, to, at);
}

/** The same where a piece crosses d = t or d = −t: each triangle of its fan is split there. */
function addMixed(uvd: Float64Array, count: number, doubled: number, t: number, to: Float64Array, at: number): void {
  const u0 = uvd[0]!,
    v0 = uvd[1]!,
    d0 = uvd[2]!;
  for (let k = 6; k < 3 * count; k += 3) {
    const p = uvd[k - 3]! - u0,
      q = uvd[k - 2]! - v0,
      d1 = uvd[k - 1]!,
      d2 = uvd[k + 2]!,
      plan = (doubled * (p * (uvd[k + 1]! - v0) - (uvd[k]! - u0) * q)) / 2;
    partAbove(plan, d0 - t, d1 - t, d2 - t);
    to[at + FILL]! += above.volume + t * above.area;
    to[at + FILL_AREA]! += above.area;
    partAbove(plan, -d0 - t, -d1 - t, -d2 - t);
    to[at + CUT]! += above.volume + t * above.area;
    to[at + CUT_AREA]! += above.area;
  }
}

/** Triangles of either surface with a corner of another level; undefined where more than levels became another. */
function changedLevels(was: Pair, now: Pair): Triangles | undefined {
  const [a, b] = [was.to, now.to];
  if (was.within !== now.within || !samePlan(was.from, now.from)) return undefined;
  const from = changedTriangles(was.from, now.from);
  if (typeof a === "number" || typeof b === "number") return a === b ? { from, to: new Set() } : undefined;
  return samePlan(a, b) ? { from, to: changedTriangles(a, b) } : undefined;
}

function changedTriangles(was: Surface, now: Surface): Set<number> {
  const out = new Set<number>();
  if (was.z === now.z) return out;
  const moved = movedVertices(was.z, now.z);
  for (let h = 0; h < now.tri.length; h++) if (moved[now.tri[h]!] === 1) out.add(Math.floor(h / 3));
  return out;
}

function samePlan(a: Surface, b: Surface): boolean {
  return a.x === b.x && a.y === b.y && a.tri === b.tri;
}
