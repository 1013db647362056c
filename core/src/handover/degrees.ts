/** Positions of the job in longitude and latitude. */
import { refusal } from "../errors";
import { projectionOf } from "../intake/position";
import { METRES } from "../math/units";
import type { HandoverSource } from "./source";

/** Longitude and latitude in degrees, and the elevation in metres as it stands: nothing is added for the geoid. */
export type ToDegrees = (e: number, n: number, z: number) => [number, number, number];

/** Throws a Refusal for the file where the job has no coordinate system, or a position has no place in it. */
export function toDegrees(file: string, { system, unit }: Pick<HandoverSource, "system" | "unit">): ToDegrees {
  if (!system) throw refusal("handover-system", { file });
  const { inverse } = projectionOf(system, unit);
  return (e, n, z) => {
    let at: number[] = [];
    try {
      at = inverse([e, n]);
    } catch {
      // proj4 throws where its projection has no answer.
    }
    const [longitude = NaN, latitude = NaN] = at;
    if (!Number.isFinite(longitude) || !(Math.abs(latitude) <= 90))
      throw refusal("handover-position", { file, system, e, n });
    return [longitude, latitude, z * METRES[unit]];
  };
}

/** Longitude, latitude and metres → the job's coordinates. */
export function fromDegrees({
  system,
  unit,
}: Pick<HandoverSource, "system" | "unit">): (at: readonly number[]) => number[] {
  const { forward } = projectionOf(system!, unit);
  return ([longitude, latitude, height = NaN]) => [...forward([longitude!, latitude!]), height / METRES[unit]];
}
