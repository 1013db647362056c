/** Moves that a job keeps: known answers, coordinates typed for what is moved, what a window carries out, what is told. */
import fc from "fast-check";
import { standingRows, withStanding } from "../../src/construct/rows";
import { Chain } from "../../src/job/chain/chain";
import { changeDetails, detailNames } from "../../src/job/change/details";
import { applyChange } from "../../src/job/change/change";
import { editsFor } from "../../src/job/edit/cells";
import { moveTaken } from "../../src/job/edit/moves";
import type { JobState } from "../../src/job/model/model";
import { moveTold, pairsFor } from "../../src/job/told/moving";
import { Refusal } from "../../src/errors";
import { openRecipe, parseRecipe } from "../../src/job/recipe/recipe";
import { writeRecipe } from "../../src/job/recipe/write";
import type { AddedPoints } from "../../src/points/add";
import type { Move } from "../../src/points/moves";
import { refOfMade, refsOfNumbers } from "../../src/points/refs";
import { csvOf, found, runOf, stateOf, type Row } from "../job";

const ROWS: Row[] = [
  { number: "1-A", e: 100, n: 200, z: 10 },
  { number: "2-A", e: 110, n: 200, z: 11 },
  { number: "3-A", e: 100, n: 220, z: 12 },
  { number: "4", e: 105, n: 210, z: 13 },
  { number: "1", e: 500, n: 600, z: 20 },
  { number: "2", e: 500, n: 590, z: 21 },
  { number: "3", e: 520, n: 600, z: 22.03 },
];
const start = stateOf(ROWS),
  ref = refsOfNumbers(start.points, start.intakes),
  chosen = (...numbers: string[]) => ({ chosen: numbers.map(ref) }),
  moving = (...moves: Move[]): JobState => ({ ...start, moves }),
  standing = (s: JobState) => new Chain().run(s).points,
  rowOf = (number: string) => start.points.number.indexOf(number),
  at = (s: JobState, number: string) => {
    const t = standing(s),
      i = rowOf(number);
    return [t.e[i], t.n[i], t.z[i]];
  };
const FIT: Move = {
  name: "fit",
  points: chosen("1-A", "2-A", "3-A", "4"),
  fit: {
    levels: "shift",
    pairs: [
      { from: ref("1-A"), to: ref("1") },
      { from: ref("2-A"), to: ref("2") },
      { from: ref("3-A"), to: ref("3") },
    ],
  },
};

test("moves are carried out one after another on what is stored, which stays; taken away, points stand as before", () => {
  const s = moving(
    { name: "a", points: chosen("1-A"), transform: { move: [1, 2, 0.5] } },
    { name: "b", points: chosen("1-A", "2-A"), transform: { rotate: 90, about: [101, 202] } },
  );
  expect(at(s, "1-A")).toEqual([101, 202, 10.5]);
  // (9, −2) a quarter to the right is (−2, −9).
  expect(at(s, "2-A")).toEqual([expect.closeTo(99, 9), expect.closeTo(193, 9), 11]);
  expect([s.points.e[0], s.points.n[0], s.points.z[0]]).toEqual([100, 200, 10]);
  expect(at({ ...s, moves: s.moves.slice(1) }, "1-A")).toEqual([expect.closeTo(99, 9), expect.closeTo(203, 9), 10]);
});

test("a fit brings pairs together, leaves its targets, and is told pair by pair; one taken out does not count", () => {
  // Turned a quarter to the right; the third pair is 3 cm off in level.
  const told = moveTold(start, FIT);
  expect(told).toMatchObject({ count: 4, missing: 0, following: 0 });
  expect(told.fit!.rotation).toBeCloseTo(90, 6);
  expect(told.fit!.residuals.map((r) => Number(r.dZ.toFixed(4)))).toEqual([0.01, 0.01, -0.02]);
  // The others without it: each a fit of its own.
  expect(told.fit!.residuals.map((r) => Number(r.without!.toFixed(4)))).toEqual([0, 0, 0]);
  const out = {
      ...FIT,
      fit: { ...FIT.fit!, pairs: FIT.fit!.pairs.map((p, k) => (k === 2 ? { ...p, out: true as const } : p)) },
    },
    less = moveTold(start, out);
  expect(less.fit!.residuals.map((r) => [Number(r.dZ.toFixed(4)), r.out])).toEqual([
    [0, false],
    [0, false],
    [-0.03, true],
  ]);
  expect(at(moving(out), "4")).toEqual([expect.closeTo(510, 6), expect.closeTo(595, 6), expect.closeTo(23, 9)]);
  expect(at(moving({ ...FIT, points: { intakes: start.intakes.map((k) => k.id) } }), "1")).toEqual([500, 600, 20]);
});

