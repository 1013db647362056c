/** The text of the drawing under a position, and what tells a text from others while the drawing is laid out anew. */
import type { DrawnText, Layout } from "@bramble/core/drawing/layout";
import { halfSize } from "@bramble/core/drawing/stand";

/** Corners of a text's box, E and N, from its lower left to the left. */
export function boxOfText(t: DrawnText, unitsPerMm: number): [number, number][] {
  const [w, h] = [t.halfWidth * unitsPerMm, halfSize(t)[1] * unitsPerMm],
    [cos, sin] = [Math.cos(t.angle), Math.sin(t.angle)];
  return [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ].map(([x, y]) => [t.e + x! * cos - y! * sin, t.n + x! * sin + y! * cos]);
}

/** The uppermost text within whose box, or so near it, a position lies. */
export function textAt(layout: Layout | undefined, e: number, n: number, reach: number): DrawnText | undefined {
  return layout?.texts.findLast((t) => {
    const [w, h] = [t.halfWidth * layout.unitsPerMm + reach, halfSize(t)[1] * layout.unitsPerMm + reach],
      [cos, sin] = [Math.cos(t.angle), Math.sin(t.angle)],
      [x, y] = [(e - t.e) * cos + (n - t.n) * sin, (n - t.n) * cos - (e - t.e) * sin];
    return Math.abs(x) <= w && Math.abs(y) <= h;
  });
}

/** Stays while a text speaks of the same, wherever it stands. */
export function textKey(t: DrawnText): string {
  const of = t.is === "contour" ? (t.base ?? []).map((x) => x.toFixed(2)).join(" ") : `${t.point} ${t.line}`;
  return [t.is, t.layer, of, t.time ?? 0, t.code ?? "", t.is === "added" ? t.added : ""].join("|");
}
