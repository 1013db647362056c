/** Stations of a line: how they are written, where they are, their table, and end areas across the line. */
import fc from "fast-check";
import { openRecipe, runChain, summarize, type Recipe } from "../../src";
import { stationing } from "../../src/math/station";
import { readStation, stationText } from "../../src/math/station-text";
import { AlongWay } from "../../src/volumes/along-way";
import { piecesOfReference } from "../../src/volumes/as-built";
import { compare } from "../../src/volumes/compare";
import { regionsOf } from "../../src/volumes/regions";
import { boxOf, endAreas, endAreasAcross } from "../../src/volumes/second-opinion";
import { stationTable } from "../../src/volumes/station-table";
import { delaunayOf, freePositions, rectangle } from "./surfaces";

const straight = (points: readonly (readonly [number, number, number])[], start = 0) =>
  new AlongWay({
    pieces: piecesOfReference({ xyz: Float64Array.from(points.flat()), sweep: new Float64Array(points.length - 1) }),
    start,
  });

test.each<[number, "m" | "ft", "plain" | "plus", string]>([
  [1560.1, "ft", "plus", "15+60.10"],
  [1560.1, "m", "plus", "1+560.100"],
  [1560.1, "ft", "plain", "1560.10"],
  [5, "ft", "plus", "0+05.00"],
  [99.999, "ft", "plus", "1+00.00"],
  [999.9996, "m", "plus", "1+000.000"],
  [-50, "ft", "plus", "−0+50.00"],
  [-0.001, "ft", "plus", "0+00.00"],
  [0, "m", "plain", "0.000"],
])("%p in %s, %s, is written %s", (x, unit, style, text) => {
  expect(stationText(x, unit, style)).toBe(text);
});

test("what is written is read again, and two digits after the plus are of hundreds, three of thousands", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -9_999_999, max: 99_999_999 }),
      fc.constantFrom("m", "ft", "ftUS" as const),
      fc.constantFrom("plain", "plus" as const),
      (k, unit, style) => {
        const x = unit === "m" ? k / 1000 : k / 100;
        expect(readStation(stationText(x, unit, style))).toBe(x + 0);
      },
    ),
  );
  expect(["15+60.10", "1+560.1", "15+60,5", "1560", " 0+05 "].map(readStation)).toEqual([
    1560.1, 1560.1, 1560.5, 1560, 5,
  ]);
  for (const none of ["", "15+6", "15+6000", "+", "1+60+2", "15 60", "x", "1e5", "9".repeat(99)])
    expect(readStation(none)).toBeUndefined();
});

const legs = fc.record({
  points: fc.uniqueArray(fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })), {
    minLength: 3,
    maxLength: 6,
    selector: ([e, n]) => `${e} ${n}`,
  }),
  turns: fc.array(fc.oneof(fc.constant(0), fc.double({ min: -2.5, max: 2.5, noNaN: true })), {
    minLength: 5,
    maxLength: 5,
  }),
});

test("a place on straights and arcs is where the stationing of files says, at its level between those of the corners", () => {
  fc.assert(
    fc.property(legs, fc.double({ min: 0, max: 1, noNaN: true }), ({ points, turns }, share) => {
      const xyz = Float64Array.from(points.flatMap(([e, n], k) => [e, n, 10 * k])),
        sweep = Float64Array.from(turns.slice(0, points.length - 1), (t) => (Math.abs(t) < 1e-3 ? 0 : t)),
        axis = new AlongWay({ pieces: piecesOfReference({ xyz, sweep }), start: 1000 }),
        other = stationing({ xyz, sweep, start: 1000 })!,
        station = axis.start + share * (axis.end - axis.start),
        at = axis.at(station)!,
        p = other(station, 0),
        right = other(station, 1);
      expect(Math.hypot(at.e - p.e, at.n - p.n)).toBeLessThan(1e-7);
      const k = axis.stations.findIndex((s) => s > station),
        along = k > 0 ? (station - axis.stations[k - 1]!) / (axis.stations[k]! - axis.stations[k - 1]!) : 0;
      if (k > 0) expect(at.z).toBeCloseTo(10 * (k - 1 + along), 6);
      // Offsets lie to the right of its direction, away from bends.
      if (k > 0 && along > 1e-6 && along < 1 - 1e-6)
        expect(Math.hypot(p.e + Math.cos(at.azimuth) - right.e, p.n - Math.sin(at.azimuth) - right.n)).toBeLessThan(
          1e-5,
        );
    }),
  );
});

