// @long: left out of npm run test:quick.
import Delaunator from "delaunator";
import fc from "fast-check";
import { inCircle, side } from "../../src/math/predicates";
import { next, prev } from "../../src/surface/mesh";
import { alongCurve, curveKey } from "../../src/surface/curve";
import { delaunay } from "../../src/surface/delaunay";
import type { Triangles } from "../../src/surface/one-order";

type Positions = { x: Float64Array; y: Float64Array };
const columns = (list: readonly (readonly [number, number])[]): Positions => ({
  x: Float64Array.from(list, (p) => p[0]),
  y: Float64Array.from(list, (p) => p[1]),
});

/** Throws where these are not the Delaunay triangles of all positions, each of which stands once. */
function check({ x, y }: Positions, { tri, twin }: Triangles): void {
  const used = new Set(tri);
  const distinct = new Set(Array.from(x, (v, i) => `${v} ${y[i]}`));
  const outline = new Map<number, number>();
  for (let h = 0; h < tri.length; h++) {
    const [a, b, c] = [tri[h]!, tri[next(h)]!, tri[prev(h)]!];
    if (h % 3 === 0 && !(side(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!) > 0))
      throw new Error(`triangle ${h / 3} is not counter-clockwise`);
    const o = twin[h]!;
    if (o < 0) {
      outline.set(a, b);
      continue;
    }
    if (twin[o] !== h || tri[o] !== b || tri[next(o)] !== a) throw new Error(`${h} and ${o} are not twins`);
    const d = tri[prev(o)]!;
    if (inCircle(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!, x[d]!, y[d]!) > 0) throw new Error(`${h} is not Delaunay`);
  }
  if (tri.length === 0) return;
  expect(used.size).toBe(distinct.size);
  // Euler, and one outline that never turns to the right: the hull, nothing twice, nothing left out.
  expect(tri.length / 3).toBe(2 * used.size - 2 - outline.size);
  const start = outline.keys().next().value!;
  let sides = 0;
  for (let a = start; sides === 0 || a !== start; sides++) {
    const b = outline.get(a)!,
      c = outline.get(b)!;
    if (side(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!) < 0) throw new Error(`the outline turns right at ${b}`);
    a = b;
  }
  expect(sides).toBe(outline.size);
}

const onOneLine = ({ x, y }: Positions) => {
  const far = x.findIndex((v, i) => v !== x[0] || y[i] !== y[0]);
  return far < 0 || x.every((v, i) => side(x[0]!, y[0]!, x[far]!, y[far]!, v, y[i]!) === 0);
};

const small = fc.integer({ min: 0, max: 12 });
/** Positions that decide badly in plain arithmetic: grids of many steps, lines, circles, and all that near one another. */
const nasty: fc.Arbitrary<Positions> = fc
  .record({
    list: fc.array(fc.tuple(small, small), { minLength: 3, maxLength: 60 }),
    step: fc.constantFrom(1, 0.1, 1 / 3, 2 ** -20, 1e-9, 1e7),
    turn: fc.constantFrom(0, 0.3, Math.PI / 4),
    away: fc.constantFrom(0, 0.1, 123456.7),
    shape: fc.constantFrom("grid", "circle", "line", "two lines", "ulp"),
  })
  .map(({ list, step, turn, away, shape }) =>
    columns(
      list.map(([i, j]) => {
        let [u, v]: [number, number] = [i, j];
        if (shape === "circle") [u, v] = [6 + 5 * Math.cos(i + 13 * j), 6 + 5 * Math.sin(i + 13 * j)];
        if (shape === "line") v = 0;
        if (shape === "two lines") v = j % 2;
        u *= step;
        v *= step;
        const [e, n] = [away + u * Math.cos(turn) - v * Math.sin(turn), away + u * Math.sin(turn) + v * Math.cos(turn)];
        return shape === "ulp" ? [e + (j % 3) * Number.EPSILON * e, n - (i % 2) * Number.EPSILON * n] : [e, n];
      }),
    ),
  );

test("the Delaunay triangles of any positions, exactly, equal ones once", () => {
  fc.assert(
    fc.property(nasty, (p) => {
      const made = delaunay(p.x, p.y);
      check(p, made);
      expect(made.tri.length === 0).toBe(onOneLine(p));
    }),
    { numRuns: 1500 },
  );
});

