// @long: left out of npm run test:quick.
import fc from "fast-check";
import type { JobState } from "../../src/job/model/model";
import type { Derived } from "../../src/job/chain/values";
import type { Surface } from "../../src/surface/model";
import { compare } from "../../src/volumes/compare";
import { baseOf } from "../../src/volumes/heap";
import type { ComparedPair } from "../../src/volumes/measure";
import { opinionsOf } from "../../src/volumes/opinion";
import { precisionOf, shotPrecision } from "../../src/volumes/precision";
import { regionsOf } from "../../src/volumes/regions";
import { endAreas, gridOpinion, spacingFor } from "../../src/volumes/second-opinion";
import { weightsOf } from "../../src/volumes/weights";
import { derive, type Row } from "../job";
import { delaunayOf, freePositions, rectangle, withLevels } from "./surfaces";

const pair = (from: Surface, to: Surface | number): ComparedPair => ({
  kind: typeof to === "number" ? "level" : "surfaces",
  from,
  to,
});
const at = (s: Surface, vertex: number, by: number) => withLevels(s, (z, v) => (v === vertex ? z + by : z));

function opinionsOfFirst({ volumes, points, levelPrecision, unit }: JobState, { pairs }: Derived) {
  const [p] = pairs;
  if (!p!.ok) throw p!.refusal;
  return opinionsOf(volumes[0]!, p!.value, shotPrecision(points, levelPrecision, unit));
}

