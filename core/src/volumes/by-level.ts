/** How cut and fill of a surface change with the level: exact figures at a row of levels, and the one that balances. */
import { largest, smallest } from "../math/many";
import type { Surface } from "../surface/model";
import { compare } from "./compare";
import type { Regions } from "./regions";
import { storageOf } from "./storage";

export interface VolumeCurve {
  levels: number[];
  cut: number[];
  fill: number[];
}

/** Cut and fill at levels from the lowest to the highest ground, without deadband, within the areas where there are some. */
export function volumeCurve(s: Surface, within?: Regions, count = 41): VolumeCurve {
  const low = smallest(s.z),
    high = largest(s.z),
    levels = Array.from({ length: count }, (_, k) => (k === count - 1 ? high : low + ((high - low) * k) / (count - 1))),
    rows = storageOf(s, levels, within),
    full = rows.at(-1)!;
  return {
    levels,
    fill: rows.map((r) => r.volume),
    // At the highest level nothing is cut; the net falls by the area with each step down.
    cut: rows.map((r) => Math.max(0, r.volume - (full.volume - (high - r.level) * full.area))),
  };
}

/** Levels are tried until the net is so small a share of what is moved. */
const CLOSE = 1e-12;

/**
 * The level to which cut and fill are equal, each times its factor; undefined where there is nothing in common. Rising
 * in the level, so halving with secants finds it (Dowell and Jarratt 1971).
 */
export function balanceLevel(
  s: Surface,
  within?: Regions,
  deadband = 0,
  factors: { cut?: number; fill?: number } = {},
): number | undefined {
  const at = (level: number) => {
    const { whole: f } = compare({ from: s, to: level, within }, deadband);
    return { net: f.fill * (factors.fill ?? 1) - f.cut * (factors.cut ?? 1), moved: f.fill + f.cut, area: f.area };
  };
  return balanced(at, smallest(s.z), largest(s.z));
}

/** Where a rising net is zero between two ends; undefined without any area. */
export function balanced(
  at: (x: number) => { net: number; moved: number; area: number },
  low: number,
  high: number,
): number | undefined {
  let [a, b] = [low, high],
    [fa, fb] = [at(a), at(b)];
  if (fa.area === 0) return undefined;
  if (fa.net >= 0) return a;
  if (fb.net <= 0) return b;
  let [na, nb] = [fa.net, fb.net];
  for (let k = 0, kept = 0; k < 100; k++) {
    const x = b - (nb * (b - a)) / (nb - na),
      f = at(x);
    if (Math.abs(f.net) <= CLOSE * f.moved || x === a || x === b) return x;
    // The end that stays twice counts half, so that both ends move (Illinois).
    if (f.net > 0) {
      [b, nb] = [x, f.net];
      if (kept === 1) na /= 2;
      kept = 1;
    } else {
      [a, na] = [x, f.net];
      if (kept === -1) nb /= 2;
      kept = -1;
    }
  }
  return (a + b) / 2;
}
