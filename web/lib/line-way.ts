/** A line of the job as a way in plan, by its key. */
import type { JobState } from "@bramble/core";
import { stationing } from "@bramble/core/math/station";
import type { PlanWay } from "@bramble/core/surface/section";
import { lineAt, type View } from "./view";

export function wayOfLine(view: View, key: string): { way: PlanWay; name: string } | undefined {
  const k = lineAt(view, key),
    line = k === undefined ? undefined : view.lines[k];
  if (k === undefined || !line) return undefined;
  const { xyz, starts } = view.chains,
    way: [number, number][] = [];
  for (let v = starts[k]!; v < starts[k + 1]!; v++) way.push([xyz[3 * v]!, xyz[3 * v + 1]!]);
  return way.length > 1 ? { way, name: line.run ? `${line.code} ${line.run}` : line.code } : undefined;
}

/** An arc is followed by chords of this angle, radians: a fifth of a millimetre in a kilometre. */
const CHORD = 0.002;

/** Named lines of files as ways in plan, with the station at which each begins. */
export function axesOfFiles({ intakes, delivered }: JobState): { way: PlanWay; name: string; start: number }[] {
  return intakes.flatMap(({ file }, i) =>
    (delivered[i]?.reference?.lines ?? []).flatMap((l) => {
      const at = l.name ? stationing(l) : undefined;
      if (!at) return [];
      const way: [number, number][] = [],
        count = l.xyz.length / 3;
      let station = l.start;
      for (let k = 0; k < l.sweep.length; k++) {
        const [a, b] = [k % count, (k + 1) % count],
          chord = Math.hypot(l.xyz[3 * b]! - l.xyz[3 * a]!, l.xyz[3 * b + 1]! - l.xyz[3 * a + 1]!),
          turn = Math.abs(l.sweep[k]!),
          length = turn === 0 ? chord : (chord / (2 * Math.sin(turn / 2))) * turn,
          steps = Math.max(1, Math.ceil(turn / CHORD));
        for (let j = 0; j < steps; j++) {
          const p = at(station + (length * j) / steps, 0);
          way.push([p.e, p.n]);
        }
        station += length;
      }
      const end = at(station, 0);
      way.push([end.e, end.n]);
      return [{ way, name: `${l.name}, ${file}`, start: l.start }];
    }),
  );
}
