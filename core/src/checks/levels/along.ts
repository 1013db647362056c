/** The level that a line's own shots say of one of them: what is measured along a kerb tells more of it than the lawn. */
import type { Line } from "../../lines/model";

/** A straight way is prolonged by no more than so many times its length. */
const PROLONGED = 1.5;

export interface AlongLine {
  level: number;
  /** Rows of the two shots that say it. */
  by: readonly [number, number];
}

/**
 * By row, of the wanted rows that are shots of lines: the level between the nearest shots before and after that have one,
 * by plan distance; at an end on the straight prolongation of the nearest two. Lines at which the ground bends come first.
 *
 * @param e,n plan coordinates by row.
 * @param level the level of a row; NaN where it has none, or none to be believed.
 */
export function levelsAlong(
  lines: readonly Line[],
  rows: Iterable<number>,
  e: Float64Array,
  n: Float64Array,
  level: (row: number) => number,
): Map<number, AlongLine> {
  const wanted = new Set(rows),
    out = new Map<number, AlongLine>();
  if (wanted.size === 0) return out;
  const far = (a: number, b: number) => Math.hypot(e[a]! - e[b]!, n[a]! - n[b]!);
  for (const bends of [true, false])
    for (const { shots, closed, companion, entry } of lines) {
      if (companion || (entry.breakline === "fixed") !== bends) continue;
      shots.forEach((row, at) => {
        if (!wanted.has(row) || out.has(row)) return;
        const before = known(shots, closed, at, -1, level),
          after = known(shots, closed, at, 1, level);
        let found: AlongLine | undefined;
        if (before.length && after.length && before[0] !== after[0]) {
          const [a, b] = [before[0]!, after[0]!],
            [toA, toB] = [far(row, a), far(row, b)];
          if (toA + toB > 0) found = { level: level(a) + ((level(b) - level(a)) * toA) / (toA + toB), by: [a, b] };
        } else {
          const [a, b] = before.length > 1 ? before : after;
          if (a !== undefined && b !== undefined && far(row, a) <= PROLONGED * far(a, b))
            found = { level: level(a) + ((level(a) - level(b)) * far(row, a)) / far(a, b), by: [a, b] };
        }
        if (found && Number.isFinite(found.level)) out.set(row, found);
      });
    }
  return out;
}

/** The next two shots of a line from a place that have a level. */
function known(shots: readonly number[], closed: boolean, at: number, way: 1 | -1, level: (row: number) => number) {
  const out: number[] = [];
  for (let k = 1; k < shots.length && out.length < 2; k++) {
    const p = at + way * k,
      row = shots[closed ? (p + shots.length * 2) % shots.length : p];
    if (row === undefined) break;
    if (row >= 0 && Number.isFinite(level(row))) out.push(row);
  }
  return out;
}
