/** A page for a picture of it: what such pixels cannot show is left out, so that a large plan holds nobody up. */
import type { Ink, Mark, Page, PathMark } from "./page";

/** Marks from which on a page is thinned. */
const MANY = 20_000;

/**
 * The page as pixels of so many mm show it: vertices nearer to the last than half a pixel are dropped, and of what is
 * smaller than a pixel one of each ink is kept in each. A page of few marks stays as it is.
 */
export function thinned(page: Page, pixel: number): Page {
  if (page.marks.length < MANY && vertices(page.marks) < MANY) return page;
  const seen = new Map<string, Set<number>>();
  /** Whether a pixel has a mark of this ink already; from now on it has. */
  const isTaken = (x: number, y: number, ink: Ink): boolean => {
    const name = `${ink.stroke} ${ink.width} ${ink.fill}`;
    let cells = seen.get(name);
    if (!cells) seen.set(name, (cells = new Set()));
    const key = Math.floor(x / pixel) * 2 ** 24 + Math.floor(y / pixel),
      before = cells.size;
    return cells.add(key).size === before;
  };
  const marks: Mark[] = [];
  for (const mark of page.marks) {
    if (mark.is === "round" && 2 * mark.radius < pixel && isTaken(mark.x, mark.y, mark)) continue;
    if (mark.is === "path") {
      const middle = middleOfSmall(mark, pixel);
      if (middle && isTaken(...middle, mark)) continue;
      marks.push(middle ? mark : { ...mark, xy: fewer(mark.xy, pixel / 2) });
    } else marks.push(mark);
  }
  return { ...page, marks };
}

function vertices(marks: readonly Mark[]): number {
  let count = 0;
  for (const m of marks) if (m.is === "path") count += m.xy.length / 2;
  return count;
}

/** The middle of a path that is smaller than a pixel. */
function middleOfSmall({ xy }: PathMark, pixel: number): [number, number] | undefined {
  let x0 = Infinity,
    x1 = -Infinity,
    y0 = Infinity,
    y1 = -Infinity;
  for (let k = 0; k < xy.length; k += 2) {
    x0 = Math.min(x0, xy[k]!);
    x1 = Math.max(x1, xy[k]!);
    y0 = Math.min(y0, xy[k + 1]!);
    y1 = Math.max(y1, xy[k + 1]!);
    if (x1 - x0 >= pixel || y1 - y0 >= pixel) return undefined;
  }
  return [(x0 + x1) / 2, (y0 + y1) / 2];
}

/** The first vertex, the last, and between them those that lie so far from the one kept before. */
function fewer(xy: ArrayLike<number>, apart: number): Float32Array {
  const kept = new Float32Array(xy.length),
    last = xy.length - 2;
  let size = 0;
  for (let k = 0; k <= last; k += 2)
    if (k === 0 || k === last || Math.hypot(xy[k]! - kept[size - 2]!, xy[k + 1]! - kept[size - 1]!) >= apart) {
      kept[size++] = xy[k]!;
      kept[size++] = xy[k + 1]!;
    }
  return kept.slice(0, size);
}
