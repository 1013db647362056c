/**
 * Coordinates, levels and measured lengths lie within this of 0, in the job's unit. What is farther is a slip, and what
 * would be computed of it says nothing: doubles there are coarser than a thousandth, and soon than a whole number.
 */
import { readDecimal } from "./decimal";

export const REACH = 1e9;

/** What is missing (NaN) is not beyond. */
export const isBeyondReach = (x: number): boolean => Math.abs(x) > REACH;

/** A length that a text writes as a decimal, in any unit; NaN for anything else and for what no job reaches. */
export function readLength(text: string): number {
  const x = readDecimal(text);
  return isBeyondReach(x) ? NaN : x;
}
