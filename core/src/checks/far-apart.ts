/** Ground that a surface spans between shots farther apart than the job's purpose allows. */
import { notice, say, type Noticed } from "../finding";
import { formatGrouped } from "../math/round";
import { Sum } from "../math/sum";
import { lengthText, type Unit } from "../math/units";
import { longestSides } from "../surface/mesh";
import type { Surface, SurfaceRecipe } from "../surface/model";

interface Wide {
  /** Plan area of triangles with a side longer than wanted, and of all. */
  area: number;
  whole: number;
  longest: number;
  /** Middle of the largest of them. */
  at: [number, number];
}

/** Of plan positions alone: a level changed leaves it as it is. */
const kept = new WeakMap<Int32Array, { apart: number; wide: Wide | undefined }>();

function wideGround(s: Surface, apart: number): Wide | undefined {
  const known = kept.get(s.tri);
  if (known?.apart === apart) return known.wide;
  const { x, y, tri, origin } = s,
    sides = longestSides(s),
    [area, whole] = [new Sum(), new Sum()];
  let [longest, largest, at] = [0, 0, -1];
  for (let k = 0; k < sides.length; k++) {
    const [a, b, c] = [tri[3 * k]!, tri[3 * k + 1]!, tri[3 * k + 2]!],
      plan = ((x[b]! - x[a]!) * (y[c]! - y[a]!) - (y[b]! - y[a]!) * (x[c]! - x[a]!)) / 2;
    whole.add(plan);
    if (!(sides[k]! > apart)) continue;
    area.add(plan);
    longest = Math.max(longest, sides[k]!);
    if (plan > largest) [largest, at] = [plan, k];
  }
  const mean = (v: Float64Array) => (v[tri[3 * at]!]! + v[tri[3 * at + 1]!]! + v[tri[3 * at + 2]!]!) / 3,
    wide: Wide | undefined =
      at < 0
        ? undefined
        : { area: area.value, whole: whole.value, longest, at: [origin[0] + mean(x), origin[1] + mean(y)] };
  kept.set(s.tri, { apart, wide });
  return wide;
}

/** One finding for each surface made of points that has triangles with a side longer than `apart`; 0 looks for none. */
export function shotsFarApart(
  surfaces: readonly { name: string; surface: Surface }[],
  recipes: readonly SurfaceRecipe[],
  apart: number,
  unit: Unit,
): Noticed[] {
  if (!(apart > 0)) return [];
  return surfaces.flatMap(({ name, surface }) => {
    const recipe = recipes.find((r) => r.name === name);
    if (!recipe || recipe.file !== undefined || recipe.triangles) return [];
    const wide = wideGround(surface, apart);
    if (!wide) return [];
    const share = Math.max(1, Math.round((100 * wide.area) / wide.whole)),
      [limit, most] = [lengthText(apart, unit, 1), lengthText(wide.longest, unit, 1)],
      words = [
        ...say`Surface “${name}” spans ${formatGrouped(wide.area, 0)} ${unit}², ${String(share)} % of it, `,
        ...say`between shots more than ${limit} apart, at most ${most}: `,
        "what the ground does between them is not known.",
      ];
    return [
      notice("shots-far-apart", "note", words, {
        at: wide.at,
        data: { surface: name, area: wide.area, longest: wide.longest, apart },
        subject: name,
      }),
    ];
  });
}
