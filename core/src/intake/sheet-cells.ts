/**
 * How many cells the sheets of a spreadsheet have and how far they reach, seen in their bytes before anything is made of
 * them: a cell far out makes as many as lie before it. One pass; nothing is kept.
 */

export interface SheetCells {
  /** Cells that are written, blank ones too. */
  cells: number;
  /** The farthest row and column that is named, from 1. */
  rows: number;
  columns: number;
}

/** As much of an element as is looked at; no writer needs more for a name and a handful of short attributes. */
const LONGEST = 400;
const LESS = 60,
  GREATER = 62,
  C = 99,
  R = 114;

export function cellsOf(xml: Uint8Array): SheetCells {
  const out: SheetCells = { cells: 0, rows: 0, columns: 0 },
    ascii = new TextDecoder("latin1");
  for (let i = xml.indexOf(LESS); i >= 0; i = xml.indexOf(LESS, i + 1)) {
    // Elements may have a prefix: <x:c r="B7">. Of others the first letters say enough.
    const name = nameAt(xml, i + 1);
    if (name !== C && name !== R) continue;
    let end = i + 1;
    while (end < xml.length && end < i + LONGEST && xml[end] !== GREATER) end++;
    if (name === C) out.cells++;
    const text = ascii.decode(xml.subarray(i, end));
    // A place that is written otherwise than plainly, or too far behind to be seen here, may be any.
    if (text.includes("&") || (xml[end] !== GREATER && end < xml.length)) {
      out.rows = out.columns = Infinity;
      continue;
    }
    const [, columns, row] = /\sr\s*=\s*["']([A-Za-z]*)(\d+)["']/.exec(text) ?? [];
    if (row === undefined) continue;
    out.rows = Math.max(out.rows, Number(row));
    if (name === C) out.columns = Math.max(out.columns, columnOf(columns!));
  }
  return out;
}

/** The first letter of an element's name behind its prefix, where it is `c` or `row`; 0 for any other. */
function nameAt(xml: Uint8Array, from: number): number {
  let at = from;
  for (let k = from; k < from + 50 && k < xml.length; k++) {
    const b = xml[k]!;
    if (b === 58) at = k + 1;
    else if (b === 32 || b === GREATER || b === 47 || b === 9 || b === 10 || b === 13) {
      if (k - at === 1 && xml[at] === C) return C;
      return k - at === 3 && xml[at] === R && xml[at + 1] === 111 && xml[at + 2] === 119 ? R : 0;
    }
  }
  return 0;
}

/** `A` → 1, `XFD` → 16384. */
function columnOf(letters: string): number {
  let n = 0;
  for (const letter of letters.toUpperCase()) n = 26 * n + letter.charCodeAt(0) - 64;
  return n;
}
