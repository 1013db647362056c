/** How figures are shown: decimals by the unit, names of area and volume units. */
import { formatGrouped } from "@bramble/core/math/round";
import { areaFactor, volumeFactor, type AreaUnit, type Unit, type VolumeUnit } from "@bramble/core";

export const UNIT_SHORT: Record<Unit, string> = { m: "m", ft: "ft", ftUS: "ftUS" };
export const AREA_SHORT: Record<Unit, string> = { m: "m²", ft: "ft²", ftUS: "ftUS²" };
export const VOLUME_SHORT: Record<Unit, string> = { m: "m³", ft: "ft³", ftUS: "ftUS³" };

/** A count with thin spaces between its thousands. */
export function grouped(count: number): string {
  return count.toLocaleString("en-GB").replaceAll(",", "\u202f");
}

export { decimalsOf } from "@bramble/core";

/** An area in the unit that the job shows: its own square, hectares or acres. */
export function area(x: number, unit: Unit, shown: AreaUnit = "unit"): string {
  const digits = { unit: 1, ha: 4, acre: 3 }[shown];
  return `${formatGrouped(x * areaFactor(unit, shown), digits)} ${{ unit: AREA_SHORT[unit], ha: "ha", acre: "ac" }[shown]}`;
}

/** A volume in the unit that the job shows: its own cube or cubic yards. */
export function volume(x: number, unit: Unit, shown: VolumeUnit = "unit"): string {
  return `${formatGrouped(x * volumeFactor(unit, shown), 1).replace("-", "−")} ${shown === "yd" ? "yd³" : VOLUME_SHORT[unit]}`;
}

/** The same as a figure of a column whose head names the unit. */
export function volumeFigure(x: number, unit: Unit, shown: VolumeUnit = "unit"): string {
  return formatGrouped(x * volumeFactor(unit, shown), 1).replace("-", "−");
}

export function volumeUnitShort(unit: Unit, shown: VolumeUnit = "unit"): string {
  return shown === "yd" ? "yd³" : VOLUME_SHORT[unit];
}

export function when(iso: string): string {
  return new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
}
