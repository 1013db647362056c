import fc from "fast-check";
import {
  acrossWay,
  lengthOfWay,
  levelOn,
  linesCrossed,
  positionOnWay,
  profileOf,
  sectionOf,
  type PlanWay,
} from "../../src/surface/section";
import { SurfaceReader } from "../../src/surface/locate";
import type { SurfaceRecipe } from "../../src/surface/model";
import { derive, type Row } from "../job";

function surfaceOf(rows: Row[], recipe: Partial<SurfaceRecipe> = {}) {
  const s = derive(rows, { surfaces: [{ name: "s", ...recipe }] }).derived.surfaces[0]!;
  return s.ok ? s.value.surface : undefined;
}
const grid = (level: (e: number, n: number) => number): Row[] =>
  Array.from({ length: 121 }, (_, k) => {
    const [e, n] = [10 * (k % 11), 10 * Math.floor(k / 11)];
    return { number: k, e, n, z: level(e, n), code: "SPOT" };
  });

test("a section is the surface at every station, and nothing where there is none", () => {
  const coordinate = fc.integer({ min: -1000, max: 11_000 }).map((k) => k / 97),
    at = fc.tuple(coordinate, coordinate);
  const hole = [
    [31, 32],
    [68, 33],
    [66, 67],
    [34, 65],
  ] as [number, number][];
  const s = surfaceOf(
      grid((e, n) => 10 + 3 * Math.sin(e / 17) + 2 * Math.cos(n / 13)),
      { holes: [{ ring: hole }] },
    )!,
    reader = new SurfaceReader(s);
  let seen = 0,
    unseen = 0;
  fc.assert(
    fc.property(at, at, (a, b) => {
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (length < 1) return;
      const section = sectionOf(s, a, b, reader);
      expect(section.station.every((x, k) => k === 0 || x > section.station[k - 1]!)).toBe(true);
      for (let k = 1; k < 40; k++) {
        const station = (length * k) / 40;
        // On the edge itself rounding decides.
        if (section.station.some((x) => Math.abs(x - station) < 1e-6)) continue;
        const under = reader.at(a[0] + (station / length) * (b[0] - a[0]), a[1] + (station / length) * (b[1] - a[1])),
          level = levelOn(section, station);
        if (under) {
          seen++;
          expect(level).toBeCloseTo(under.level, 6);
        } else {
          unseen++;
          expect(level).toBeNaN();
        }
      }
    }),
    { numRuns: 100 },
  );
  expect(Math.min(seen, unseen)).toBeGreaterThan(300);
});

test("its corners are where it crosses sides: along a row of points each of them, on a plane no others matter", () => {
  const s = surfaceOf(grid((e, n) => 5 + e / 10 + n / 20))!;
  const row = sectionOf(s, [0, 50], [100, 50]);
  expect(row.station).toEqual(Array.from({ length: 11 }, (_, k) => expect.closeTo(10 * k, 9)));
  expect(row.level).toEqual(row.station.map((x) => expect.closeTo(7.5 + (x as number) / 10, 9)));
  const beside = sectionOf(s, [-30, 55], [130, 55]);
  expect([beside.station[0], beside.station.at(-1)]).toEqual([expect.closeTo(30, 9), expect.closeTo(130, 9)]);
  expect(sectionOf(s, [-30, -5], [130, -5]).station).toEqual([]);
  expect(sectionOf(s, [5, 5], [5, 5]).station).toEqual([]);
});

test("what is under a position on the edge is the same from wherever one asks", () => {
  const square = (from: number, to: number): [number, number][] => [
    [from, from],
    [to, from],
    [to, to],
    [from, to],
  ];
  const s = surfaceOf(
      grid((e, n) => 5 + e / 10 + n / 20),
      { holes: [{ ring: square(30, 70) }] },
    )!,
    reader = new SurfaceReader(s);
  const spots = [0, 25, 50, 75, 100];
  for (const [low, high] of [
    [0, 100],
    [30, 70],
  ] as const)
    for (const k of [low, 45, 52.5, high])
      for (const [e, n] of [
        [low, k],
        [high, k],
        [k, low],
        [k, high],
      ] as const)
        for (const fromE of spots)
          for (const fromN of spots) {
            reader.at(fromE, fromN);
            expect(reader.at(e, n)?.level).toBeCloseTo(5 + e / 10 + n / 20, 9);
          }
});

test("a profile along a way with bends is the surface at every station, with gaps where it leaves it", () => {
  const s = surfaceOf(
      grid((e, n) => 10 + 3 * Math.sin(e / 17) + 2 * Math.cos(n / 13)),
      {
        holes: [
          {
            ring: [
              [31, 32],
              [68, 33],
              [66, 67],
              [34, 65],
            ],
          },
        ],
      },
    )!,
    reader = new SurfaceReader(s),
    coordinate = fc.integer({ min: -1000, max: 11_000 }).map((k) => k / 97);
  let seen = 0,
    unseen = 0;
  fc.assert(
    fc.property(fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 6 }), (way) => {
      const length = lengthOfWay(way),
        profile = profileOf(s, way, reader);
      if (length < 1) return;
      expect(profile.station.every((x, k) => k === 0 || x > profile.station[k - 1]!)).toBe(true);
      for (let k = 1; k < 50; k++) {
        const station = (length * k) / 50;
        if (profile.station.some((x) => Math.abs(x - station) < 1e-6)) continue;
        const under = reader.at(...positionOnWay(way, station)!),
          level = levelOn(profile, station);
        if (under) seen++;
        else unseen++;
        if (under) expect(level).toBeCloseTo(under.level, 6);
        else expect(level).toBeNaN();
      }
    }),
    { numRuns: 100 },
  );
  expect(Math.min(seen, unseen)).toBeGreaterThan(300);
});

test("lines that a way crosses are told with their stations and levels; a corner on it counts once", () => {
  const { chains, lines } = derive([
    { number: 1, e: 10, n: -10, z: 5, code: "HEDGE1" },
    { number: 2, e: 10, n: 10, z: 7, code: "HEDGE1" },
    // Its middle shot stands on the way.
    { number: 3, e: 20, n: -5, z: 1, code: "TOP1" },
    { number: 4, e: 22, n: 0, z: 2, code: "TOP1" },
    { number: 5, e: 24, n: 6, z: 3, code: "TOP1" },
    { number: 6, e: 45, n: -5, code: "TOE1" },
    { number: 7, e: 35, n: 5, code: "TOE1" },
    { number: 8, e: 0, n: 50, z: 1, code: "TOE2" },
    { number: 9, e: 100, n: 50, z: 1, code: "TOE2" },
  ]).derived;
  const way: PlanWay = [
    [0, 0],
    [30, 0],
    [60, 0],
    [60, 30],
  ];
  const found = linesCrossed(chains, way).map((c) => [lines[c.line]!.code, c.station, c.level]);
  expect(found).toEqual([
    ["HEDGE", 10, 6],
    ["TOP", 22, 2],
    ["TOE", 40, NaN],
  ]);
});

test("across a way: square to the leg at its station, from left to right", () => {
  const way: PlanWay = [
    [0, 0],
    [100, 0],
    [100, 50],
  ];
  expect(acrossWay(way, 30, 8)).toEqual([
    [30, 8],
    [30, -8],
  ]);
  expect(acrossWay(way, 120, 8)!.map(([e, n]) => [Math.round(e), Math.round(n)])).toEqual([
    [92, 20],
    [108, 20],
  ]);
  expect(positionOnWay(way, 100)).toEqual([100, 0]);
  expect(acrossWay([[1, 1]], 0, 5)).toBeUndefined();
});
