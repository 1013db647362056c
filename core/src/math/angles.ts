/**
 * Angles: radians inside, clockwise from north; degrees, gon, or degrees-minutes-seconds where people read and write.
 */
import { formatFixed } from "./round";

export const ANGLE_STYLES = ["azimuth-dms", "azimuth-degrees", "azimuth-gon", "bearing-dms"] as const;
export type AngleStyle = (typeof ANGLE_STYLES)[number];
export const ANGLE_STYLE_NAMES: Record<AngleStyle, string> = {
  "azimuth-dms": "azimuth, degrees minutes seconds",
  "azimuth-degrees": "azimuth, decimal degrees",
  "azimuth-gon": "azimuth, gon",
  "bearing-dms": "quadrant bearing, degrees minutes seconds",
};

export const FULL = 2 * Math.PI;

/** Into [0, 2π). */
export function positiveAngle(a: number): number {
  const x = a % FULL,
    up = x < 0 ? x + FULL : x;
  // A hair below zero rounds up to the full turn, which is zero.
  return up >= FULL ? 0 : up + 0;
}

/** Into (−π, π]. */
export function signedAngle(a: number): number {
  const x = positiveAngle(a);
  return x > Math.PI ? x - FULL : x;
}

/** Direction from one place to another, clockwise from north, in [0, 2π). */
export function azimuthOf(e1: number, n1: number, e2: number, n2: number): number {
  return positiveAngle(Math.atan2(e2 - e1, n2 - n1));
}

/** The unit vector (E, N) of an azimuth in degrees; exact along the axes. */
export function directionOf(degrees: number): [number, number] {
  const turned = degrees % 360,
    quarters = Math.round(turned / 90),
    rest = ((turned - quarters * 90) * Math.PI) / 180,
    [s, c] = [Math.sin(rest), Math.cos(rest)],
    ways: [number, number][] = [
      [s, c],
      [c, -s],
      [-s, -c],
      [-c, s],
    ],
    [e, n] = ways[((quarters % 4) + 4) % 4]!;
  return [e + 0, n + 0];
}

/**
 * Weighted mean of directions that may lie either side of zero, the same to the last digit in whatever order they come.
 * NaN for none. Deviations are taken from the direction nearest to their resultant, so that the mean of nearby ones
 * keeps every digit.
 */
export function circularMean(angles: readonly number[], weights?: readonly number[]): number {
  if (angles.length === 0) return NaN;
  const list = angles
    .map((a, i) => ({ a: positiveAngle(a), w: weights?.[i] ?? 1 }))
    .sort((p, q) => p.a - q.a || p.w - q.w);
  const towards = Math.atan2(
    list.reduce((s, { a, w }) => s + w * Math.sin(a), 0),
    list.reduce((s, { a, w }) => s + w * Math.cos(a), 0),
  );
  const away = (a: number) => Math.abs(signedAngle(a - towards));
  const near = list.reduce((best, { a }) => (away(a) < away(best) ? a : best), list[0]!.a);
  let sum = 0,
    total = 0;
  for (const { a, w } of list) {
    sum += w * signedAngle(a - near);
    total += w;
  }
  return positiveAngle(near + (total > 0 ? sum / total : 0));
}

/** `dd.mmss…` as some devices write it, for example 12.3405 = 12°34′05″, in radians. */
export function fromPackedDms(value: number): number {
  const size = Math.abs(value);
  // The decimal digits are minutes and seconds: they are taken from the shortest decimal, not from the binary fraction.
  const [whole, fraction = ""] = (size >= 1e21 ? "0" : /e/.test(String(size)) ? size.toFixed(12) : String(size)).split(
    ".",
  );
  const digits = fraction.padEnd(4, "0");
  const seconds = Number(`${digits.slice(2, 4)}.${digits.slice(4) || "0"}`);
  const degrees = Number(whole) + Number(digits.slice(0, 2)) / 60 + seconds / 3600;
  return (Math.sign(value) * degrees * Math.PI) / 180;
}

/** Degrees, minutes and seconds with carry: 59.9996″ never stands as 60″. `decimals` are decimals of the second. */
export function dmsText(radians: number, decimals = 0): string {
  const unit = 10 ** decimals;
  const all = Math.round((radians * 180 * 3600 * unit) / Math.PI);
  const seconds = (all % (60 * unit)) / unit,
    minutes = Math.floor(all / (60 * unit)) % 60,
    degrees = Math.floor(all / (3600 * unit));
  return `${degrees}°${String(minutes).padStart(2, "0")}′${seconds.toFixed(decimals).padStart(decimals ? 3 + decimals : 2, "0")}″`;
}