describe("weights", () => {
  /** ∂V/∂z by raising and lowering one vertex. */
  const numeric = (figure: (by: number) => number) => (figure(1e-4) - figure(-1e-4)) / 2e-4;

  test.each([0, 0.7])("agree with raising and lowering each vertex; deadband %p", (t) => {
    fc.assert(
      fc.property(freePositions, freePositions, (a, b) => {
        const [from, to] = [delaunayOf(a), delaunayOf(b)];
        if (!from || !to) return;
        const [first, second] = weightsOf(pair(from, to), t);
        for (const kind of ["cut", "fill"] as const) {
          const check = (w: Float64Array, v: number, of: (by: number) => number) => {
            const all = w.reduce((sum, x) => sum + Math.abs(x), 0);
            // Levels where the deadband's edge jumps over a flat piece have no derivative.
            expect(Math.abs(w[v]! - numeric(of))).toBeLessThan(1e-3 * (1 + all) * (t > 0 ? 20 : 1));
          };
          for (const v of [0, Math.floor(from.x.length / 2)])
            check(first![kind], v, (by) => compare({ from: at(from, v, by), to }, t).whole[kind]);
          for (const v of [0, Math.floor(to.x.length / 2)])
            check(second![kind], v, (by) => compare({ from, to: at(to, v, by) }, t).whole[kind]);
        }
      }),
      { numRuns: 60 },
    );
  });

  test("all weights together are the area: raised as one, the net moves by it", () => {
    fc.assert(
      fc.property(freePositions, freePositions, (a, b) => {
        const [from, to] = [delaunayOf(a), delaunayOf(b)];
        if (!from || !to) return;
        const { whole } = compare({ from, to }),
          sum = ({ cut, fill }: { cut: Float64Array; fill: Float64Array }) =>
            fill.reduce((s, x) => s + x, 0) - cut.reduce((s, x) => s + x, 0),
          [first, second] = weightsOf(pair(from, to));
        expect(sum(first!)).toBeCloseTo(-whole.area, 8);
        expect(sum(second!)).toBeCloseTo(whole.area, 8);
      }),
      { numRuns: 60 },
    );
  });

  test("a heap rests on the ground alone: its base follows the toe's levels", () => {
    fc.assert(
      fc.property(freePositions, (a) => {
        const outer: [number, number, number][] = [
          [-1, -1, 2],
          [13, -1, 3],
          [13, 13, 2],
          [-1, 13, 4],
        ];
        const ground = delaunayOf([...outer, ...a])!,
          toe: [number, number][] = [
            [2.1, 2.2],
            [9.7, 3.1],
            [8.3, 9.9],
            [3.2, 8.4],
          ];
        const heap = (s: Surface): ComparedPair => {
          const base = baseOf(s, [toe], "heap");
          return { kind: "heap", from: s, to: base.surface, base };
        };
        const [w] = weightsOf(heap(ground));
        for (const v of [0, 5, Math.floor(ground.x.length / 2)]) {
          if (v >= ground.x.length) continue;
          const of = (by: number) => compare(heap(at(ground, v, by))).whole.net;
          expect(Math.abs(w!.fill[v]! - w!.cut[v]! - numeric(of))).toBeLessThan(1e-3);
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe("the ± of a figure", () => {
  const shots = (sigma: number[], common = 0) => ({ of: (row: number) => sigma[row] ?? NaN, assumed: 0.5, common });

  test("a pyramid's top alone: a third of its base for each unit, and an error that all share moves the whole area", () => {
    const s = delaunayOf([
      [0, 0, 0],
      [6, 0, 0],
      [6, 6, 0],
      [0, 6, 0],
      [3, 3, 5],
    ])!;
    const top = [...s.point].indexOf(4);
    expect(top).toBeGreaterThanOrEqual(0);
    const p = precisionOf(pair(s, -1), shots([0, 0, 0, 0, 0.02], 0.01))!;
    expect(p.net.independent).toBeCloseTo(12 * 0.02, 12);
    expect(p.net.common).toBeCloseTo(36 * 0.01, 12);
    expect(p.net.total).toBeCloseTo(Math.hypot(0.24, 0.36), 12);
    expect(p.most[0]).toMatchObject({ row: 4, net: -12, sigma: 0.02 });
    expect(p.fill.total).toBe(0);
    expect(p).toMatchObject({ shots: 5, assumed: 0, exact: [] });
    // Where both are there, an error that all share moves cut by its area, fill by its own, the net by both.
    const through = precisionOf(pair(s, 2), shots([0, 0, 0, 0, 0], 0.01))!,
      { whole } = compare(pair(s, 2));
    expect(through.net.common).toBeCloseTo(36 * 0.01, 12);
    expect(through.cut.common).toBeCloseTo(whole.cutArea * 0.01, 12);
    expect(through.fill.common).toBeCloseTo(whole.fillArea * 0.01, 12);
  });

  test("shots without precision take what is assumed; surfaces without shots are exact; a heap has no common error", () => {
    const s = delaunayOf([
      [0, 0, 0],
      [6, 0, 0],
      [3, 6, 3],
    ])!;
    const p = precisionOf(
      pair(
        s,
        rectangle(-1, -1, 9, 9, () => 1, "design"),
      ),
      shots([0.1]),
    )!;
    expect(p).toMatchObject({ shots: 3, assumed: 2, exact: ["design"] });
    expect(p.net.independent).toBeCloseTo(6 * Math.hypot(0.1, 0.5, 0.5), 12);
    expect(
      precisionOf(
        pair(
          rectangle(0, 0, 1, 1, () => 0),
          3,
        ),
        shots([]),
      ),
    ).toBeUndefined();
  });

  test.each([0, 4])(
    "through the whole chain: σ is what raising each shot makes of it; breaklines densified to %p",
    (densify) => {
      const rows: Row[] = [];
      for (let i = 0; i < 5; i++)
        for (let j = 0; j < 5; j++)
          rows.push({ number: `S${i}${j}`, e: 10 * i, n: 10 * j, z: ((7 * i + 3 * j) % 5) / 2, code: "SPOT" });
      rows.push(
        { number: "T1", e: 3, n: 12, z: 2, code: "TOP1" },
        { number: "T2", e: 18, n: 17, z: 3, code: "TOP1" },
        { number: "T3", e: 33, n: 14, z: 1, code: "TOP1" },
      );
      const more = {
        surfaces: [{ name: "g", breaklines: { codes: ["*"], densify } }],
        volumes: [{ name: "v", surface: "g", level: 1 }],
        levelPrecision: { shot: 0.02, common: 0 },
      };
      const run = (list: Row[]) => {
        const { derived, state } = derive(list, more);
        const [v] = derived.volumes,
          o = opinionsOfFirst(state, derived);
        if (!v!.ok) throw v!.refusal;
        return { v: v!.value, o };
      };
      const { o } = run(rows);
      let squares = 0;
      for (const r of rows) {
        const by = (x: number) => run(rows.map((q) => (q === r ? { ...q, z: q.z! + x } : q))).v.fill;
        squares += (((by(1e-3) - by(-1e-3)) / 2e-3) * 0.02) ** 2;
      }
      expect(o.precision!.fill.independent / Math.sqrt(squares)).toBeCloseTo(1, 4);
      expect(o.precision!.most).toHaveLength(10);
    },
  );

  test("on an arc the shots on it carry what stands between them", () => {
    // An arc through three shots as a breakline, flat ground about it: all weights are at shots.
    const rows: Row[] = [
      { number: 1, e: 0, n: 0, z: 0, code: "SPOT" },
      { number: 2, e: 40, n: 0, z: 0, code: "SPOT" },
      { number: 3, e: 40, n: 40, z: 0, code: "SPOT" },
      { number: 4, e: 0, n: 40, z: 0, code: "SPOT" },
      { number: 5, e: 10, n: 20, z: 1, code: "TOP1" },
      { number: 6, e: 20, n: 28, z: 2, code: "TOP1 via" },
      { number: 7, e: 30, n: 20, z: 3, code: "TOP1" },
    ];
    const { derived, state } = derive(rows, {
      surfaces: [{ name: "g", breaklines: { codes: ["*"] } }],
      volumes: [{ name: "v", surface: "g", level: -1 }],
    });
    const [v] = derived.volumes,
      o = opinionsOfFirst(state, derived);
    if (!v!.ok) throw v!.refusal;
    const { net, shots } = o.precision!;
    expect(shots).toBe(7);
    expect(net.common).toBeCloseTo(v!.value.area * 0.01, 9);
  });
});

describe("second opinions", () => {
  const ridge = delaunayOf(
    Array.from({ length: 441 }, (_, k): [number, number, number] => {
      const [i, j] = [k % 21, Math.floor(k / 21)];
      return [i * 5, j * 4, 10 + 3 * Math.sin(i / 3) * Math.cos(j / 4)];
    }),
  )!;

  test("a prism is exact by its end areas, whichever way they lie, and by the grid", () => {
    const from = rectangle(0, 0, 40, 10, (_, n) => n / 2),
      exact = compare({ from, to: 1 }).whole;
    for (const azimuth of [0, 90]) {
      const e = endAreas(pair(from, 1), { spacing: 4, azimuth })!;
      if (azimuth === 0) {
        expect(e.cut / exact.cut).toBeCloseTo(1, 8);
        expect(e.fill / exact.fill).toBeCloseTo(1, 8);
      } else expect(Math.abs(e.cut / exact.cut - 1)).toBeLessThan(0.1);
    }
    const g = gridOpinion(pair(from, 1))!;
    expect(g.cut / exact.cut).toBeCloseTo(1, 4);
    expect(g.cells).toBeGreaterThan(200_000);
  });

  test("both come near the exact figure, nearer as they grow finer; with a deadband, in areas, against a surface", () => {
    const to = rectangle(-10, -10, 150, 150, (e, n) => 9 + e / 50 + n / 60),
      within = regionsOf([
        {
          name: "a",
          rings: [
            [
              [12, 9],
              [85, 17],
              [61, 70],
              [40, 33],
            ],
          ],
        },
      ]);
    for (const t of [0, 0.4])
      for (const p of [{ ...pair(ridge, to), within }, pair(ridge, to), pair(ridge, 10)]) {
        const exact = compare(p, t).whole;
        const off = (o: { cut: number; fill: number }) => Math.hypot(o.cut - exact.cut, o.fill - exact.fill);
        const rough = endAreas(p, { spacing: 20, azimuth: 30 }, t)!,
          fine = endAreas(p, { spacing: 0.5, azimuth: 30 }, t)!;
        expect(off(fine)).toBeLessThan(0.004 * (exact.cut + exact.fill));
        expect(off(fine)).toBeLessThan(off(rough));
        expect(off(gridOpinion(p, t)!)).toBeLessThan(0.004 * (exact.cut + exact.fill));
      }
  });

  test("sections that would be too many are not made; spacings are plain numbers", () => {
    expect(endAreas(pair(ridge, 10), { spacing: 1e-6, azimuth: 0 })).toBeUndefined();
    expect([380, 1000, 47, 8].map(spacingFor)).toEqual([10, 20, 1, 0.2]);
  });

  test("the raise that balances two surfaces, with factors and a deadband too", () => {
    const to = rectangle(0, 0, 100, 80, () => 8),
      shots = { of: () => NaN, assumed: 0.02, common: 0 };
    for (const more of [{}, { bulking: { cut: 1.3 } }]) {
      const { balance } = opinionsOf({ name: "v", from: "a", to: "b", ...more }, pair(ridge, to), shots);
      if (!balance || !("raise" in balance)) throw new Error("no balance");
      const { whole } = compare({ from: ridge, to: withLevels(to, (z) => z + balance.raise) });
      expect(whole.fill / (whole.cut * (more.bulking?.cut ?? 1))).toBeCloseTo(1, 8);
    }
  });
});
