/** Checks of finished lines: segments longer than their code allows, and lines that cross themselves. */
import { notice, pts, say, type Noticed } from "../finding";
import { properCrossing } from "../math/crossing";
import { lengthText, type Unit } from "../math/units";
import { chainOf } from "../lines/flatten";
import { planLength } from "../lines/measure";
import type { Line } from "../lines/model";

/**
 * Pieces between shots that are longer in plan than the code's longest segment; parallels follow their line and are not
 * told again.
 */
export function longSegments(lines: readonly Line[], unit: Unit): Noticed[] {
  return lines.flatMap((l, k) => {
    const most = l.entry.maxSegment;
    if (most === undefined || l.companion) return [];
    return l.pieces.flatMap((p) => {
      const length = planLength(p);
      if (length <= most) return [];
      const points = [...new Set(p.shots.filter((i) => i >= 0))];
      const between =
        points.length > 1
          ? say`between points ${pts(points[0]!)} and ${pts(points.at(-1)!)}`
          : ["at a corner made by its cues"];
      const words = [
        ...say`Line ${{ line: k }}: ${lengthText(length, unit)} `,
        ...between,
        ...say`, longer than the ${lengthText(most, unit)} that ${l.code} allows. A shot may be missing, or the line may be two.`,
      ];
      return [
        notice("long-segment", "warning", words, {
          points,
          lines: [k],
          at: [(p.from[0] + p.to[0]) / 2, (p.from[1] + p.to[1]) / 2],
          data: { length, longest: most },
        }),
      ];
    });
  });
}

/**
 * Lines whose pieces cross one another in plan, away from their joints; one finding for each line, at the first
 * crossing.
 */
export function crossingThemselves(lines: readonly Line[], chord: number): Noticed[] {
  return lines.flatMap((l, k) => {
    if (l.pieces.length < 3) return [];
    const positions = selfCrossings(chainOf(l, chord).xyz, l.closed);
    if (positions.length === 0) return [];
    const more =
      positions.length > 1 ? ` and ${positions.length - 1} more ${positions.length > 2 ? "times" : "time"}` : "";
    const why = l.companion
      ? "Its line bends more sharply there than the parallel has room for."
      : "A run number may have been used twice, or shots may be out of order.";
    return [
      notice(
        "line-crosses-itself",
        "warning",
        say`${l.companion ? "A parallel of line" : "Line"} ${{ line: k }} crosses itself${more}. ${why}`,
        { points: l.shots, lines: [k], at: positions[0]!, data: { crossings: positions.length } },
      ),
    ];
  });
}

/** Where a chain of vertices (E, N, Z triples) crosses itself properly; touching at a vertex is no crossing. */
export function selfCrossings(xyz: Float64Array, closed: boolean): [number, number][] {
  const count = xyz.length / 3 - 1;
  const e = (v: number) => xyz[3 * v]!,
    n = (v: number) => xyz[3 * v + 1]!;
  // Segments by their west end: each is compared with those that begin before it ends.
  const order = Array.from({ length: Math.max(0, count) }, (_, s) => s).sort(
    (a, b) => Math.min(e(a), e(a + 1)) - Math.min(e(b), e(b + 1)),
  );
  const found: { first: number; at: [number, number] }[] = [];
  for (let a = 0; a < order.length; a++) {
    const s = order[a]!,
      east = Math.max(e(s), e(s + 1)),
      low = Math.min(n(s), n(s + 1)),
      high = Math.max(n(s), n(s + 1));
    for (let b = a + 1; b < order.length; b++) {
      const o = order[b]!;
      if (Math.min(e(o), e(o + 1)) > east) break;
      if (Math.min(n(o), n(o + 1)) > high || Math.max(n(o), n(o + 1)) < low) continue;
      const apart = Math.abs(o - s);
      if (apart === 1 || (closed && apart === count - 1)) continue;
      const at = properCrossing(e(s), n(s), e(s + 1), n(s + 1), e(o), n(o), e(o + 1), n(o + 1));
      if (at) found.push({ first: Math.min(s, o), at });
    }
  }
  return found.sort((x, y) => x.first - y.first).map((f) => f.at);
}
