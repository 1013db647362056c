/** Point numbers are text; number lists such as `12, 40-52, 7A` name them. */

/** The numbers that a crew may use, both ends included. */
export interface CrewRange { crew: string; from: number; to: number }

/** Adds to the last group of digits: `7A` + 1000 → `1007A`, `T9` + 1 → `T10`, `007` + 1 → `008`. Without digits it is appended. */
export function addToNumber(number: string, add: number): string {
  const m = /^(.*?)(\d+)(\D*)$/s.exec(number);
  if (!m) return `${number}${add}`;
  const sum = (BigInt(m[2]!) + BigInt(add)).toString().padStart(m[2]!.length, "0");
  return m[1]! + sum + m[3]!;
}

export interface NumberList {
  /** Is this point number named by the list? */
  has(number: string): boolean;
  /** Single names and the count each range holds, to tell what does not exist. */
  singles: string[];
  ranges: [bigint, bigint][];
  all: boolean;
}

/**
 * Reads a number list. Items are separated by commas; `a-b` with whole numbers at both ends names the whole
 * numbers between them (written without leading zeros); `*` names all. Undefined when an item cannot be read.
 */
export function readNumberList(text: string): NumberList | undefined {
  const singles: string[] = [];
  const ranges: [bigint, bigint][] = [];
  let all = false;
  for (const item of text.split(",").map((s) => s.trim())) {
    if (item === "") return undefined;
    const range = /^(\d+)\s*-\s*(\d+)$/.exec(item);
    if (item === "*") all = true;
    else if (range) {
      const a = BigInt(range[1]!), b = BigInt(range[2]!);
      ranges.push(a <= b ? [a, b] : [b, a]);
    } else singles.push(item);
  }
  const named = new Set(singles);
  const inRange = (number: string) => {
    if (!/^(0|[1-9]\d*)$/.test(number)) return false;
    const value = BigInt(number);
    return ranges.some(([a, b]) => a <= value && value <= b);
  };
  return { singles, ranges, all, has: (number) => all || named.has(number) || (ranges.length > 0 && inRange(number)) };
}

/** The numbers that a list names, in its order; a range runs from its first to its last, down as well as up. Empty when it cannot be read. */
export function orderedNumbers(text: string): string[] {
  if (!readNumberList(text)) return [];
  return text.split(",").map((s) => s.trim()).flatMap((item) => {
    const range = /^(\d+)\s*-\s*(\d+)$/.exec(item);
    if (!range) return [item];
    const a = BigInt(range[1]!), b = BigInt(range[2]!), size = Number(a < b ? b - a : a - b) + 1;
    // A range of a hundred million numbers is a slip of the keyboard.
    if (size > 1_000_000) return [];
    return Array.from({ length: size }, (_, k) => String(a < b ? a + BigInt(k) : a - BigInt(k)));
  });
}

/** Sorts numbers as people do: by their digits as numbers, then as text. */
export function compareNumbers(a: string, b: string): number {
  return collator.compare(a, b);
}
const collator = new Intl.Collator("en", { numeric: true });
