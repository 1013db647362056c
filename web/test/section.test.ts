/** The chart of a section: names over no others, and an axis whose labels differ. */
import fc from "fast-check";
import { decimalsFor, nameSides } from "../panel/section-names";

test("names of lines stand above or below, never over one another, and the first always stands", () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          name: fc.constantFrom("TOP", "HEAPTOE", "K"),
          station: fc.integer({ min: 0, max: 900 }).map((x) => x / 10),
        }),
        { minLength: 1, maxLength: 30 },
      ),
      (crossings) => {
        // A unit is ten pixels wide.
        const sides = nameSides(crossings, 90, 900),
          span = (k: number) => [10 * crossings[k]!.station, crossings[k]!.name.length * 6.6] as const;
        expect(sides.filter(Boolean).length).toBeGreaterThan(0);
        for (const [i, a] of sides.entries())
          for (const [k, b] of sides.entries()) {
            if (i >= k || a === undefined || a !== b) continue;
            const [[x, w], [y, v]] = [span(i), span(k)];
            expect(Math.abs(x - y)).toBeGreaterThanOrEqual((w + v) / 2);
          }
      },
    ),
  ));

test("five steps of an axis are told apart by its decimals, without more than they need", () =>
  fc.assert(
    fc.property(fc.double({ min: 1e-4, max: 1e5, noNaN: true }), (span) => {
      const d = decimalsFor(span);
      expect(10 ** -d).toBeLessThanOrEqual((span / 5) * (1 + 1e-9));
      if (d > 0) expect(10 ** -(d - 1)).toBeGreaterThan((span / 5) * (1 - 1e-9));
    }),
  ));
