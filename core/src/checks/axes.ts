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

/** Of fewer other points than this nothing is known. */
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

/** Whether a position is in a box, by the lists of its coordinates. */
type Holds = (e: number, n: number) => boolean;

function boxOf({ e, n }: SortedPositions, share: number, widen: number): Holds {
  const [minE, maxE] = middleOf(e, share, widen),
    [minN, maxN] = middleOf(n, share, widen);
  return (pe, pn) => pe >= minE && pe <= maxE && pn >= minN && pn <= maxN;
}

/**
 * Positions among `rows` that lie in no box as they stand, and in one when their coordinates are exchanged. The boxes: that
 * of the other intakes, where they hold enough, and that of the delivery's own middle; which is no box where the delivery
 * as a whole is exchanged: its middle one lies with the others only when it is.
 */
export function exchangedRows(t: Placed, rows: Int32Array, own: SortedPositions, others: SortedPositions): number[] {
  if (own.e.length === 0) return [];
  const boxes: Holds[] = [],
    [middleE, middleN] = [own.e[own.e.length >> 1]!, own.n[own.n.length >> 1]!];
  if (others.e.length >= ENOUGH) boxes.push(boxOf(others, 0.05, 1));
  const isWholly = boxes.some((holds) => !holds(middleE, middleN) && holds(middleN, middleE));
  // Of a few points beside others the middle tells nothing.
  if (own.e.length >= (boxes.length ? ENOUGH : 3) && !isWholly) boxes.push(boxOf(own, 0.2, 2));
  const inside: Holds = (e, n) => boxes.some((holds) => holds(e, n));
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