test("pairs are found by number, and by nearness after a first fit", () => {
  const move: Move = { name: "x", points: FIT.points, transform: { move: [0, 0, 0] } };
  expect(pairsFor(start, move, { by: "number", strip: "*-A" }, [])).toEqual(FIT.fit!.pairs);
  const first = { ...FIT, fit: { pairs: FIT.fit!.pairs.slice(0, 2) } };
  expect(pairsFor(start, first, { by: "near", within: 0.1 }, first.fit.pairs)).toEqual(FIT.fit!.pairs.slice(2));
});

test("a fit whose point is gone is a finding, and nothing is moved by it", () => {
  const s = moving(FIT),
    gone = applyChange(s, {
      type: "points",
      edits: [{ id: s.points.id[4]!, field: "deleted", old: false, new: true }],
    });
  expect(found(runOf(gone), "move-lost").map((f) => f.message)).toEqual([
    "“fit” is not carried out, 4 points stand as received: the point 1 of its pairs is not there.",
  ]);
  expect(at(gone, "4")).toEqual([105, 210, 13]);
});

test("the same done again, a reach far wider than it looks, and points that are not there are told", () => {
  const shift: Move = { name: "shift", points: chosen("1-A", "4"), transform: { move: [1, 0, 0] } };
  expect(moveTold(moving(shift), { ...shift, name: "again", points: chosen("4", "2-A") }).same).toEqual({
    name: "shift",
    count: 1,
  });
  expect(moveTold(moving(shift), shift, 0).same).toBeUndefined();
  const many = stateOf([
      ...Array.from({ length: 20 }, (_, k): Row => ({ number: `${k}`, e: k, n: 0, z: 1 })),
      { number: "far", e: 5000, n: 0, z: 1 },
    ]),
    all: Move = { name: "m", points: { intakes: many.intakes.map((k) => k.id) }, transform: { move: [1, 0, 0] } };
  expect(moveTold(many, all).wide).toMatchObject({ reach: expect.closeTo(4990, -1) as number });
  expect(moveTold(start, { ...shift, points: { chosen: [ref("4"), "*number:99"] } })).toMatchObject({
    count: 1,
    missing: 1,
  });
});

test("renamed while it is changed a move keeps its turn; one that is as it was is no change", () => {
  const s = moving(FIT, { name: "b", points: chosen("4"), transform: { move: [1, 0, 0] } });
  expect(moveTaken(s, "fit", FIT)).toBeUndefined();
  expect(applyChange(s, moveTaken(s, "fit", { ...FIT, name: "other" })!).moves.map((m) => m.name)).toEqual([
    "other",
    "b",
  ]);
  expect(applyChange(s, moveTaken(s, undefined, { ...FIT, name: "c" })!).moves.map((m) => m.name)).toEqual([
    "fit",
    "b",
    "c",
  ]);
});

const figure = fc.integer({ min: -400, max: 4000 }).map((x) => x / 8),
  transform = fc.record({
    move: fc.tuple(figure, figure, figure),
    rotate: fc.double({ min: -180, max: 180, noNaN: true }),
    scale: fc.double({ min: 0.5, max: 2, noNaN: true }),
    about: fc.tuple(figure, figure),
  });

test("a coordinate typed for a moved point stands where it was typed, the others stay, whatever moves it", () =>
  fc.assert(
    fc.property(
      fc.array(transform, { minLength: 1, maxLength: 3 }),
      fc.constantFrom("easting" as const, "northing" as const, "elevation" as const),
      figure,
      (transforms, field, value) => {
        const s = moving(
            ...transforms.map((t, k): Move => ({ name: `${k}`, points: chosen("1-A", "4"), transform: t })),
          ),
          shown = { ...s, points: standing(s) },
          before = at(s, "4"),
          after = at(applyChange(s, { type: "points", edits: editsFor(shown, rowOf("4"), field, value) }), "4"),
          axis = { easting: 0, northing: 1, elevation: 2 }[field];
        before[axis] = value;
        after.forEach((x, k) => expect(x).toBeCloseTo(before[k]!, 7));
      },
    ),
  ));

