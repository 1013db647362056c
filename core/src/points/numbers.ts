/**
 * Point numbers are text; number lists such as `12, 40-52, "A-7"` name them. One reader and one writer, which read each
 * other back.
 */
import type { PointKind } from "../records/kinds";
import { endingDigits } from "../math/words";

/** The numbers that a crew may use, both ends included. */
export interface CrewRange {
  crew: string;
  from: number;
  to: number;
}

/** From where points of a kind are numbered on. */
export interface NextOfKind {
  kind: PointKind;
  next: string;
}

/**
 * Adds to the last group of digits: `7A` + 1000 → `1007A`, `T9` + 1 → `T10`, `007` + 1 → `008`. Without digits it is
 * appended.
 */
export function addToNumber(number: string, add: number): string {
  let end = number.length;
  while (end > 0 && !/\d/.test(number[end - 1]!)) end--;
  const begin = endingDigits(number.slice(0, end)),
    digits = number.slice(begin, end);
  if (!digits) return `${number}${add}`;
  return (
    number.slice(0, begin) + (BigInt(digits) + BigInt(add)).toString().padStart(digits.length, "0") + number.slice(end)
  );
}

/** A number list as it is written: items with commas, or the exact numbers one by one. */
export type Numbers = string | readonly string[];

/** One item of a list: an exact number, whole numbers between two ends (written without leading zeros), or all. */
type Item = { number: string } | { from: string; to: string } | "all";

export interface NumberList {
  /** Is this point number named by the list? */
  has(number: string): boolean;
  /** How many different numbers it names; 0 where it names all. */
  size: number;
  /** The exact numbers alone, when the list is nothing else. */
  exact: readonly string[] | undefined;
}

const PLAIN = /^[\p{L}\p{N}]+$/u;
const WHOLE = /^(0|[1-9]\d*)$/;

/**
 * The items of a list, or undefined when it cannot be read. An item in quotes is the number within, "" standing for a
 * quote; `a-b` of digits is a range; `*` is all; anything else without a quote is a number as it stands.
 */
function readItems(given: Numbers): Item[] | undefined {
  if (typeof given !== "string") return given.every((n) => n !== "") ? given.map((number) => ({ number })) : undefined;
  const items: Item[] = [];
  let rest = given.trim();
  for (;;) {
    const quoted = /^"((?:[^"]|"")+)"\s*(?:,|$)/.exec(rest),
      bare = quoted ? undefined : /^([^",]+)(?:,|$)/.exec(rest);
    const found = quoted ?? bare;
    if (!found) return undefined;
    if (quoted) items.push({ number: quoted[1]!.replaceAll('""', '"') });
    else {
      const word = bare![1]!.trim(),
        range = /^(\d+)\s*-\s*(\d+)$/.exec(word);
      if (word === "") return undefined;
      items.push(
        word === "*" ? "all" : range ? { from: wholeOf(range[1]!), to: wholeOf(range[2]!) } : { number: word },
      );
    }
    const ended = !found[0].endsWith(",");
    rest = rest.slice(found[0].length).trim();
    if (ended) return items;
  }
}

const wholeOf = (digits: string) => digits.replace(/^0+(?=\d)/, "");
/** Whole numbers without leading zeros, of any size: the longer is the larger. */
const compareWhole = (a: string, b: string) => a.length - b.length || (a < b ? -1 : a > b ? 1 : 0);

