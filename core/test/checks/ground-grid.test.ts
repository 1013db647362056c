/** Ground against grid: the scale between deliveries by their common points, against made-up truth, and its repairs. */
import fc from "fast-check";
import { commonPoints, scaleBetween } from "../../src/checks/ground-grid";
import { applyChange } from "../../src/job/change/change";
import { repairsOf } from "../../src/job/edit/repairs";
import type { JobState } from "../../src/job/model/model";
import { openRecipe, parseRecipe } from "../../src/job/recipe/recipe";
import { csvOf, found, runOf, type Row } from "../job";
import { surveyXml, type TrueTarget } from "../survey";

const target = (number: string, e: number, n: number, code: string): TrueTarget => ({
  number,
  e,
  n,
  z: 10,
  height: 1.5,
  faces: 1,
  code,
});

const LAYOUT = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] };
function jobOf(deliveries: Row[][], more: object = {}): JobState {
  const recipe = {
    recipe: 1,
    intakes: deliveries.map((_, k) => ({ id: `d${k}`, file: `day${k}.csv`, layout: LAYOUT, clash: "keep-first" })),
    ...more,
  };
  return openRecipe(parseRecipe(JSON.stringify(recipe), "recipe.json"), (name) =>
    new TextEncoder().encode(csvOf(deliveries[Number(name[3])]!)),
  ).state;
}
/** A made-up site of 200 m on a grid far from nothing, and the same on the ground. */
const PLACES: [number, number][] = [
  [0, 0],
  [200, 10],
  [180, 190],
  [20, 170],
  [90, 80],
  [140, 60],
];
const site = (scale: number, noise: (k: number) => [number, number] = () => [0, 0], from = 1): Row[] =>
  PLACES.map(([e, n], k) => {
    const [de, dn] = noise(k);
    return { number: from + k, e: 512_000 + e * scale + de, n: 5_640_000 + n * scale + dn, z: 10, code: "SPOT" };
  });
const told = (s: JobState) => found(runOf(s), "scale-differs");

test("a delivery on the ground is told against one on the grid, with what each remedy would move", () => {
  const s = jobOf([site(1), site(1.0004, (k) => [0.001 * ((k % 3) - 1), 0.001 * (((k * 7) % 3) - 1)])]),
    [finding, ...more] = told(s);
  expect(more).toEqual([]);
  expect(finding!.message).toMatch(
    /^Distances of “day1.csv” are longer than those of “day0.csv” by 40\d ppm \(± [1-9]\.?\d?\), by 6 common points: ground against grid\./,
  );
  const { scale, sigma, byFactor, apart } = finding!.data as Record<string, number>;
  expect(Math.abs(1 / scale! - 1.0004)).toBeLessThan(3 * sigma!);
  // The farthest corner is 140 m from the middle and 280 from the origin about which all was scaled.
  expect([byFactor, apart]).toEqual([expect.closeTo(0.0004 * 130, 2), expect.closeTo(0.0004 * 261.7, 2)]);
  expect(finding!.points).toHaveLength(6);
  // Those of the later delivery gave way: the living ones are shown.
  const at = runOf(s).findings.find((f) => f.kind === "scale-differs")!.points;
  expect(at.map((id) => s.points.deleted[s.points.id.indexOf(id)])).toEqual([0, 0, 0, 0, 0, 0]);
});