test("a rectangle of which one corner is off by the last digit has the one diagonal that is right", () => {
  const corners = [
    [3, 5],
    [7, 5],
    [7, 8],
    [3, 8],
  ] as const;
  const orders = (list: readonly number[]): number[][] =>
    list.length ? list.flatMap((k) => orders(list.filter((l) => l !== k)).map((rest) => [k, ...rest])) : [[]];
  for (const order of orders([0, 1, 2, 3]))
    for (const off of [0, 1, 2, 3])
      for (const axis of [0, 1])
        for (const by of [-(2 ** -50), 2 ** -50]) {
          const list = order.map((k): [number, number] => [...corners[k]!]);
          list[off]![axis] = list[off]![axis]! + by;
          const p = columns(list);
          check(p, delaunay(p.x, p.y));
        }
});

const trianglesOf = (tri: ArrayLike<number>, at: (v: number) => string) => {
  const list: string[] = [];
  for (let t = 0; t < tri.length; t += 3)
    list.push(
      [0, 1, 2]
        .map((k) => at(tri[t + k]!))
        .sort()
        .join(" | "),
    );
  return list.sort();
};

test("the same triangles in any order of the positions, and those of the published package", () => {
  fc.assert(
    fc.property(fc.nat(), fc.integer({ min: 3, max: 300 }), (seed, count) => {
      const p = many(count, (_, r) => [1000 * r(), 1000 * r()], seed),
        turned = { x: p.x.toReversed(), y: p.y.toReversed() },
        name = ({ x, y }: Positions) => {
          const names = Array.from(x, (v, i) => `${v},${y[i]}`);
          return (v: number) => names[v]!;
        };
      const ours = trianglesOf(delaunay(p.x, p.y).tri, name(p));
      expect(trianglesOf(delaunay(turned.x, turned.y).tri, name(turned))).toEqual(ours);
      const coordinates = Array.from(p.x, (v, i) => [v, p.y[i]!]).flat();
      expect(trianglesOf(new Delaunator(coordinates).triangles, name(p))).toEqual(ours);
    }),
    { numRuns: 200 },
  );
});

/** A thousand and more, where rounds, batches and crowded cells matter. */
function many(count: number, at: (i: number, random: () => number) => [number, number], seed = 11): Positions {
  const random = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  return columns(Array.from({ length: count }, (_, i) => at(i, random)));
}
const N = 20_000;
test.each<[string, Positions]>([
  ["scattered", many(N, (_, r) => [1000 * r(), 1000 * r()])],
  ["one far away", many(N, (i, r) => (i === 7 ? [1e9, -1e9] : [r(), r()]))],
  ["heaps far apart", many(N, (i, r) => [1e6 * (i % 9) + 1e-3 * r(), 1e6 * (i % 7) + 1e-3 * r()])],
  ["dense strings", many(N, (i, r) => [(i % 2500) * 0.2 + 0.01 * r(), 50 * Math.floor(i / 2500) + 0.01 * r()])],
  ["a grid of decimals", many(N, (i) => [0.1 * (i % 141), 0.1 * Math.floor(i / 141)])],
  ["a grid of integers", many(N, (i) => [i % 141, Math.floor(i / 141)])],
  [
    "nearly a circle, of integers",
    many(400, (i) => [3e7 * Math.cos(i), 3e7 * Math.sin(i)].map(Math.round) as [number, number]),
  ],
  ["a circle and its centre", many(N, (i) => (i ? [Math.cos(i), Math.sin(i)] : [0, 0]))],
  ["nearly a line", many(N, (i) => [0.1 * i, 0.3 * i])],
  ["each many times", many(N, (_, r) => [Math.floor(30 * r()), Math.floor(30 * r())])],
])("many positions, %s", (_, p) => check(p, delaunay(p.x, p.y)));

test("neighbours along the curve are neighbours in plan", () => {
  const cells = Array.from({ length: 64 * 64 }, (_, k) => [k % 64, k >> 6] as const),
    byKey = cells.map(([c, r]) => ({ c, r, key: curveKey(c, r) })).sort((a, b) => a.key - b.key);
  for (let k = 1; k < byKey.length; k++) {
    const [a, b] = [byKey[k - 1]!, byKey[k]!];
    expect([b.key - a.key, Math.abs(a.c - b.c) + Math.abs(a.r - b.r)]).toEqual([1, 1]);
  }
  const p = many(5000, (i, r) => (i % 2 ? [r(), r()] : [1e6 + 1e-4 * r(), 1e-4 * r()])),
    order = alongCurve(p.x, p.y);
  expect(new Set(order).size).toBe(5000);
  // Also within a cell that holds half of all.
  let way = 0;
  for (let k = 1; k < order.length; k++) {
    const [a, b] = [order[k - 1]!, order[k]!];
    if (p.x[a]! > 1e5 && p.x[b]! > 1e5) way += Math.hypot(p.x[a]! - p.x[b]!, p.y[a]! - p.y[b]!);
  }
  expect(way).toBeLessThan(2 * Math.sqrt(2500) * 1e-4);
});
