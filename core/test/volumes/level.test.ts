import fc from "fast-check";
import { Chain } from "../../src/job/chain/chain";
import type { VolumeRecipe } from "../../src/volumes/model";
import { balanceLevel, volumeCurve } from "../../src/volumes/by-level";
import { compare } from "../../src/volumes/compare";
import { above, partAbove } from "../../src/volumes/part-above";
import { derive, stateOf } from "../job";

const pyramid = (e: number, n: number, z: number) => ({
  name: "pyramid",
  triangles: {
    points: [
      [e, n, z],
      [e + 18.5, n, z],
      [e + 18.5, n + 11.25, z],
      [e, n + 11.25, z],
      [e + 7.5, n + 4.5, z + 5.25],
    ] as [number, number, number][],
    faces: [
      [0, 1, 4],
      [1, 2, 4],
      [2, 3, 4],
      [3, 0, 4],
    ] as [number, number, number][],
  },
});
const result = (recipe: VolumeRecipe, surface = pyramid(4100, 2200, 150)) => {
  const { derived } = derive([], { intakes: [], surfaces: [surface], volumes: [recipe] });
  const [v] = derived.volumes;
  if (!v!.ok) throw v!.refusal;
  return v!.value;
};

describe("volume of a surface to a level", () => {
  test("a pyramid, to its base and to a level across it: closed formulas", () => {
    const base = 18.5 * 11.25;
    expect(result({ name: "v", surface: "pyramid", level: 150 })).toMatchObject({
      cut: (base * 5.25) / 3,
      fill: 0,
      area: base,
      cutArea: base,
      fillArea: 0,
    });
    const v = result({ name: "v", surface: "pyramid", level: 152 });
    const k = 3.25 / 5.25; // the part above the level is the pyramid made smaller by this
    expect(v.cut / ((base * 5.25 * k ** 3) / 3)).toBeCloseTo(1, 12);
    expect(v.cutArea / (base * k * k)).toBeCloseTo(1, 12);
    expect(v.net).toBeCloseTo(base * 2 - (base * 5.25) / 3, 9);
    expect(v.cutArea + v.fillArea).toBeCloseTo(base, 9);
  });

  test("far from the origin the figures stay", () => {
    const near = result({ name: "v", surface: "pyramid", level: 152 }),
      far = result({ name: "v", surface: "pyramid", level: 1212.5 }, pyramid(512340.25, 6233100.5, 1210.5));
    for (const key of ["cut", "fill", "cutArea", "fillArea"] as const) expect(far[key] / near[key]).toBeCloseTo(1, 12);
  });

  test("deadband: nothing within it counts, all of the difference beyond does", () => {
    // A tilted square: d runs evenly from −1 to 1 across it.
    const tilted = {
      name: "tilted",
      triangles: {
        points: [
          [0, 0, 1],
          [10, 0, -1],
          [10, 10, -1],
          [0, 10, 1],
        ] as [number, number, number][],
        faces: [
          [0, 1, 2],
          [0, 2, 3],
        ] as [number, number, number][],
      },
    };
    const v = result({ name: "v", surface: "tilted", level: 0, deadband: 0.4 }, tilted);
    expect(v.area).toBeCloseTo(100, 12);
    expect(v.fillArea).toBeCloseTo(30, 12);
    expect(v.fill).toBeCloseTo(((1 + 0.4) / 2) * 30, 12);
    expect(v.cut).toBeCloseTo(v.fill, 12);
  });

  test("parts add up, and a shift of the level by h adds h × area", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 30 })),
          { minLength: 6, maxLength: 30 },
        ),
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (places, level, h) => {
          const state = stateOf(
            places.map(([e, n, z], i) => ({ number: i, e, n, z })),
            { surfaces: [{ name: "s" }] },
          );
          const s = new Chain().run(state).surfaces[0]!;
          if (!s.ok) return;
          const at = (l: number) => compare({ from: s.value.surface, to: l }).whole;
          const a = at(level),
            b = at(level + h);
          expect(b.net - a.net).toBeCloseTo(h * a.area, 6);
          expect(a.cutArea + a.fillArea).toBeLessThanOrEqual(a.area + 1e-9);
          expect(a.net).toBeCloseTo(a.fill - a.cut, 9);
          expect(a.area).toBeCloseTo(s.value.report.area, 9);
        },
      ),
      { numRuns: 150 },
    );
  });

  test("bulking multiplies beside the measured figures, never in them", () => {
    const plain = result({ name: "v", surface: "pyramid", level: 152 }),
      bulked = result({ name: "v", surface: "pyramid", level: 152, bulking: { cut: 1.2 } });
    expect(bulked).toMatchObject({
      cut: plain.cut,
      fill: plain.fill,
      bulked: { cut: plain.cut * 1.2, fill: plain.fill },
    });
  });

  test("by level: exact at each, and the balance is where what is cut fills", () => {
    const { derived } = derive([], { intakes: [], surfaces: [pyramid(4100, 2200, 150)] });
    const s = derived.surfaces[0]!;
    if (!s.ok) throw s.refusal;
    const { surface } = s.value,
      curve = volumeCurve(surface);
    curve.levels.forEach((to, k) => {
      const { whole } = compare({ from: surface, to });
      expect(curve.cut[k]).toBeCloseTo(whole.cut, 9);
      expect(curve.fill[k]).toBeCloseTo(whole.fill, 9);
    });
    expect(balanceLevel(surface)).toBeCloseTo(150 + 5.25 / 3, 12);
    const loosened = balanceLevel(surface, undefined, 0, { cut: 1.25, fill: 0.9 })!,
      { whole } = compare({ from: surface, to: loosened });
    expect(whole.cut * 1.25).toBeCloseTo(whole.fill * 0.9, 9);
    expect(loosened).toBeGreaterThan(150 + 5.25 / 3);
  });

  test("the part of a triangle above zero agrees with splitting it by hand", () => {
    const value = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(value, value, value), ([a, b, c]) => {
        partAbove(7, a, b, c);
        const up = { ...above };
        partAbove(7, -a, -b, -c);
        expect(up.volume - above.volume).toBeCloseTo((7 * (a + b + c)) / 3, 10);
        if (a !== 0 || b !== 0 || c !== 0) expect(up.area + above.area).toBeCloseTo(7, 10);
      }),
    );
  });
});
