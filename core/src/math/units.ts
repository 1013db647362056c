/** Length units of a job and what a person may type for a length. */
import { formatFixed } from "./round";

export const UNITS = ["m", "ft", "ftUS"] as const;
export type Unit = (typeof UNITS)[number];

/** Metres in one unit; the feet are exact ratios by definition. */
export const METRES: Record<Unit, number> = { m: 1, ft: 0.3048, ftUS: 1200 / 3937 };

export const UNIT_NAMES: Record<Unit, string> = { m: "metre", ft: "international foot", ftUS: "US survey foot" };

/** As lengths are counted in it: “in US survey feet”. */
export const UNIT_NAMES_MANY: Record<Unit, string> = { m: "metres", ft: "international feet", ftUS: "US survey feet" };

export const AREA_UNITS = ["unit", "ha", "acre"] as const;
export type AreaUnit = (typeof AREA_UNITS)[number];
export const VOLUME_UNITS = ["unit", "yd", "acft"] as const;
export type VolumeUnit = (typeof VOLUME_UNITS)[number];

/** The foot of acres and cubic yards: the job's own, the international one in a metric job. */
const footOf = (unit: Unit): Unit => (unit === "m" ? "ft" : unit);

/**
 * How many of the shown area unit one square of the job's unit is. An acre is 43,560 square feet, a hectare 10,000 m².
 */
export function areaFactor(unit: Unit, shown: AreaUnit): number {
  if (shown === "ha") return METRES[unit] ** 2 / 10_000;
  if (shown === "acre") return unitFactor(unit, footOf(unit)) ** 2 / 43_560;
  return 1;
}

/**
 * How many of the shown volume unit one cube of the job's unit is. A cubic yard is 27 cubic feet, an acre-foot 43,560.
 */
export function volumeFactor(unit: Unit, shown: VolumeUnit): number {
  return shown === "unit" ? 1 : unitFactor(unit, footOf(unit)) ** 3 / (shown === "yd" ? 27 : 43_560);
}

/** Decimals of coordinates and levels: a millimetre, or a hundredth of a foot. */
export function decimalsOf(unit: Unit): number {
  return unit === "m" ? 3 : 2;
}

/** Of what should be nothing, such as a misclosure: one decimal more than coordinates have, so that it is seen. */
export const misclosureDecimals = (unit: Unit): number => decimalsOf(unit) + 1;

/** A length with its unit, in words for people. */
export function lengthText(x: number, unit: Unit, decimals = decimalsOf(unit)): string {
  return `${formatFixed(x, decimals)} ${unit}`;
}

/**
 * Metres in a unit of lengths as an attribute names it; inches are twelfths of the job's foot, of the international one in
 * a metric job. Undefined for what is no unit of lengths.
 */
export function metresOf(name: string, job: Unit): number | undefined {
  if (name === "mm") return 0.001;
  if (name === "cm") return 0.01;
  if (name === "in") return METRES[footOf(job)] / 12;
  return UNITS.includes(name as Unit) ? METRES[name as Unit] : undefined;
}

/** A length in metres expressed in the job's unit. */
export function fromMetres(metres: number, unit: Unit): number {
  return metres / METRES[unit];
}

/** The factor that turns lengths of one unit into another. 1 exactly when they are the same. */
export function unitFactor(from: Unit, to: Unit): number {
  return from === to ? 1 : METRES[from] / METRES[to];
}

/**
 * Reads a typed length such as `1.5m`, `4.25 ft`, `4.25ftUS`, `5' 3 1/2"` or a bare number, in the job's unit.
 * A foot sign means the job's own foot, or the international foot in a metric job. Undefined when it cannot be read.
 */
export function readLength(text: string, unit: Unit): number | undefined {
  const t = text.trim();
  const plain = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+))\s*(m|mm|cm|ft|ftus)?$/i.exec(t);
  if (plain) {
    const value = Number(plain[1]);
    const suffix = plain[2]?.toLowerCase();
    if (suffix === undefined) return value;
    if (suffix === "mm") return (value / 1000) * unitFactor("m", unit);
    if (suffix === "cm") return (value / 100) * unitFactor("m", unit);
    return value * unitFactor(suffix === "ftus" ? "ftUS" : (suffix as Unit), unit);
  }
  // Inches are a number, whole ones with a fraction behind a blank, or a fraction alone.
  const feet = /^([+-]?)(\d+(?:\.\d+)?)'(?:\s*(?:(\d+(?:\.\d+)?)|(?:(\d+)\s+)?(\d+)\/(\d+))")?$/.exec(t);
  if (!feet) return undefined;
  const [, sign, whole, plainInches = 0, wholeInches = 0, above = 0, below = 1] = feet;
  if (Number(below) === 0) return undefined;
  const inches = Number(plainInches) + Number(wholeInches) + Number(above) / Number(below);
  const value = (sign === "-" ? -1 : 1) * (Number(whole) + inches / 12);
  return value * unitFactor(unit === "m" ? "ft" : unit, unit);
}
