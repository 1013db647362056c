/** Areas and volumes as people read them, in the units that the job shows. */
import { formatGrouped } from "./round";
import { areaFactor, volumeFactor, type AreaUnit, type Unit, type VolumeUnit } from "./units";

const AREA_SHORT: Record<Unit, string> = { m: "m²", ft: "ft²", ftUS: "ftUS²" };
const VOLUME_SHORT: Record<Unit, string> = { m: "m³", ft: "ft³", ftUS: "ftUS³" };

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
