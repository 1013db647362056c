/** How cut and fill of a surface change with the level: exact figures at a row of levels. */
import type { Surface } from "../surface/model";
import { volumeToLevel } from "./level";

export interface VolumeCurve {
  levels: number[];
  cut: number[];
  fill: number[];
  /** The level at which cut and fill are equal. */ balance: number;
}

const LARGE = 300_000;

/** Levels from the lowest to the highest ground; fewer on a large surface, since each is a pass over its triangles. */
export function volumeCurve(s: Surface, count = s.tri.length / 3 > LARGE ? 9 : 41): VolumeCurve {
  let minZ = Infinity,
    maxZ = -Infinity,
    area = 0,
    moment = 0;
  for (const z of s.z) {
    if (z < minZ) minZ = z;
    if (z > maxZ) maxZ = z;
  }
  for (let h = 0; h < s.tri.length; h += 3) {
    const a = s.tri[h]!,
      b = s.tri[h + 1]!,
      c = s.tri[h + 2]!;
    const plan = ((s.x[b]! - s.x[a]!) * (s.y[c]! - s.y[a]!) - (s.y[b]! - s.y[a]!) * (s.x[c]! - s.x[a]!)) / 2;
    area += plan;
    moment += (plan * (s.z[a]! - minZ + s.z[b]! - minZ + s.z[c]! - minZ)) / 3;
  }
  const levels = Array.from({ length: count }, (_, k) => minZ + ((maxZ - minZ) * k) / (count - 1));
  const results = levels.map((level) => volumeToLevel(s, { name: "", surface: s.name, level }));
  // Net is linear in the level: it is zero at the mean level of the ground.
  return { levels, cut: results.map((r) => r.cut), fill: results.map((r) => r.fill), balance: minZ + moment / area };
}
