// @long: left out of npm run test:quick.
import fc from "fast-check";
import { summarize } from "../../src/job/told/summary";
import type { Recipe } from "../../src/job/recipe/recipe";
import { stationing } from "../../src/math/station";
import { againstLine, piecesOfReference, type DifferenceRecipe } from "../../src/volumes/as-built";
import { derive, type Row } from "../job";

const slab = {
  name: "design",
  triangles: {
    points: [
      [0, 0, 10],
      [40, 0, 11],
      [40, 20, 11],
      [0, 20, 10],
    ] as [number, number, number][],
    faces: [
      [0, 1, 2],
      [0, 2, 3],
    ] as [number, number, number][],
  },
};
const SHOTS: Row[] = [
  { number: 1, e: 4, n: 4, z: 10.11, code: "SPOT" },
  { number: 2, e: 20, n: 10, z: 10.485, code: "SPOT" },
  { number: 3, e: 36, n: 18, z: 10.87, code: "SPOT" },
  { number: 4, e: 60, n: 10, z: 12, code: "SPOT" },
  { number: 5, e: 8, n: 8, code: "SPOT" },
  { number: 6, e: 12, n: 1, z: 10.31, code: "ROD" },
];
const run = (recipe: DifferenceRecipe, rows: Row[] = SHOTS, more: Partial<Recipe> = {}) => {
  const { state, derived } = derive(rows, { surfaces: [slab], differences: [recipe], ...more });
  const [d] = derived.differences;
  if (!d!.ok) throw d!.refusal;
  return { built: d!.value, summary: summarize(state, derived, []).differences[0]! };
};

describe("against a surface", () => {
  test("levels above it by hand, beyond the tolerance by number; off it and without a level there is nothing to tell", () => {
    const { summary } = run({ name: "slab", points: "1-5", surface: "design", tolerance: 0.02 });
    expect(summary.rows.map((r) => r.number)).toEqual(["1", "2", "3", "4", "5"]);
    expect(summary.rows[0]!.level).toBeCloseTo(0.01, 12);
    expect(summary.rows[1]!.level).toBeCloseTo(-0.015, 12);
    expect(summary.rows[2]!.level).toBeCloseTo(-0.03, 12);
    expect(summary.rows.slice(3)).toEqual([{ number: "4" }, { number: "5" }]);
    expect(summary.outside).toEqual(["3"]);
    expect(summary.mean).toBeCloseTo((0.01 - 0.015 - 0.03) / 3, 12);
    expect(summary.rms).toBeCloseTo(Math.sqrt((0.01 ** 2 + 0.015 ** 2 + 0.03 ** 2) / 3), 12);
    expect([summary.min, summary.max].map((x) => x.toFixed(3))).toEqual(["-0.030", "0.010"]);
  });

  test("a set chooses the points, and a set's name wins over numbers", () => {
    const sets = [{ name: "6", rule: { codes: ["SPOT"] } }];
    const { summary } = run({ name: "slab", points: "6", surface: "design", tolerance: 0.02 }, SHOTS, { sets });
    expect(summary.rows).toHaveLength(5);
  });

  test.each<[DifferenceRecipe, RegExp]>([
    [{ name: "x", points: "4", surface: "design", tolerance: 0.02 }, /“x”: none of its points lies on the surface/],
    [{ name: "x", points: "900", surface: "design", tolerance: 0.02 }, /“x” has no points/],
    [{ name: "x", points: "1", line: { code: "WALL" }, tolerance: 0.02 }, /there is no line “WALL”/],
    [{ name: "x", points: "1", line: { file: "a.xml", alignment: "b" }, tolerance: 0.02 }, /b \(a\.xml\)/],
  ])("what cannot be told is refused: %j", (recipe, words) => {
    expect(() => run(recipe)).toThrow(words);
  });
});

