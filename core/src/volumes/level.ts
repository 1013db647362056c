/**
 * Volume between a surface and a level, exact: each triangle's difference is linear, so its parts have closed formulas.
 */
import type { VolumeRecipe } from "./model";
import { Sum } from "../math/sum";
import { sumTriangles, type KeptSums } from "../surface/block-sums";
import type { Surface } from "../surface/model";

/** Figures in cubic and square units of the job. Filling from the surface up to the level is fill. */
export interface VolumeResult {
  name: string;
  method: "to a level, exact over triangles";
  cut: number;
  fill: number;
  /** fill − cut */
  net: number;
  /** Plan area in common, deadband or not. */
  area: number;
  cutArea: number;
  fillArea: number;
  /** Cut and fill times the recipe's factors, for the report only. */
  bulked?: { cut: number; fill: number };
}

/**
 * ∫max(d, 0) over the area, with d = level − surface; likewise cut with −d. Deadband t: where |d| ≤ t nothing counts,
 * elsewhere all of d does. Relative error about 1e-15 a triangle; sums are compensated. `kept` is of the same recipe.
 */
export function volumeToLevel(s: Surface, recipe: VolumeRecipe, kept?: KeptSums): VolumeResult {
  const t = recipe.deadband ?? 0;
  const [area, cut, fill, cutArea, fillArea] = sumTriangles(
    s,
    5,
    (h, [common, above, below, aboveArea, belowArea]) => {
      const a = s.tri[h]!,
        b = s.tri[h + 1]!,
        c = s.tri[h + 2]!;
      const plan = ((s.x[b]! - s.x[a]!) * (s.y[c]! - s.y[a]!) - (s.y[b]! - s.y[a]!) * (s.x[c]! - s.x[a]!)) / 2;
      common!.add(plan);
      const da = recipe.level - s.z[a]!,
        db = recipe.level - s.z[b]!,
        dc = recipe.level - s.z[c]!;
      addAbove(plan, da - t, db - t, dc - t, t, below!, belowArea!);
      addAbove(plan, -da - t, -db - t, -dc - t, t, above!, aboveArea!);
    },
    kept,
  ) as [number, number, number, number, number];
  return {
    name: recipe.name,
    method: "to a level, exact over triangles",
    cut,
    fill,
    net: fill - cut,
    area,
    cutArea,
    fillArea,
    ...(recipe.bulking
      ? { bulked: { cut: cut * (recipe.bulking.cut ?? 1), fill: fill * (recipe.bulking.fill ?? 1) } }
      : {}),
  };
}

/**
 * Adds the part of a triangle where the linear d (its corner values given) is > 0: its area, and ∫(d + offset) over it.
 * One corner above: the part is a triangle, its area a·b of the whole, where a and b are the shares of the two sides
 * above. Two above: the whole less the corner below.
 */
export function addAbove(
  plan: number,
  d0: number,
  d1: number,
  d2: number,
  offset: number,
  volume: Sum,
  area: Sum,
): void {
  if (d0 <= 0 && d1 <= 0 && d2 <= 0) return;
  const whole = (plan * (d0 + d1 + d2)) / 3;
  if (d0 >= 0 && d1 >= 0 && d2 >= 0) {
    volume.add(whole + offset * plan);
    area.add(plan);
    return;
  }
  // Turn the corner that is alone on its side to the front.
  const positives = (d0 > 0 ? 1 : 0) + (d1 > 0 ? 1 : 0) + (d2 > 0 ? 1 : 0);
  const aloneAbove = positives === 1;
  const alone = (d: number) => (aloneAbove ? d > 0 : d < 0);
  if (!alone(d0)) {
    if (alone(d1)) [d0, d1, d2] = [d1, d2, d0];
    else [d0, d1, d2] = [d2, d0, d1];
  }
  const share = (d0 / (d0 - d1)) * (d0 / (d0 - d2));
  const corner = (plan * share * d0) / 3;
  if (aloneAbove) {
    volume.add(corner + offset * plan * share);
    area.add(plan * share);
  } else {
    volume.add(whole - corner + offset * plan * (1 - share));
    area.add(plan * (1 - share));
  }
}
