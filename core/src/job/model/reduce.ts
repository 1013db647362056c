/** The reduction of a state's raw observations, and what its files bring as reference. */
import { compileBook } from "../../codes/book";
import { placePast } from "../../codes/past";
import { refusal } from "../../errors";
import type { IntakeInfo } from "../../intake/model";
import { sameColumn } from "../../math/columns";
import { reduceObservations, type Reduced } from "../../points/reduce";
import type { SetupReport } from "../../points/setup-report";
import { DEFAULT_CURVATURE } from "../../points/setups";
import { asShot } from "../../points/shots";
import type { PointTable, ShotPositions } from "../../points/table";
import type { Delivered } from "../../records/delivered";
import type { Reference, ReferenceSurface } from "../../records/reference";
import type { SurfaceRecipe } from "../../surface/model";
import type { JobDefinition, JobState } from "./model";

/** As much of a state as the positions of its points depend on. */
export type Reducible = Pick<JobDefinition, "unit" | "tolerance" | "curvature" | "scaleFactor" | "setups" | "book"> & {
  intakes: readonly Pick<IntakeInfo, "id">[];
  delivered: readonly Delivered[];
  points: PointTable;
};

export function reduceState(s: Omit<Reducible, "book">): Reduced {
  const edits = s.setups.flatMap((e) => {
    const intakeIndex = s.intakes.findIndex((k) => k.id === e.intake);
    // An edit of an intake that was withdrawn waits for it to come back.
    return intakeIndex < 0 ? [] : [{ ...e, intakeIndex }];
  });
  return reduceObservations(asShot(s.points), s.delivered, edits, {
    unit: s.unit,
    tolerance: s.tolerance,
    curvature: s.curvature === false ? false : { ...DEFAULT_CURVATURE, ...s.curvature },
    scaleFactor: s.scaleFactor ?? 1,
  });
}

/**
 * The state with its observed points where the observations put them, and objects that could not be occupied where
 * `past` says: to be called after anything that they depend on changed. The one way of placing, on the page, on the
 * server and in the command. Columns in which nothing changed stay the same.
 */
export function withPositions<S extends Reducible>(state: S): S {
  const was = state.points,
    reduced = state.delivered.some((d) => d.survey) ? reduceState(state).points : was;
  const now = placePast(reduced, compileBook(state.book));
  if (now === was) return state;
  const { shotAt: _, ...rest } = now,
    shotAt = now.shotAt && sameShots(was.shotAt, now.shotAt);
  const columns = {
    e: sameColumn(was.e, now.e),
    n: sameColumn(was.n, now.n),
    z: sameColumn(was.z, now.z),
    deleted: sameColumn(was.deleted, now.deleted),
  };
  return { ...state, points: { ...rest, ...columns, ...(shotAt ? { shotAt } : {}) } };
}

function sameShots(was: ShotPositions | undefined, now: ShotPositions): ShotPositions {
  const same =
    was?.size === now.size && [...now].every(([id, at]) => was.get(id)?.every((x, k) => Object.is(x, at[k])));
  return same ? was! : now;
}

export function setupReports(state: Omit<Reducible, "book">): SetupReport[] {
  return reduceState(state).setups;
}

/** References of the state's files, by file name. */
export function referencesOf(
  state: Pick<JobState, "intakes" | "delivered" | "files">,
): { file: string; reference: Reference }[] {
  return [
    ...state.intakes.flatMap((k, i) => {
      const reference = state.delivered[i]?.reference;
      return reference ? [{ file: k.file, reference }] : [];
    }),
    ...(state.files ?? []),
  ];
}

/** The surface of a file that a recipe names; the file's only one when it names none. */
export function referenceSurface(
  state: Pick<JobState, "intakes" | "delivered" | "files">,
  recipe: SurfaceRecipe,
): ReferenceSurface {
  const surfaces = referencesOf(state)
    .filter((r) => r.file === recipe.file)
    .flatMap((r) => r.reference.surfaces);
  const found = recipe.surface === undefined ? surfaces[0] : surfaces.find((s) => s.name === recipe.surface);
  if (!found)
    throw refusal("reference-missing", {
      path: `surface “${recipe.name}”`,
      what: surfaces.length ? "surface" : "file with a surface",
      name: recipe.surface ?? recipe.file!,
    });
  return found;
}
