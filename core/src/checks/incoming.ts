/** Values of an intake that are out of the ordinary, told before it is taken in. */
import type { Tolerances } from "../math/tolerances";
import type { CrewRange } from "../points/numbers";
import { lengthText, METRES, type Unit } from "../math/units";
import { worstPrecision } from "../points/precision";
import type { PointTable } from "../points/table";

export interface OddValue {
  row: number;
  number: string;
  what: "precision" | "target height" | "elevation" | "number" | "attribute" | "station" | "position";
  text: string;
}

export interface IncomingContext {
  unit: Unit;
  tolerance: Tolerances;
  range?: CrewRange;
}

/** Target heights outside this, in metres, are slips of the keyboard. */
const HIGHEST_TARGET = 10;
/**
 * Levels this many times the median deviation from the middle, and this many metres at least, are far from the rest.
 */
const FAR_TIMES = 12,
  FAR_METRES = 10;

export function oddValues(t: PointTable, rest: PointTable, c: IncomingContext): OddValue[] {
  const out: OddValue[] = [];
  const say = (i: number, what: OddValue["what"], text: string) =>
    out.push({ row: t.row[i]!, number: t.number[i]!, what, text });
  const { middle, far } = levelsOf(t, rest, c.unit);
  const text = (x: number) => lengthText(x, c.unit),
    most = HIGHEST_TARGET / METRES[c.unit];
  for (let i = 0; i < t.count; i++) {
    const { value: worst, name } = worstPrecision(t, i);
    if (worst > c.tolerance.precision)
      say(i, "precision", `${name} ${text(worst)} is above the job's ${text(c.tolerance.precision)}`);
    if (t.targetHeight[i]! < 0 || t.targetHeight[i]! > most)
      say(
        i,
        "target height",
        `target height ${text(t.targetHeight[i]!)} is not between 0 and ${lengthText(most, c.unit, 0)}`,
      );
    if (Math.abs(t.z[i]! - middle) > far)
      say(i, "elevation", `elevation ${text(t.z[i]!)} is far from the rest, about ${text(middle)}`);
    if (
      c.range &&
      /^\d{1,15}$/.test(t.number[i]!) &&
      (Number(t.number[i]) < c.range.from || Number(t.number[i]) > c.range.to)
    ) {
      say(i, "number", `number ${t.number[i]} is outside ${c.range.from} to ${c.range.to} of crew ${c.range.crew}`);
    }
  }
  return out;
}

/** Median of the levels and the distance from it that is far. */
function levelsOf(t: PointTable, rest: PointTable, unit: Unit): { middle: number; far: number } {
  const levels: number[] = [];
  for (const table of [t, rest]) {
    const step = Math.max(1, Math.floor(table.count / 20_000));
    for (let i = 0; i < table.count; i += step)
      if (!table.deleted[i] && !Number.isNaN(table.z[i]!)) levels.push(table.z[i]!);
  }
  if (levels.length < 5) return { middle: NaN, far: NaN };
  const sorted = Float64Array.from(levels).sort(),
    middle = sorted[sorted.length >> 1]!;
  const deviations = sorted.map((z) => Math.abs(z - middle)).sort();
  return { middle, far: Math.max(FAR_METRES / METRES[unit], FAR_TIMES * 1.4826 * deviations[deviations.length >> 1]!) };
}
