/** What is measured between positions, against triangles, turned rings and a sum of triangles. */
import fc from "fast-check";
import { legOf, measurementOf, type Measured } from "../../src/job/told/measured";

test("a leg: plan, slope, direction, rise and gradient by hand; without a level only the plan", () => {
  expect(legOf([100, 200, 10], [103, 204, 22])).toEqual({
    plan: 5,
    slope: 13,
    azimuth: expect.closeTo(Math.atan2(3, 4), 12),
    rise: 12,
    gradient: 2.4,
  });
  expect(legOf([0, 0, NaN], [0, -2, 1])).toEqual({ plan: 2, slope: NaN, azimuth: Math.PI, rise: NaN, gradient: NaN });
  expect(legOf([5, 5, 1], [5, 5, 4])).toEqual({ plan: 0, slope: 3, azimuth: NaN, rise: 3, gradient: NaN });
});

test("several: the way and the way across; fewer than two tell nothing", () => {
  const m = measurementOf([[0, 0, 0], [3, 4, 0], [3, 16, 5]], false)!; // prettier-ignore
  expect([m.plan, m.slope, m.across.plan, m.ring]).toEqual([17, 18, Math.hypot(3, 16), undefined]);
  expect(measurementOf([[1, 2, 3]], true)).toBeUndefined();
});

test("a ring: area, perimeter and centre stay through turning and large coordinates", () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 500 }),
      fc.integer({ min: 1, max: 500 }),
      fc.integer({ min: 0, max: 628 }),
      fc.constantFrom([0, 0], [612_345, 5_712_345]),
      (w, h, angle, [oe, on]) => {
        const [c, s] = [Math.cos(angle / 100), Math.sin(angle / 100)],
          corner = (x: number, y: number): Measured => [oe! + x * c - y * s, on! + x * s + y * c, NaN],
          { ring } = measurementOf([corner(0, 0), corner(w, 0), corner(w, h), corner(0, h)], true)!,
          [ce, cn] = corner(w / 2, h / 2);
        expect(ring!.area / (w * h)).toBeCloseTo(1, 7);
        expect(ring!.perimeter).toBeCloseTo(2 * (w + h), 5);
        expect(ring!.centre[0]).toBeCloseTo(ce, 4);
        expect(ring!.centre[1]).toBeCloseTo(cn, 4);
      },
    ),
  ));

test("the centre of an L is that of its two rectangles, weighted by their areas; what encloses nothing has none", () => {
  const L = [[0, 0], [4, 0], [4, 1], [1, 1], [1, 3], [0, 3]].map(([e, n]): Measured => [e!, n!, 0]), // prettier-ignore
    { ring } = measurementOf(L, true)!;
  expect(ring).toEqual({
    area: 6,
    perimeter: 14,
    centre: [expect.closeTo((4 * 2 + 2 * 0.5) / 6, 12), expect.closeTo((4 * 0.5 + 2 * 2) / 6, 12)],
  });
  expect(measurementOf([[0, 0, 0], [1, 1, 0], [2, 2, 0]], true)!.ring).toBeUndefined(); // prettier-ignore
  // One that crosses itself encloses nothing that could be told.
  expect(measurementOf([[0, 0, 0], [4, 4, 0], [4, 0, 0], [0, 3, 0]], true)!.ring).toBeUndefined(); // prettier-ignore
});
