import fc from "fast-check";
import type { DrawnText, Layout } from "../../src/drawing/layout";
import { LabelGaps } from "../../src/drawing/gaps";

/** A label of 8 mm by 1.8 mm at a scale of a unit to 2 mm: 16 by 3.6 units, with air round it. */
const label = (e: number, n: number, angle: number): DrawnText =>
  ({ is: "contour", layer: "s", e, n, angle, height: 1.8, halfWidth: 4, lines: ["105"], point: -1, line: -1 }) as never;
const layoutOf = (texts: DrawnText[]) => ({ texts, unitsPerMm: 2 }) as unknown as Layout;

test("a chord through a label is left out behind it, whatever way the label lies", () => {
  const half = 8 + 0.3 * 3.6;
  fc.assert(
    fc.property(
      fc.double({ min: -1.5, max: 1.5, noNaN: true }),
      fc.double({ min: 30, max: 3000, noNaN: true }),
      (a, far) => {
        const gaps = new LabelGaps(layoutOf([label(100, 200, a)]), "s"),
          [c, s] = [Math.cos(a), Math.sin(a)],
          parts = gaps.outside(100 - far * c, 200 - far * s, 100 + far * c, 200 + far * s);
        expect(parts).toHaveLength(2);
        expect(parts[0]![0]).toBe(0);
        expect(parts[1]![1]).toBe(1);
        expect((parts[1]![0] - parts[0]![1]) * 2 * far).toBeCloseTo(2 * half, 6);
      },
    ),
  );
});

test("what passes beside a label, or another surface's, stays whole; what lies in it is gone", () => {
  const gaps = new LabelGaps(layoutOf([label(100, 200, 0)]), "s");
  expect(gaps.outside(0, 205, 200, 205)).toEqual([[0, 1]]);
  expect(gaps.outside(98, 200, 102, 201)).toEqual([]);
  expect(gaps.outside(100, 100, 100, 300)).toEqual([
    [0, expect.closeTo(0.5 - (0.8 * 3.6) / 200, 9)],
    [expect.closeTo(0.5 + (0.8 * 3.6) / 200, 9), 1],
  ]);
  expect(new LabelGaps(layoutOf([label(100, 200, 0)]), "other").areNone).toBe(true);
  expect(new LabelGaps(undefined, "s").outside(0, 0, 1, 1)).toEqual([[0, 1]]);
});
