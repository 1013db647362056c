/** Equal as JSON, whatever the order of fields; a field that is undefined is not there. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const ka = Object.keys(a).filter((k) => (a as Record<string, unknown>)[k] !== undefined);
  const kb = Object.keys(b).filter((k) => (b as Record<string, unknown>)[k] !== undefined);
  return (
    ka.length === kb.length &&
    ka.every((k) => sameJson((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]))
  );
}

const DEEPEST = 200;

/**
 * The value of a JSON text from outside: one that is nested no deeper than any of ours, so that nothing that walks it
 * overflows. Throws an Error that says what is wrong with it.
 */
export function parseJson(text: string): unknown {
  const given = text.replace(/^\ufeff/, "");
  checkDepth(given);
  return JSON.parse(given);
}

const QUOTE = 34,
  BACKSLASH = 92,
  OPEN = [91, 123] as const,
  CLOSE = [93, 125] as const;

function checkDepth(text: string): void {
  let depth = 0,
    quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (quoted) {
      if (c === BACKSLASH) i++;
      else if (c === QUOTE) quoted = false;
    } else if (c === QUOTE) quoted = true;
    else if (c === OPEN[0] || c === OPEN[1]) {
      if (++depth > DEEPEST) throw new Error(`at character ${i + 1} it is nested more than ${DEEPEST} deep`);
    } else if (c === CLOSE[0] || c === CLOSE[1]) depth--;
  }
}
