/** Long triangles along the edge of a surface: it spans there what nobody measured. */
import { notice, say, type Noticed } from "../finding";
import { lengthText, type Unit } from "../math/units";
import { plural } from "../math/words";
import { next } from "../surface/mesh";
import type { Surface, SurfaceRecipe } from "../surface/model";

/** A side on the edge is long from so many times the middle one of all sides. */
const LONG = 5;
/** Half-edges looked at for the middle one. */
const SAMPLED = 30_000;

interface Long {
  count: number;
  /** The longest of them, and the gap from which a side is long. */
  longest: number;
  gap: number;
  at: [number, number];
}

/** Of plan positions alone: a level changed leaves it as it is. */
const kept = new WeakMap<Int32Array, Long | null>();

function longSides(s: Surface): Long | null {
  const known = kept.get(s.tri);
  if (known !== undefined) return known;
  const { x, y, tri, twin, fixed, origin } = s,
    lengths = new Float64Array(Math.min(tri.length, SAMPLED));
  let sides = 0;
  // Some thousands of them say what is usual: all of a million would take longer than what waits for it.
  const step = Math.max(1, Math.ceil(tri.length / SAMPLED));
  const lengthOf = (h: number) => Math.hypot(x[tri[next(h)]!]! - x[tri[h]!]!, y[tri[next(h)]!]! - y[tri[h]!]!);
  for (let h = 0; h < tri.length; h += step) if (twin[h]! < h) lengths[sides++] = lengthOf(h);
  const gap = LONG * (lengths.subarray(0, sides).sort()[sides >> 1] ?? 0);
  let found: Long | null = null;
  for (let h = 0; h < tri.length; h++) {
    if (twin[h] !== -1 || fixed[h] === 1) continue;
    const length = lengthOf(h);
    if (!(length > gap)) continue;
    found ??= { count: 0, longest: 0, gap, at: [0, 0] };
    found.count++;
    if (length > found.longest) {
      const [a, b] = [tri[h]!, tri[next(h)]!];
      found.longest = length;
      found.at = [origin[0] + (x[a]! + x[b]!) / 2, origin[1] + (y[a]! + y[b]!) / 2];
    }
  }
  kept.set(s.tri, found);
  return found;
}

/** One finding for each surface made of points whose edge is the hull or fitted; what was drawn is as it was meant. */
export function longTriangles(
  surfaces: readonly { name: string; surface: Surface }[],
  recipes: readonly SurfaceRecipe[],
  unit: Unit,
): Noticed[] {
  return surfaces.flatMap(({ name, surface }) => {
    const recipe = recipes.find((r) => r.name === name),
      { edge } = recipe ?? {};
    if (!recipe || recipe.file !== undefined || recipe.triangles || (typeof edge === "object" && !("fit" in edge)))
      return [];
    const found = longSides(surface);
    if (!found) return [];
    const words = say`Surface “${name}” has ${plural(found.count, "long triangle")} along its edge, the longest side ${lengthText(found.longest, unit, 1)}: it spans there what nobody measured. Fit its edge to the points, or draw it.`;
    return [
      notice("long-triangle", "note", words, {
        at: found.at,
        data: { surface: name, count: found.count, longest: found.longest, gap: found.gap },
        subject: name,
      }),
    ];
  });
}
