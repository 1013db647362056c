/**
 * Words of a filter over points, as a person types them: `12`, `40-52`, `K1-K3`, `HEDGE*`, and lists of these with
 * commas. A word alone is looked for everywhere; in a list it names a number or a code.
 */
import { endingDigits, wildcard } from "../math/words";

/** One word of the filter, and which points it means. */
export interface FilterWord {
  text: string;
  means(number: string, code: string, description: string): boolean;
  /** Whether the point is the very one that is named: such come first. */
  isNamed(number: string): boolean;
  /** The word as a number list, where it names numbers and nothing else. */
  numbers?: string | string[];
}

/** Digits beyond which a range of numbers is no range of a job. */
const MOST_DIGITS = 15;

/** The words of a filter; none when it is blank. A word in quotes is the very number within. */
export function filterWords(text: string): FilterWord[] {
  const written = [...text.matchAll(/\s*(?:"((?:[^"]|"")*)"|([^,]+))\s*(?:,|$)/gs)]
    .map((m) => ({ exact: m[1]?.replaceAll('""', '"'), word: m[2]?.trim() ?? "" }))
    .filter((w) => (w.exact ?? w.word) !== "");
  return written.map(({ exact, word }) =>
    exact !== undefined
      ? named(exact)
      : (rangeWord(word) ?? patternWord(word) ?? plainWord(word, written.length === 1)),
  );
}

function named(number: string): FilterWord {
  const is = (n: string) => n === number;
  return { text: number, means: is, isNamed: is, numbers: [number] };
}

/** `40-52` or `K1-K3`, the second letters left out if one likes; also the one point that is numbered just so. */
function rangeWord(word: string): FilterWord | undefined {
  const ends = rangeEnds(word);
  if (!ends || ends.first.length > MOST_DIGITS || ends.last.length > MOST_DIGITS) return undefined;
  const before = ends.before.toLowerCase(),
    again = ends.again.toLowerCase();
  if (again !== "" && again !== before) return undefined;
  const [from, to] = [Number(ends.first), Number(ends.last)].sort((a, b) => a - b) as [number, number];
  const isNamed = (number: string) => number.toLowerCase() === word.toLowerCase();
  const means = (number: string) => {
    if (isNamed(number)) return true;
    if (number.length <= before.length || number.slice(0, before.length).toLowerCase() !== before) return false;
    const digits = number.slice(before.length);
    return /^\d{1,15}$/.test(digits) && Number(digits) >= from && Number(digits) <= to;
  };
  // Lists of numbers have ranges of whole numbers alone.
  return { text: word, means, isNamed, ...(before === "" ? { numbers: `${from}-${to}` } : {}) };
}

/** Letters and digits before the first dash that follows digits, and those after it; undefined where it is no range. */
function rangeEnds(word: string): { before: string; first: string; again: string; last: string } | undefined {
  const end = endingDigits(word);
  if (end === word.length) return undefined;
  for (let dash = word.indexOf("-"); dash >= 0; dash = word.indexOf("-", dash + 1)) {
    const head = word.slice(0, dash).trimEnd(),
      begin = endingDigits(head);
    if (begin === head.length) continue;
    const again = word.slice(dash + 1, end).trimStart();
    return { before: head.slice(0, begin), first: head.slice(begin), again, last: word.slice(end) };
  }
  return undefined;
}

function patternWord(word: string): FilterWord | undefined {
  if (!/[*?]/.test(word)) return undefined;
  const fits = wildcard(word);
  return {
    text: word,
    means: (number, code, description) => fits(number) || fits(code) || fits(description),
    isNamed: (number) => number === word,
  };
}

function plainWord(word: string, alone: boolean): FilterWord {
  const wanted = word.toLowerCase();
  const is = (text: string) => text.length === word.length && text.toLowerCase() === wanted,
    holds = (text: string) => text.length >= word.length && text.toLowerCase().includes(wanted);
  return {
    text: word,
    means: alone
      ? (number, code, description) => holds(number) || holds(code) || holds(description)
      : (number, code) => is(number) || is(code),
    isNamed: is,
  };
}
