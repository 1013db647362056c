/** Points moved and fitted by a recipe: closed forms, known answers, no better solution near, and what follows. */
import fc from "fast-check";
import { applyRecipeEdits } from "../../src/points/edits";
import { fitted, moveInPlan, movementOf, riseAt, type PairToFit, type Transform } from "../../src/math/similarity";
import { fitTold } from "../../src/job/told/summary";
import { openRecipe, parseRecipe, type Recipe } from "../../src/job/recipe/recipe";
import { Chain } from "../../src/job/chain/chain";
import { Refusal } from "../../src/errors";
import { csvOf, stateOf, type Row } from "../job";
import { surveyXml } from "../survey";

const planMap = (transform: Transform) => (e: number, n: number) => moveInPlan(movementOf(transform).plan, e, n);

const ROWS: Row[] = [
  { number: "1", e: 100, n: 200, z: 10 },
  { number: "2", e: 110, n: 200, z: 11 },
  { number: "3", e: 100, n: 220 },
  { number: "K1", e: 500, n: 600, z: 20 },
  { number: "K2", e: 500, n: 590, z: 21 },
  { number: "K3", e: 520, n: 600, z: 23 },
];
const edited = (edits: NonNullable<Recipe["edits"]>) => {
  const { points: t } = stateOf(ROWS, { edits });
  return Object.fromEntries(t.number.map((n, i) => [n, [t.e[i], t.n[i], t.z[i]]]));
};

test("scale and rotation about a position, then the move; a missing level stays missing", () => {
  expect(edited([{ points: "1-3", transform: { move: [1, 2, 0.5] } }])).toMatchObject({
    1: [101, 202, 10.5],
    2: [111, 202, 11.5],
    3: [101, 222, NaN],
    K1: [500, 600, 20],
  });
  // A quarter clockwise: what was east is south.
  expect(edited([{ points: "2, 3", transform: { rotate: 90, about: [100, 200] } }])).toMatchObject({
    2: [100, 190, 11],
    3: [120, 200, NaN],
  });
  expect(edited([{ points: "2", transform: { scale: 2, about: [100, 200], move: [0, 0, 1] } }])[2]).toEqual([
    120, 200, 12,
  ]);
  expect(edited([{ points: "2", transform: { rotate: 180 } }])[2]).toEqual([-110, -200, 11]);
});

test("edits are carried out in their order, and numbers that are not there are counted", () => {
  expect(
    edited([
      { points: "2", set: { elevation: 50 } },
      { points: "2", transform: { move: [0, 0, 1] } },
      { points: "2", set: { easting: 7 } },
    ])[2],
  ).toEqual([7, 200, 51]);
  const { points, intakes } = stateOf(ROWS);
  expect(applyRecipeEdits(points, [{ points: "1, 77", transform: { move: [1, 1, 1] } }], intakes).missing).toBe(1);
});

test("there and back again is where it was, whatever the turn, scale and position", () =>
  fc.assert(
    fc.property(
      fc.tuple(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.double({ min: -1e6, max: 1e6, noNaN: true })),
      fc.integer({ min: -720, max: 720 }),
      fc.integer({ min: 1, max: 50 }).map((x) => x / 10),
      (about, rotate, scale) => {
        const there = planMap({ about, rotate, scale }),
          back = planMap({ about, rotate: -rotate, scale: 1 / scale }),
          [e, n] = back(...there(1234.5, -6789));
        expect(e).toBeCloseTo(1234.5, 6);
        expect(n).toBeCloseTo(-6789, 6);
      },
    ),
  ));

