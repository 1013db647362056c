/** Few positions came, went or moved: the short way gives the very triangles, in the same order, of making all anew. */
import fc from "fast-check";
import { inTurn } from "../../src/surface/curve";
import { delaunay } from "../../src/surface/delaunay";
import { delaunayAgain } from "../../src/surface/delaunay-again";
import { derive, type Row } from "../job";
import { hullArea } from "./invariants";

type P = readonly [number, number];
const columns = (list: readonly P[]) => ({
  x: Float64Array.from(list, (p) => p[0]),
  y: Float64Array.from(list, (p) => p[1]),
});
const triangulated = (list: readonly P[]) => {
  const at = columns(list);
  return { ...at, ...delaunay(at.x, at.y, inTurn(list.length)) };
};

/** Positions of a kind: many of them on one line or one circle, or freely. */
const KINDS: Record<string, (u: number, v: number) => P> = {
  grid: (u, v) => [Math.floor(9 * u), Math.floor(9 * v)],
  thirds: (u, v) => [Math.floor(7 * u) / 3, Math.floor(7 * v) / 3],
  circle: (u, v) => [Math.cos(Math.floor(24 * u) / 3), Math.sin(Math.floor(24 * u) / 3) * (v < 0.5 ? 1 : 0.5)],
  strip: (u, v) => [Math.floor(30 * u), Math.floor(3 * v)],
  free: (u, v) => [100 * u, 100 * v],
  far: (u, v) => [457_000 + Math.floor(90 * u) / 10, 5_427_000 + Math.floor(90 * v) / 10],
};
const unit = fc.integer({ min: 0, max: 2 ** 30 - 1 }).map((k) => k / 2 ** 30);
const scene = fc.record({
  kind: fc.constantFrom(...Object.keys(KINDS)),
  list: fc.array(fc.tuple(unit, unit), { minLength: 12, maxLength: 90 }),
  steps: fc.array(
    fc.array(fc.tuple(fc.constantFrom("moves", "comes", "goes"), fc.nat(), unit, unit), { minLength: 1, maxLength: 4 }),
    { minLength: 1, maxLength: 5 },
  ),
});

/** No position twice, the first of equal ones stays. */
const distinct = (list: readonly P[]) => [...new Map(list.map((p) => [String(p), p])).values()];

test("whatever comes, goes or moves, the triangles are those of making all anew", () => {
  let short = 0,
    all = 0;
  fc.assert(
    fc.property(scene, ({ kind, list, steps }) => {
      const at = KINDS[kind]!;
      let now = distinct(list.map(([u, v]) => at(u, v))),
        kept = triangulated(now);
      for (const edits of steps) {
        let next = now.slice();
        for (const [what, where, u, v] of edits) {
          const k = where % next.length;
          if (what === "moves") next[k] = at(u, v);
          else if (what === "comes") next.splice(k, 0, at(u, v));
          else next.splice(k, 1);
          next = distinct(next);
        }
        const fresh = triangulated(next),
          again = delaunayAgain(kept, fresh.x, fresh.y);
        all++;
        if (again) {
          short++;
          expect(again.tri).toEqual(fresh.tri);
          expect(again.twin).toEqual(fresh.twin);
          kept = { x: fresh.x, y: fresh.y, ...again };
        } else kept = fresh;
        now = next;
      }
    }),
    { numRuns: 400 },
  );
  expect(short / all).toBeGreaterThan(0.9);
});

test("the triangles hang on the positions alone, not on their order, where many stand on one circle", () => {
  const named = (list: readonly P[]) => {
    const { tri } = triangulated(list);
    return Array.from({ length: tri.length / 3 }, (_, t) =>
      Array.from(tri.subarray(3 * t, 3 * t + 3), (v) => String(list[v]))
        .sort()
        .join(" "),
    ).sort();
  };
  fc.assert(
    fc.property(scene, fc.infiniteStream(fc.nat()), ({ kind, list }, chance) => {
      const positions = distinct(list.map(([u, v]) => KINDS[kind]!(u, v))),
        other = positions
          .map((p) => ({ p, key: chance.next().value as number }))
          .sort((a, b) => a.key - b.key)
          .map(({ p }) => p);
      expect(named(other)).toEqual(named(positions));
    }),
    { numRuns: 200 },
  );
});

