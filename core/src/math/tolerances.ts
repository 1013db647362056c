/** The accuracy that a job asks for, lengths in its unit. */
import { fromMetres, type Unit } from "./units";

export interface Tolerances {
  /** Largest radial distance of a shot from its arc. */
  arc: number;
  /** Largest distance from chord to arc where arcs become chords. */
  chord: number;
  /** Points this close are one vertex of a surface. */
  coincident: number;
  /** Largest difference of two levels at one position of two breaklines. */
  crossing: number;
  precision: number;
  repeat: number;
}

/** The defaults of RECIPE.md, in metres. */
export const DEFAULT_TOLERANCES: Tolerances = {
  arc: 0.02,
  chord: 0.01,
  coincident: 0.001,
  crossing: 0.02,
  precision: 0.05,
  repeat: 0.02,
};

/** Default tolerances in the unit, with those given. */
export function tolerancesIn(unit: Unit, given: Partial<Tolerances> = {}): Tolerances {
  const defaults = Object.entries(DEFAULT_TOLERANCES).map(([k, metres]) => [k, fromMetres(metres, unit)]);
  return { ...(Object.fromEntries(defaults) as unknown as Tolerances), ...given };
}