describe("fits", () => {
  const coordinate = fc.integer({ min: -300_000, max: 300_000 }).map((x) => x / 1000),
    position = fc.tuple(coordinate, coordinate, coordinate);
  const pairsBy = (
    at: readonly (readonly [number, number, number])[],
    { rotate, scale, move }: { rotate: number; scale: number; move: [number, number, number] },
  ): PairToFit[] => {
    const map = planMap({ rotate, scale, move });
    return at.map(([e, n, z]) => ({ from: [e, n, z], to: [...map(e, n), z + move[2]] }));
  };

  test("what was moved, turned and scaled is found again, without residuals", () =>
    fc.assert(
      fc.property(
        fc.array(position, { minLength: 3, maxLength: 12 }),
        fc.integer({ min: 0, max: 3599 }).map((x) => x / 10),
        fc.integer({ min: 5, max: 20 }).map((x) => x / 10),
        fc.tuple(fc.constantFrom(0, 612_345), fc.constantFrom(0, 5_712_345), coordinate),
        (at, rotate, scale, move) => {
          fc.pre(Math.max(...at.map(([e, n]) => Math.hypot(e - at[0]![0], n - at[0]![1]))) > 5);
          const made = fitted(pairsBy(at, { rotate, scale, move }), { scale: "free", levels: "shift" });
          if (typeof made === "string") throw new Error(made);
          expect(((made.rotation - rotate + 900) % 360) - 180).toBeCloseTo(0, 5);
          expect(made.scale).toBeCloseTo(scale, 7);
          expect([made.rmsPlan, made.rmsLevel]).toEqual([expect.closeTo(0, 6), expect.closeTo(0, 8)]);
        },
      ),
    ));

  /** The sum of squares of any other turn, scale and move, levels apart. */
  const squares = (pairs: readonly PairToFit[], plan: (e: number, n: number) => readonly [number, number]) =>
    pairs.reduce((sum, { from, to }) => {
      const [e, n] = plan(from[0], from[1]);
      return sum + (e - to[0]) ** 2 + (n - to[1]) ** 2;
    }, 0);

  test("no disturbed solution fits better, with the scale held or free; levels by shift or plane neither", () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(position, position), { minLength: 3, maxLength: 8 }),
        fc.constantFrom<1 | "free">(1, "free"),
        fc.tuple(...[0, 1, 2, 3].map(() => fc.integer({ min: -100, max: 100 }).map((x) => x / 1e4))),
        (two, scale, [turn, size, dE, dN]) => {
          const pairs = two.map(([from, to]) => ({ from, to })),
            made = fitted(pairs, { scale, levels: "plane" });
          fc.pre(typeof made !== "string");
          const fit = made as Exclude<typeof made, string>,
            best = squares(pairs, (e, n) => moveInPlan(fit.movement.plan, e, n)),
            [ce, cn] = moveInPlan(fit.movement.plan, 0, 0),
            other = planMap({
              rotate: turn!,
              scale: scale === 1 ? 1 : 1 + size!,
              about: [ce, cn],
              move: [dE!, dN!, 0],
            });
          expect(squares(pairs, (e, n) => other(...moveInPlan(fit.movement.plan, e, n)))).toBeGreaterThanOrEqual(
            best - 1e-9 * (1 + best),
          );
          const rise = (add: (e: number, n: number) => number) =>
            pairs.reduce(
              (s, { from: [e, n, z], to }) => s + (z + riseAt(fit.movement.rise, e, n) + add(e, n) - to[2]) ** 2,
              0,
            );
          expect(rise((e, n) => dE! + (dN! * e) / 100 + (turn! * n) / 100)).toBeGreaterThanOrEqual(
            rise(() => 0) * (1 - 1e-9) - 1e-9,
          );
        },
      ),
    ));

  test("a recipe's fit: the points come to their others, with residuals of every pair", () => {
    const recipe: Recipe = {
      recipe: 1,
      intakes: [
        { id: "d", file: "d.csv", layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation"] } },
      ],
      edits: [
        {
          points: "1-3",
          fit: {
            pairs: [
              ["1", "K1"],
              ["2", "K2"],
            ],
            levels: "shift",
          },
        },
      ],
    };
    const { state, fits } = openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), () =>
      new TextEncoder().encode(csvOf(ROWS)),
    );
    // Ten east became ten south: a quarter clockwise; levels by the mean of 10 and 10.
    expect(fits.map(fitTold)).toEqual([
      {
        edit: 0,
        rotation: expect.closeTo(90, 10),
        scale: 1,
        residuals: [
          { pair: ["1", "K1"], dE: expect.closeTo(0, 9), dN: expect.closeTo(0, 9), dZ: 0 },
          { pair: ["2", "K2"], dE: expect.closeTo(0, 9), dN: expect.closeTo(0, 9), dZ: 0 },
        ],
        rmsPlan: expect.closeTo(0, 9),
        rmsLevel: 0,
      },
    ]);
    const t = state.points;
    expect([t.e[2], t.n[2], t.z[2]]).toEqual([expect.closeTo(520, 9), expect.closeTo(600, 9), NaN]);
  });

  test("what cannot be fitted is said, where and why", () => {
    const why = (fit: NonNullable<NonNullable<Recipe["edits"]>[number]["fit"]>) => {
      try {
        return edited([{ points: "1-3", fit }]);
      } catch (e) {
        if (e instanceof Refusal) return e.message;
        throw e;
      }
    };
    expect(
      why({
        pairs: [
          ["1", "K1"],
          ["2", "K9"],
        ],
      }),
    ).toBe("edits[0].fit.pairs[1][1]: there is no point “K9”.");
    expect(
      why({
        pairs: [
          ["1", "K1"],
          ["1", "K2"],
        ],
      }),
    ).toBe("edits[0].fit: the fit cannot be made: its pairs stand at one position.");
    expect(
      why({
        pairs: [
          ["1", "K1"],
          ["2", "K2"],
        ],
        levels: "plane",
      }),
    ).toContain("needs three pairs with levels");
    expect(
      why({
        pairs: [
          ["3", "K1"],
          ["3", "K1"],
        ],
        levels: "shift",
      }),
    ).toContain("one position");
  });
});

