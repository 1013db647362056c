/** The quick ways of the check of levels against plain ones that anybody can follow. */
import fc from "fast-check";
import { Cover } from "../../src/checks/levels/cover";
import type { LevelField } from "../../src/checks/levels/field";
import { atOnce } from "../../src/math/steps";
import { FormMaker } from "../../src/checks/levels/forms";
import { membersOf } from "../../src/checks/levels/members";
import { eliminate, Radial } from "../../src/checks/levels/radial";
import { formsByShot, Residuals } from "../../src/checks/levels/residuals";
import { stretchesOf, Sweep } from "../../src/checks/levels/sweep";
import { toldOf } from "../../src/checks/levels/verdict";
import { Sight } from "../../src/checks/levels/walls";
import { nearestIndex } from "../../src/math/nearest";
import { terrain } from "./terrain";

const coordinate = fc.integer({ min: -5000, max: 5000 }).map((x) => x / 100);
const positions = (minLength: number, maxLength: number) =>
  fc.array(fc.tuple(coordinate, coordinate), { minLength, maxLength });

function fieldOf(at: readonly (readonly [number, number])[], more: Partial<LevelField> = {}): LevelField {
  return {
    count: at.length,
    origin: [0, 0, 0],
    x: Float64Array.from(at, (p) => p[0]),
    y: Float64Array.from(at, (p) => p[1]),
    z: new Float64Array(at.length),
    row: Int32Array.from(at, (_, i) => i),
    order: Int32Array.from(at, (_, i) => i),
    starts: Int32Array.of(0, at.length),
    strings: [],
    walls: new Float64Array(0),
    ...more,
  };
}

test("weights solve the system of the cubic radial function with its nugget and linear tail", () => {
  let solved = 0;
  fc.assert(
    fc.property(positions(7, 20), (at) => {
      const field = fieldOf(at),
        found = new Radial(20).weights(
          field,
          0,
          0,
          at.map((_, i) => i),
        ),
        d = at.map(([x, y]) => Math.hypot(x, y)),
        h = d.toSorted((a, b) => a - b)[5]!,
        n = at.length,
        size = n + 3;
      if (!(h > 1)) return;
      const matrix = Float64Array.from({ length: size * size }, (_, k) => {
        const [i, j] = [Math.floor(k / size), k % size];
        const tail = (p: number, t: number) => [1, at[p]![0] / h, at[p]![1] / h][t - n]!;
        if (i >= n && j >= n) return 0;
        if (i >= n || j >= n) return i >= n ? tail(j, i) : tail(i, j);
        return i === j ? 0.3 : (Math.hypot(at[i]![0] - at[j]![0], at[i]![1] - at[j]![1]) / h) ** 3;
      });
      const right = Float64Array.from({ length: size }, (_, k) => (k < n ? (d[k]! / h) ** 3 : k === n ? 1 : 0)),
        isSolved = eliminate(matrix, right, size),
        wanted = Array.from(right.subarray(0, n)),
        square = wanted.reduce((sum, w) => sum + w * w, 0);
      if (!isSolved || square > 1.19) return;
      solved++;
      found!.weights.forEach((w, k) => expect(w).toBeCloseTo(wanted[k]!, 7));
      // A plane is met by its own shots.
      const plane = (x: number, y: number) => 3 + 0.2 * x - 0.7 * y;
      expect(found!.weights.reduce((z, w, k) => z + w * plane(...at[k]!), 0)).toBeCloseTo(3, 6);
    }),
    { numRuns: 400 },
  );
  expect(solved).toBeGreaterThan(100);
});

test("Q of every stretch by the sweep is what its own sum is, and of some forms no more", () => {
  const { field: one } = terrain({ seed: 4, spacing: 5, shots: 150, curve: 0.1, strings: true });
  // Two crews and some shots of none.
  const field = { ...one, order: one.order.slice(0, 130), starts: Int32Array.of(0, 47, 47, 130) },
    maker = new FormMaker(field);
  const { forms } = maker.make(0, field.count),
    r = atOnce(Residuals.of(field, forms, formsByShot(forms))),
    cover = new Cover(field, membersOf(field), forms.count),
    sweep = new Sweep(field, forms);
  for (const [length, step] of [
    [5, 1],
    [12, 3],
    [18, 4],
    [40, 10],
    [60, 30],
  ] as const) {
    const stretches = stretchesOf(field, length, step),
      all = new Float64Array(stretches.from.length),
      some = all.slice(),
      marked = all.slice(),
      marks = Uint8Array.from(all, (_, n) => n % 2);
    for (let f = 0; f < forms.count; f++) {
      sweep.form(f);
      sweep.add(r.weight[f]!, stretches, all);
      if (f % 3 === 0) sweep.add(r.weight[f]!, stretches, some);
      sweep.add(r.weight[f]!, stretches, marked, marks);
    }
    stretches.from.forEach((p, n) => {
      const { q } = cover.sums(r, p, p + length - 1);
      expect(all[n]! / q).toBeCloseTo(1, 9);
      expect(some[n]).toBeLessThanOrEqual(q);
      expect(marked[n]! / q).toBeCloseTo(n % 2, 9);
      expect(p < 47 ? p + length <= 47 : p + length <= 130).toBe(true);
    });
    expect(all.length).toBe(
      [47, 83].reduce((sum, m) => sum + (m < length ? 0 : Math.floor((m - length) / step) + 1), 0),
    );
  }
});

