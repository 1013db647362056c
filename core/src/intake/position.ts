/**
 * What a file says about positions → coordinates of the job: stations and offsets, latitudes and longitudes, other units.
 */
import proj4 from "proj4";
import definitions from "proj4-list";
import { refusal } from "../errors";
import { stationing, type StationLine } from "../math/station";
import { METRES, type Unit } from "../math/units";
import { plural } from "../math/words";
import { pickRecords, type Records } from "../records/records";
import { undulation, type Geoid } from "./geoid";

export interface Beyond {
  number: string;
  row: number;
  by: number;
}

/**
 * Stations in `e` and offsets in `n` become coordinates. Rows more than a metre beyond an end of the line are listed.
 */
export function placeByStation(
  file: string,
  r: Records,
  line: StationLine,
  unit: Unit,
): { records: Records; beyond: Beyond[] } {
  const locate = stationing(line);
  if (!locate)
    throw refusal("file-format", {
      file,
      what: "stations and offsets",
      why: "the line that they refer to has no length",
    });
  const e = new Float64Array(r.count),
    n = new Float64Array(r.count),
    beyond: Beyond[] = [],
    most = 1 / METRES[unit];
  for (let i = 0; i < r.count; i++) {
    const at = locate(r.e[i]!, r.n[i]!);
    [e[i], n[i]] = [at.e, at.n];
    if (at.beyond > most) beyond.push({ number: r.number.at(i), row: r.row[i]!, by: at.beyond });
  }
  return { records: { ...r, e, n }, beyond };
}

/** The definition of an EPSG code from the list that ships with the application. */
export function systemOf(code: string): string {
  const found = Object.hasOwn(definitions, code)
    ? (definitions as unknown as Record<string, readonly [string, string]>)[code]
    : undefined;
  if (!found) throw refusal("system-unknown", { system: code });
  return found[1];
}

export interface Projection {
  /** Longitude and latitude in degrees → easting and northing in the job's unit. */
  forward(position: number[]): number[];
  /** The way back. */
  inverse(position: number[]): number[];
}

/** A coordinate system of the list between degrees and the job's unit. Throws a Refusal where it is not known. */
export function projectionOf(system: string, unit: Unit): Projection {
  const definition = systemOf(system),
    toGrid = proj4("+proj=longlat +datum=WGS84 +no_defs", definition);
  // proj4 gives a projected system in its own unit.
  const own = /\+to_meter=([\d.eE+-]+)/.exec(definition)?.[1];
  const metres = own
    ? Number(own)
    : /\+units=us-ft/.test(definition)
      ? METRES.ftUS
      : /\+units=ft/.test(definition)
        ? METRES.ft
        : 1;
  const factor = Math.abs(metres - METRES[unit]) < 1e-12 ? 1 : metres / METRES[unit];
  return {
    forward: (position) => toGrid.forward(position).map((x) => x * factor),
    inverse: ([e, n]) => toGrid.inverse([e! / factor, n! / factor]),
  };
}

export interface SatelliteOptions {
  system: string;
  geoid?: Geoid;
  heightAt: "mark" | "antenna";
  jobUnit: Unit;
}

/**
 * Latitude and longitude in degrees become grid coordinates of the job's system; with a geoid grid the ellipsoidal
 * height less the undulation becomes the elevation, less the target height where the height is that of the antenna.
 * Heights come in the job's unit.
 */
export function placeBySatellite(r: Records, hasHeight: boolean, options: SatelliteOptions): Records {
  const toGrid = projectionOf(options.system, options.jobUnit);
  const e = new Float64Array(r.count),
    n = new Float64Array(r.count),
    z = r.z.slice();
  const refused = r.refused.slice(),
    keep = new Uint8Array(r.count).fill(1);
  let without = 0;
  for (let i = 0; i < r.count; i++) {
    const longitude = r.e[i]!,
      latitude = r.n[i]!;
    let at: number[] = [NaN, NaN];
    if (Math.abs(latitude) <= 90 && Math.abs(longitude) <= 360) {
      try {
        at = toGrid.forward([longitude, latitude]);
      } catch {
        // proj4 throws where its projection has no answer; the row is refused below.
      }
    }
    [e[i], n[i]] = at as [number, number];
    if (!Number.isFinite(e[i]!) || !Number.isFinite(n[i]!)) {
      keep[i] = 0;
      refused.push({
        row: r.row[i]!,
        reason: `latitude ${latitude}, longitude ${longitude} has no position in ${options.system}`,
      });
      continue;
    }
    if (!hasHeight || Number.isNaN(z[i]!)) continue;
    if (options.geoid) {
      const metresUp = undulation(options.geoid, latitude, longitude);
      if (Number.isNaN(metresUp)) without++;
      z[i]! -= metresUp / METRES[options.jobUnit];
    }
    if (options.heightAt === "antenna" && !Number.isNaN(r.targetHeight[i]!)) z[i]! -= r.targetHeight[i]!;
  }
  const notes = r.notes.slice();
  if (without)
    notes.push(`${plural(without, "point")} outside the geoid grid ${without === 1 ? "has" : "have"} no elevation.`);
  if (hasHeight && !options.geoid) notes.push("The job has no geoid grid: ellipsoidal heights stand as elevations.");
  const placed = { ...r, e, n, z, refused, notes };
  return keep.includes(0) ? pickRecords(placed, keep) : placed;
}
