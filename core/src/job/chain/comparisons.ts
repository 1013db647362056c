/** What is compared, its figures, and points as built: each made again only when what it is made of is another. */
import { sameJson } from "../../math/json";
import { pointsOfSelection, readsOfSelection } from "../../sets/sets";
import { againstLine, againstSurface, type AsBuilt, type DifferenceRecipe } from "../../volumes/as-built";
import { againstPoints, pairsByNearness, pairsByNumber, type PairsRecipe } from "../../volumes/against-points";
import type { KeptComparison } from "../../volumes/compare";
import { measureVolume, pairOf, type ComparedPair } from "../../volumes/measure";
import { surfacesOf, type VolumeRecipe, type VolumeResult } from "../../volumes/model";
import {
  areasOf,
  areasWanted,
  regionsOf,
  toesOf,
  type Area,
  type AreaSources,
  type Regions,
} from "../../volumes/regions";
import { waysOf } from "./design-ways";
import type { Kept } from "./stages";
import { builtSurface, contextOf } from "./surfaces";
import type { ChainValues, Known, Made } from "./values";

/** What a comparison compares: its surfaces, areas and toe. */
export function pairMade(
  recipe: VolumeRecipe,
  values: Known<"surfaces" | "lines" | "chains" | "intakes">,
  kept: Kept,
): Made<ComparedPair> {
  const name = `pair of ${recipe.name}`;
  return kept.make(name, recipe.name, () => {
    const surfaces = surfacesOf(recipe).map((s) => builtSurface(values.surfaces, s, recipe.name).surface);
    const { lines, chains } = values,
      intakes = kept.list(
        "intakes",
        values.intakes.map((k) => k.id),
      ),
      sources = { recipe, lines, chains, intakes };
    const read = <T extends Area[]>(what: string, make: (v: AreaSources & { recipe: VolumeRecipe }) => T) =>
      kept.run(`${what} of ${name}`, ["recipe", "lines", "chains", "intakes"], sources, make, sameJson);
    const areas =
        recipe.within === undefined
          ? undefined
          : read("areas", (v) => areasOf(areasWanted(v.recipe)!, v, v.recipe.name)),
      toes = recipe.toe === undefined ? undefined : read("toe", (v) => [toesOf(v.recipe, v)]);
    const within = kept.run(
      `regions of ${name}`,
      ["areas"],
      { areas },
      (v): Regions | undefined => v.areas && regionsOf(v.areas),
    );
    const [first, second] = surfaces;
    return kept.run(
      name,
      ["recipe", "first", "second", "within", "toes"],
      { recipe, first, second, within, toes },
      (v) =>
        pairOf(
          v.recipe,
          [v.first, v.second].filter((x) => x !== undefined),
          v.within,
          v.toes?.[0]!.rings,
        ),
    );
  });
}

/** The figures of a comparison. */
export function volumeOf(recipe: VolumeRecipe, pair: Made<ComparedPair>, kept: Kept): Made<VolumeResult> {
  const name = `volume ${recipe.name}`,
    sums = kept.partly(name, (): KeptComparison => ({}));
  return kept.make(name, recipe.name, () => {
    if (!pair.ok) throw pair.refusal;
    return kept.run(name, ["recipe", "pair"], { recipe, pair: pair.value }, (v) =>
      measureVolume(v.recipe, v.pair, sums),
    );
  });
}

/** Points as built against a surface or a line; their sets may ask for what was found. */
export function asBuilt(recipe: DifferenceRecipe, values: Omit<ChainValues, "differences">, kept: Kept): Made<AsBuilt> {
  const name = `as built ${recipe.name}`;
  return kept.make(name, recipe.name, () => {
    const rows = kept.run(
      `points of ${name}`,
      ["recipe", "sets", "count", "deleted", ...readsOfSelection(recipe.points, values.sets)],
      { ...values, recipe },
      (v) => pointsOfSelection(v.recipe.points, contextOf(v), `as-built check “${recipe.name}”`),
    );
    if (recipe.surface !== undefined) {
      const { surface } = builtSurface(values.surfaces, recipe.surface, recipe.name);
      return kept.run(name, ["recipe", "rows", "e", "n", "z", "surface"], { ...values, recipe, rows, surface }, (v) =>
        againstSurface(v.recipe, v.rows, v, v.surface),
      );
    }
    if (recipe.against !== undefined) {
      const of = recipe as PairsRecipe,
        designed = kept.run(
          `designed points of ${name}`,
          ["recipe", "sets", "count", "deleted", ...readsOfSelection(of.against, values.sets)],
          { ...values, recipe },
          (v) => pointsOfSelection(v.recipe.against!, contextOf(v), `as-built check “${recipe.name}”`),
        );
      return kept.run(
        name,
        ["recipe", "rows", "designed", "number", "e", "n", "z"],
        { ...values, recipe, rows, designed },
        (v) =>
          againstPoints(
            of,
            of.by === "number"
              ? pairsByNumber(v.rows, v.designed, v.number, of.strip)
              : pairsByNearness(v.rows, v.designed, v, of.within!),
            v,
          ),
      );
    }
    const ways = kept.run(
      `ways of ${name}`,
      ["recipe", "lines", "delivered", "intakes", "files"],
      { ...values, recipe },
      (v) => waysOf(v.recipe, v.lines, v),
    );
    return kept.run(
      name,
      ["recipe", "rows", "e", "n", "z", "ways", "tolerance"],
      { ...values, recipe, rows, ways },
      (v) => againstLine(v.recipe, v.rows, v, v.ways, v.tolerance.chord),
    );
  });
}