describe("against a line", () => {
  const KERB: Row[] = [
    { number: 50, e: 0, n: 0, z: 5, code: "HEDGE1" },
    { number: 51, e: 10, n: 0, z: 6, code: "HEDGE1" },
    // An arc to the right about (10, −10), a quarter of it.
    { number: 52, e: 10 + 10 * Math.SQRT1_2, n: -10 + 10 * Math.SQRT1_2, z: 6.5, code: "HEDGE1 via" },
    { number: 53, e: 20, n: -10, z: 7, code: "HEDGE1" },
  ];
  const line = { code: "HEDGE", run: "1" };

  test("stations, offsets and levels on straights and arcs, exactly", () => {
    const turned = Math.PI / 6,
      arc = { e: 10 + 12 * Math.sin(turned), n: -10 + 12 * Math.cos(turned) };
    const { summary } = run({ name: "kerb", points: "1-3", line, tolerance: 0.02 }, [
      ...KERB,
      { number: 1, e: 4, n: -0.5, z: 5.41, code: "SPOT" },
      { number: 2, ...arc, z: 6, code: "SPOT" },
      { number: 3, e: -3, n: 4, z: 5, code: "SPOT" },
    ]);
    const [one, two, three] = summary.rows as { station: number; offset: number; level: number }[];
    expect([one!.station, one!.offset, one!.level].map((x) => Number(x.toFixed(9)))).toEqual([4, 0.5, 0.01]);
    expect(two!.station).toBeCloseTo(10 + 10 * turned, 9);
    expect(two!.offset).toBeCloseTo(-2, 9);
    expect(two!.level).toBeCloseTo(6 - (6 + turned / (Math.PI / 2)), 9);
    // Its nearest position is the line's beginning.
    expect([three!.station, three!.offset]).toEqual([0, -5]);
    expect(summary.outside).toEqual(["1", "2", "3"]);
  });

  test("a drawn line has no level: the figures are of offsets, stations begin where it says", () => {
    const { summary } = run({
      name: "axis",
      points: "1-3",
      line: {
        points: [
          [0, 0],
          [40, 0],
        ],
        start: 100,
      },
      tolerance: 5,
    });
    expect(summary.rows).toEqual([
      { number: "1", station: 104, offset: -4 },
      { number: "2", station: 120, offset: -10 },
      { number: "3", station: 136, offset: -18 },
    ]);
    expect(summary.outside).toEqual(["2", "3"]);
    expect([summary.min, summary.max]).toEqual([-18, -4]);
  });

  /** Station and offset of single positions against a drawn way. */
  const stand = (points: [number, number][], at: [number, number][]) => {
    const { summary } = run(
      { name: "way", points: "1-9", line: { points }, tolerance: 0.02 },
      at.map(([e, n], k) => ({ number: k + 1, e, n, z: 1, code: "SPOT" })),
    );
    return summary.rows.map((r) => [Number(r.station!.toFixed(6)), Number(r.offset!.toFixed(6))]);
  };

  test("beyond an end and outside a bend the offset is the distance, with the sign of the side; + where that is neither", () => {
    const east: [number, number][] = [
      [0, 0],
      [10, 0],
    ];
    expect(
      stand(east, [
        [20, 0],
        [20, 0.001],
        [20, -0.001],
        [-5, 0],
        [-5, 0.001],
        [4, 0],
      ]),
    ).toEqual([
      [10, 10],
      [10, -10],
      [10, 10],
      [0, 5],
      [0, -5],
      [4, 0],
    ]);
    // Turning right by 90 and by 135 degrees: all outside is to the left, on the prolongation and beside it.
    for (const to of [
      [10, -10],
      [0, -10],
    ] as [number, number][])
      expect(
        stand(
          [...east, to],
          [
            [15, 0],
            [15, 0.001],
            [15, -1e-7],
            [14, 3],
          ],
        ).map(([, offset]) => offset),
      ).toEqual([-5, -5, -5, -5]);
    // The same to the left, in a direction that decimals cannot tell, far from the origin.
    const [e, n] = [457_000.3, 5_427_000.7];
    expect(
      stand(
        [
          [e, n],
          [e + 0.3, n + 0.1],
        ],
        [
          [e + 3, n + 1],
          [e - 0.6, n - 0.2],
        ],
      ).map(([, o]) => o! > 0),
    ).toEqual([true, true]);
    expect(
      stand(
        [
          [0, 0],
          [10, 0],
          [10, 10],
        ],
        [
          [15, 0],
          [13, -4],
        ],
      ).map(([, o]) => o),
    ).toEqual([5, 5]);
    // Where it begins a closed way bends as well.
    const square: [number, number][] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
      [0, 0],
    ];
    expect(
      stand(square, [
        [-3, -4],
        [0, -2],
        [-2, 0],
      ]),
    ).toEqual([
      [0, 5],
      [0, 2],
      [0, 2],
    ]);
  });

  test("what lies exactly beyond an end is outside its tolerance like what lies beside it", () => {
    const { summary } = run(
      {
        name: "way",
        points: "1-2",
        line: {
          points: [
            [0, 0],
            [10, 0],
          ],
        },
        tolerance: 0.02,
      },
      [
        { number: 1, e: 20, n: 0, z: 1, code: "SPOT" },
        { number: 2, e: 5, n: 0.01, z: 1, code: "SPOT" },
      ],
    );
    expect(summary.outside).toEqual(["1"]);
  });

  test("a position by station and offset of a line with arcs is found again", () => {
    const leg = fc.record({
      e: fc.integer({ min: 5, max: 40 }),
      n: fc.integer({ min: -20, max: 20 }),
      turn: fc.constantFrom(0, 0, 0.4, -0.3, 1.1),
    });
    fc.assert(
      fc.property(
        fc.array(leg, { minLength: 1, maxLength: 5 }),
        fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        (legs, share, offset) => {
          const xyz = [0, 0, 1];
          for (const l of legs) xyz.push(xyz.at(-3)! + l.e, xyz.at(-2)! + l.n, 1);
          const way = { xyz: Float64Array.from(xyz), sweep: Float64Array.from(legs, (l) => l.turn), start: 7 },
            pieces = piecesOfReference(way),
            whole = pieces.reduce(
              (s, p) =>
                s +
                (p.type === "arc"
                  ? p.radius * Math.abs(p.sweep)
                  : Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1])),
              0,
            ),
            at = stationing(way)!(7 + share * whole, offset);
          const built = againstLine(
            { name: "x", points: "1", tolerance: 1 },
            Int32Array.of(0),
            { e: Float64Array.of(at.e), n: Float64Array.of(at.n), z: Float64Array.of(1.25) },
            [{ pieces, start: 7 }],
            0.01,
          );
          // Beside a bend the nearest position may be on the other leg; within a third of a metre it is near.
          expect(Math.abs(built.station[0]! - 7 - share * whole)).toBeLessThan(0.4);
          expect(Math.abs(built.offset[0]!)).toBeLessThanOrEqual(Math.abs(offset) + 1e-9);
          expect(built.level[0]).toBeCloseTo(0.25, 12);
          if (legs.length === 1) {
            expect(built.station[0]).toBeCloseTo(7 + share * whole, 7);
            expect(built.offset[0]).toBeCloseTo(offset, 7);
          }
        },
      ),
    );
  });

  test("along a smooth curve stations grow with its length", () => {
    const rows: Row[] = [
      { number: 50, e: 0, n: 0, z: 5, code: "HEDGE1 flow" },
      { number: 51, e: 10, n: 4, z: 5, code: "HEDGE1" },
      { number: 52, e: 20, n: 0, z: 5, code: "HEDGE1" },
      { number: 53, e: 30, n: -4, z: 5, code: "HEDGE1 unflow" },
      ...[51, 52].map((k): Row => ({ number: k - 50, e: 10 * (k - 50), n: k === 51 ? 4 : 0, z: 5.5, code: "SPOT" })),
    ];
    const { summary } = run({ name: "kerb", points: "1-2, 50-53", line, tolerance: 0.6 }, rows),
      of = Object.fromEntries(summary.rows.map((r) => [r.number, r])) as Record<
        string,
        { station: number; offset: number; level: number }
      >;
    for (const [point, shot] of [
      ["1", "51"],
      ["2", "52"],
    ] as const) {
      expect(of[point]!.station).toBeCloseTo(of[shot]!.station, 6);
      expect(Math.abs(of[point]!.offset)).toBeLessThan(1e-6);
      expect(of[point]!.level).toBeCloseTo(0.5, 9);
    }
    expect(of["51"]!.station).toBeGreaterThan(Math.hypot(10, 4));
    expect(of["53"]!.station).toBeGreaterThan(of["52"]!.station + Math.hypot(10, 4) - 1e-9);
    expect(summary.outside).toEqual([]);
  });
});
