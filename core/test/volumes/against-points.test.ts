/** Points as built against points as designed: by number, by nearness, and what is told of each pair. */
import fc from "fast-check";
import { summarize } from "../../src/job/told/summary";
import { pairsByNearness, pairsByNumber, stripped } from "../../src/volumes/against-points";
import type { DifferenceRecipe } from "../../src/volumes/as-built";
import { asBuilt } from "../../src/report/sources";
import { derive, type Row } from "../job";

const ROWS: Row[] = [
  { number: "1", e: 100, n: 200, z: 10 },
  { number: "2", e: 110, n: 200, z: 10 },
  { number: "3", e: 120, n: 200 },
  { number: "AB1", e: 100.01, n: 200, z: 10.005 },
  { number: "AB2", e: 110, n: 199.97, z: 10 },
  { number: "AB3", e: 120, n: 200, z: 12 },
  { number: "AB9", e: 150, n: 250, z: 10 },
];
const TOLERANCE = { plan: 0.02, level: 0.004 };
const run = (recipe: Partial<DifferenceRecipe>) => {
  const { state, derived } = derive(ROWS, {
    differences: [{ name: "pegs", points: "AB1, AB2, AB3, AB9", against: "1-3, 99", tolerance: TOLERANCE, ...recipe }],
  });
  const [d] = derived.differences;
  if (!d!.ok) throw d!.refusal;
  return summarize(state, derived, []).differences[0]!;
};

test("pairs by number, a prefix taken off: differences, what is beyond which tolerance, who found no other", () => {
  const told = run({ by: "number", strip: "AB*" });
  expect(told.rows).toEqual([
    { number: "AB1", against: "1", dE: expect.closeTo(0.01, 9), dN: 0, dZ: expect.closeTo(0.005, 9), plan: expect.closeTo(0.01, 9) }, // prettier-ignore
    { number: "AB2", against: "2", dE: 0, dN: expect.closeTo(-0.03, 9), dZ: 0, plan: expect.closeTo(0.03, 9) },
    { number: "AB3", against: "3", dE: 0, dN: 0, plan: 0 },
  ]);
  // The first by its level, the second in plan.
  expect(told.outside).toEqual(["AB1", "AB2"]);
  expect(told).toMatchObject({ unmatched: { points: ["AB9"], against: [] } });
  expect([told.mean, told.max]).toEqual([expect.closeTo(0.0025, 9), expect.closeTo(0.005, 9)]);
});

test("in a report such a check tells both tolerances; without one there is no column for it", () => {
  const pegs: DifferenceRecipe = { name: "pegs", points: "AB1, AB2", against: "1-3", by: "number", strip: "AB*", tolerance: TOLERANCE }, // prettier-ignore
    design = { name: "design", triangles: { points: [[0, 0, 9], [300, 0, 9], [0, 600, 9]] as [number, number, number][], faces: [[0, 1, 2]] as [number, number, number][] } }, // prettier-ignore
    onIt: DifferenceRecipe = { name: "slab", points: "1-2", surface: "design", tolerance: 0.5 };
  const told = (differences: DifferenceRecipe[]) => {
    const { state, derived } = derive(ROWS, { surfaces: [design], differences }),
      [block] = asBuilt(state, derived)[0]!.blocks;
    if (block?.kind !== "table") throw new Error("no table");
    return { heads: block.columns.map((c) => c.title), rows: block.rows };
  };
  expect(told([onIt]).heads).not.toContain("Tolerance in plan, m");
  const { heads, rows } = told([pegs, onIt]);
  expect(rows.map((r) => r.length)).toEqual([heads.length, heads.length]);
  expect(rows.map((r) => r.slice(0, 5))).toEqual([
    ["pegs", 2, 2, 0.02, 0.004],
    ["slab", 2, 2, null, 0.5],
  ]);
});

test("the nearest, none farther than it may be; where no pair is found that is said", () => {
  const told = run({ by: "nearest", within: 0.5 });
  expect(told.rows.map((r) => [r.number, (r as { against?: string }).against])).toEqual([
    ["AB1", "1"],
    ["AB2", "2"],
    ["AB3", "3"],
  ]);
  expect(() => run({ by: "number" })).toThrow("“pegs”: no point as built has one as designed");
});

test("a prefix, a suffix, or both are taken off where a number has them and something is left", () => {
  expect(["AB12", "AB", "12", "xAB12"].map((n) => stripped(n, "AB*"))).toEqual(["12", "AB", "12", "xAB12"]);
  expect(["12-D", "-D", "A12-D"].map((n) => stripped(n, "*-D"))).toEqual(["12", "-D", "A12"]);
  expect(stripped("P12-D", "P*-D")).toBe("12");
  expect(stripped("12", undefined)).toBe("12");
});

/** Positions of built and designed points, on a raster so that distances are often equal. */
const at = fc.array(fc.tuple(fc.nat(12), fc.nat(12)), { minLength: 1, maxLength: 12 });

test("by nearness no pair could change for a nearer one: each is the nearest of what is left, as a plain search finds it", () =>
  fc.assert(
    fc.property(at, at, fc.integer({ min: 1, max: 8 }), (built, designed, within) => {
      const all = [...built, ...designed],
        p = {
          e: Float64Array.from(all, (x) => x[0]),
          n: Float64Array.from(all, (x) => x[1]),
          z: new Float64Array(all.length),
        },
        [b, d] = [Int32Array.from(built.keys()), Int32Array.from(designed, (_, k) => built.length + k)],
        pairs = pairsByNearness(b, d, p, within),
        far = (i: number, j: number) => Math.hypot(p.e[i]! - p.e[j]!, p.n[i]! - p.n[j]!);
      const [left, free] = [new Set(b), new Set(d)],
        plain = new Map<number, number>();
      for (;;) {
        const open = [...left]
          .flatMap((i) => [...free].map((j) => [far(i, j), i, j] as const))
          .filter(([x]) => x <= within);
        const [best] = open.sort((x, y) => x[0] - y[0] || x[1] - y[1] || x[2] - y[2]);
        if (!best) break;
        plain.set(best[1], best[2]);
        left.delete(best[1]);
        free.delete(best[2]);
      }
      expect(new Map(pairs.built.map((i, k) => [i, pairs.designed[k]!]))).toEqual(
        new Map([...plain].sort((x, y) => x[0] - y[0])),
      );
      expect(pairs.unmatched).toEqual({ points: [...left], against: [...free].sort((x, y) => x - y) });
    }),
  ));

test("by number each point is in one pair at most, and none is its own design", () =>
  fc.assert(
    fc.property(fc.array(fc.constantFrom("1", "2", "A1", "A2", "3"), { maxLength: 8 }), (numbers) => {
      const every = Int32Array.from(numbers.keys()),
        { built, designed } = pairsByNumber(every, every, numbers, "A*");
      expect(new Set(designed).size).toBe(designed.length);
      built.forEach((row, k) => {
        expect(designed[k]).not.toBe(row);
        expect(stripped(numbers[row]!, "A*")).toBe(stripped(numbers[designed[k]!]!, "A*"));
      });
    }),
  ));
