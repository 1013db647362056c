/** Exchanged axes: rows that lie with the rest only when east and north are exchanged. */
import type { IntakeInfo } from "../intake/model";
import { finding, type Finding } from "../finding";
import { someOf } from "../math/words";
import type { PointTable } from "../points/table";

export interface Box { minE: number; minN: number; maxE: number; maxN: number }

/** The box of the middle 98 % in either direction of the living points that the test lets in; undefined for fewer than three. */
export function middleBox(t: PointTable, isIn: (i: number) => boolean = () => true): Box | undefined {
  const e: number[] = [], n: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && isIn(i)) {
    e.push(t.e[i]!);
    n.push(t.n[i]!);
  }
  if (e.length < 3) return undefined;
  const range = (list: number[]): [number, number] => {
    const sorted = Float64Array.from(list).sort();
    // One at either end of ten and more, so that a single stray row never widens the box.
    const off = sorted.length < 10 ? 0 : Math.max(1, Math.round(0.01 * sorted.length));
    return [sorted[off]!, sorted[sorted.length - 1 - off]!];
  };
  const [minE, maxE] = range(e), [minN, maxN] = range(n);
  return { minE, minN, maxE, maxN };
}

/** Places of the points that fall into the box, widened by its own size, only when their coordinates are exchanged. */
export function exchangedPlaces(t: PointTable, box: Box, isIn: (i: number) => boolean = () => true): number[] {
  const we = box.maxE - box.minE, wn = box.maxN - box.minN;
  const inside = (e: number, n: number) => e >= box.minE - we && e <= box.maxE + we && n >= box.minN - wn && n <= box.maxN + wn;
  const out: number[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || !isIn(i)) continue;
    if (!inside(t.e[i]!, t.n[i]!) && inside(t.n[i]!, t.e[i]!)) out.push(i);
  }
  return out;
}

/** One finding for each intake with exchanged rows. */
export function axesFindings(t: PointTable, intakes: readonly IntakeInfo[]): Finding[] {
  const box = middleBox(t);
  if (!box) return [];
  const per = new Map<number, number[]>();
  for (const i of exchangedPlaces(t, box)) per.set(t.intake[i]!, [...(per.get(t.intake[i]!) ?? []), i]);
  return [...per].map(([intake, places]) => {
    const points = places.map((i) => t.number[i]!), file = intakes[intake]?.file ?? "";
    return finding("axes-swapped", "error", `Northing and easting look exchanged for ${points.length === 1 ? "point" : "points"} ${someOf(points)} (${file}): exchanged, they lie with the rest. Correct them, or read the intake again.`, {
      points, at: [t.e[places[0]!]!, t.n[places[0]!]!], data: { intake: intakes[intake]?.id },
    });
  });
}
