// @long: left out of npm run test:quick.
/** Few levels changed: the short way gives the very same surface, contours and figures as a whole making. */
import fc from "fast-check";
import { applyChange, Chain, type EditableChange, type JobState } from "../../src";
import { contourAgain, type KeptContours } from "../../src/surface/again";
import { contour } from "../../src/surface/contour";
import { fieldValue } from "../../src/points/edits";
import { stateOf, type Row } from "../job";

const rows: Row[] = Array.from({ length: 70 }, (_, k) => ({
  number: k + 1,
  e: ((k * 37) % 61) + (k % 3) / 8,
  n: ((k * 53) % 59) + (k % 5) / 8,
  z: 90 + ((k * 29) % 23) / 2,
  code: "SPOT",
}));
rows.push(
  { number: 101, e: 5, n: 30, z: 95, code: "TOP" },
  { number: 102, e: 45, n: 30, z: 99, code: "TOP" },
  { number: 103, e: 55, n: 50, z: 97, code: "TOP" },
  // One that the breakline passes, and two at one place.
  { number: 104, e: 25, n: 30, z: 98, code: "SPOT" },
  { number: 105, e: 33.3, n: 12.7, z: 94, code: "SPOT" },
  { number: 106, e: 33.3, n: 12.7, z: 94, code: "SPOT" },
);
const start = stateOf(rows, {
  surfaces: [{ name: "s", breaklines: { codes: ["TOP"] } }],
  contours: [{ surface: "s", interval: 0.5, index: 4 }],
  volumes: [
    { name: "v", surface: "s", level: 96 },
    { name: "w", surface: "s", level: 97, deadband: 0.25 },
  ],
});
/** Triangles of the first block of sums and beyond: the grid has 1352. */
const grid = stateOf(
  Array.from({ length: 27 * 27 }, (_, k): Row => ({
    number: k + 1,
    e: 4 * (k % 27),
    n: 4 * Math.floor(k / 27),
    z: 90 + ((k * 31) % 17) / 4,
    code: "SPOT",
  })),
  {
    surfaces: [{ name: "s" }],
    contours: [{ surface: "s", interval: 0.25 }],
    volumes: [{ name: "v", surface: "s", level: 92 }],
  },
);

const level = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: -8, max: 8 }).map((k) => k / 8) },
  { weight: 1, arbitrary: fc.constantFrom(-30, 30) },
);
const edits = fc.array(fc.array(fc.tuple(fc.nat(2000), level), { minLength: 1, maxLength: 3 }), {
  minLength: 1,
  maxLength: 6,
});

function changed(s: JobState, list: readonly [number, number][]): JobState {
  const places = [...new Map(list.map(([place, by]) => [place % s.points.count, by]))];
  const change: EditableChange = {
    type: "points",
    edits: places.map(([place, by]) => {
      const old = fieldValue(s.points, place, "elevation");
      return { id: s.points.id[place]!, field: "elevation" as const, old, new: Number(old) + by };
    }),
  };
  return applyChange(s, change);
}

test.each([
  ["breaklines, points they pass, points at one place", start, 60],
  ["several blocks of sums", grid, 6],
])("%s", (_, first, numRuns) => {
  let short = 0;
  fc.assert(
    fc.property(edits, (steps) => {
      const chain = new Chain();
      let state = first,
        last = chain.run(state);
      for (const list of steps) {
        state = changed(state, list);
        const now = chain.run(state),
          fresh = new Chain().run(state);
        // Dots and all: the same doubles in the same order.
        expect(now.surfaces).toEqual(fresh.surfaces);
        expect(now.contours).toEqual(fresh.contours);
        expect(now.volumes).toEqual(fresh.volumes);
        const [was, is] = [last.surfaces[0]!, now.surfaces[0]!];
        if (was.ok && is.ok && was.value.surface.tri === is.value.surface.tri) short++;
        last = now;
      }
    }),
    { numRuns },
  );
  expect(short).toBeGreaterThan(numRuns / 3);
});

