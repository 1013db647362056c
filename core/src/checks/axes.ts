/**
 * Exchanged axes: rows that lie with the rest only when east and north are exchanged (COMPUTATION.md, "Axes swapped").
 */
import { notice, pointWord, pts, say, type Noticed } from "../finding";
import type { IntakeInfo } from "../intake/model";
import type { PointTable } from "../points/table";

type Placed = Pick<PointTable, "count" | "e" | "n" | "deleted" | "intake">;

/** Coordinates of some points, each list rising. */
export interface SortedPositions {
  e: Float64Array;
  n: Float64Array;
}

/** Of fewer other points than this nothing is known; then the delivery's own middle stands for them. */
const ENOUGH = 10;

export function sortedPositions(t: Placed, isIn: (i: number) => boolean = () => true): SortedPositions {
  const e = new Float64Array(t.count),
    n = new Float64Array(t.count);
  let count = 0;
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || !isIn(i)) continue;
    e[count] = t.e[i]!;
    n[count++] = t.n[i]!;
  }
  return { e: e.slice(0, count).sort(), n: n.slice(0, count).sort() };
}

/** Between two shares of a rising list, widened either way by so many times the distance between them. */
function middleOf(sorted: Float64Array, share: number, widen: number): [number, number] {
  const last = sorted.length - 1,
    low = sorted[Math.floor(share * last)]!,
    high = sorted[Math.ceil((1 - share) * last)]!;
  return [low - widen * (high - low), high + widen * (high - low)];
}

/**
 * Positions among `rows` that fall into the box of the others, else of their own middle, only when their coordinates are
 * exchanged.
 */
export function exchangedRows(t: Placed, rows: Int32Array, own: SortedPositions, others: SortedPositions): number[] {
  const rest = others.e.length >= ENOUGH ? others : own,
    [share, widen] = rest === others ? [0.05, 1] : [0.2, 2];
  if (rest.e.length < 3) return [];
  const [minE, maxE] = middleOf(rest.e, share, widen),
    [minN, maxN] = middleOf(rest.n, share, widen);
  const inside = (e: number, n: number) => e >= minE && e <= maxE && n >= minN && n <= maxN;
  return Array.from(rows).filter((i) => !inside(t.e[i]!, t.n[i]!) && inside(t.n[i]!, t.e[i]!));
}

/** One finding for each intake with exchanged rows. */
export function axesFindings(t: Placed & Pick<PointTable, "row">, intakes: readonly IntakeInfo[]): Noticed[] {
  return intakes.flatMap((k, intake) => {
    const mine = Int32Array.from({ length: t.count }, (_, i) => i).filter(
      (i) => !t.deleted[i] && t.intake[i] === intake,
    );
    if (mine.length === 0) return [];
    const own = sortedPositions(t, (i) => t.intake[i] === intake),
      others = sortedPositions(t, (i) => t.intake[i] !== intake);
    const points = exchangedRows(t, mine, own, others);
    if (points.length === 0) return [];
    const what = say`Northing and easting look exchanged for ${pointWord(points)} ${pts(points)} (${k.file}): exchanged, they lie with the rest. `;
    return [
      notice("axes-swapped", "error", [...what, "Correct them, or read the intake again."], {
        points,
        at: [t.e[points[0]!]!, t.n[points[0]!]!],
        data: { intake: k.id },
        subject: k.id,
      }),
    ];
  });
}
