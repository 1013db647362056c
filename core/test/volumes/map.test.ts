// @long: left out of npm run test:quick.
import fc from "fast-check";
import { compare } from "../../src/volumes/compare";
import { differenceMap } from "../../src/volumes/map";
import type { ComparedPair } from "../../src/volumes/measure";
import { regionsOf } from "../../src/volumes/regions";
import { delaunayOf, freePositions, rectangle } from "./surfaces";

const between = (from: ComparedPair["from"], to: ComparedPair["to"]): ComparedPair => ({ kind: "surfaces", from, to });

test("two planes that cross: classes of one unit, their areas, and lines between them", () => {
  // d runs from −2 to 4 over 60.
  const map = differenceMap(
    between(
      rectangle(100, 200, 60, 10, () => 10),
      rectangle(100, 200, 60, 10, (e) => 8 + (e - 100) / 10),
    ),
  );
  expect([map.least, map.most, map.step]).toEqual([-2, 4, 1]);
  expect(map.edges).toEqual([-1, 0, 1, 2, 3]);
  map.areas.forEach((area) => expect(area).toBeCloseTo(100, 3));
  map.lines.forEach((xy, k) => {
    const xs = Array.from({ length: xy.length / 2 }, (_, i) => xy[2 * i]!);
    // The line of a difference of edge k stands at 10 · (edge + 2) from the west.
    xs.forEach((x) => expect(x + map.origin[0] - 100).toBeCloseTo(10 * (map.edges[k]! + 2), 4));
    const ys = Array.from({ length: xy.length / 2 }, (_, i) => xy[2 * i + 1]! + map.origin[1]);
    expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(10, 4);
  });
});

test("the areas of all classes are the common area, those above zero the area of fill", () => {
  fc.assert(
    fc.property(freePositions, freePositions, (a, b) => {
      const [from, to] = [delaunayOf(a), delaunayOf(b)];
      if (!from || !to) return;
      const { whole } = compare({ from, to }),
        map = differenceMap(between(from, to));
      expect(map.areas.reduce((x, y) => x + y, 0)).toBeCloseTo(whole.area, 2);
      const zero = map.edges.indexOf(0);
      if (zero >= 0) expect(map.areas.slice(zero + 1).reduce((x, y) => x + y, 0)).toBeCloseTo(whole.fillArea, 2);
    }),
    { numRuns: 60 },
  );
});

test("against a level the map has the surface's own corners, whole triangles, and the same classes as cut pieces have", () => {
  fc.assert(
    fc.property(freePositions, fc.double({ min: -2, max: 8, noNaN: true }), (a, level) => {
      const from = delaunayOf(a);
      if (!from) return;
      const map = differenceMap({ kind: "level", from, to: level }),
        { whole } = compare({ from, to: level }),
        under = map.edges.indexOf(0),
        above = map.areas.slice(under + 1).reduce((x, y) => x + y, 0);
      expect([map.coarse, map.corners.length, map.triangles.length]).toEqual([
        false,
        3 * from.x.length,
        from.tri.length,
      ]);
      expect(map.areas.reduce((x, y) => x + y, 0)).toBeCloseTo(whole.area, 2);
      expect(under >= 0 ? above : map.least >= 0 ? whole.area : 0).toBeCloseTo(whole.fillArea, 2);
      // Within areas it ends where they end.
      const ring: [number, number][] = [
          [2, 2],
          [7, 2],
          [7, 8],
        ],
        part = { from, to: level, within: regionsOf([{ name: "a", rings: [ring] }]) },
        inside = differenceMap({ kind: "level", ...part });
      expect(inside.areas.reduce((x, y) => x + y, 0)).toBeCloseTo(compare(part).whole.area, 2);
    }),
    { numRuns: 60 },
  );
});

test("a large comparison is drawn at the first surface's corners, and says so", () => {
  const from = delaunayOf(
      Array.from({ length: 100 }, (_, k): [number, number, number] => [k % 10, Math.floor(k / 10), (k % 10) / 2]),
    )!,
    ring: [number, number][] = [
      [-1, -1],
      [4.5, -1],
      [4.5, 20],
      [-1, 20],
    ],
    within = regionsOf([{ name: "west", rings: [ring] }]);
  const map = differenceMap(
    {
      ...between(
        from,
        rectangle(-1, -1, 30, 30, () => 5),
      ),
      within,
    },
    10,
  );
  expect(map.coarse).toBe(true);
  expect(map.areas).toEqual([]);
  expect([map.least, map.most]).toEqual([3, 5]);
  expect(map.triangles.length / 3).toBe(4 * 9 * 2);
});

test("of a storage the depth under level 0 is told, so that any level can be seen", () => {
  const map = differenceMap({ kind: "storage", from: rectangle(0, 0, 10, 10, (e) => 90 + e), to: 95 });
  expect([map.least, map.most, map.edges.length]).toEqual([-100, -90, 0]);
});
