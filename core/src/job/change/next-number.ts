/** The number that a new point is offered, and the gaps between numbers, which are told on demand. */
import { addToNumber } from "../../points/numbers";
import type { PointKind } from "../../records/kinds";
import type { PointTable } from "../../points/table";
import type { JobState } from "../model/model";

type Numbering = Pick<JobState, "points" | "nextNumber" | "nextNumbers">;

/** From where a job counts for a kind of point: by the kind, else for all; undefined where it does not say. */
export const numberedFrom = (job: Pick<JobState, "nextNumber" | "nextNumbers">, kind?: PointKind): string | undefined =>
  job.nextNumbers?.find((n) => n.kind === kind)?.next ?? job.nextNumber;

/**
 * The next number from a first one on. Behind what the office has made from there, so that a series goes on; where that is
 * taken, or nothing is said from where, behind the highest. A gap amid numbers of others is never offered.
 */
export function nextFreeNumber(job: Numbering, from = numberedFrom(job)): string {
  const { points: t } = job;
  if (from === undefined) return addToNumber(String(highest(t, "", "", 1, false)), 1);
  const { before, digits, after } = parted(from);
  if (!digits || digits.length > MOST_DIGITS) return free(t, from);
  const first = Number(digits),
    own = highest(t, before, after, first, true),
    padded = (n: number) => before + n.toString().padStart(digits.length, "0") + after,
    next = own + 1;
  if (!t.number.includes(padded(next))) return padded(next);
  return padded(highest(t, before, after, first, false) + 1);
}

/** Numbers of more digits are not counted exactly: they name things, and do not count them. */
const MOST_DIGITS = 15;

/** A number without digits, or of very many, is counted on until one is free. */
function free(t: PointTable, from: string): string {
  const taken = new Set(t.number);
  let next = from;
  while (taken.has(next)) next = addToNumber(next, 1);
  return next;
}

/** The last group of digits of a number, and what stands round it. */
function parted(number: string): { before: string; digits: string; after: string } {
  let end = number.length;
  while (end > 0 && !isDigit(number[end - 1]!)) end--;
  let begin = end;
  while (begin > 0 && isDigit(number[begin - 1]!)) begin--;
  return { before: number.slice(0, begin), digits: number.slice(begin, end), after: number.slice(end) };
}
const isDigit = (c: string) => c >= "0" && c <= "9";

/** The highest number between what stands round it, from a first one on; one below the first where there is none. */
function highest(t: PointTable, before: string, after: string, first: number, ofOffice: boolean): number {
  let most = first - 1;
  for (let i = 0; i < t.count; i++) {
    if (ofOffice && t.intake[i]! >= 0) continue;
    const number = t.number[i]!,
      end = number.length - after.length;
    if (
      end <= before.length ||
      end - before.length > MOST_DIGITS ||
      !number.startsWith(before) ||
      !number.endsWith(after)
    )
      continue;
    let k = before.length;
    while (k < end && isDigit(number[k]!)) k++;
    if (k < end) continue;
    most = Math.max(most, Number(number.slice(before.length, end)));
  }
  return most;
}

/** Numbers between the least and the highest whole number that no point has: the first gaps, each by its ends. */
export function gapsOfNumbers(
  t: Pick<PointTable, "number">,
  most = 20,
): { gaps: [from: number, to: number][]; more: number } {
  const whole = Float64Array.from(t.number.flatMap((n) => (/^(0|[1-9]\d{0,14})$/.test(n) ? [Number(n)] : []))).sort(),
    gaps: [number, number][] = [];
  let more = 0;
  for (let k = 1; k < whole.length; k++) {
    if (whole[k]! - whole[k - 1]! <= 1) continue;
    if (gaps.length < most) gaps.push([whole[k - 1]! + 1, whole[k]! - 1]);
    else more++;
  }
  return { gaps, more };
}