test("what is observed from a moved station follows it; a moved shot stands where it was moved", () => {
  const xml = surveyXml(
    [
      { number: "K1", e: 0, n: 0, z: 100 },
      { number: "K2", e: 60, n: 80, z: 101 },
    ],
    [
      {
        id: "S1",
        at: { number: "K1", e: 0, n: 0, z: 100 },
        height: 1.5,
        zero: 0.3,
        backsight: { number: "K2", e: 60, n: 80, z: 101 },
        targets: [
          { number: "101", e: 10, n: 10, z: 100, height: 1.6, faces: 2, code: "SPOT" },
          { number: "102", e: 20, n: 12, z: 100, height: 1.6, faces: 2, code: "SPOT" },
        ],
      },
    ],
  );
  const run = (edits: NonNullable<Recipe["edits"]>) => {
    const recipe: Recipe = {
        recipe: 1,
        codeBook: { codes: [{ code: "SPOT" }] },
        intakes: [{ id: "d", file: "d.xml" }],
        edits,
      },
      { state } = openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), () => new TextEncoder().encode(xml)),
      t = new Chain().run(state).points;
    return Object.fromEntries(t.number.map((n, i) => [n, [t.e[i]!, t.n[i]!, t.z[i]!]]));
  };
  const still = run([]),
    moved = run([{ points: "K1, K2", transform: { move: [1000, 500, 0] } }]),
    both = run([{ points: "*", transform: { move: [1000, 500, 0] } }]);
  expect(run([{ points: "101", transform: { move: [0, 5, 0] } }])["101"]![1]).toBeCloseTo(still["101"]![1]! + 5, 9);
  // What an earlier edit does to an observed level is moved with it.
  const lower = run([
    { points: "101", set: { targetHeight: 2.1 } },
    { points: "101", transform: { move: [0, 0, 10] } },
  ]);
  expect(lower["101"]![2]).toBeCloseTo(still["101"]![2]! + 9.5, 6);
  for (const n of ["101", "102"]) {
    expect(moved[n]![0]).toBeCloseTo(still[n]![0]! + 1000, 6);
    // Once, not twice: moved with its station it is not moved again by itself.
    expect(both[n]![0]).toBeCloseTo(still[n]![0]! + 1000, 6);
    expect(both[n]![1]).toBeCloseTo(still[n]![1]! + 500, 6);
  }
});