test("pairs that are told by number are left out like others, to see what is left", () => {
  const off = stateOf(ROWS.map((r) => (r.number === "3" ? { ...r, e: 520.3 } : r))),
    pairs = FIT.fit!.pairs.map(({ from, to }) => ({ from, to: `*number:${to.split("\t")[1]}` })),
    { fit } = moveTold(off, { ...FIT, fit: { pairs } });
  expect(fit!.rmsPlan).toBeGreaterThan(0.05);
  // The two others keep their distance, the third with one of them does not.
  expect(fit!.residuals.map((r) => r.without! < 1e-9)).toEqual([false, false, true]);
});

test("the ledger tells a move in a sentence, and what it was", () => {
  const s = moving(FIT),
    change = moveTaken(s, "fit", {
      name: "fit",
      points: FIT.points,
      transform: { rotate: 0.5, about: [1, 2], move: [0, 3, -1] },
    })!,
    { details } = changeDetails(change, detailNames(s.points, s.intakes, "m"), 5);
  expect(details.map((d) => [d.what, d.from, d.to])).toEqual([
    [
      "Move “fit”",
      "4 points: fitted to 1, 2, 3, levels by their mean",
      "4 points: turned 0.5° to the right, about N 2.000 E 1.000, N +3.000, lowered by 1.000",
    ],
  ]);
});

test("what a fit is made of is not typed where it comes to; a level it does not ask for is", () => {
  const s = moving({ ...FIT, fit: { ...FIT.fit!, levels: "none" } }),
    shown = { ...s, points: standing(s) };
  expect(() => editsFor(shown, rowOf("1-A"), "easting", 5)).toThrow(Refusal);
  expect(editsFor(shown, rowOf("1-A"), "elevation", 5)).toHaveLength(1);
  expect(editsFor(shown, rowOf("4"), "easting", 5).length).toBeGreaterThan(0);
});

test("a window that has what is stored comes to the same columns, to the last digit", () =>
  fc.assert(
    fc.property(fc.array(transform, { minLength: 1, maxLength: 3 }), (transforms) => {
      const s = moving(
          FIT,
          ...transforms.map((t, k): Move => ({ name: `${k}`, points: chosen("1", "4"), transform: t })),
        ),
        derived = new Chain().run(s),
        there = withStanding(s.points, structuredClone(standingRows(derived)));
      for (const key of ["e", "n", "z", "follows", "deleted"] as const) expect(there[key]).toEqual(derived.points[key]);
      expect(there.stored).toEqual(derived.points.stored);
    }),
  ));

test("what is typed stands in a window before the worker knows of it: moved points are not sent one by one", () => {
  const s = moving(FIT, { name: "b", points: chosen("4"), transform: { rotate: 20, about: [3, 4] } }),
    standing = standingRows(new Chain().run(s));
  expect(standing.id).toHaveLength(0);
  const shown = { ...s, points: withStanding(s.points, standing) },
    typed = applyChange(s, { type: "points", edits: editsFor(shown, rowOf("4"), "easting", 321) });
  expect(withStanding(typed.points, standing).e[rowOf("4")]).toBeCloseTo(321, 7);
});

test("a recipe says a fit to points that the office made, levels by a plane too", () => {
  const made: AddedPoints = {
      id: [900, 901, 902],
      number: ["M1", "M2", "M3"],
      easting: [500, 500, 520],
      northing: [600, 590, 600],
      elevation: [20, 21.5, 22.7],
      description: ["", "", ""],
    },
    added = applyChange(start, { type: "add", points: made }),
    pairs = ["1-A", "2-A", "3-A"].map((n, k) => ({ from: ref(n), to: refOfMade(made.id[k]!, made.number[k]!) })),
    s = { ...added, moves: [{ ...FIT, fit: { levels: "plane" as const, pairs } }] },
    recipe = writeRecipe(s, start.points, () => "day1.csv"),
    again = openRecipe(parseRecipe(JSON.stringify(recipe), "recipe.json"), () => new TextEncoder().encode(csvOf(ROWS)));
  for (const number of ["1-A", "2-A", "3-A", "4"]) {
    const i = again.state.points.number.indexOf(number),
      t = again.state.points;
    [t.e[i], t.n[i], t.z[i]].forEach((x, k) => expect(x).toBeCloseTo(at(s, number)[k]!, 9));
  }
  // The plane through three levels meets them: 4 lies in their middle.
  expect(at(s, "4")[2]).toBeCloseTo(13 + (21.5 - 11 + (22.7 - 12)) / 2, 9);
});
