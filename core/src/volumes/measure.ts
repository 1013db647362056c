/** A comparison's recipe carried out: what is compared, and its figures. */
import { refusal } from "../errors";
import type { Corner } from "../math/ring";
import type { Surface } from "../surface/model";
import { compare, type KeptComparison } from "./compare";
import { baseOf, type HeapBase } from "./heap";
import { kindOf, type VolumeKind, type VolumeRecipe, type VolumeResult } from "./model";
import type { Pair } from "./overlay";
import type { Regions } from "./regions";
import { levelsBetween, storageOf } from "./storage";

/** What a comparison is made of, ready to be laid over one another. */
export interface ComparedPair extends Pair {
  kind: VolumeKind;
  /** Of a heap what its base's levels come from. */
  base?: HeapBase;
}

/**
 * `surfaces` are those that the recipe names, in order (surfacesOf); `toes` the rings of a heap's toe. Throws a Refusal
 * where a toe leaves the surface.
 */
export function pairOf(
  r: VolumeRecipe,
  surfaces: readonly Surface[],
  within: Regions | undefined,
  toes: readonly Corner[][] = [],
): ComparedPair {
  const kind = kindOf(r),
    from = surfaces[0]!,
    areas = within ? { within } : {};
  if (kind === "heap") {
    const base = baseOf(from, toes, r.name);
    return { kind, from, to: base.surface, base, ...areas };
  }
  const to = kind === "surfaces" ? surfaces[1]! : kind === "level" ? r.level! : (r.to as number);
  return { kind, from, to, ...areas };
}

const METHODS: Record<VolumeKind, string> = {
  level: "to a level, exact over triangles",
  surfaces: "between two surfaces, exact over the triangles of both",
  heap: "above the surface through its toe, exact over the triangles of both",
  storage: "storage by level, exact over triangles",
};

/** Figures of a comparison; throws a Refusal where there is nothing in common, or levels of storage make no sense. */
export function measureVolume(r: VolumeRecipe, pair: ComparedPair, kept?: KeptComparison): VolumeResult {
  const { kind } = pair,
    levels = kind === "storage" ? levelsBetween(r.from as number, r.to as number, r.step!, r.name) : undefined,
    { whole, areas } = compare(pair, r.deadband, kept);
  if (!(whole.area > 0))
    throw refusal("volume-apart", {
      name: r.name,
      what: pair.within ? "its areas and what is compared" : "the surfaces",
    });
  return {
    name: r.name,
    method: METHODS[kind],
    ...whole,
    ...(pair.within && pair.within.areas.length > 1
      ? { byArea: areas.map((f, k) => ({ name: pair.within!.areas[k]!, ...f })) }
      : {}),
    ...(r.bulking
      ? { bulked: { cut: whole.cut * (r.bulking.cut ?? 1), fill: whole.fill * (r.bulking.fill ?? 1) } }
      : {}),
    ...(levels ? { storage: storageOf(pair.from, levels, pair.within) } : {}),
  };
}
