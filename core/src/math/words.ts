/** Small helpers for names and patterns that people write. */

/**
 * A pattern with `*` (any characters) and `?` (one), compared without regard to case, over the whole text. Only the
 * last star is ever tried again, so that no pattern takes longer than its length times the text's.
 */
export function wildcard(pattern: string): (text: string) => boolean {
  const want = [...pattern.toUpperCase()];
  return (text) => {
    const given = [...text.toUpperCase()];
    let at = 0,
      star = -1,
      taken = 0;
    for (let i = 0; i < given.length;) {
      if (want[at] === "*") {
        star = at++;
        taken = i;
      } else if (want[at] === "?" || want[at] === given[i]) {
        at++;
        i++;
      } else if (star >= 0) {
        at = star + 1;
        i = ++taken;
      } else return false;
    }
    while (want[at] === "*") at++;
    return at === want.length;
  };
}

/** Where the digits begin that a text ends with; its length where it ends with none. */
export function endingDigits(text: string): number {
  let at = text.length;
  while (at > 0 && isDigit(text.charCodeAt(at - 1))) at--;
  return at;
}

const isDigit = (c: number) => c >= 48 && c <= 57;

/** Letters to change, add or leave out to turn one word into the other (Levenshtein 1966). */
export function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
    }
    row = next;
  }
  return row[b.length]!;
}

/** The known name nearest to what was written, if it is near enough to be a slip of the keyboard. */
export function nearestName(word: string, known: Iterable<string>): string | undefined {
  let best: string | undefined;
  let least = Math.max(2, Math.floor(word.length / 2)) + 0.5;
  for (const name of known) {
    const d = editDistance(word.toLowerCase(), name.toLowerCase());
    if (d < least) [best, least] = [name, d];
  }
  return best;
}

/** `1 point`, `12 points`. */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** The first few of a list in words: `12, 13, 14 and 5 more`. */
export function someOf(names: readonly string[], most = 4): string {
  if (names.length <= most + 1) return names.join(", ");
  return `${names.slice(0, most).join(", ")} and ${names.length - most} more`;
}
