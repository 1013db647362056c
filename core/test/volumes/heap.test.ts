// @long: left out of npm run test:quick.
import fc from "fast-check";
import type { Recipe } from "../../src/job/recipe/recipe";
import type { VolumeKind, VolumeRecipe } from "../../src/volumes/model";
import { figuresTold } from "../../src/volumes/words";
import { derive, type Row } from "../job";

/** A ring of shots round the position 50, 40. */
const ring = (count: number, radius: number, first: number, z: (e: number, n: number) => number, code: string): Row[] =>
  Array.from({ length: count }, (_, k) => {
    const turn = (2 * Math.PI * k) / count,
      [e, n] = [50 + radius * Math.cos(turn), 40 + radius * Math.sin(turn)];
    return { number: first + k, e, n, z: z(e, n), code: k === count - 1 ? `${code} loop` : code };
  });
const corners = (z: (e: number, n: number) => number): Row[] =>
  [
    [0, 0],
    [100, 0],
    [100, 80],
    [0, 80],
  ].map(([e, n], k) => ({ number: 900 + k, e: e!, n: n!, z: z(e!, n!), code: "SPOT" }));

const volume = (rows: Row[], recipe: VolumeRecipe, more: Partial<Recipe> = {}) => {
  const { derived } = derive(rows, {
    surfaces: [{ name: "ground", breaklines: { codes: ["*"] } }],
    volumes: [recipe],
    ...more,
  });
  const [v] = derived.volumes;
  if (!v!.ok) throw v!.refusal;
  return v!.value;
};
/** The frustum of a pyramid over regular polygons of `count` corners. */
const frustum = (count: number, a: number, b: number, height: number) =>
  ((count / 2) * Math.sin((2 * Math.PI) / count) * height * (a * a + a * b + b * b)) / 3;

describe("a heap above its own toe", () => {
  const slope = (e: number, n: number) => 100 + 0.05 * e - 0.02 * n,
    toe = ring(48, 14, 1, slope, "TOE1"),
    top = ring(48, 5, 101, (e, n) => slope(e, n) + 6, "TOP1");

  test("a truncated cone on sloping ground, its toe by code and by its corners: the frustum's formula", () => {
    const rows = [...corners(slope), ...toe, ...top],
      exact = frustum(48, 14, 5, 6);
    const byCode = volume(rows, { name: "heap", heap: "ground", toe: { code: "TOE" } });
    expect(byCode.cut / exact).toBeCloseTo(1, 12);
    expect(byCode.fill).toBeLessThan(1e-9);
    expect(byCode.area).toBeCloseTo(24 * Math.sin((2 * Math.PI) / 48) * 14 * 14, 9);
    const drawn = volume(rows, { name: "heap", heap: "ground", toe: toe.map((r) => [r.e, r.n] as [number, number]) });
    expect(drawn.cut / exact).toBeCloseTo(1, 12);
  });

  test("a toe drawn at some distance on the plane round it changes nothing, wherever it runs", () => {
    const rows = [...corners(slope), ...toe, ...top];
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 15, max: 29, noNaN: true }), { minLength: 6, maxLength: 12 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (radii, turned) => {
          const drawn = radii.map((r, k): [number, number] => {
            const turn = (2 * Math.PI * (k + turned)) / radii.length;
            // Farther out where the sides of few corners would cut into the heap.
            return [50 + r * 1.15 * Math.cos(turn), 40 + r * 1.15 * Math.sin(turn)];
          });
          const v = volume(rows, { name: "heap", heap: "ground", toe: drawn });
          expect(v.net).toBeCloseTo(-frustum(48, 14, 5, 6), 6);
        },
      ),
      { numRuns: 25 },
    );
  });

  test("two heaps of one code are measured together, a deadband and an area apply", () => {
    const shifted = (rows: Row[], by: number): Row[] =>
      rows.map((r) => ({ ...r, e: r.e + by, number: Number(r.number) + 300, z: r.z! + 0.05 * by }));
    const again = (rows: Row[]) => shifted(rows, 40).map((r) => ({ ...r, code: r.code!.replace("1", "2") }));
    const rows = [
      ...corners(slope).map((r) => ({ ...r, e: r.e * 2, z: slope(r.e * 2, r.n) })),
      ...toe,
      ...top,
      ...again(toe),
      ...again(top),
    ];
    const v = volume(rows, { name: "heaps", heap: "ground", toe: { code: "TOE" } }),
      one = frustum(48, 14, 5, 6);
    expect(v.cut / (2 * one)).toBeCloseTo(1, 11);
    const half = volume(rows, {
      name: "heaps",
      heap: "ground",
      toe: { code: "TOE" },
      within: [
        [0, 0],
        [50, 0],
        [50, 80],
        [0, 80],
      ],
    });
    expect(half.cut / (one / 2)).toBeCloseTo(1, 11);
    expect(volume(rows, { name: "h", heap: "ground", toe: { code: "TOE" }, deadband: 6.1 }).cut).toBe(0);
  });

  test.each<[string, VolumeRecipe["toe"], RegExp]>([
    [
      "leaves the surface",
      [
        [90, 40],
        [120, 40],
        [120, 60],
      ],
      /toe of “heap” leaves the surface at E 1\d\d\.\d{3}/,
    ],
    [
      "crosses itself",
      [
        [10, 10],
        [60, 60],
        [60, 10],
        [10, 60],
      ],
      /The toe of “heap” crosses itself, at E 35\.000 N 35\.000/,
    ],
    [
      "runs back",
      [
        [10, 10],
        [60, 10],
        [30, 10],
      ],
      /runs back over itself/,
    ],
    ["is no line", { code: "WALL" }, /bounded by the lines WALL, and there is no such line/],
    ["is not closed", { code: "HEDGE" }, /HEDGE is not closed/],
  ])("a toe that %s is refused, saying where", (_, drawn, words) => {
    const rows = [
      ...corners(slope),
      ...toe,
      ...top,
      { number: 801, e: 5, n: 5, z: 1, code: "HEDGE" },
      { number: 802, e: 6, n: 5, z: 1, code: "HEDGE" },
    ];
    expect(() => volume(rows, { name: "heap", heap: "ground", toe: drawn })).toThrow(words);
  });
});

