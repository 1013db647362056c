// @long: left out of npm run test:quick.
/** A page thinned for a picture: what its pixels can show is still there. */
import fc from "fast-check";
import type { Mark, Page, PathMark } from "../../src/handover/plan/page";
import { thinned } from "../../src/handover/plan/thin";

const page = (marks: Mark[]): Page => ({ name: "sheet 1", width: 400, height: 300, marks });
const PIXEL = 0.7;
const middle = ({ xy }: PathMark) =>
  [0, 1].map((j) => {
    const of = Array.from(xy).filter((_, k) => k % 2 === j);
    return (Math.min(...of) + Math.max(...of)) / 2;
  });
/** A cross of 0.4 mm somewhere on the page. */
const strokeAt = (x: number, y: number, stroke: string): Mark => ({ is: "path", xy: [x - 0.2, y, x + 0.2, y], stroke });

test("a page of few marks stays as it is", () => {
  const few = page([strokeAt(1, 1, "#111111"), strokeAt(1, 1, "#111111")]);
  expect(thinned(few, PIXEL)).toBe(few);
});

test("of small marks one of each ink is kept in each pixel; nothing appears that was not there", () => {
  const coordinate = fc.integer({ min: 0, max: 6000 }).map((x) => x / 1000),
    ink = fc.constantFrom("#111111", "#222222"),
    some = fc.array(fc.tuple(coordinate, coordinate, ink), { minLength: 5, maxLength: 40 });
  fc.assert(
    fc.property(some, (few) => {
      const marks = Array.from({ length: 20_000 }, (_, k) => strokeAt(...few[k % few.length]!)),
        kept = thinned(page(marks), PIXEL).marks as PathMark[];
      expect(kept.length).toBeLessThanOrEqual(few.length);
      for (const m of kept) expect(marks).toContain(m);
      for (const [x, y, stroke] of few) {
        const near = kept.filter((m) => m.stroke === stroke).map(middle);
        expect(near.some(([a, b]) => Math.abs(a! - x) <= PIXEL && Math.abs(b! - y) <= PIXEL)).toBe(true);
      }
    }),
    { numRuns: 20 },
  );
});

test("a long path keeps its ends, and none of its vertices is half a pixel from what is kept", () => {
  const way = Float64Array.from({ length: 60_000 }, (_, k) => (k % 2 ? 150 + 80 * Math.sin(k / 500) : k / 200)),
    text: Mark = { is: "text", text: "120", x: 3, y: 3, align: 0, size: 1.8, color: "#000000" },
    ring: Mark = { is: "round", x: 9, y: 9, radius: 5, stroke: "#333333" },
    [first, ...rest] = thinned(
      page([{ is: "path", xy: way, stroke: "#111111", width: 0.13 }, text, ring]),
      PIXEL,
    ).marks;
  expect(rest).toEqual([text, ring]);
  const { xy, ...ink } = first as PathMark,
    kept = Array.from(xy);
  expect(ink).toEqual({ is: "path", stroke: "#111111", width: 0.13 });
  expect(kept.length).toBeLessThan(way.length / 2);
  expect([...kept.slice(0, 2), ...kept.slice(-2)]).toEqual(
    [0, 1, way.length - 2, way.length - 1].map((k) => Math.fround(way[k]!)),
  );
  for (let k = 0, at = 0; k < way.length; k += 2) {
    while (at + 2 < kept.length && kept[at + 2]! <= way[k]! + 1e-4) at += 2;
    expect(Math.hypot(way[k]! - kept[at]!, way[k + 1]! - kept[at + 1]!)).toBeLessThan(PIXEL / 2 + 1e-3);
  }
});