test("triangles come by their lowest corner, which is first in each, then by the next", () => {
  const lattice = Array.from({ length: 400 }, (_, k): P => [k % 20, Math.floor(k / 20) + ((7 * k) % 20) / 64]),
    hub: P[] = [
      [50, 50],
      ...Array.from({ length: 60 }, (_, k): P => [50 + 9 * Math.cos(k / 9.5), 50 + 9 * Math.sin(k / 9.5)]),
    ];
  for (const { tri } of [triangulated(lattice), triangulated(hub)])
    for (let t = 0; t < tri.length; t += 3) {
      const [low, next, last] = tri.subarray(t, t + 3) as unknown as [number, number, number];
      expect(Math.min(low, next, last)).toBe(low);
      if (t > 0) expect(tri[t - 3]! < low || (tri[t - 3] === low && tri[t - 2]! < next)).toBe(true);
    }
});

test("where many are others, one is too crowded round, or two stand at one position, the short way is not taken", () => {
  const free = Array.from({ length: 2000 }, (_, k): P => [(k * 377) % 1009, (k * 611) % 997]),
    after = (count: number) => {
      const { x, y } = columns(
        free.map(([e, n], k) => (k % 20 === 3 && k / 20 < count ? [e + 0.5, n + 0.25] : [e, n])),
      );
      return delaunayAgain(triangulated(free), x, y);
    };
  expect(after(20)).toBeDefined();
  expect(after(90)).toBeUndefined();
  const rim: P[] = Array.from({ length: 300 }, (_, k): P => [90 * Math.cos(k / 48), 90 * Math.sin(k / 48)]).concat([
      [500, 500],
      [-500, 500],
      [-500, -500],
      [500, -500],
    ]),
    without = columns(rim);
  expect(delaunayAgain(triangulated([[0, 0], ...rim]), without.x, without.y)).toBeUndefined();
  const twice = free.slice(0, 50).concat([free[7]!]),
    once = columns(twice.map((p, k) => (k === 7 ? [p[0] + 3, p[1]] : p)));
  expect(delaunayAgain(triangulated(twice), once.x, once.y)).toBeUndefined();
});

test("a job whose coordinates are next to nothing, but not nothing, is triangulated and does not go on for ever", () => {
  // Products of four such lengths are too small for doubles: decisions that contradict each other walked in a circle.
  const places = [
    [7, 0],
    [6, 2e-321],
    [0, 2.000299853979038],
    [1.3e-212, 11],
    [3e-321, 0],
    [5, 3],
    [0, 2],
    [1.0000574471067527, 2e-54],
    [5, 1],
    [8, 11.000085314493964],
    [8, 4.00545438062203e-158],
    [0, 7.000018591613095],
    [9.36e-131, 4],
    [3, 4.000000000000036],
    [2.16e-189, 7],
    [4, 8.000001252077672],
    [5.007e-43, 5],
    [1, 11],
    [5, 11],
    [4, 7],
    [1.05e-321, 10],
    [4.79e-321, 1],
    [4, 11.000000006091243],
    [7.000421104712023, 0],
    [8, 8],
    [1.596e-321, 9],
    [3.94e-321, 6],
  ] as const;
  const rows = places.map(([e, n], k): Row => ({ number: k + 1, e, n, z: 100 + k, code: "SPOT" })),
    made = derive(rows, { tolerance: { coincident: 1e-5 }, surfaces: [{ name: "s" }] }).derived.surfaces[0]!;
  if (!made.ok) throw made.refusal;
  expect(made.value.report.points).toBe(places.length);
  expect(made.value.report.area).toBeCloseTo(hullArea(...unzipped(places)), 9);
});

function unzipped(list: readonly P[]): [number[], number[]] {
  return [list.map((p) => p[0]), list.map((p) => p[1])];
}
