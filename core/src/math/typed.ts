/**
 * Lengths and numbers as people type them: any unit, feet and inches in every spelling, fractions, a decimal comma. What
 * cannot be read is told in a sentence. Field codes and recipes have their own, stricter reader (units.ts).
 */
import { unitFactor, type Unit } from "./units";

export type Typed = { value: number } | { problem: string };

/** A number with a decimal point or comma, `1 1/2`, or `1/2`. */
const NUMBER = String.raw`(?:\d+[ ]+)?\d+\/\d+|\d+(?:[.,]\d+)?|[.,]\d+`;
const TERM = new RegExp(String.raw`^(${NUMBER})\s*(feet|foot|ftus|ft|inches|inch|in|mm|cm|km|m|yd|'|")?\s*`, "i");
/** Longer than any length that is typed. */
const LONGEST = 60;

type Measure = "mm" | "cm" | "km" | "m" | "ftUS" | "ft" | "yd" | "in" | "'" | '"';

/** A measure in the job's unit. The signs ' and " are the job's own foot and its twelfth; of a metric job the international foot. */
function sizeOf(measure: Measure, unit: Unit): number {
  const own = unitFactor(unit === "m" ? "ft" : unit, unit);
  const sizes: Record<Measure, number> = {
    mm: unitFactor("m", unit) / 1000,
    cm: unitFactor("m", unit) / 100,
    km: unitFactor("m", unit) * 1000,
    m: unitFactor("m", unit),
    ft: unitFactor("ft", unit),
    ftUS: unitFactor("ftUS", unit),
    yd: unitFactor("ft", unit) * 3,
    in: unitFactor("ft", unit) / 12,
    "'": own,
    '"': own / 12,
  };
  return sizes[measure];
}

const SPELLINGS: Record<string, Measure> = { ftus: "ftUS", feet: "ft", foot: "ft", inch: "in", inches: "in" };
const FEET: readonly (Measure | undefined)[] = ["ft", "'", "ftUS"],
  INCHES: readonly (Measure | undefined)[] = ["in", '"'];

/** Reads a length in the job's unit: `1.5`, `1,5 m`, `18 in`, `63 1/2"`, `5'-3 1/2"`, `5ft 3in`, `2 yd`, `1 1/2 ft`. */
export function readTypedLength(text: string, unit: Unit): Typed {
  const written = plainSigns(text);
  const unread = {
    problem: `“${text.trim()}” is no length. Type a number, or one with its unit such as 1.5 m or 5' 3".`,
  };
  const signed = /^([+-]?)\s*(.*)$/s.exec(written)!;
  if (written.length > LONGEST) return unread;
  const terms: { value: number; measure: Measure | undefined }[] = [];
  for (let rest = signed[2]!; rest !== "";) {
    const m = TERM.exec(rest);
    if (!m || terms.length === 2) return both(written) ?? unread;
    const value = numberOf(m[1]!);
    if (value === undefined) return { problem: `“${m[1]}” divides by nothing.` };
    const measure = m[2]?.toLowerCase();
    terms.push({ value, measure: measure === undefined ? undefined : (SPELLINGS[measure] ?? (measure as Measure)) });
    // Between feet and inches a hyphen may stand.
    rest = rest.slice(m[0].length).replace(/^-\s*/, "");
    if (rest === "" && /-\s*$/.test(written)) return unread;
  }
  const [first, second] = terms;
  if (!first) return unread;
  if (second && !(FEET.includes(first.measure) && INCHES.includes(second.measure)))
    return second.measure === undefined && FEET.includes(first.measure)
      ? { problem: `“${text.trim()}”: the inches want their sign, as in 5' 3".` }
      : (both(written) ?? unread);
  const sum = terms.reduce((s, t) => s + t.value * (t.measure ? sizeOf(t.measure, unit) : 1), 0);
  // One factor for feet and inches of the same foot, so that 5' 6" is 5.5 of them to the last digit.
  const value =
    second && first.measure === "'" && second.measure === '"'
      ? (first.value + second.value / 12) * sizeOf("'", unit)
      : sum;
  return { value: signed[1] === "-" ? -value : value };
}

/** The length typed, in the job's unit; undefined when it is none. */
export function lengthTyped(text: string, unit: Unit): number | undefined {
  const read = readTypedLength(text, unit);
  return "value" in read ? read.value : undefined;
}

/** The number typed; NaN when it is none. */
export function numberTyped(text: string): number {
  const read = readTypedNumber(text);
  return "value" in read ? read.value : NaN;
}

/** Reads a plain number, with a decimal point or comma. */
export function readTypedNumber(text: string): Typed {
  const written = plainSigns(text);
  const m = written.length <= LONGEST ? /^([+-]?)\s*(\d+(?:[.,]\d*)?|[.,]\d+)(e[+-]?\d{1,3})?$/i.exec(written) : null;
  const value = m ? Number(`${m[1]}${m[2]!.replace(",", ".")}${m[3] ?? ""}`) : NaN;
  return Number.isFinite(value)
    ? { value }
    : (both(written) ?? { problem: `“${text.trim()}” is no number. Type one such as 1.5.` });
}

/** A point and a comma in one number: which of them parts the thousands is not guessed. */
function both(written: string): { problem: string } | undefined {
  return /\d[.,]\d+[.,]\d/.test(written)
    ? { problem: `“${written}” has more than one point or comma. Leave those between thousands out.` }
    : undefined;
}

function numberOf(written: string): number | undefined {
  const fraction = /^(?:(\d+) +)?(\d+)\/(\d+)$/.exec(written);
  if (!fraction) return Number(written.replace(",", "."));
  const below = Number(fraction[3]);
  return below === 0 ? undefined : Number(fraction[1] ?? 0) + Number(fraction[2]) / below;
}

const plainSigns = (text: string) =>
  text.trim().replaceAll("−", "-").replaceAll(/[′’]/g, "'").replaceAll(/[″”]/g, '"').replaceAll("''", '"');
