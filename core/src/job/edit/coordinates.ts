/** Coordinates given to points as they stand: what is stored of a moved point is what its moves bring there. */
import { refusal } from "../../errors";
import { fieldValue, isConstructed } from "../../points/edits";
import { fittedBy, movesOf, positionBefore } from "../../points/moves";
import type { PointTable } from "../../points/table";
import { FOLLOWS_Z } from "../../records/kinds";
import type { PointEdit } from "../change/change";

export const COORDINATES = ["easting", "northing", "elevation"] as const;
type Coordinate = (typeof COORDINATES)[number];
export const isCoordinate = (field: string): field is Coordinate => (COORDINATES as readonly string[]).includes(field);

/** Why a coordinate of a point cannot be given; undefined where it can. */
export function whyNotGiven(t: PointTable, row: number, field: Coordinate) {
  if (isConstructed(t, row, field)) return refusal("point-follows", { number: t.number[row]! });
  const fit = fittedBy(t.stored, row, field === "elevation");
  return fit && refusal("point-fitted", { number: t.number[row]!, move: fit.name });
}

/**
 * The edits by which a point comes to stand at coordinates, without those that are so already. `t` is the points as they
 * stand. Throws the Refusal of one that cannot be given.
 */
export function coordinateEdits(
  t: PointTable,
  row: number,
  wanted: Partial<Record<Coordinate, number | null>>,
): PointEdit[] {
  const given = COORDINATES.filter((field) => wanted[field] !== undefined);
  for (const field of given) {
    const why = whyNotGiven(t, row, field);
    if (why) throw why;
  }
  const edit = (field: Coordinate, value: number | null): PointEdit[] => {
    const old = fieldValue(t, row, field);
    return Object.is(old, value) ? [] : [{ id: t.id[row]!, field, old, new: value }];
  };
  const { stored } = t;
  if (!stored || movesOf(stored, row).length === 0) return given.flatMap((field) => edit(field, wanted[field]!));
  const wantedOr = (field: Coordinate, now: number) => wanted[field] ?? (field in wanted ? NaN : now),
    before = positionBefore(stored, row, [
      wantedOr("easting", t.e[row]!),
      wantedOr("northing", t.n[row]!),
      wantedOr("elevation", t.z[row]!),
    ]),
    was = [stored.e[row]!, stored.n[row]!, stored.z[row]!];
  return COORDINATES.flatMap((field, k) =>
    given.includes(field) || !Object.is(before[k], was[k])
      ? edit(field, Number.isNaN(before[k]!) ? null : before[k]!)
      : [],
  );
}

/** Whether the level of a point follows observations, whatever moves it after that. */
export const levelIsObserved = (t: PointTable, row: number): boolean =>
  ((t.stored ?? t).follows[row]! & FOLLOWS_Z) !== 0;
