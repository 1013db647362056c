/** Stations as people write them: `1560.10`, or with a plus after the hundreds of feet (15+60.10) or thousands of metres. */
import { formatFixed } from "./round";
import { decimalsOf, type Unit } from "./units";

export const STATION_STYLES = ["plain", "plus"] as const;
export type StationStyle = (typeof STATION_STYLES)[number];

/** What stands before the plus counts: hundreds of feet, thousands of metres. */
const WHOLE: Record<Unit, number> = { m: 1000, ft: 100, ftUS: 100 };

export function stationText(station: number, unit: Unit, style: StationStyle, decimals = decimalsOf(unit)): string {
  const text = formatFixed(Math.abs(station), decimals),
    sign = station < 0 && Number(text) !== 0 ? "−" : "";
  if (style === "plain") return sign + text;
  // Rounded first, so that 99.999 carries.
  const [digits, fraction] = text.split(".") as [string, string | undefined],
    size = String(WHOLE[unit]).length - 1,
    padded = digits.padStart(size + 1, "0");
  return `${sign}${padded.slice(0, -size)}+${padded.slice(-size)}${fraction === undefined ? "" : `.${fraction}`}`;
}

/**
 * A station as it is written, in either way: two digits after the plus are of hundreds, three of thousands, whatever the
 * unit. Undefined when it is none.
 */
export function readStation(text: string): number | undefined {
  const m = /^([+-]?)(?:(\d{1,9})\+(\d{2,3})|(\d{1,12}))(?:[.,](\d{1,12}))?$/.exec(text.trim().replace("−", "-"));
  if (!m) return undefined;
  const [, sign, before, after, plain, fraction = ""] = m;
  // As digits of one number, so that no sum rounds it.
  const value = Number(`${plain ?? before! + after!}.${fraction || "0"}`);
  return sign === "-" ? -value : value;
}
