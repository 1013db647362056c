/**
 * Cut and fill between two surfaces, or a surface and a level: exact, over the pieces on which their difference is
 * linear (COMPUTATION.md, "Volumes").
 */
import { sumTriangles, movedVertices, type KeptSums } from "../surface/block-sums";
import type { Surface } from "../surface/model";
import type { Figures } from "./model";
import { Overlay, touchingOf, type Pair } from "./overlay";
import { above, partAbove } from "./part-above";
import type { Touching } from "./touching";

/** What is kept between comparisons of one recipe, so that a changed level costs what it touches. */
export interface KeptComparison {
  sums?: KeptSums;
  overlay?: Overlay;
  deadband?: number;
  /** Where the triangles of the first surface lie: asked when the second changes. */
  first?: Touching;
}

export interface Compared {
  whole: Figures;
  /** Of each area, in the recipe's order; of the whole alone where there are none. */
  areas: Figures[];
}

/** Sums of one part: common area, cut, fill, and the areas of those. */
const KINDS = 5;

/**
 * Fill = ∫max(d, 0) and cut = ∫max(−d, 0) over the common area, d = to − from. Deadband t: where |d| ≤ t nothing counts,
 * elsewhere all of d does. Relative error about 1e-14; sums are compensated.
 */
export function compare(pair: Pair, deadband = 0, kept: KeptComparison = {}): Compared {
  const overlay = new Overlay(pair, kept.overlay),
    parts = pair.within?.holding.length ?? 1,
    touched = kept.overlay && kept.deadband === deadband ? touchedBy(kept.overlay.pair, pair, kept) : undefined;
  if (!touched) kept.sums = {};
  const gives = new Float64Array(KINDS * parts);
  const take = (count: number, part: number) => addPiece(overlay, count, deadband, gives, KINDS * part);
  const sums = sumTriangles(
    pair.from,
    gives.length,
    (h, list) => {
      gives.fill(0);
      overlay.pieces(h, take);
      for (let k = 0; k < gives.length; k++) if (gives[k] !== 0) list[k]!.add(gives[k]!);
    },
    kept.sums,
    touched,
  );
  kept.overlay = overlay;
  kept.deadband = deadband;
  const holding = pair.within?.holding ?? [[0]],
    figures = (of: (holds: number[]) => boolean) => {
      const total = new Float64Array(KINDS);
      holding.forEach((holds, part) => {
        if (of(holds)) for (let k = 0; k < KINDS; k++) total[k]! += sums[KINDS * part + k]!;
      });
      const [area, cut, fill, cutArea, fillArea] = total as unknown as [number, number, number, number, number];
      return { cut, fill, net: fill - cut, area, cutArea, fillArea };
    };
  return {
    whole: figures((holds) => holds.length > 0),
    areas: (pair.within?.areas ?? [""]).map((_, area) => figures((holds) => holds.includes(area))),
  };
}

/** What a piece with `count` corners gives, added to five numbers from `at` on. */
function addPiece({ uvd, doubled }: Overlay, count: number, t: number, to: Float64Array, at: number): void {
  const u0 = uvd[0]!,
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
  to[at]! += area;
  if (least >= t && most > t) {
    to[at + 2]! += volume;
    to[at + 4]! += area;
  } else if (most <= -t && least < -t) {
    to[at + 1]! -= volume;
    to[at + 3]! += area;
  } else if (most > t || least < -t) addMixed(uvd, count, doubled, t, to, at);
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
    to[at + 2]! += above.volume + t * above.area;
    to[at + 4]! += above.area;
    partAbove(plan, -d0 - t, -d1 - t, -d2 - t);
    to[at + 1]! += above.volume + t * above.area;
    to[at + 3]! += above.area;
  }
}

/**
 * The triangles of the first surface that lie over changed levels of the second; undefined where more than levels
 * became another.
 */
function touchedBy(was: Pair, now: Pair, kept: KeptComparison): Set<number> | undefined {
  if (was.within !== now.within) return undefined;
  const touched = new Set<number>(),
    [a, b] = [was.to, now.to];
  if (a === b) return touched;
  if (typeof a === "number" || typeof b === "number" || !samePlan(a, b) || !samePlan(was.from, now.from))
    return undefined;
  const moved = movedVertices(a.z, b.z),
    first = (kept.first = touchingOf(now.from, kept.first)),
    [oe, on] = [b.origin[0] - now.from.origin[0], b.origin[1] - now.from.origin[1]],
    { x, y, tri } = b;
  for (let h = 0; h < tri.length; h += 3) {
    const [p, q, r] = [tri[h]!, tri[h + 1]!, tri[h + 2]!];
    if (moved[p] === 0 && moved[q] === 0 && moved[r] === 0) continue;
    first.over(x[p]! + oe, y[p]! + on, x[q]! + oe, y[q]! + on, x[r]! + oe, y[r]! + on);
    for (let k = 0; k < first.count; k++) touched.add(first.found[k]!);
  }
  return touched;
}

function samePlan(a: Surface, b: Surface): boolean {
  return a.x === b.x && a.y === b.y && a.tri === b.tri;
}