test("a shot is hidden where a wall crosses the straight way to it, and stands at neither of its ends", () =>
  fc.assert(
    fc.property(positions(2, 12), positions(2, 30), (at, ends) => {
      // Some walls end at shots.
      const both = [...ends, ...at].slice(0, 2 * Math.floor((ends.length + at.length) / 2)),
        walls = Float64Array.from(both.flat()),
        field = fieldOf(at, { walls }),
        sight = new Sight(field),
        [px, py] = at[0]!;
      sight.from(px, py, 200);
      at.forEach(([qx, qy], j) => {
        const side = (ax: number, ay: number, bx: number, by: number, x: number, y: number) =>
          ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay);
        let isHidden = false;
        for (let k = 0; k < walls.length; k += 4) {
          const [ax, ay, bx, by] = walls.subarray(k, k + 4) as unknown as [number, number, number, number],
            p = side(ax, ay, bx, by, px, py),
            q = side(ax, ay, bx, by, qx, qy),
            [a, b] = [(qx - px) * (ay - py) - (qy - py) * (ax - px), (qx - px) * (by - py) - (qy - py) * (bx - px)];
          if (a >= 0 !== b >= 0 && Math.abs(p) > 0.001 && Math.abs(q) > 0.001 && p > 0 !== q > 0) isHidden = true;
        }
        expect(sight.isHidden(j, (qx - px) ** 2 + (qy - py) ** 2)).toBe(isHidden);
      });
    }),
    { numRuns: 300 },
  ));

test("the nearest are those of a plain search; of equal distances the lower rank comes first", () => {
  const lattice = fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 30 })),
    to = fc.integer({ min: 0, max: 60 });
  fc.assert(
    fc.property(
      fc.array(lattice, { minLength: 1, maxLength: 600, size: "max" }),
      to,
      to,
      fc.nat(12),
      (at, qe, qn, most) => {
        const e = Float64Array.from(at, (p) => p[0]),
          n = Float64Array.from(at, (p) => p[1]),
          rank = Int32Array.from(at, (_, i) => (i * 37) % 997),
          far = (i: number) => (e[i]! - qe / 2) ** 2 + (n[i]! - qn / 2) ** 2,
          into = new Int32Array(13),
          distances = new Float64Array(13);
        const count = nearestIndex(e, n, rank).nearest(qe / 2, qn / 2, most + 1, into, distances),
          wanted = at.map((_, i) => i).sort((a, b) => far(a) - far(b) || rank[a]! - rank[b]!);
        expect(Array.from(into.subarray(0, count))).toEqual(wanted.slice(0, most + 1));
        expect(Array.from(distances.subarray(0, count))).toEqual(wanted.slice(0, most + 1).map(far));
      },
    ),
  );
});

test("the shift of a run on lines is known less well than one beside them", () => {
  const { field } = terrain({ seed: 6, spacing: 5, shots: 200, curve: 0.1, strings: true }),
    maker = new FormMaker(field);
  const { forms } = maker.make(0, field.count),
    r = atOnce(Residuals.of(field, forms, formsByShot(forms))),
    run = { from: 4, to: 15, shift: 0.5 },
    on = field.order.map((shot) => membersOf(field).of(shot).length),
    from = on.findIndex((x, p) => x > 0 && on.slice(p, p + 12).every((y) => y > 0));
  const sigma = (members: ReturnType<typeof membersOf>) =>
    toldOf(new Cover(field, members, forms.count), r, { ...run, from, to: from + 11 }, 1, false).sigma;
  expect(from).toBeGreaterThanOrEqual(0);
  expect(sigma(membersOf(field)) / sigma({ of: () => [] })).toBeCloseTo(2 / 1.5, 9);
});
