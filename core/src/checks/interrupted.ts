/** Breaklines that end where another of the same code goes on: triangles cross the ground between, as if nothing ran there. */
import { notice, pts, say, type Noticed } from "../finding";
import { pointIndex } from "../math/near";
import { lengthText, type Unit } from "../math/units";
import type { Line } from "../lines/model";
import type { PointTable } from "../points/table";

/** A gap is no longer than so many times the legs on either side of it are on average. */
const LEGS = 1.5;
/** On neither side does the way turn by more than this, radians. */
const TURN = (35 / 180) * Math.PI;

/** One end of an open line: the row that stands there, and the one before it. */
interface End {
  line: number;
  row: number;
  before: number;
}

/**
 * Pairs of ends of two open breaklines of one code where each is the other's nearest, the gap is about as long as the
 * legs beside it, and the way across goes on in the direction of both.
 */
export function interruptedLines(lines: readonly Line[], t: Pick<PointTable, "e" | "n">, unit: Unit): Noticed[] {
  const byCode = new Map<string, End[]>();
  lines.forEach((l, line) => {
    const { shots, entry } = l;
    if (l.closed || l.companion || shots.length < 2 || (entry.breakline ?? "none") === "none") return;
    if (shots.some((i) => i < 0)) return;
    const ends = [
      { line, row: shots[0]!, before: shots[1]! },
      { line, row: shots.at(-1)!, before: shots.at(-2)! },
    ];
    byCode.set(l.code, [...(byCode.get(l.code) ?? []), ...ends]);
  });
  return [...byCode.values()].flatMap((ends) => gapsBetween(ends, t, unit));
}

function gapsBetween(ends: readonly End[], t: Pick<PointTable, "e" | "n">, unit: Unit): Noticed[] {
  const far = (a: number, b: number) => Math.hypot(t.e[b]! - t.e[a]!, t.n[b]! - t.n[a]!),
    leg = (x: End) => far(x.row, x.before);
  const index = pointIndex({
    e: Float64Array.from(ends, (x) => t.e[x.row]!),
    n: Float64Array.from(ends, (x) => t.n[x.row]!),
    deleted: new Uint8Array(ends.length),
  });
  /** The nearest end of another line within reach; none where two lines meet there already. */
  const nearest = (k: number): number => {
    const x = ends[k]!,
      reach = 2 * LEGS * leg(x),
      [e, n] = [t.e[x.row]!, t.n[x.row]!];
    let [best, least] = [-1, reach];
    for (const j of index.range(e - reach, n - reach, e + reach, n + reach)) {
      const d = far(x.row, ends[j]!.row);
      if (ends[j]!.line === x.line || !(d < least || (d === least && j < best))) continue;
      [best, least] = [j, d];
    }
    return least > 0 ? best : -1;
  };
  const turn = (a: number, b: number, c: number) => {
    const [ux, uy] = [t.e[b]! - t.e[a]!, t.n[b]! - t.n[a]!],
      [vx, vy] = [t.e[c]! - t.e[b]!, t.n[c]! - t.n[b]!];
    return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
  };
  return ends.flatMap((x, k) => {
    const j = nearest(k),
      y = ends[j];
    if (!y || j < k || nearest(j) !== k) return [];
    const gap = far(x.row, y.row);
    if (gap > (LEGS * (leg(x) + leg(y))) / 2) return [];
    if (turn(x.before, x.row, y.row) > TURN || turn(x.row, y.row, y.before) > TURN) return [];
    const words = [
      ...say`Line ${{ line: x.line }} ends at point ${pts(x.row)} and line ${{ line: y.line }} goes on `,
      ...say`${lengthText(gap, unit, 1)} away at ${pts(y.row)}: `,
      "triangles cross the ground between. Join the two, or leave the gap.",
    ];
    return [
      notice("line-interrupted", "note", words, {
        points: [x.row, y.row],
        lines: [x.line, y.line],
        at: [(t.e[x.row]! + t.e[y.row]!) / 2, (t.n[x.row]! + t.n[y.row]!) / 2],
        data: { gap },
      }),
    ];
  });
}
