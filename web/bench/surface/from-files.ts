/** Lines and surfaces that files brought, for a surface to take. */
import { useMemo } from "react";
import { referencesOf } from "@bramble/core/job/model/reduce";
import { chordsOfLeg, type ReferenceLine } from "@bramble/core/records/reference";
import { useParts } from "../../lib/store";

export interface OfFile {
  file: string;
  lines: readonly ReferenceLine[];
  /** Names of its surfaces. */
  surfaces: readonly string[];
}

export function useFiles(): OfFile[] {
  const { job } = useParts("job"),
    { delivered, intakes, files } = job;
  return useMemo(
    () =>
      referencesOf({ delivered, intakes, files }).map(({ file, reference }) => ({
        file,
        lines: reference.lines,
        surfaces: reference.surfaces.map((s) => s.name),
      })),
    [delivered, intakes, files],
  );
}

/** The names of lines, each once, with how many bear it. */
export function namesOf(lines: readonly ReferenceLine[]): [name: string, count: number][] {
  const counts = new Map<string, number>();
  for (const { name } of lines) if (name) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts];
}

/** The corners of a closed line, arcs as chords. */
export function ringOf(line: ReferenceLine): [number, number][] {
  return Array.from(line.sweep.keys()).flatMap((leg) =>
    chordsOfLeg(line, leg)
      .slice(0, -1)
      .map(([e, n]): [number, number] => [e, n]),
  );
}