test("beyond its ends there is no place; even stations are the spacing's multiples with the ends", () => {
  const axis = straight(
    [
      [0, 0, 5],
      [35, 0, 5],
    ],
    1005,
  );
  expect([axis.at(1004), axis.at(1041), axis.at(NaN)]).toEqual([undefined, undefined, undefined]);
  expect(axis.even(10)).toEqual([1005, 1010, 1020, 1030, 1040]);
  expect(axis.even(100)).toEqual([1005, 1040]);
  expect([axis.even(0), axis.even(0.001, 100)]).toEqual([undefined, undefined]);
});

test("the table has the ends, the even stations and the bends, each with its levels", () => {
  const axis = straight(
      [
        [0, 0, 5],
        [30, 0, 8],
        [30, 25, NaN],
      ],
      100,
    ),
    rows = stationTable(axis, 20, (e, n) => (n > 10 ? NaN : 100 + e))!;
  expect(rows.map((r) => [r.station, r.e, r.n, r.what])).toEqual([
    [100, 0, 0, "start"],
    [120, 20, 0, "even"],
    [130, 30, 0, "bend"],
    [140, 30, 10, "even"],
    [155, 30, 25, "end"],
  ]);
  expect(rows.map((r) => r.level)).toEqual([5, 7, expect.anything(), NaN, NaN]);
  expect(rows.map((r) => r.ground)).toEqual([100, 120, 130, 130, NaN]);
  expect(rows[0]!.azimuth).toBeCloseTo(Math.PI / 2, 12);
  expect(rows[2]!.azimuth).toBeCloseTo(Math.PI / 4, 12);
  expect(stationTable(axis, 1e-6, () => 0)).toBeUndefined();
});

test("across a straight line each section is that of parallel lines there, on any surfaces", () => {
  fc.assert(
    fc.property(freePositions, freePositions, fc.constantFrom(0, 0.4), (a, b, t) => {
      const [from, to] = [delaunayOf(a), delaunayOf(b)];
      if (!from || !to) return;
      // The first corner of the box is where the parallel lines are counted from.
      const box = boxOf({ from, to });
      if (!box) return;
      const [w, s, e, n] = box,
        spacing = (e - w) / 4.5,
        plain = endAreas({ from, to }, { spacing, azimuth: 0 }, t)!,
        across = endAreasAcross(
          { from, to },
          straight([
            [w, s, 0],
            [e, s, 0],
          ]),
          { spacing, half: 2 * (n - s) },
          t,
        )!;
      plain.sections.slice(1, -1).forEach(({ at, cut, fill }) => {
        const own = endAreasAcross(
          { from, to },
          straight(
            [
              [w, s, 0],
              [w + at, s, 0],
            ],
            0,
          ),
          { spacing: at },
          t,
        )!.sections[1]!;
        expect(own.at).toBeCloseTo(at, 9);
        expect(Math.abs(own.cut - cut) + Math.abs(own.fill - fill)).toBeLessThan(1e-5 * (1 + cut + fill));
      });
      expect(across.sections).toHaveLength(6);
    }),
    { numRuns: 60 },
  );
});

test("of a prism across a line the end areas are the volume, and half the way to its sides a quarter of it", () => {
  const from = rectangle(0, 0, 100, 40, () => 10),
    to = rectangle(0, 0, 100, 40, (_, n) => 10 + 0.05 * (n - 20)),
    axis = straight([
      [0, 20, 0],
      [100, 20, 0],
    ]),
    { cut, fill, sections, lie } = endAreasAcross({ from, to }, axis, { spacing: 10 })!;
  const exact = compare({ from, to }).whole;
  expect([cut, fill]).toEqual([expect.closeTo(exact.cut, 6), expect.closeTo(exact.fill, 6)]);
  expect(sections.map((s) => s.at)).toEqual([0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100]);
  expect(lie).toMatchObject({ from: 0, to: 100 });
  // Half of the way to its sides: a quarter of the area of each triangle.
  const near = endAreasAcross({ from, to }, axis, { spacing: 10, half: 10 })!;
  expect([near.cut, near.fill]).toEqual([expect.closeTo(cut / 4, 6), expect.closeTo(fill / 4, 6)]);
});