test("contours that are told to be of another interval are made anew", () => {
  const s = new Chain().run(grid).surfaces[0]!,
    kept: KeptContours = {};
  if (!s.ok) throw s.refusal;
  contourAgain(s.value.surface, { surface: "s", interval: 0.5 }, kept);
  const recipe = { surface: "s", interval: 0.75 };
  expect(contourAgain(s.value.surface, recipe, kept)).toEqual(contour(s.value.surface, recipe));
});

/** Rings and draped lines too: all that is done to a bare mesh, whose triangles are changed and not made anew. */
const whole = stateOf(
  rows.concat(
    { number: 201, e: 3, n: 3, code: "PATH" },
    { number: 202, e: 30, n: 41, code: "PATH" },
    { number: 203, e: 57, n: 20, code: "PATH" },
  ),
  {
    surfaces: [
      { name: "s", breaklines: { codes: ["*"], densify: 9 }, edge: { fit: 14 } },
      {
        name: "r",
        breaklines: { codes: ["*"] },
        edge: {
          ring: [
            [-5, -5],
            [50, 4],
            [70, 70],
            [4, 50],
          ],
        },
        holes: [
          {
            ring: [
              [20, 20],
              [31, 22],
              [25, 33],
            ],
          },
        ],
      },
    ],
    contours: [{ surface: "r", interval: 0.5 }],
    volumes: [{ name: "v", surface: "r", level: 96 }],
  },
);

test("points moved, taken out and brought back: what comes of it is that of a whole making", () => {
  const step = fc.tuple(
    fc.nat(2000),
    fc.constantFrom("easting", "northing", "deleted"),
    fc.integer({ min: 1, max: 24 }),
  );
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
      const chain = new Chain();
      let state = whole;
      chain.run(state);
      for (const [where, field, by] of steps) {
        const row = where % state.points.count,
          old = fieldValue(state.points, row, field as "easting");
        state = applyChange(state, {
          type: "points",
          edits: [
            {
              id: state.points.id[row]!,
              field: field as "easting",
              old,
              new: field === "deleted" ? !old : Number(old) + by / 8,
            },
          ],
        });
        const now = chain.run(state),
          fresh = new Chain().run(state);
        expect(now.surfaces).toEqual(fresh.surfaces);
        expect(now.contours).toEqual(fresh.contours);
        expect(now.volumes).toEqual(fresh.volumes);
        expect(now.findings).toEqual(fresh.findings);
      }
    }),
    { numRuns: 20 },
  );
});

/** What follows of spot levels at positions, numbered from 1, each higher than the one before. */
const spots = (list: readonly (readonly [number, number])[], coincident: number) =>
  new Chain().run(
    stateOf(
      list.map(([e, n], k): Row => ({ number: k + 1, e, n, z: 100 + k, code: "SPOT" })),
      { tolerance: { coincident }, surfaces: [{ name: "s" }] },
    ),
  );

test("of points at one position the last in the table names the vertex, wherever the others stand", () => {
  const corners: [number, number][] = [
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
    ],
    near: [number, number][] = [
      [20, 20],
      [20.3, 20],
      [20, 20.3],
      [19.7, 19.7],
    ];
  for (let turn = 0; turn < near.length; turn++) {
    const list = corners.concat(near.slice(turn), near.slice(0, turn)),
      made = spots(list, 0.5).surfaces[0]!;
    if (!made.ok) throw made.refusal;
    expect(Array.from(made.value.surface.point).sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 7]);
  }
});

test("points at one position are told in the order of the table, wherever they stand", () => {
  const places: [number, number][] = [
    [0, 0],
    [100, 0],
    [100, 100],
    [0, 100],
    [90, 90],
    [5, 5],
    [5, 95],
  ];
  for (const turned of [places, places.toReversed()]) {
    const list = turned.concat(turned),
      told = spots(list, 0.001)
        .findings.filter((f) => f.kind === "coincident")
        .map((f) => f.points[0]!);
    expect(told).toEqual(told.toSorted((a, b) => a - b));
    expect(told).toHaveLength(7);
  }
});
