/** Areas and volumes as people read them, in the units that the job shows. */
import { formatGrouped } from "./round";
import { areaFactor, volumeFactor, type AreaUnit, type Unit, type VolumeUnit } from "./units";

const SQUARE: Record<Unit, string> = { m: "m²", ft: "ft²", ftUS: "ftUS²" };
const CUBE: Record<Unit, string> = { m: "m³", ft: "ft³", ftUS: "ftUS³" };

export const areaUnitShort = (unit: Unit, shown: AreaUnit = "unit"): string =>
  ({ unit: SQUARE[unit], ha: "ha", acre: "ac" })[shown];
export const volumeUnitShort = (unit: Unit, shown: VolumeUnit = "unit"): string =>
  ({ unit: CUBE[unit], yd: "yd³", acft: "ac·ft" })[shown];

/** Decimals of areas: a tenth of a square, a square metre of a hectare, a thousandth of an acre. */
export const AREA_DECIMALS: Record<AreaUnit, number> = { unit: 1, ha: 4, acre: 3 };
/** Decimals of volumes: a tenth of a cube or a cubic yard, a thousandth of an acre-foot. */
export const VOLUME_DECIMALS: Record<VolumeUnit, number> = { unit: 1, yd: 1, acft: 3 };

/** An area in the unit that the job shows: its own square, hectares or acres. */
export function area(x: number, unit: Unit, shown: AreaUnit = "unit"): string {
  return `${areaFigure(x, unit, shown)} ${areaUnitShort(unit, shown)}`;
}

/** The same as a figure of a column whose head names the unit. */
export function areaFigure(x: number, unit: Unit, shown: AreaUnit = "unit"): string {
  return formatGrouped(x * areaFactor(unit, shown), AREA_DECIMALS[shown]);
}

/** A volume in the unit that the job shows: its own cube, cubic yards or acre-feet. */
export function volume(x: number, unit: Unit, shown: VolumeUnit = "unit"): string {
  return `${volumeFigure(x, unit, shown)} ${volumeUnitShort(unit, shown)}`;
}

/** The same as a figure of a column whose head names the unit. */
export function volumeFigure(x: number, unit: Unit, shown: VolumeUnit = "unit"): string {
  return formatGrouped(x * volumeFactor(unit, shown), VOLUME_DECIMALS[shown]).replace("-", "−");
}