test("sections across a line stay within areas, turn with its bends, and count nothing beyond its ends", () => {
  const from = rectangle(0, 0, 100, 40, () => 10),
    within = regionsOf([
      {
        name: "a",
        rings: [
          [
            [10, 5],
            [90, 5],
            [90, 35],
            [10, 35],
          ],
        ],
      },
    ]),
    axis = straight([
      [20, 20, 0],
      [60, 20, 0],
    ]);
  const all = endAreasAcross({ from, to: 12 }, axis, { spacing: 7 })!;
  expect([all.cut, all.fill]).toEqual([0, expect.closeTo(40 * 40 * 2, 6)]);
  expect(endAreasAcross({ from, to: 12, within }, axis, { spacing: 7 })!.fill).toBeCloseTo(40 * 30 * 2, 6);
  const turned = straight([
    [50, 5, 0],
    [50, 35, 0],
  ]);
  expect(endAreasAcross({ from, to: 12 }, turned, { spacing: 5 })!.fill).toBeCloseTo(30 * 100 * 2, 6);
  const aside = straight([
    [0, 500, 0],
    [100, 500, 0],
  ]);
  expect(endAreasAcross({ from, to: 12 }, aside, { spacing: 10, half: 50 })!.fill).toBe(0);
});

test("a recipe's sections lie across a line of the job; where that is gone there are none", () => {
  const rows: string[] = [];
  for (let k = 0; k < 11; k++) for (let m = 0; m < 5; m++) rows.push(`${100 + 10 * k + m},${10 * k},${10 * m},10,SPOT`);
  rows.push("1,0,20,10,AXIS1", "2,100,20,10,AXIS1");
  const recipe = (line: object): Recipe =>
    ({
      recipe: 1,
      codeBook: { codes: [{ code: "SPOT" }, { code: "AXIS", kind: "line", ground: false }] },
      intakes: [
        { id: "d", file: "d.csv", layout: { columns: ["number", "easting", "northing", "elevation", "description"] } },
      ],
      surfaces: [{ name: "s" }],
      volumes: [{ name: "v", surface: "s", level: 12, sections: { spacing: 9, line } }],
    }) as never;
  const volume = (line: object) => {
    const { state } = openRecipe(recipe(line), () => new TextEncoder().encode(rows.join("\n"))),
      d = runChain(state);
    return summarize(state, d, []).volumes[0] as { fill: number; sections?: { cut: number; fill: number } };
  };
  const { fill, sections } = volume({ code: "axis", run: "1" });
  expect(sections).toEqual({ cut: 0, fill: expect.closeTo(fill, 6) });
  expect(
    volume({
      points: [
        [0, 20],
        [50, 20],
      ],
    }).sections!.fill,
  ).toBeCloseTo(fill / 2, 6);
  expect(volume({ code: "GONE" }).sections).toBeUndefined();
});

test("stations with a plus are read where a file gives station and offset", () => {
  const rows = "1,15+60.10,2,10,SPOT\n2,1560.1,-2,10,SPOT\n3,15+6,0,10,SPOT\n4,1+560.1,0,10,SPOT\n",
    { state } = openRecipe(
      {
        recipe: 1,
        unit: "ft",
        intakes: [
          {
            id: "d",
            file: "d.csv",
            layout: { columns: ["number", "station", "offset", "elevation", "description"] },
            line: {
              points: [
                [1000, 500],
                [3000, 500],
              ],
              start: 1000,
            },
          },
        ],
      } as never,
      () => new TextEncoder().encode(rows),
    );
  const t = state.points;
  expect(Array.from(t.number.slice(0, t.count), (n, i) => [n, t.e[i], t.n[i]])).toEqual([
    ["1", expect.closeTo(1560.1, 9), expect.closeTo(498, 9)],
    ["2", expect.closeTo(1560.1, 9), expect.closeTo(502, 9)],
    ["4", expect.closeTo(1560.1, 9), expect.closeTo(500, 9)],
  ]);
  expect(state.intakes[0]!.refused).toEqual([{ row: 3, reason: "the station is “15+6”, which is not a number" }]);
});
