/** Findings about levels: missing ones, zeros that a device wrote for "none", and poor precision. */
import { notice, pts, say, type Noticed } from "../finding";
import { lengthText, type Unit } from "../math/units";
import { plural } from "../math/words";
import { worstPrecision } from "../points/precision";
import type { PointTable } from "../points/table";

type Levels = Pick<PointTable, "count" | "e" | "n" | "z" | "deleted">;

/** One finding for all points without an elevation: it is common (positions only) and no error by itself. */
export function missingElevations(t: Levels): Noticed[] {
  const points: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && Number.isNaN(t.z[i]!)) points.push(i);
  const first = points[0];
  if (first === undefined) return [];
  const words = say`${plural(points.length, "point")} without an elevation (${pts(points)}): kept out of surfaces.`;
  return [notice("no-elevation", "note", words, { points, at: [t.e[first]!, t.n[first]!], subject: "all" })];
}

/** An elevation of exactly 0 while the middle half of the job's levels lies farther from 0 than its own spread. */
export function zeroElevations(t: Levels, unit: Unit): Noticed[] {
  const zeros: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && t.z[i] === 0) zeros.push(i);
  if (zeros.length === 0) return [];
  const known = new Float64Array(t.count);
  let count = 0;
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && !Number.isNaN(t.z[i]!)) known[count++] = t.z[i]!;
  const levels = known.subarray(0, count).sort();
  const low = levels[Math.floor((levels.length - 1) / 4)]!,
    high = levels[Math.ceil((3 * (levels.length - 1)) / 4)]!;
  const distance = low > 0 ? low : high < 0 ? -high : 0;
  if (!(distance > high - low)) return [];
  const about = lengthText(levels[levels.length >> 1]!, unit, 1);
  return zeros.map((i) =>
    notice(
      "zero-elevation",
      "error",
      say`Point ${pts(i)} has the elevation 0 while the job lies about ${about}: type its level, or take it out of the surface.`,
      { points: [i], at: [t.e[i]!, t.n[i]!] },
    ),
  );
}

/** Points whose given precision is worse than the job's tolerance. */
export function poorPrecision(
  t: Pick<PointTable, "count" | "e" | "n" | "precision" | "measured" | "deleted">,
  tolerance: number,
  unit: Unit,
): Noticed[] {
  const out: Noticed[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    const { value, name } = worstPrecision(t, i);
    if (!(value > tolerance)) continue;
    out.push(
      notice(
        "precision",
        "warning",
        say`Point ${pts(i)} has a ${name} of ${lengthText(value, unit)}, worse than the job's ${lengthText(tolerance, unit)}.`,
        { points: [i], at: [t.e[i]!, t.n[i]!], data: { precision: value } },
      ),
    );
  }
  return out;
}
