/** How figures are shown: decimals by the unit, names of area and volume units. */
import type { Unit } from "@bramble/core";

export const UNIT_SHORT: Record<Unit, string> = { m: "m", ft: "ft", ftUS: "ftUS" };

/** A count with thin spaces between its thousands. */
export function grouped(count: number): string {
  return count.toLocaleString("en-GB").replaceAll(",", "\u202f");
}

export { decimalsOf } from "@bramble/core";

export { area, areaFigure, areaUnitShort, volume, volumeFigure, volumeUnitShort } from "@bramble/core/math/figures";

export function when(iso: string): string {
  return new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
}
