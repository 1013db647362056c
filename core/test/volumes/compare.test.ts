// @long: left out of npm run test:quick.
import fc from "fast-check";
import { insideRing, sideMeetsOthers, type Corner } from "../../src/math/ring";
import { surfaceOfTriangles } from "../../src/surface/finish";
import { SurfaceReader } from "../../src/surface/locate";
import type { Surface } from "../../src/surface/model";
import { compare, type KeptComparison } from "../../src/volumes/compare";
import type { Figures } from "../../src/volumes/model";
import { Overlay, type Pair } from "../../src/volumes/overlay";
import { above, partAbove } from "../../src/volumes/part-above";
import { regionsOf } from "../../src/volumes/regions";
import { delaunayOf, freePositions, positions, rectangle, withLevels } from "./surfaces";

const KEYS = ["cut", "fill", "net", "area", "cutArea", "fillArea"] as const;
/** Figures agree to 1e-9 of what is moved and covered. */
function agree(a: Figures, b: Figures): void {
  const size = 1 + Math.abs(a.cut) + Math.abs(a.fill) + a.area;
  for (const k of KEYS) expect(Math.abs(a[k] - b[k])).toBeLessThan(1e-9 * size);
}
const both = fc.tuple(fc.oneof(positions, freePositions), fc.oneof(positions, freePositions));

/** The common area by another way: where lines through both surfaces run, level by level reader. */
function byRows(from: Surface, to: Surface, rows: number): { cut: number; fill: number } {
  const [a, b] = [new SurfaceReader(from), new SurfaceReader(to)],
    cell = 12 / rows;
  let cut = 0,
    fill = 0;
  for (let i = 0; i < rows; i++)
    for (let j = 0; j < rows; j++) {
      const [e, n] = [(i + 0.5) * cell, (j + 0.5) * cell],
        [p, q] = [a.at(e, n), b.at(e, n)];
      if (!p || !q) continue;
      const d = q.level - p.level;
      if (d > 0) fill += d;
      else cut -= d;
    }
  return { cut: cut * cell * cell, fill: fill * cell * cell };
}