describe("storage", () => {
  const flat = () => 50,
    rows = [...corners(flat), ...ring(64, 10, 1, flat, "TOP1"), ...ring(64, 4, 101, () => 44, "TOE1")];
  /** Area and volume of the frustum under a level. */
  const under = (level: number) => {
    const r = 4 + level - 44,
      k = 32 * Math.sin((2 * Math.PI) / 64);
    return { area: k * r * r, volume: (k * (level - 44) * (16 + 4 * r + r * r)) / 3 };
  };

  test("a bowl by level: both ends stand in the table, each row is the formula's", () => {
    const { storage } = volume(rows, { name: "sump", storage: "ground", from: 43, to: 50, step: 0.75 });
    expect(storage!.map((r) => r.level)).toEqual([43, 43.75, 44.5, 45.25, 46, 46.75, 47.5, 48.25, 49, 49.75, 50]);
    for (const r of storage!) {
      if (r.level < 44) expect(r).toMatchObject({ area: 0, volume: 0 });
      else if (r.level < 50) {
        expect(r.area / under(r.level).area).toBeCloseTo(1, 9);
        expect(r.volume / under(r.level).volume).toBeCloseTo(1, 9);
      } else expect(r.volume / under(50).volume).toBeCloseTo(1, 9);
    }
  });

  test("within an area, and with a step that divides the way", () => {
    const { storage, area } = volume(rows, {
      name: "half",
      storage: "ground",
      from: 44,
      to: 49,
      step: 2.5,
      within: [
        [50, 0],
        [100, 0],
        [100, 80],
        [50, 80],
      ],
    });
    expect(storage!.map((r) => r.level)).toEqual([44, 46.5, 49]);
    expect(storage![1]!.volume / (under(46.5).volume / 2)).toBeCloseTo(1, 9);
    expect(area).toBeCloseTo(50 * 80, 9);
  });

  test.each([
    [{ from: 50, to: 50, step: 1 }, /upper level does not lie above/],
    [{ from: 44, to: 50, step: 1e-6 }, /more than 10000/],
  ])("levels that make no table are refused", (levels, words) => {
    expect(() => volume(rows, { name: "s", storage: "ground", ...levels })).toThrow(words);
  });
});

test("a heap is told by how much lies above its base; other comparisons by cut, fill and what is left over", () => {
  const v = { cut: 12, fill: 2, net: -10 },
    say = (kind: VolumeKind) => figuresTold(kind).map(({ key, name, sign }) => `${name} ${sign * v[key]}`);
  expect(say("heap")).toEqual(["Above its base 12", "Below its base 2", "Volume, above − below 10"]);
  for (const kind of ["level", "surfaces"] as const)
    expect(say(kind)).toEqual(["Cut 12", "Fill 2", "Net, fill − cut -10"]);
});