test("its standard error is that of many made-up samples", () => {
  let seed = 7;
  const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647,
    normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const scales: number[] = [],
    sigmas: number[] = [];
  for (let k = 0; k < 400; k++) {
    const rows = [...site(1), ...site(1.0006, () => [0.005 * normal(), 0.005 * normal()])],
      between = scaleBetween(
        { earlier: 0, later: 1, rows: PLACES.map((_, j) => [j, j + PLACES.length]) },
        { e: Float64Array.from(rows, (r) => r.e), n: Float64Array.from(rows, (r) => r.n) },
        "m",
      );
    // Of a few the noise is so large that nothing is said, or a pair is taken for another point.
    if (!between || between.rows.length < PLACES.length) continue;
    scales.push(between.fit.scale);
    sigmas.push(between.sigma);
  }
  const mean = scales.reduce((a, b) => a + b, 0) / scales.length,
    spread = Math.sqrt(scales.reduce((a, b) => a + (b - mean) ** 2, 0) / (scales.length - 1)),
    said = Math.sqrt(sigmas.reduce((a, b) => a + b * b, 0) / sigmas.length);
  expect(scales.length).toBeGreaterThan(300);
  expect(said / spread).toBeGreaterThan(0.85);
  expect(said / spread).toBeLessThan(1.15);
});

test("nothing is said of one scale within its error, of few points, of other points under the same numbers", () => {
  const small = (k: number): [number, number] => [0.01 * ((k % 3) - 1), 0.01 * (((k * 5) % 3) - 1)];
  expect(told(jobOf([site(1), site(1.00002, small)]))).toEqual([]);
  // A hundred ppm at 140 m is seen, and no more than an error of some centimetres makes of nothing.
  const large = (k: number): [number, number] => [0.06 * ((k % 3) - 1), 0.06 * (((k * 5) % 3) - 1)];
  expect(told(jobOf([site(1), site(1.0001, large)]))).toEqual([]);
  expect(told(jobOf([site(1), site(1.0004).slice(0, 2)]))).toEqual([]);
  expect(told(jobOf([site(1), site(1.01)]))).toEqual([]);
  expect(told(jobOf([site(1), site(1.0004, undefined, 101)]))).toEqual([]);
  const others = PLACES.map(([e, n], k): Row => ({ number: k + 1, e: 512_300 + n, n: 5_640_100 + ((e * 7) % 60) }));
  expect(told(jobOf([site(1), others]))).toEqual([]);
  expect(told(jobOf([[...site(1), ...site(1.0004, undefined, 11)]]))).toEqual([]);
});

test("a point that is another under the same number is left out of it", () => {
  const s = jobOf([site(1), site(1.0004, (k) => (k === 4 ? [3, -2] : [0, 0]))]),
    [finding] = told(s);
  expect(finding!.data.scale).toBeCloseTo(1 / 1.0004, 9);
  expect(finding!.points).toEqual(["1", "2", "3", "4", "6"]);
});

test("the scale is found whatever both are turned, moved and scaled by", () =>
  fc.assert(
    fc.property(
      fc.double({ min: -0.0019, max: 0.0019, noNaN: true }).filter((x) => Math.abs(x) > 1e-4),
      fc.double({ min: -180, max: 180, noNaN: true }),
      fc.tuple(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.double({ min: -1e6, max: 1e6, noNaN: true })),
      (differs, turn, [de, dn]) => {
        const [s, c] = [Math.sin(turn), Math.cos(turn)].map((x) => (1 + differs) * x) as [number, number],
          from = PLACES.map(([e, n]) => [e * c + n * s + de, n * c - e * s + dn] as const),
          all = [...from, ...PLACES];
        const between = scaleBetween(
          { earlier: 0, later: 1, rows: PLACES.map((_, k) => [k, k + PLACES.length]) },
          { e: Float64Array.from(all, (x) => x[0]), n: Float64Array.from(all, (x) => x[1]) },
          "m",
        );
        expect(between!.fit.scale).toBeCloseTo(1 + differs, 7);
      },
    ),
  ));

test("numbers that nobody told apart make no more pairs than there are points", () => {
  const count = 200_000,
    same = {
      count,
      id: Int32Array.from({ length: count }, (_, i) => i + 1),
      number: Array.from({ length: count }, () => "P"),
      intake: Int32Array.from({ length: count }, (_, i) => i % 2),
      deleted: new Uint8Array(count),
    };
  expect(commonPoints(same, [{}, {}]).map((c) => c.rows.length)).toEqual([count / 2]);
});

