/** What stands beside the figures of a comparison so that they can be defended. */
import { balanced, balanceLevel } from "./by-level";
import { compare } from "./compare";
import type { ComparedPair } from "./measure";
import type { VolumeRecipe } from "./model";
import { precisionOf, type Precision, type ShotPrecision } from "./precision";
import type { AlongWay } from "./along-way";
import {
  boxOf,
  endAreas,
  endAreasAcross,
  gridOpinion,
  sectionsWanted,
  type EndAreas,
  type GridOpinion,
} from "./second-opinion";

export interface Opinions {
  endAreas?: EndAreas;
  grid?: GridOpinion;
  precision?: Precision;
  /** Of each area where there are several, in their order. */
  byArea?: (Precision | undefined)[];
  /** The level, or how far the second surface must be raised, so that cut and fill are equal, each with its factor. */
  balance?: { level: number } | { raise: number };
}

/**
 * Average end areas as the recipe asks for them, across a line where it names one, or as its box suggests; undefined where
 * nothing is in common, or where the line is gone.
 */
export function endAreasOf(r: VolumeRecipe, pair: ComparedPair, axis: AlongWay | undefined): EndAreas | undefined {
  if (typeof r.sections === "object" && "line" in r.sections)
    return axis && endAreasAcross(pair, axis, r.sections, r.deadband);
  const box = boxOf(pair);
  return box && endAreas(pair, sectionsWanted(r, box), r.deadband);
}

/** Second opinions, uncertainty and balance of one comparison. */
export function opinionsOf(r: VolumeRecipe, pair: ComparedPair, shots: ShotPrecision, axis?: AlongWay): Opinions {
  return Object.assign({}, ...opinionSteps(r, pair, shots, axis)) as Opinions;
}

/** The same one after another, what is asked for most first, so that something else can be done between. */
export function* opinionSteps(
  r: VolumeRecipe,
  pair: ComparedPair,
  shots: ShotPrecision,
  axis?: AlongWay,
): Generator<Partial<Opinions>, void> {
  const { deadband = 0 } = r,
    areas = pair.within?.areas ?? [];
  yield { precision: precisionOf(pair, shots, deadband) };
  yield { endAreas: endAreasOf(r, pair, axis) };
  yield { grid: gridOpinion(pair, deadband) };
  yield { balance: balanceOf(r, pair) };
  if (areas.length < 2) return;
  const byArea: Opinions["byArea"] = [];
  for (let k = 0; k < areas.length; k++) {
    byArea.push(precisionOf(pair, shots, deadband, k));
    yield { byArea: byArea.slice() };
  }
}

/** Half-edges of both surfaces up to which a balance is found by trying. */
const MOST_TRIED = 1_500_000;

function balanceOf(r: VolumeRecipe, pair: ComparedPair): Opinions["balance"] {
  const { deadband = 0, bulking = {} } = r,
    { from, to, within } = pair;
  if (pair.kind === "level") {
    const level = balanceLevel(from, within, deadband, bulking);
    return level === undefined ? undefined : { level };
  }
  if (pair.kind !== "surfaces" || typeof to === "number") return undefined;
  const at = (raise: number) => {
    const { whole: f } = compare(
      { from, to: raise === 0 ? to : { ...to, z: to.z.map((z) => z + raise) }, within },
      deadband,
    );
    return { net: f.fill * (bulking.fill ?? 1) - f.cut * (bulking.cut ?? 1), moved: f.fill + f.cut, area: f.area };
  };
  const now = at(0);
  if (now.area === 0) return undefined;
  if (deadband === 0 && (bulking.cut ?? 1) === (bulking.fill ?? 1))
    return { raise: -now.net / (bulking.cut ?? 1) / now.area };
  // Each try is a whole comparison: of large surfaces the balance is not looked for.
  if (from.tri.length + to.tri.length > MOST_TRIED) return undefined;
  // Far enough either way that all is fill, or all is cut.
  let reach = Math.max(1e-6, (2 * now.moved) / now.area + 2 * deadband);
  for (let k = 0; k < 60 && (at(reach).net < 0 || at(-reach).net > 0); k++) reach *= 2;
  const raise = balanced(at, -reach, reach);
  return raise === undefined ? undefined : { raise };
}
