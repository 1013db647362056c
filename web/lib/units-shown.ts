/** How figures are shown: decimals by the unit, names of area and volume units. */
import { formatGrouped } from "@bramble/core/math/round";
import type { Unit } from "@bramble/core";

export const UNIT_SHORT: Record<Unit, string> = { m: "m", ft: "ft", ftUS: "ftUS" };
export const AREA_SHORT: Record<Unit, string> = { m: "m²", ft: "ft²", ftUS: "ftUS²" };
export const VOLUME_SHORT: Record<Unit, string> = { m: "m³", ft: "ft³", ftUS: "ftUS³" };

/** Decimals of coordinates and levels: a millimetre, or a hundredth of a foot. */
export function decimalsOf(unit: Unit): number {
  return unit === "m" ? 3 : 2;
}

export function area(x: number, unit: Unit): string {
  return `${formatGrouped(x, 1)} ${AREA_SHORT[unit]}`;
}

export function volume(x: number, unit: Unit): string {
  return `${formatGrouped(x, 1).replace("-", "−")} ${VOLUME_SHORT[unit]}`;
}

export function when(iso: string): string {
  return new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
}
