/** Points of a small job with constructed ones, by the application's own way. */
import type { Recipe } from "../../src/job/recipe/recipe";
import { derive, found, type Row } from "../job";

export interface Stood {
  /** East, north, level by number, of the points that are there. */
  at: Record<string, [number, number, number]>;
  lost: string[];
}

/** Where the points of a job stand, and what is said of those that are lost. */
export function stand(
  rows: readonly Row[],
  computed: NonNullable<Recipe["computed"]>,
  more: Partial<Recipe> = {},
): Stood {
  const { derived } = derive(rows, { computed, ...more }),
    t = derived.points,
    at: Stood["at"] = {};
  for (let i = 0; i < t.count; i++) if (!t.deleted[i]) at[t.number[i]!] = [t.e[i]!, t.n[i]!, t.z[i]!];
  return { at, lost: found(derived, "computed-lost").map((f) => f.message) };
}
