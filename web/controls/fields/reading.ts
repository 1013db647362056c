/** What is read from typed text, and how a value is written to be typed over: one reading for each kind of value. */
import type { Unit } from "@bramble/core";
import { directionText, readDirection, type AngleStyle } from "@bramble/core/math/angles";
import { formatFixed, plainNumber } from "@bramble/core/math/round";
import { numberTyped, readTypedLength } from "@bramble/core/math/typed";

export interface Reading<T> {
  /**
   * The value as people read it, which may have fewer digits than it has: what was not touched is not to be stored.
   */
  write(value: T): string;
  /** The value, or what is wrong in a sentence that says what to type. */
  read(text: string): { value: T } | { problem: string };
}

/** A length with any unit typed, in the job's; shown rounded to `decimals`. */
export const lengthReading = (
  unit: Unit,
  { positive, decimals }: { positive?: boolean | undefined; decimals?: number | undefined } = {},
): Reading<number> => ({
  write: (x) => plainNumber(decimals === undefined ? x : Number(formatFixed(x, decimals)) || x),
  read(text) {
    const read = readTypedLength(text, unit);
    return "value" in read && positive && read.value <= 0
      ? { problem: "A length above 0, such as 0.5 or 2 ft." }
      : read;
  },
});

/** A number; `hint` says which may be. */
export const numberReading = (allowed: (x: number) => boolean, hint: string): Reading<number> => ({
  write: plainNumber,
  read(text) {
    const value = numberTyped(text);
    return text.trim() !== "" && Number.isFinite(value) && allowed(value) ? { value } : { problem: hint };
  },
});

/** A direction in a style of angles; degrees clockwise from north. */
export const directionReading = (style: AngleStyle): Reading<number> => ({
  write: (degrees) => directionText((degrees / 180) * Math.PI, style),
  read(text) {
    const read = readDirection(text, style);
    if (read === undefined)
      return {
        problem:
          style === "bearing-dms" ? "A direction such as N 45°30′ E or 45.5." : "A direction such as 45.5 or 45°30′.",
      };
    // To a thousandth of a second: what is shown is what holds.
    return { value: Number(((read / Math.PI) * 180).toFixed(7)) };
  },
});

/** A text without blanks at its ends, of a pattern if one is asked. */
export const textReading = ({
  pattern,
  hint = "",
  must,
}: { pattern?: RegExp | undefined; hint?: string; must?: string | undefined } = {}): Reading<string> => ({
  write: (text) => text,
  read(text) {
    const value = text.trim();
    if (value === "") return must ? { problem: must } : { value };
    return pattern && !pattern.test(value) ? { problem: hint } : { value };
  },
});

/** The same, or nothing where the field is blank. */
export const orNothing = <T>({ write, read }: Reading<T>): Reading<T | undefined> => ({
  write: (value) => (value === undefined ? "" : write(value)),
  read: (text) => (text.trim() === "" ? { value: undefined } : read(text)),
});
