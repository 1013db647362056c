/** The table of stations of a line: at even stations, its ends and its bends, where each is and what levels are there. */
import { AlongWay, type DesignWay } from "./along-way";

export interface StationRow {
  station: number;
  e: number;
  n: number;
  /** Direction of the line there, radians clockwise from north. */
  azimuth: number;
  /** The line's own level, and the ground's; NaN where there is none. */
  level: number;
  ground: number;
  what: "start" | "even" | "bend" | "end";
}

/** Of a line with more even stations than this no table is made. */
export const MOST_STATIONS = 5000;

/** Rows by rising station; undefined where they would be too many. `groundAt` is asked for each place (E, N). */
export function stationTable(
  axis: AlongWay,
  every: number,
  groundAt: (e: number, n: number) => number,
): StationRow[] | undefined {
  const even = axis.even(every, MOST_STATIONS);
  if (!even) return undefined;
  const least = 1e-9 * (axis.end - axis.start),
    isOf = (list: readonly number[], x: number) => list.some((y) => Math.abs(x - y) <= least),
    bends = axis.stations.slice(1, -1).filter((x) => !isOf(even, x)),
    all = [...even, ...bends.slice(0, MOST_STATIONS)].sort((a, b) => a - b);
  return all.flatMap((station): StationRow[] => {
    const at = axis.at(station);
    if (!at) return [];
    const what =
      station === axis.start ? "start" : station === axis.end ? "end" : isOf(axis.stations, station) ? "bend" : "even";
    return [{ station, e: at.e, n: at.n, azimuth: at.azimuth, level: at.z, ground: groundAt(at.e, at.n), what }];
  });
}

/** So many equal parts, or a point every so often from the beginning. */
export type Every = { parts: number } | { length: number };

/** A position along a line. */
export interface AtStation {
  station: number;
  e: number;
  n: number;
}

/** Positions between the two ends of a way; none where they would be too many, or there is no such part. */
export function alongLine(pieces: DesignWay["pieces"], every: Every): AtStation[] {
  const axis = new AlongWay({ pieces, start: 0 }),
    { end } = axis,
    least = 1e-9 * end,
    spacing = "parts" in every ? end / every.parts : every.length,
    count = "parts" in every ? every.parts - 1 : Math.ceil((end - least) / spacing) - 1;
  if (!(spacing > 0) || !(count >= 1) || count > MOST_STATIONS) return [];
  return Array.from({ length: count }, (_, k) => {
    const station = (k + 1) * spacing,
      { e, n } = axis.at(Math.min(station, end))!;
    return { station, e, n };
  });
}
