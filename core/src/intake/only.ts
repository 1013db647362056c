/** Some of a file's rows alone: by their numbers, codes, positions or times, as a person chooses before the intake. */
import { refusal } from "../errors";
import { insideRing } from "../math/ring";
import { endingDigits, wildcard } from "../math/words";
import { pickRecords, type Records } from "../records/records";
import { readTime } from "./delimited";
import type { OnlyRows } from "./model";

/** How a number list is read: points/ knows, which comes later than intake/. */
type ReadNumbers = (list: string) => { has(number: string): boolean } | undefined;

/**
 * The records that are chosen; raw observations always are, since setups need them. `left` counts those left out.
 * Refused when a number list or a time cannot be read.
 */
export function keepOnly(
  r: Records,
  only: OnlyRows | undefined,
  readNumbers: ReadNumbers,
): { records: Records; left: number } {
  if (!only || Object.keys(only).length === 0) return { records: r, left: 0 };
  const numbers = only.numbers === undefined ? undefined : readNumbers(only.numbers);
  if (only.numbers !== undefined && !numbers) throw refusal("only-unread", { what: "numbers", text: only.numbers });
  const codes = only.codes?.map(wildcard),
    ofText = r.texts.map((text) => codes === undefined || codesIn(text).some((c) => codes.some((fits) => fits(c))));
  const [from, to] = (["from", "to"] as const).map((end) => {
    const text = only[end];
    if (text === undefined) return undefined;
    const time = readTime(text);
    if (Number.isNaN(time)) throw refusal("only-unread", { what: "time", text });
    return time;
  });
  const keep = new Uint8Array(r.count);
  let left = 0;
  for (let i = 0; i < r.count; i++) {
    const chosen =
      r.observed?.[i] === 1 ||
      ((!numbers || numbers.has(r.number.at(i))) &&
        ofText[r.description[i]!]! &&
        (!only.inside || insideRing(only.inside, r.e[i]!, r.n[i]!)) &&
        (from === undefined || r.time[i]! >= from) &&
        (to === undefined || r.time[i]! <= to));
    if (chosen) keep[i] = 1;
    else left++;
  }
  return left === 0 ? { records: r, left } : { records: { ...pickRecords(r, keep), rows: r.rows - left }, left };
}

/** The codes that a description writes, without their runs. */
const codesIn = (description: string): string[] =>
  description
    .split(";")[0]!
    .split("/")
    .map((element) => element.trim().split(/\s+/)[0] ?? "")
    .map((word) => word.slice(0, endingDigits(word)));
