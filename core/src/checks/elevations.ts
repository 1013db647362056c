/** Findings about levels: missing ones, and zeros that a device wrote for "none". */
import { finding, type Finding } from "../finding";
import { plural, someOf } from "../math/words";
import type { PointTable } from "../points/table";

/** One finding for all points without an elevation: it is common (positions only) and no error by itself. */
export function missingElevations(t: PointTable): Finding[] {
  const points: string[] = [];
  let at: [number, number] | undefined;
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || !Number.isNaN(t.z[i]!)) continue;
    points.push(t.number[i]!);
    at ??= [t.e[i]!, t.n[i]!];
  }
  if (!at) return [];
  return [finding("no-elevation", "note", `${plural(points.length, "point")} without an elevation (${someOf(points)}): kept out of surfaces.`, { points, at })];
}

/** An elevation of exactly 0 while the middle half of the job's levels lies farther from 0 than its own spread. */
export function zeroElevations(t: PointTable): Finding[] {
  const zeros: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && t.z[i] === 0) zeros.push(i);
  if (zeros.length === 0) return [];
  const known = new Float64Array(t.count);
  let count = 0;
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && !Number.isNaN(t.z[i]!)) known[count++] = t.z[i]!;
  const levels = known.subarray(0, count).sort();
  const low = levels[Math.floor((levels.length - 1) / 4)]!, high = levels[Math.ceil((3 * (levels.length - 1)) / 4)]!;
  const distance = low > 0 ? low : high < 0 ? -high : 0;
  if (!(distance > high - low)) return [];
  return zeros.map((i) => finding("zero-elevation", "error",
    `Point ${t.number[i]} has the elevation 0 while the job lies about ${levels[levels.length >> 1]!.toFixed(1)}: type its level, or take it out of the surface.`, {
      points: [t.number[i]!], at: [t.e[i]!, t.n[i]!], data: { low, high },
    }));
}

/** Points whose given precision is worse than the job's tolerance. */
export function poorPrecision(t: PointTable, tolerance: number): Finding[] {
  const out: Finding[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || !(t.precision[i]! > tolerance)) continue;
    out.push(finding("precision", "warning", `Point ${t.number[i]} has a precision of ${t.precision[i]}, worse than the job's ${+tolerance.toPrecision(6)}.`, {
      points: [t.number[i]!], at: [t.e[i]!, t.n[i]!], data: { precision: t.precision[i] },
    }));
  }
  return out;
}