test("common points are held against the earliest delivery that has them; deleted ones are not common", () => {
  const s = jobOf([site(1).slice(0, 3), [...site(1), { number: 99, e: 0, n: 0 }], site(1).slice(1, 4)]);
  const numbers = (t = s.points) =>
    commonPoints(t, s.intakes).map((c) => [c.earlier, c.later, c.rows.map(([a, b]) => [t.number[a], t.number[b]])]);
  const twice = (...list: string[]) => list.map((n) => [n, n]);
  const sorted = (all: unknown[][]) => all.map(([a, b, rows]) => [a, b, (rows as string[][]).toSorted()]);
  expect(sorted(numbers())).toEqual([
    [0, 1, twice("1", "2", "3")],
    [0, 2, twice("2", "3")],
    // 2 and 3 are held against the earliest that has them.
    [1, 2, twice("4")],
  ]);
  const without = applyChange(s, {
    type: "points",
    edits: [{ id: s.points.id[0]!, field: "deleted", old: false, new: true }],
  });
  expect(sorted(numbers(without.points))[0]).toEqual([0, 1, twice("2", "3")]);
});

describe("remedies", () => {
  test("a fit with scale brings the delivery over as a named move, and nothing is told any more", () => {
    const s = jobOf([site(1), site(1.0004)]),
      d = runOf(s),
      f = d.findings.find((x) => x.kind === "scale-differs")!,
      repairs = repairsOf(f, { state: s, lines: d.lines, line: () => undefined });
    expect(repairs.map((r) => r.name)).toEqual(["Fit all of “day1.csv” to “day0.csv” with scale 0.9996002"]);
    const after = applyChange(s, repairs[0]!.change),
      { points } = runOf(after);
    expect(told(after)).toEqual([]);
    for (let k = 0; k < 6; k++) expect(points.e[k + 6]).toBeCloseTo(points.e[k]!, 6);
    expect(after.moves.map((m) => m.name)).toEqual(["day1.csv to day0.csv"]);
  });

  test("of observed distances a factor is offered, which brings them to the scale of the control", () => {
    // Control on the grid; the crew measured on the ground, 500 ppm longer, from a station in the middle.
    const ground = 1.0005,
      station = { e: 0, n: 0 },
      control: Row[] = PLACES.map(([e, n], k) => ({ number: k + 1, e: e - 90, n: n - 80, z: 10, code: "SPOT" })),
      K = [
        { number: "K1", ...station, z: 10 },
        { number: "K2", e: 0, n: 300, z: 10 },
      ],
      xml = surveyXml(K, [
        {
          id: "S1",
          at: K[0]!,
          height: 1.5,
          zero: 0,
          backsight: K[1]!,
          targets: control
            .filter((c) => c.number !== 5)
            .map((c) => target(String(c.number), c.e * ground, c.n * ground, "SPOT")),
        },
      ]);
    const recipe = {
      recipe: 1,
      curvature: false,
      intakes: [
        { id: "d0", file: "control.csv", layout: LAYOUT },
        { id: "d1", file: "day.xml", format: "landxml", clash: "replace" },
      ],
    };
    const s = openRecipe(parseRecipe(JSON.stringify(recipe), "recipe.json"), (name) =>
        new TextEncoder().encode(name === "control.csv" ? csvOf(control) : xml),
      ).state,
      d = runOf(s),
      f = d.findings.find((x) => x.kind === "scale-differs")!;
    const repairs = repairsOf(f, { state: s, lines: d.lines, line: () => undefined }),
      factor = repairs.find((r) => r.name.startsWith("Reduce observed distances with the factor"))!;
    expect(factor.name).toBe("Reduce observed distances with the factor 0.9995002");
    expect(told(applyChange(s, factor.change))).toEqual([]);
  });
});
