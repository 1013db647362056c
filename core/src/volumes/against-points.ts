/** Points as built against points as designed: pairs by their numbers or by nearness, one to one (RECIPE.md, “DIFFERENCE”). */
import { pointIndex } from "../math/near";
import type { AsBuilt, DifferenceRecipe, Measured } from "./as-built";
import { judged } from "./as-built";

export type PairsRecipe = DifferenceRecipe &
  Required<Pick<DifferenceRecipe, "against" | "by">> & { tolerance: { plan: number; level: number } };

/** Rows of pairs, built and designed, and those that found none. */
export interface Pairs {
  built: number[];
  designed: number[];
  unmatched: { points: number[]; against: number[] };
}

/** A number without what was put before or behind it: `AB*` takes AB off the front, `*-D` takes -D off the end. */
export function stripped(number: string, strip: string | undefined): string {
  const at = strip?.indexOf("*") ?? -1;
  if (strip === undefined || at < 0) return number;
  const [before, after] = [strip.slice(0, at), strip.slice(at + 1)];
  return number.length > before.length + after.length && number.startsWith(before) && number.endsWith(after)
    ? number.slice(before.length, number.length - after.length)
    : number;
}

/** Of several points with one number after it was stripped the first counts; no point is its own design. */
export function pairsByNumber(
  built: Int32Array,
  designed: Int32Array,
  number: readonly string[],
  strip: string | undefined,
): Pairs {
  const free = new Map<string, number[]>();
  for (const row of designed) {
    const key = stripped(number[row]!, strip),
      list = free.get(key);
    if (list) list.push(row);
    else free.set(key, [row]);
  }
  const out: Pairs = { built: [], designed: [], unmatched: { points: [], against: [] } },
    taken = new Set<number>();
  for (const row of built) {
    const other = free.get(stripped(number[row]!, strip))?.find((r) => r !== row && !taken.has(r));
    if (other === undefined) out.unmatched.points.push(row);
    else {
      taken.add(other);
      out.built.push(row);
      out.designed.push(other);
    }
  }
  out.unmatched.against = Array.from(designed).filter((r) => !taken.has(r));
  return out;
}

/** The nearest pairs first, in plan, each point in one pair at most, none farther apart than `within`. */
export function pairsByNearness(built: Int32Array, designed: Int32Array, p: Measured, within: number): Pairs {
  const own = {
      e: Float64Array.from(designed, (r) => p.e[r]!),
      n: Float64Array.from(designed, (r) => p.n[r]!),
      deleted: new Uint8Array(designed.length),
    },
    index = pointIndex(own),
    all: { row: number; other: number; far: number }[] = [];
  for (const row of built) {
    const [e, n] = [p.e[row]!, p.n[row]!];
    for (const k of index.range(e - within, n - within, e + within, n + within)) {
      const far = Math.hypot(own.e[k]! - e, own.n[k]! - n);
      if (far <= within && designed[k] !== row) all.push({ row, other: designed[k]!, far });
    }
  }
  all.sort((a, b) => a.far - b.far || a.row - b.row || a.other - b.other);
  const [taken, found] = [new Set<number>(), new Map<number, number>()];
  for (const { row, other } of all) {
    if (found.has(row) || taken.has(other)) continue;
    found.set(row, other);
    taken.add(other);
  }
  const paired = Array.from(built).filter((r) => found.has(r));
  return {
    built: paired,
    designed: paired.map((r) => found.get(r)!),
    unmatched: {
      points: Array.from(built).filter((r) => !found.has(r)),
      against: Array.from(designed).filter((r) => !taken.has(r)),
    },
  };
}

/** Built − designed of every pair. Throws a Refusal where there is none. */
export function againstPoints(r: PairsRecipe, pairs: Pairs, p: Measured): AsBuilt {
  const { built, designed } = pairs,
    difference = (column: Float64Array) => Float64Array.from(built, (row, k) => column[row]! - column[designed[k]!]!),
    [dE, dN] = [difference(p.e), difference(p.n)],
    none = () => new Float64Array(built.length).fill(NaN);
  return judged({
    name: r.name,
    tolerance: r.tolerance.level,
    against: "points",
    rows: Int32Array.from(built),
    level: difference(p.z),
    station: none(),
    offset: none(),
    outside: new Uint8Array(built.length),
    figures: { mean: NaN, rms: NaN, min: NaN, max: NaN, count: 0 },
    pairs: {
      designed: Int32Array.from(designed),
      dE,
      dN,
      plan: dE.map((x, k) => Math.hypot(x, dN[k]!)),
      tolerance: r.tolerance.plan,
      unmatched: { points: Int32Array.from(pairs.unmatched.points), against: Int32Array.from(pairs.unmatched.against) },
    },
  });
}
