/** The lengths of a code book in another unit: what stands in a job is in the job's. */
import { UNIT_NAMES_MANY, unitFactor, type Unit } from "../math/units";
import { plural } from "../math/words";
import type { CodeBook, CodeEntry } from "./model";

/** Converted lengths are rounded to a millionth of the unit: they are measures of objects, of two or three digits. */
const DECIMALS = 6;

/**
 * A book for a job of a unit: its lengths converted where it says another, its own unit left out. Attributes keep the units
 * that they name. `words` says what was converted, in a sentence; "" for nothing.
 */
export function bookIn({ unit, ...book }: CodeBook, to: Unit): { book: CodeBook; words: string } {
  if (unit === undefined || unit === to) return { book, words: "" };
  const factor = unitFactor(unit, to),
    counts = { segments: 0, notes: 0, parallels: 0 };
  const length = (x: number) => Number((x * factor).toFixed(DECIMALS));
  const codes = book.codes?.map((c): CodeEntry => {
    if (c.maxSegment !== undefined) counts.segments++;
    if (c.labelAt?.every !== undefined) counts.notes++;
    counts.parallels += c.companions?.length ?? 0;
    return {
      ...c,
      ...(c.maxSegment !== undefined && { maxSegment: length(c.maxSegment) }),
      ...(c.labelAt?.every !== undefined && { labelAt: { ...c.labelAt, every: length(c.labelAt.every) } }),
      ...(c.companions && {
        companions: c.companions.map((x) => ({ ...x, right: length(x.right), up: length(x.up) })),
      }),
    };
  });
  const what = [
    counts.segments && plural(counts.segments, "longest segment"),
    counts.notes && plural(counts.notes, "distance of notes", "distances of notes"),
    counts.parallels && plural(counts.parallels, "parallel"),
  ].filter((w): w is string => Boolean(w));
  const words = what.length
    ? `Its lengths are in ${UNIT_NAMES_MANY[unit]} and are converted to ${UNIT_NAMES_MANY[to]}: ${what.join(", ")}.`
    : "";
  return { book: { ...book, ...(codes && { codes }) }, words };
}