/** An azimuth in the job's style. */
export function directionText(radians: number, style: AngleStyle, decimals = 0): string {
  const a = positiveAngle(radians);
  // What rounds up to a full turn is north again.
  const dms = (x: number) => dmsText(x, decimals).replace(/^360°00′00(\.0+)?″$/, (s) => s.replace("360", "0"));
  switch (style) {
    case "azimuth-dms":
      return dms(a);
    case "azimuth-degrees":
      return `${turnText(a, 360, 4 + decimals)}°`;
    case "azimuth-gon":
      return `${turnText(a, 400, 4 + decimals)} gon`;
    case "bearing-dms": {
      const north = a <= Math.PI / 2 || a >= 1.5 * Math.PI,
        east = a <= Math.PI;
      return `${north ? "N" : "S"} ${dmsText(Math.abs(signedAngle(north ? a : a - Math.PI)), decimals)} ${east ? "E" : "W"}`;
    }
  }
}

/** The same in short, to a whole degree or gon: “123°”, “N 57° E”. */
export function directionShort(radians: number, style: AngleStyle): string {
  const a = positiveAngle(radians);
  if (style === "azimuth-gon") return `${turnText(a, 400, 0)} gon`;
  if (style !== "bearing-dms") return `${turnText(a, 360, 0)}°`;
  const north = a <= Math.PI / 2 || a >= 1.5 * Math.PI,
    degrees = turnText(Math.abs(signedAngle(north ? a : a - Math.PI)), 360, 0);
  return `${north ? "N" : "S"} ${degrees}° ${a <= Math.PI ? "E" : "W"}`;
}

/** What something is turned by, from degrees clockwise, to a tenth of a second: `12°30′00.0″ to the right`. */
export function turnWords(degrees: number): string {
  const text = dmsText(Math.abs(signedAngle((degrees / 180) * Math.PI)), 1);
  return `${text} to the ${signedAngle((degrees / 180) * Math.PI) < 0 ? "left" : "right"}`;
}

/**
 * A direction as a person types it, in radians clockwise from north: a bare number in the job's style (degrees or gon),
 * `123°30′15″` with any signs or blanks between, `137.2 gon`, `N 45 30 E`. Undefined when it is none.
 */
export function readDirection(text: string, style: AngleStyle): number | undefined {
  const written = text.trim().replaceAll(",", ".").replaceAll("−", "-");
  if (written.length > 40) return undefined;
  const gon = /^(-?\d+(?:\.\d+)?)\s*(gon|g)$/i.exec(written);
  if (gon) return positiveAngle((Number(gon[1]) / 400) * FULL);
  const bearing = /^([NS])(.+)([EW])$/i.exec(written);
  if (bearing) {
    const size = degreesRead(bearing[2]!);
    if (size === undefined || size < 0 || size > 90) return undefined;
    const quadrant = (size / 360) * FULL * (/e/i.test(bearing[3]!) ? 1 : -1);
    return positiveAngle(/n/i.test(bearing[1]!) ? quadrant : Math.PI - quadrant);
  }
  if (style === "azimuth-gon" && /^-?\d+(\.\d+)?$/.test(written)) return positiveAngle((Number(written) / 400) * FULL);
  const degrees = degreesRead(written);
  return degrees === undefined ? undefined : positiveAngle((degrees / 360) * FULL);
}

const SIZE = String.raw`(\d+(?:\.\d+)?)`,
  /** What stands between: a sign, or a blank. */
  after = (signs: string) => String.raw`(?:\s*[${signs}]\s*|\s+)`,
  SECONDS = String.raw`(?:${after("'′")}(?:${SIZE}\s*["″]?)?)?`,
  DEGREES = new RegExp(`^(-?)${SIZE}(?:${after("°d")}(?:${SIZE}${SECONDS})?)?$`, "i");

/** Degrees, with minutes and seconds where they stand. */
function degreesRead(text: string): number | undefined {
  const m = DEGREES.exec(text.trim());
  if (!m) return undefined;
  const [, sign, degrees, minutes = "0", seconds = "0"] = m;
  if (Number(minutes) >= 60 || Number(seconds) >= 60) return undefined;
  return (sign ? -1 : 1) * (Number(degrees) + Number(minutes) / 60 + Number(seconds) / 3600);
}

/** An azimuth in parts of a full turn; what rounds up to the turn is zero again. */
function turnText(radians: number, turn: number, decimals: number): string {
  const text = formatFixed((radians * turn) / FULL, decimals);
  return Number(text) === turn ? formatFixed(0, decimals) : text;
}
