/** How much a pit or basin holds, by level: exact, in one pass over the triangles for all levels. */
import { refusal } from "../errors";
import { decimalSteps } from "../math/decimal";
import { Sum } from "../math/sum";
import type { Surface } from "../surface/model";
import type { StorageRow } from "./model";
import { Overlay } from "./overlay";
import { above, partAbove } from "./part-above";
import type { Regions } from "./regions";

/** Rows that a table of storage may have. */
const MOST_ROWS = 10_000;

/** Levels from one to another, both in it even where the step does not divide the way. */
export function levelsBetween(from: number, to: number, step: number, comparison: string): number[] {
  const wrong = (why: string) => refusal("storage-levels", { name: comparison, why });
  if (!(to > from)) throw wrong("the upper level does not lie above the lower one");
  if (!(step > 0)) throw wrong("the step is not above zero");
  const count = Math.ceil((to - from) / step - 1e-9);
  if (count > MOST_ROWS) throw wrong(`${count} steps are more than ${MOST_ROWS}; take a larger one`);
  // As decimals: three steps of 0.1 are 0.3.
  const at = decimalSteps(from, step),
    levels = Array.from({ length: count }, (_, k) => at(k));
  levels.push(to);
  return levels;
}

/**
 * Area below each level and volume between it and the surface, within the areas where there are some; levels rise.
 * A triangle gives piecewise cubics: those levels that cross it are computed, above it all is linear and summed.
 */
export function storageOf(s: Surface, levels: readonly number[], within?: Regions): StorageRow[] {
  const n = levels.length,
    base = levels[0] ?? 0,
    area = levels.map(() => new Sum()),
    volume = levels.map(() => new Sum()),
    // From this level on a whole piece lies below: its area, and area × mean level.
    wholeArea = levels.map(() => new Sum()),
    wholeMoment = levels.map(() => new Sum());
  const overlay = new Overlay({ from: s, to: base, within });
  const take = (count: number) => {
    const { uvd, doubled } = overlay;
    for (let k = 6; k < 3 * count; k += 3) {
      const plan =
        (doubled *
          ((uvd[k - 3]! - uvd[0]!) * (uvd[k + 1]! - uvd[1]!) - (uvd[k]! - uvd[0]!) * (uvd[k - 2]! - uvd[1]!))) /
        2;
      // Levels above the lowest one.
      const a = -uvd[2]!,
        b = -uvd[k - 1]!,
        c = -uvd[k + 2]!,
        low = Math.min(a, b, c),
        high = Math.max(a, b, c);
      let i = firstOver(levels, base + low);
      for (; i < n && levels[i]! - base < high; i++) {
        const l = levels[i]! - base;
        partAbove(plan, l - a, l - b, l - c);
        area[i]!.add(above.area);
        volume[i]!.add(above.volume);
      }
      if (i < n) {
        wholeArea[i]!.add(plan);
        wholeMoment[i]!.add((plan * (a + b + c)) / 3);
      }
    }
  };
  for (let h = 0; h < s.tri.length; h += 3) overlay.pieces(h, take);
  const below = new Sum(),
    moment = new Sum();
  return levels.map((level, i) => {
    below.add(wholeArea[i]!.value);
    moment.add(wholeMoment[i]!.value);
    return {
      level,
      area: area[i]!.value + below.value,
      volume: volume[i]!.value + ((level - base) * below.value - moment.value),
    };
  });
}

/** The first level above a value. */
function firstOver(levels: readonly number[], value: number): number {
  let lo = 0,
    hi = levels.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (levels[mid]! > value) hi = mid;
    else lo = mid + 1;
  }
  return lo;
}