describe("two surfaces", () => {
  test("two planes that cross: cut and fill by hand", () => {
    // d runs from −2 to 4 over 12, zero at a third of the way.
    const from = rectangle(0, 0, 12, 5, () => 10),
      to = rectangle(0, 0, 12, 5, (e) => 8 + e / 2);
    const { whole } = compare({ from, to });
    agree(whole, { cut: (2 * 4 * 5) / 2, fill: (4 * 8 * 5) / 2, net: 60, area: 60, cutArea: 20, fillArea: 40 });
  });

  test("only what they have in common counts, wherever their origins lie", () => {
    const from = rectangle(512340.25, 6233100.5, 10, 10, () => 3),
      to = rectangle(512346.75, 6233104.5, 20, 20, () => 7);
    agree(compare({ from, to }).whole, { cut: 0, fill: 84, net: 84, area: 21, cutArea: 0, fillArea: 21 });
    expect(compare({ from, to: rectangle(0, 0, 1, 1, () => 0) }).whole.area).toBe(0);
  });

  test("a surface with a hollow: what lies in it does not count, and what lies beyond does", () => {
    // A frame round an empty square, against one plane under all of it.
    const outer = [0, 0, 9, 0, 9, 9, 0, 9],
      inner = [3, 3, 6, 3, 6, 6, 3, 6];
    const at = [...outer, ...inner],
      points = Float64Array.from({ length: 24 }, (_, k) => (k % 3 === 2 ? 1 : at[2 * Math.floor(k / 3) + (k % 3)]!));
    const faces = [0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7];
    const frame = surfaceOfTriangles("frame", points, faces).surface,
      plane = rectangle(-1, -1, 11, 11, () => 0);
    for (const f of [compare({ from: plane, to: frame }), compare({ from: frame, to: plane })].map((c) => c.whole)) {
      expect(f.area).toBeCloseTo(72, 12);
      expect(f.cut + f.fill).toBeCloseTo(72, 12);
    }
  });

  test("exchange exchanges cut and fill; a raise by h adds h × area; nothing is counted twice", () => {
    fc.assert(
      fc.property(
        both,
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (at, h, t) => {
          const [from, to] = [delaunayOf(at[0]), delaunayOf(at[1])];
          if (!from || !to) return;
          const there = compare({ from, to }, t).whole,
            back = compare({ from: to, to: from }, t).whole;
          agree(there, {
            ...back,
            cut: back.fill,
            fill: back.cut,
            net: -back.net,
            cutArea: back.fillArea,
            fillArea: back.cutArea,
          });
          const plain = compare({ from, to }).whole,
            raised = compare({ from, to: withLevels(to, (z) => z + h) }).whole;
          expect(Math.abs(raised.net - plain.net - h * plain.area)).toBeLessThan(
            1e-9 * (1 + plain.area + plain.cut + plain.fill),
          );
          expect(there.cutArea + there.fillArea).toBeLessThanOrEqual(plain.area + 1e-9);
          expect(plain.cut).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 300 },
    );
  });

  test("against readers of levels on a fine lattice", () => {
    fc.assert(
      fc.property(freePositions, freePositions, (a, b) => {
        const [from, to] = [delaunayOf(a), delaunayOf(b)];
        if (!from || !to) return;
        const exact = compare({ from, to }).whole,
          rough = byRows(from, to, 150);
        // Levels change by up to their range within a sliver, so that a cell may err by all of it along an outline.
        for (const k of ["cut", "fill"] as const) expect(Math.abs(exact[k] - rough[k])).toBeLessThan(0.12 * 12 * 12);
      }),
      { numRuns: 25 },
    );
  });

  test("a surface against itself has its own area and nothing else", () => {
    fc.assert(
      fc.property(positions, (at) => {
        const s = delaunayOf(at);
        if (!s) return;
        const { whole } = compare({ from: s, to: s });
        expect(whole.cut + whole.fill + whole.cutArea + whole.fillArea).toBeLessThan(1e-12 * (1 + whole.area));
        expect(whole.area).toBeCloseTo(compare({ from: s, to: 0 }).whole.area, 9);
      }),
    );
  });

  test("changed levels of either surface are followed to the last digit", () => {
    fc.assert(
      fc.property(
        freePositions,
        freePositions,
        fc.array(fc.tuple(fc.boolean(), fc.nat(40), fc.double({ min: 0, max: 12, noNaN: true })), {
          minLength: 1,
          maxLength: 5,
        }),
        (a, b, edits) => {
          let [from, to] = [delaunayOf(a), delaunayOf(b)];
          if (!from || !to) return;
          const kept: KeptComparison = {};
          compare({ from, to }, 0.1, kept);
          for (const [first, at, level] of edits) {
            const change = (s: Surface) => withLevels(s, (z, v) => (v === at % s.z.length ? level : z));
            if (first) from = change(from);
            else to = change(to);
            expect(compare({ from, to }, 0.1, kept)).toEqual(compare({ from, to }, 0.1));
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  test("what is kept is of one level and one deadband only", () => {
    const from = rectangle(0, 0, 10, 10, (e) => e),
      kept: KeptComparison = {};
    for (const [level, t] of [
      [4, 0],
      [5, 0],
      [5, 1],
      [5, 0],
    ] as const)
      expect(compare({ from, to: level }, t, kept)).toEqual(compare({ from, to: level }, t));
  });

  test("what is kept is of its areas only: of others, or of none, all is measured anew", () => {
    const from = rectangle(0, 0, 10, 10, (e) => e),
      to = rectangle(0, 0, 10, 10, (_, n) => 3 + n / 2),
      square = (side: number) =>
        regionsOf([
          {
            name: `${side}`,
            rings: [
              [
                [0, 0],
                [side, 0],
                [side, side],
                [0, side],
              ],
            ],
          },
        ]);
    for (const other of [to, 5]) {
      const kept: KeptComparison = {};
      for (const within of [undefined, square(4), square(7), square(7), undefined, square(4)]) {
        const { whole } = compare({ from, to: other, within }, 0, kept);
        expect(whole).toEqual(compare({ from, to: other, within }).whole);
        expect(whole.area).toBeCloseTo(within ? Number(within.areas[0]) ** 2 : 100, 9);
      }
    }
  });
});

/** The figures by cutting every triangle into pieces, none taken whole. */
function byPieces(pair: Pair, t: number): Pick<Figures, "cut" | "fill" | "area"> {
  const o = new Overlay(pair),
    sum = { cut: 0, fill: 0, area: 0 };
  for (let h = 0; h < pair.from.tri.length; h += 3)
    o.pieces(h, (count) => {
      const at = (k: number) => [o.uvd[3 * k]!, o.uvd[3 * k + 1]!, o.uvd[3 * k + 2]!] as const,
        [u0, v0, d0] = at(0);
      for (let k = 2; k < count; k++) {
        const [u1, v1, d1] = at(k - 1),
          [u2, v2, d2] = at(k),
          plan = (o.doubled * ((u1 - u0) * (v2 - v0) - (u2 - u0) * (v1 - v0))) / 2;
        sum.area += plan;
        partAbove(plan, d0 - t, d1 - t, d2 - t);
        sum.fill += above.volume + t * above.area;
        partAbove(plan, -d0 - t, -d1 - t, -d2 - t);
        sum.cut += above.volume + t * above.area;
      }
    });
  return sum;
}

describe("large surfaces, most of whose triangles are taken whole", () => {
  const random = (seed: number) => () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  /** Some thousand triangles over 0 … 100, with a hollow where asked. */
  const wide = (seed: number, level: (e: number, n: number) => number, hollow = false): Surface => {
    const next = random(seed),
      at = Array.from({ length: 1600 }, (): [number, number, number] => {
        const [e, n] = [100 * next(), 100 * next()];
        return [e, n, level(e, n)];
      });
    const made = delaunayOf(at)!;
    if (!hollow) return made;
    const faces: number[] = [];
    for (let h = 0; h < made.tri.length; h += 3) {
      const [a, b, c] = made.tri.subarray(h, h + 3) as unknown as [number, number, number];
      if (Math.hypot((made.x[a]! + made.x[b]! + made.x[c]!) / 3 - 60, made.y[a]! - 40) > 14) faces.push(a, b, c);
    }
    const points = Float64Array.from({ length: 3 * made.x.length }, (_, k) =>
      k % 3 === 0 ? made.x[k / 3]! : k % 3 === 1 ? made.y[(k - 1) / 3]! : made.z[(k - 2) / 3]!,
    );
    return surfaceOfTriangles("hollow", points, faces).surface;
  };
  const from = wide(3, (e, n) => 5 + e / 30 + Math.sin(n / 9)),
    to = wide(7, (e, n) => 5 + e / 20 + Math.cos(e / 11) + n / 90, true);
  const within = regionsOf([
    {
      name: "a",
      rings: [
        [
          [10, 10],
          [90, 20],
          [70, 80],
          [50, 40],
        ],
      ],
    },
    {
      name: "b",
      rings: [
        [
          [40, -10],
          [120, 50],
          [30, 130],
        ],
      ],
    },
  ]);
  // Along sides of the first surface: what is without begins exactly at a triangle's side.
  const alongSides = regionsOf([
    { name: "c", rings: [[0, 1, 2].map((k): Corner => [from.x[from.tri[k + 900]!]!, from.y[from.tri[k + 900]!]!])] },
  ]);
  const cases: [string, Pair][] = [
    ["crossing", { from, to }],
    ["the other way", { from: to, to: from }],
    ["far apart", { from, to: withLevels(to, (z) => z + 40) }],
    ["the same", { from, to: from }],
    ["within areas", { from, to, within }],
    ["within areas, far apart", { from, to: withLevels(to, (z) => z - 40), within }],
    ["along sides", { from, to: withLevels(to, (z) => z - 40), within: alongSides }],
    ["large triangles", { from, to: rectangle(-5, 20, 200, 60, (e) => e / 12) }],
    ["from large triangles", { from: rectangle(-5, 20, 200, 60, (e) => e / 12), to: from }],
  ];

  test.each(cases)("%s: the same as when every triangle is cut into pieces", (_, pair) => {
    for (const t of [0, 0.5]) {
      const { whole } = compare(pair, t),
        pieces = byPieces(pair, t),
        size = whole.area + whole.cut + whole.fill;
      for (const k of ["cut", "fill", "area"] as const)
        expect(Math.abs(whole[k] - pieces[k])).toBeLessThan(1e-10 * size);
    }
  });

  test.each(cases)("%s: changed levels are followed to the last digit", (_, pair) => {
    const next = random(11),
      kept: KeptComparison = {};
    let now = pair;
    for (let round = 0; round < 12; round++) {
      expect(compare(now, 0.2, kept)).toEqual(compare(now, 0.2));
      const change = (s: Surface) => {
        const at = Math.floor(next() * s.z.length),
          by = round % 3 === 0 ? 60 : 0.4;
        return withLevels(s, (z, v) => (v === at ? z + by * (next() - 0.5) : z));
      };
      now =
        round % 2 || typeof now.to === "number"
          ? { ...now, from: change(now.from) }
          : { ...now, to: now.to === now.from ? withLevels(now.from, (z) => z) : change(now.to) };
    }
  });
});

describe("within areas", () => {
  const share = fc.integer({ min: -16, max: 208 }).map((k) => k / 16);
  // Corners ordered about a position make a ring that does not cross itself, if no two lie in one direction.
  const ring = fc
    .tuple(fc.tuple(share, share), fc.array(fc.tuple(share, share), { minLength: 3, maxLength: 9 }))
    .map(([[e, n], list]) => {
      const around = new Map(list.map((p) => [Math.atan2(p[1] - n, p[0] - e).toFixed(6), p as Corner]));
      around.delete(Math.atan2(0, 0).toFixed(6));
      return [...around.entries()].toSorted((p, q) => Number(p[0]) - Number(q[0])).map(([, p]) => p);
    })
    .filter((list) => {
      const area = list.reduce((sum, [e, n], k) => {
        const [f, m] = list[(k + 1) % list.length]!;
        return sum + (e * m - f * n) / 2;
      }, 0);
      return list.length >= 3 && area > 0.5 && list.every((_, k) => !sideMeetsOthers(list, k));
    });

  test("a polygon's own area and volume, in every corner of a plane", () => {
    const ring: Corner[] = [
      [3.5, 4.25],
      [26.5, 5.5],
      [14.25, 11.5],
      [22.75, 18.5],
      [5.25, 17.75],
    ];
    let doubled = 0,
      moment = 0;
    ring.forEach(([e, n], k) => {
      const [f, m] = ring[(k + 1) % ring.length]!,
        cross = e * m - f * n;
      doubled += cross;
      moment += (cross * (e + f)) / 6;
    });
    const from = rectangle(0, 0, 30, 20, () => 0),
      to = rectangle(-2, -2, 40, 40, (e) => 0.25 * e),
      within = regionsOf([{ name: "a", rings: [ring] }]);
    agree(compare({ from, to, within }).whole, {
      cut: 0,
      fill: 0.25 * moment,
      net: 0.25 * moment,
      area: doubled / 2,
      cutArea: 0,
      fillArea: doubled / 2,
    });
  });

  test("what is within and what is without add up to the whole; areas that overlap count once in it", () => {
    const outside = [
      [-5, -5],
      [17, -5],
      [17, 17],
      [-5, 17],
    ] as Corner[];
    fc.assert(
      fc.property(both, ring, ring, (at, one, two) => {
        const [from, to] = [delaunayOf(at[0]), delaunayOf(at[1])];
        if (!from || !to) return;
        const all = compare({ from, to }).whole,
          areas = [
            { name: "all", rings: [outside] },
            { name: "one", rings: [one] },
            { name: "two", rings: [two] },
          ];
        const c = compare({ from, to, within: regionsOf(areas) });
        agree(c.whole, all);
        agree(c.areas[0]!, all);
        const alone = (list: typeof areas) => compare({ from, to, within: regionsOf(list) });
        agree(alone([areas[1]!]).whole, c.areas[1]!);
        // Together they cover no more than both, and no less than either.
        const pair = alone(areas.slice(1)).whole;
        expect(pair.area).toBeLessThanOrEqual(c.areas[1]!.area + c.areas[2]!.area + 1e-9);
        expect(pair.area).toBeGreaterThanOrEqual(Math.max(c.areas[1]!.area, c.areas[2]!.area) - 1e-9);
      }),
      { numRuns: 150 },
    );
  });

  test("every triangle of the areas' mesh lies in the areas that its middle lies in", () => {
    fc.assert(
      fc.property(ring, ring, (one, two) => {
        const r = regionsOf([
          { name: "one", rings: [one] },
          { name: "two", rings: [two] },
        ]);
        const { x, y, tri, origin } = r.mesh;
        for (let t = 0; t < r.partOf.length; t++) {
          const [a, b, c] = [tri[3 * t]!, tri[3 * t + 1]!, tri[3 * t + 2]!],
            turn = (x[b]! - x[a]!) * (y[c]! - y[a]!) - (y[b]! - y[a]!) * (x[c]! - x[a]!);
          if (turn < 1e-6) continue;
          const [e, n] = [origin[0] + (x[a]! + x[b]! + x[c]!) / 3, origin[1] + (y[a]! + y[b]! + y[c]!) / 3];
          expect(r.holding[r.partOf[t]!]).toEqual([one, two].flatMap((q, k) => (insideRing(q, e, n) ? [k] : [])));
        }
      }),
      { numRuns: 100 },
    );
  });
});
