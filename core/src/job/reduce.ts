/** The reduction of a state's raw observations, and what its files bring as reference. */
import type { IntakeInfo } from "../intake/model";
import { DEFAULT_CURVATURE } from "../points/setups";
import type { Delivered } from "../records/delivered";
import type { SurfaceRecipe } from "../surface/model";
import { compileBook } from "../codes/book";
import { placePast } from "../codes/past";
import { refusal } from "../errors";
import { asShot } from "../points/shots";
import { reduceObservations, type Reduced, type SetupReport } from "../points/reduce";
import type { Reference, ReferenceSurface } from "../records/reference";
import { type JobDefinition, type JobState } from "./model";
import type { PointTable } from "../points/table";

/** As much of a state as the places of its points depend on. */
export type Reducible = Pick<JobDefinition, "unit" | "tolerance" | "curvature" | "scaleFactor" | "setups" | "book">
  & { intakes: readonly Pick<IntakeInfo, "id">[]; delivered: readonly Delivered[]; points: PointTable };

export function reduceState(s: Reducible): Reduced {
  const edits = s.setups.flatMap((e) => {
    const intakeIndex = s.intakes.findIndex((k) => k.id === e.intake);
    // An edit of an intake that was withdrawn waits for it to come back.
    return intakeIndex < 0 ? [] : [{ ...e, intakeIndex }];
  });
  return reduceObservations(asShot(s.points), s.delivered, edits, {
    unit: s.unit, tolerance: s.tolerance, curvature: s.curvature === false ? false : { ...DEFAULT_CURVATURE, ...s.curvature }, scaleFactor: s.scaleFactor ?? 1,
  });
}

/**
 * The state with its observed points where the observations put them, and objects that could not be occupied where `past` says:
 * to be called after anything that they depend on changed.
 */
export function withPlaces<S extends Reducible>(state: S): S {
  const reduced = state.delivered.some((d) => d.survey) ? reduceState(state).points : state.points;
  const points = placePast(reduced, compileBook(state.book));
  return points === state.points ? state : { ...state, points };
}

export function setupReports(state: JobState): SetupReport[] {
  return reduceState(state).setups;
}

/** References of the state's files, by file name. */
export function referencesOf(state: Pick<JobState, "intakes" | "delivered" | "files">): { file: string; reference: Reference }[] {
  return [...state.intakes.flatMap((k, i) => {
    const reference = state.delivered[i]?.reference;
    return reference ? [{ file: k.file, reference }] : [];
  }), ...(state.files ?? [])];
}

/** The surface of a file that a recipe names; the file's only one when it names none. */
export function referenceSurface(state: JobState, recipe: SurfaceRecipe): ReferenceSurface {
  const surfaces = referencesOf(state).filter((r) => r.file === recipe.file).flatMap((r) => r.reference.surfaces);
  const found = recipe.surface === undefined ? surfaces[0] : surfaces.find((s) => s.name === recipe.surface);
  if (!found) throw refusal("reference-missing", { path: `surface “${recipe.name}”`, what: surfaces.length ? "surface" : "file with a surface", name: recipe.surface ?? recipe.file! });
  return found;
}