/** Reads a number list. Undefined when an item cannot be read. Asking takes a search of the ranges, sorted once. */
export function readNumberList(given: Numbers): NumberList | undefined {
  const items = readItems(given);
  if (!items) return undefined;
  if (items.includes("all")) return { has: () => true, size: 0, exact: undefined };
  const named = new Set<string>(),
    ranges: [string, string][] = [];
  for (const item of items) {
    if (item === "all") continue;
    if ("number" in item) named.add(item.number);
    else ranges.push(compareWhole(item.from, item.to) <= 0 ? [item.from, item.to] : [item.to, item.from]);
  }
  const merged = mergeRanges(ranges);
  const inRange = (number: string) => {
    let lo = 0,
      hi = merged.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if (compareWhole(merged[mid]![1], number) < 0) lo = mid + 1;
      else hi = mid;
    }
    return lo < merged.length && compareWhole(merged[lo]![0], number) <= 0;
  };
  const between = (number: string) => merged.length > 0 && WHOLE.test(number) && inRange(number);
  const alone = [...named].filter((n) => !between(n)).length;
  const size = merged.reduce((sum, [a, b]) => sum + Number(BigInt(b) - BigInt(a)) + 1, alone);
  return { has: (number) => named.has(number) || between(number), size, exact: ranges.length ? undefined : [...named] };
}

function mergeRanges(ranges: [string, string][]): [string, string][] {
  const out: [string, string][] = [];
  for (const [from, to] of ranges.sort((a, b) => compareWhole(a[0], b[0]))) {
    const last = out.at(-1);
    if (!last || compareWhole(last[1], from) < 0) out.push([from, to]);
    else if (compareWhole(last[1], to) < 0) last[1] = to;
  }
  return out;
}

/** A range of more numbers than this is a slip of the keyboard. */
const LONGEST_RANGE = 1_000_000n;

/**
 * The numbers that a list names, in its order; a range runs from its first to its last, down as well as up. Empty when
 * it cannot be read, names all, or has a range of more than a million numbers.
 */
export function orderedNumbers(given: Numbers): string[] {
  const items = readItems(given);
  if (!items || items.includes("all")) return [];
  const out: string[] = [];
  for (const item of items as Exclude<Item, "all">[]) {
    if ("number" in item) {
      out.push(item.number);
      continue;
    }
    const a = BigInt(item.from),
      b = BigInt(item.to),
      size = a < b ? b - a : a - b;
    if (size >= LONGEST_RANGE) return [];
    for (let k = 0n; k <= size; k++) out.push(String(a < b ? a + k : a - k));
  }
  return out;
}

/**
 * Numbers as a list that reads back as the very same in the same order; three and more rising whole numbers in a row
 * become a range.
 */
export function writeNumbers(numbers: readonly string[]): string {
  const out: string[] = [];
  for (let k = 0; k < numbers.length;) {
    let end = k;
    while (/^[1-9]\d{0,14}$/.test(numbers[end]!) && numbers[end + 1] === String(Number(numbers[end]!) + 1)) end++;
    if (end - k >= 2) out.push(`${numbers[k]}-${numbers[end]}`);
    else for (const n of numbers.slice(k, end + 1)) out.push(PLAIN.test(n) ? n : `"${n.replaceAll('"', '""')}"`);
    k = end + 1;
  }
  return out.join(", ");
}

/**
 * The list with numbers that have become others. A range stays a range, which a number may leave or enter by its new
 * name. The same list when it names none of them.
 */
export function renamedNumbers<N extends Numbers>(given: N, to: ReadonlyMap<string, string>): N {
  if (typeof given !== "string") {
    const list = given as readonly string[];
    return list.some((n) => to.has(n)) ? (list.map((n) => to.get(n) ?? n) as readonly string[] as N) : given;
  }
  const items = readItems(given);
  if (!items?.some((item) => item !== "all" && "number" in item && to.has(item.number))) return given;
  const parts = items.map((item) => {
    if (item === "all") return "*";
    return "number" in item ? writeNumbers([to.get(item.number) ?? item.number]) : `${item.from}-${item.to}`;
  });
  return parts.join(", ") as N;
}

/** Sorts numbers as people do: by their digits as numbers, then as text. */
export function compareNumbers(a: string, b: string): number {
  return collator.compare(a, b);
}
const collator = new Intl.Collator("en", { numeric: true });
