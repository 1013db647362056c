// @long: left out of npm run test:quick.
/** Edges, holes, and what is peeled, thinned and corrected: against polygons' own formulas and plain peeling. */
import fc from "fast-check";
import { applyChange, openRecipe, parseRecipe, repairsOf, runChain, writeRecipe, type JobState } from "../../src";
import { renumber } from "../../src/job/change/renumber";
import { SurfaceReader } from "../../src/surface/locate";
import type { Surface, SurfaceRecipe } from "../../src/surface/model";
import { densified, thinned, type BreakPosition } from "../../src/surface/thin";
import { side } from "../../src/math/predicates";
import { derive, stateOf, type Row } from "../job";
import { checkSides } from "./invariants";

type P = [number, number];
const level = ([e, n]: P) => 20 + 0.25 * e - 0.5 * n;
const STEEPNESS = Math.hypot(1, 0.25, 0.5);
const spots = (list: readonly P[]): Row[] =>
  list.map((p, k) => ({ number: `S${k}`, e: p[0], n: p[1], z: level(p), code: "SPOT" }));

function made(rows: readonly Row[], recipe: Partial<SurfaceRecipe>) {
  const { state, derived } = derive([...rows], {
    tolerance: { coincident: 1e-7 },
    surfaces: [{ name: "s", breaklines: { codes: ["TOP"] }, ...recipe }],
  });
  const s = derived.surfaces[0]!;
  if (!s.ok) throw s.refusal;
  return { state, derived, ...s.value };
}

const area = (ring: readonly P[]) =>
  Math.abs(
    ring.reduce((sum, [e, n], k) => sum + e * ring[(k + 1) % ring.length]![1] - n * ring[(k + 1) % ring.length]![0], 0),
  ) / 2;

/** The convex hull, counter-clockwise (Andrew 1979). */
function hullOf(list: readonly P[]): P[] {
  const order = list.toSorted((a, b) => a[0] - b[0] || a[1] - b[1]);
  const chain = (points: readonly P[]) => {
    const out: P[] = [];
    for (const p of points) {
      while (out.length > 1 && side(...out.at(-2)!, ...out.at(-1)!, ...p) <= 0) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...chain(order), ...chain(order.toReversed())];
}

/** What of a polygon lies within a convex one (Sutherland, Hodgman 1974): its area is right for any simple polygon. */
function clipped(polygon: readonly P[], convex: readonly P[]): P[] {
  let out = [...polygon];
  convex.forEach((a, k) => {
    const b = convex[(k + 1) % convex.length]!,
      from = out;
    out = [];
    from.forEach((p, i) => {
      const q = from[(i + 1) % from.length]!,
        // What lies along the line but for rounding lies on it.
        [sp, sq] = [p, q].map((c) => side(...a, ...b, ...c)).map((d) => (Math.abs(d) < 1e-9 ? 0 : d)) as P;
      if (sp >= 0) out.push(p);
      if (sp > 0 !== sq > 0 && sp !== sq) {
        const t = sp / (sp - sq);
        if (t > 0 && t < 1) out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
      }
    });
  });
  return out;
}

const coordinate = fc.integer({ min: 0, max: 1000 }).map((k) => k / 10);
const position = fc.tuple(coordinate, coordinate);
const cloud = fc.uniqueArray(position, { minLength: 4, maxLength: 50, selector: (p) => p.join() });
/** Corners round a middle, each in its own direction: simple, seldom convex. */
const star = fc
  .tuple(position, fc.array(fc.integer({ min: 3, max: 600 }), { minLength: 3, maxLength: 9 }))
  .map(([[e, n], radii]) =>
    radii.map((r, k): P => {
      const a = (2 * Math.PI * k) / radii.length;
      return [e + (r / 10) * Math.cos(a), n + (r / 10) * Math.sin(a)];
    }),
  );
const convex = fc
  .uniqueArray(position, { minLength: 3, maxLength: 8, selector: (p) => p.join() })
  .map(hullOf)
  .filter((ring) => ring.length > 2 && area(ring) > 1);
const lines = fc.array(fc.tuple(position, position), { maxLength: 4 });
const topsOf = (list: readonly (readonly [P, P])[]): Row[] =>
  list.flatMap((ends, k) =>
    ends.map((p, j): Row => ({ number: `T${k}${"ab"[j]}`, e: p[0], n: p[1], z: level(p), code: `TOP${k + 1}` })),
  );

/** Checks a surface on the plane: sound, on the plane, and of this area. */
function check(s: ReturnType<typeof made>, wanted: number): void {
  checkSides(s.surface);
  const { x, y, z, origin } = s.surface;
  for (let v = 0; v < x.length; v++) expect(z[v]).toBeCloseTo(level([x[v]! + origin[0], y[v]! + origin[1]]), 8);
  expect(s.report.area).toBeCloseTo(wanted, 5);
  expect(s.report.slopeArea).toBeCloseTo(wanted * STEEPNESS, 5);
  expect(s.report.refused).toEqual([]);
}
/** Too few points, all on one line, or nothing left: nothing else may refuse. */
const orNothing = (make: () => ReturnType<typeof made>) => {
  try {
    return make();
  } catch (e) {
    expect(e).toMatchObject({ code: expect.stringMatching(/^surface-(too-few|on-one-line|nothing-left)$/) });
    return undefined;
  }
};

describe("edge and holes", () => {
  test("a drawn edge is cut exactly along its ring within the hull", () => {
    fc.assert(
      fc.property(cloud, lines, star, (list, tops, ring) => {
        const wanted = area(clipped(ring, hullOf([...list, ...tops.flat()])));
        const s = orNothing(() => made([...spots(list), ...topsOf(tops)], { edge: { ring } }));
        if (s) check(s, wanted);
        else expect(wanted).toBeLessThan(1e-6);
      }),
      { numRuns: 400 },
    );
  });

  test("holes are cut out of it, drawn over the edge or over one another", () => {
    fc.assert(
      fc.property(cloud, lines, convex, convex, fc.option(convex), (list, tops, a, b, edge) => {
        const within = edge ? clipped(edge, hullOf([...list, ...tops.flat()])) : hullOf([...list, ...tops.flat()]);
        if (within.length < 3) return;
        const [inA, inB] = [clipped(a, hullOf(within)), clipped(b, hullOf(within))],
          both = inB.length > 2 ? area(clipped(inA, hullOf(inB))) : 0,
          wanted = area(within) - area(inA) - area(inB) + both;
        const holes = [{ ring: a }, { ring: b.toReversed() }];
        const s = orNothing(() =>
          made([...spots(list), ...topsOf(tops)], { holes, ...(edge ? { edge: { ring: edge } } : {}) }),
        );
        if (s) check(s, wanted);
        else expect(wanted).toBeLessThan(1e-6);
      }),
      { numRuns: 300 },
    );
  });

  const grid: P[] = Array.from({ length: 121 }, (_, k) => [10 * (k % 11), 10 * Math.floor(k / 11)]);
  const fence = (code: string, ring: readonly P[], last = " loop"): Row[] =>
    ring.map((p, k) => ({
      number: `${code}${k}`,
      e: p[0],
      n: p[1],
      z: level(p),
      code: `${code}1${k === ring.length - 1 ? last : ""}`,
    }));

  const kinds = (rows: readonly Row[], recipe: Partial<SurfaceRecipe>) =>
    made(rows, recipe).derived.findings.map((f) => f.kind as string);
  test("an edge of a code's closed lines, a hole of another's; points outside are counted, an open line is named", () => {
    const outer: P[] = [
        [5, 5],
        [95, 5],
        [95, 95],
        [5, 95],
      ],
      inner: P[] = [
        [30, 30],
        [60, 30],
        [60, 60],
        [30, 60],
      ];
    const rows = [...spots(grid), ...fence("HEDGE", outer), ...fence("BED", inner)];
    const s = made(rows, { edge: { code: "HEDGE" }, holes: [{ code: "BED" }] });
    check(s, 8100 - 900);
    // 40 on the outer rim, 4 strictly within the bed: as drawn, so that nothing is to be told.
    expect(s.report.outside).toBe(40 + 4);
    expect(
      kinds(rows, { edge: { code: "HEDGE" }, holes: [{ code: "BED" }] }).filter((k) => k === "outside-edge"),
    ).toEqual([]);
    expect(kinds([...spots([...grid, [400, 417]])], { edge: { fit: 12 } })).toContain("outside-edge");
    const open = made([...spots(grid), ...fence("HEDGE", outer, "")], { holes: [{ code: "HEDGE" }, { code: "TOE" }] });
    expect(open.report.area).toBe(10_000);
    expect(open.report.refused.map((r) => r.why)).toEqual([["it is not closed"], ["there is none"]]);
    const hull = made(spots(grid), { edge: { code: "WALL" } });
    expect([hull.report.area, hull.report.refused]).toEqual([
      10_000,
      [{ what: ["the edge, lines coded WALL"], why: ["there is none"] }],
    ]);
    expect(() =>
      made(spots(grid), {
        edge: {
          ring: [
            [200, 200],
            [300, 200],
            [300, 300],
          ],
        },
      }),
    ).toThrow(/leave nothing/);
  });

  test("along what is there already a ring is cut as well: through points, along sides, along a breakline", () => {
    const s = made(
      [
        ...spots(grid),
        { number: "a", e: 20, n: 20, z: level([20, 20]), code: "TOP1" },
        { number: "b", e: 80, n: 20, z: level([80, 20]), code: "TOP1" },
      ],
      {
        edge: {
          ring: [
            [20, 20],
            [80, 20],
            [80, 100],
            [20, 100],
          ],
        },
      },
    );
    check(s, 60 * 80);
    expect(
      made(spots(grid), {
        edge: {
          ring: [
            [0, 0],
            [100, 0],
            [100, 100],
            [0, 100],
          ],
        },
      }).report.area,
    ).toBe(10_000);
  });
});

test("rings that meet what is there just so: a corner of the hull on the way, a corner level with a triangle's middle", () => {
  const grid = Array.from({ length: 121 }, (_, k): P => [10 * (k % 11), 10 * Math.floor(k / 11)]);
  const through: P[] = [
    [-10, -10],
    [50, 50],
    [-10, 50],
  ];
  check(made(spots(grid), { edge: { ring: through } }), 1250);
  check(made(spots(grid), { edge: { ring: [through[1]!, through[0]!, through[2]!] } }), 1250);
  const three: P[] = [
      [0, 0],
      [30, 0],
      [0, 30],
    ],
    round: P[] = [
      [-5, -5],
      [40, -5],
      [40, 10],
      [-5, 40],
    ];
  check(made(spots(three), { edge: { ring: round } }), 450);
  expect(() => made(spots(three), { holes: [{ ring: round }] })).toThrow(/leave nothing/);
});

/** Peels the plain way: again and again the longest side of all that may go. */
function plainly(s: Surface, most: number, oneRing: boolean): string[] {
  let triangles = Array.from({ length: s.tri.length / 3 }, (_, t) => Array.from(s.tri.subarray(3 * t, 3 * t + 3)));
  const fixed = new Set<string>(),
    key = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`);
  s.tri.forEach((v, h) => s.fixed[h] && fixed.add(key(v, s.tri[h % 3 === 2 ? h - 2 : h + 1]!)));
  for (;;) {
    const uses = new Map<string, number>();
    for (const t of triangles)
      t.forEach((v, k) => uses.set(key(v, t[(k + 1) % 3]!), 1 + (uses.get(key(v, t[(k + 1) % 3]!)) ?? 0)));
    const outline = new Set([...uses].flatMap(([k, n]) => (n === 1 ? k.split(" ").map(Number) : [])));
    let best: { t: number[]; length: number } | undefined;
    for (const t of triangles)
      t.forEach((a, k) => {
        const b = t[(k + 1) % 3]!,
          apex = t[(k + 2) % 3]!,
          length = Math.hypot(s.x[a]! - s.x[b]!, s.y[a]! - s.y[b]!);
        if (uses.get(key(a, b)) !== 1 || fixed.has(key(a, b)) || !(length > most)) return;
        const outer = t.map((v, j) => key(v, t[(j + 1) % 3]!)).filter((k) => uses.get(k) === 1);
        if (outer.some((k) => fixed.has(k))) return;
        if (oneRing && (triangles.length === 1 || (outer.length === 1 && outline.has(apex)))) return;
        if (!best || length > best.length) best = { t, length };
      });
    if (!best) return triangles.map((t) => t.toSorted((a, b) => a - b).join(" ")).sort();
    triangles = triangles.filter((t) => t !== best!.t);
  }
}

test("a fitted edge and a longest side peel what peeling one by one does, the longest first", () => {
  let peeled = 0;
  fc.assert(
    fc.property(
      fc.nat(),
      fc.integer({ min: 8, max: 60 }),
      lines,
      fc.integer({ min: 10, max: 60 }),
      (seed, count, tops, gap) => {
        let state = seed;
        const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
        const list = Array.from({ length: count }, (): P => [100 * random(), 100 * random()]),
          rows = [...spots(list), ...topsOf(tops)];
        const hull = orNothing(() => made(rows, {}));
        if (!hull) return;
        for (const [oneRing, recipe] of [
          [true, { edge: { fit: gap } }],
          [false, { longestSide: gap }],
        ] as const) {
          const wanted = plainly(hull.surface, gap, oneRing),
            s = orNothing(() => made(rows, recipe));
          if (wanted.length === 0) {
            expect(s).toBeUndefined();
            continue;
          }
          const at = ({ surface: { x, y, origin } }: typeof hull, v: number) =>
              `${x[v]! + origin[0]},${y[v]! + origin[1]}`,
            named = (of: typeof hull, t: string) =>
              t
                .split(" ")
                .map((v) => at(of, Number(v)))
                .sort()
                .join(" | ");
          const got = Array.from({ length: s!.surface.tri.length / 3 }, (_, t) =>
            Array.from(s!.surface.tri.subarray(3 * t, 3 * t + 3)).join(" "),
          );
          expect(got.map((t) => named(s!, t)).sort()).toEqual(wanted.map((t) => named(hull, t)).sort());
          peeled += hull.report.triangles - got.length;
        }
      },
    ),
    { numRuns: 150 },
  );
  expect(peeled).toBeGreaterThan(500);
});

test("a point far off is left outside a fitted edge, and counted", () => {
  const grid = Array.from({ length: 25 }, (_, k): P => [10 * (k % 5), 10 * Math.floor(k / 5)]);
  const s = made(spots([...grid, [200, 17]]), { edge: { fit: 12 } });
  expect(s.report).toMatchObject({ area: 1600, points: 25, outside: 1 });
});

test("gaps that a surface spans along its edge are told once for each surface, and fitting its edge mends them", () => {
  const grid = Array.from({ length: 49 }, (_, k): P => [10 * (k % 7), 10 * Math.floor(k / 7)]);
  // A grid without a corner, and a point far off.
  const rows = spots([...grid.filter(([e, n]) => e < 40 || n < 40), [200, 17]]),
    state = stateOf(rows, {
      surfaces: [
        { name: "s" },
        {
          name: "t",
          edge: {
            ring: [
              [5, 5],
              [50, 5],
              [5, 50],
            ],
          },
        },
      ],
    }),
    found = (s: JobState) => runChain(s).findings.filter((f) => f.kind === "long-triangle");
  const [f, ...more] = found(state);
  expect(more).toEqual([]);
  expect(f!.data).toMatchObject({ surface: "s", count: 2, longest: expect.closeTo(Math.hypot(170, 43), 6) });
  const [repair] = repairsOf(f!, { state, line: () => undefined }),
    next = applyChange(state, repair!.change);
  expect(next.surfaces[0]).toEqual({ name: "s", edge: { fit: 50 } });
  expect(found(next)).toEqual([]);
  // Another level leaves it as it is; a grid alone has none.
  expect(found(stateOf(spots(grid), { surfaces: [{ name: "s" }] }))).toEqual([]);
});

describe("breaklines thinned, densified, chosen", () => {
  const wave = (k: number): BreakPosition => ({
    e: 5 * k,
    n: 0.02 * (k % 2),
    z: 10 + 0.01 * (k % 3),
    shot: k,
    own: true,
  });

  test("what thinning leaves out is near the straight way between what stays, and its largest level change is told", () => {
    const at = fc.record({ e: coordinate, n: coordinate, z: fc.integer({ min: 0, max: 40 }).map((k) => k / 10) });
    fc.assert(
      fc.property(fc.array(at, { minLength: 2, maxLength: 30 }), fc.integer({ min: 1, max: 300 }), (list, tenths) => {
        const within = tenths / 10,
          positions = list.map((p, shot): BreakPosition => ({ ...p, shot, own: true })),
          out = { rows: new Set<number>(), count: 0, most: 0 },
          kept = thinned(positions, within, out);
        expect([kept[0], kept.at(-1)]).toEqual([positions[0], positions.at(-1)]);
        expect(out.count).toBe(positions.length - kept.length);
        expect(out.rows.size).toBe(out.count);
        for (const row of out.rows) {
          const after = kept.findIndex((p) => p.shot > row),
            [a, b, p] = [kept[after - 1]!, kept[after]!, positions[row]!];
          let least = Infinity;
          for (let t = 0; t <= 1; t += 1 / 512)
            least = Math.min(
              least,
              Math.hypot(a.e + t * (b.e - a.e) - p.e, a.n + t * (b.n - a.n) - p.n, a.z + t * (b.z - a.z) - p.z),
            );
          expect(least).toBeLessThanOrEqual(within + 0.2);
        }
      }),
      { numRuns: 300 },
    );
  });

  test("a surface with thinned breaklines is made without the shots left out, and says how many", () => {
    const rows: Row[] = Array.from({ length: 21 }, (_, k) => ({ number: k, ...wave(k), code: "TOP1" }));
    rows.push({ number: "x", e: 50, n: 40, z: 12, code: "SPOT" }, { number: "y", e: 50, n: -40, z: 9, code: "SPOT" });
    const s = made(rows, { breaklines: { codes: ["TOP"], thin: 0.05 } });
    expect(s.report).toMatchObject({ points: 4, thinned: { count: 19 }, densified: 0 });
    // From 10 at the first to 10.02 at the last: the third shot lies 0.018 above, the fourth 0.003 below that.
    expect(s.report.thinned.most).toBeCloseTo(0.018, 9);
    expect(made(rows, { breaklines: { codes: ["TOP"], thin: 0.005 } }).report.thinned.count).toBe(0);
    const dense = made(rows, { breaklines: { codes: ["TOP"], densify: 2 } });
    expect(dense.report).toMatchObject({ points: 23 + 40, densified: 40 });
    for (let h = 0; h < dense.surface.tri.length; h++) {
      const { tri, x, y, fixed } = dense.surface,
        [a, b] = [tri[h]!, tri[h % 3 === 2 ? h - 2 : h + 1]!];
      if (fixed[h]) expect(Math.hypot(x[a]! - x[b]!, y[a]! - y[b]!)).toBeLessThan(2.0001);
    }
  });

  test("pieces so short that they would be millions are refused, and a line of many vertices is thinned in a moment", () => {
    const rows: Row[] = [0, 1].map((k) => ({ number: k, e: 1000 * k, n: 0, z: 1, code: "TOP1" }));
    rows.push({ number: 2, e: 0, n: 5, z: 1, code: "SPOT" });
    expect(() => made(rows, { breaklines: { codes: ["TOP"], densify: 1e-6 } })).toThrow(
      /add more than 1000000 vertices/,
    );
    // Each step half of the last: cut by halves it would be looked through once for each vertex.
    const steep = Array.from({ length: 20_000 }, (_, k): BreakPosition => ({ ...wave(k), n: k % 2 ? 0 : 1 / (1 + k) })),
      out = { rows: new Set<number>(), count: 0, most: 0 };
    expect(thinned(steep, 1e-12, out).length + out.count).toBe(20_000);
  });

  test("pieces are divided evenly, levels linear", () => {
    const [a, b] = [wave(0), { ...wave(4), z: 30 }];
    const list = densified([a, b], 6);
    expect(list.map((p) => [p.e, p.z, p.own])).toEqual([
      [0, 10, true],
      [5, 15, false],
      [10, 20, false],
      [15, 25, false],
      [20, 30, true],
    ]);
  });

  const cross: Row[] = [
    ...(
      [
        [0, 0],
        [40, 0],
        [40, 40],
        [0, 40],
      ] as P[]
    ).map((p, k) => ({ number: `c${k}`, e: p[0], n: p[1], z: 10, code: "SPOT" })),
    { number: 1, e: 10, n: 20, z: 5, code: "TOP1" },
    { number: 2, e: 20, n: 20, z: 5, code: "TOP1" },
    { number: 3, e: 30, n: 20, z: 5, code: "TOP1" },
    { number: 4, e: 20, n: 10, z: 10, code: "HEDGE1" },
    { number: 5, e: 20, n: 30, z: 10, code: "HEDGE1" },
  ];
  const crossings = (breaklines: SurfaceRecipe["breaklines"]) => {
    const { derived } = made(cross, { breaklines });
    return derived.findings.filter((f) => f.kind === "breaklines-cross").length;
  };

  test("single lines and pieces in or out", () => {
    expect(crossings({ codes: ["TOP"] })).toBe(0);
    expect(crossings({ codes: ["TOP"], also: [{ code: "HEDGE", run: "1" }] })).toBe(1);
    expect(crossings({ codes: ["TOP"], also: [{ code: "HEDGE", run: "1", intake: "day1" }] })).toBe(1);
    expect(crossings({ codes: ["TOP"], also: [{ code: "HEDGE", run: "2" }] })).toBe(0);
    expect(crossings({ codes: ["TOP"], also: [{ code: "HEDGE", intake: "day2" }] })).toBe(0);
    // The shot itself still stands on the hedge.
    expect(crossings({ codes: ["TOP"], also: [{ code: "HEDGE" }], except: [{ code: "TOP", run: "1" }] })).toBe(1);
    const fixedSides = (breaklines: SurfaceRecipe["breaklines"]) =>
      made(cross, { breaklines }).surface.fixed.reduce((n, f) => n + f, 0) / 2;
    expect(fixedSides({ codes: ["TOP"] })).toBe(2);
    expect(fixedSides({ codes: ["TOP"], except: [{ code: "TOP", run: "2" }] })).toBe(2);
    expect(fixedSides({ codes: ["TOP"], except: [{ code: "TOP" }] })).toBe(0);
    const pieces = (...list: [string, string][]) => ({
      codes: ["TOP"],
      also: [{ code: "HEDGE" }],
      except: [{ pieces: list }],
    });
    expect(fixedSides(pieces(["2", "1"]))).toBe(3);
    expect(fixedSides(pieces(["2", "1"], ["2", "3"]))).toBe(2);
    expect(fixedSides(pieces(["1", "3"]))).toBe(4);
    expect(
      made(cross, { breaklines: { also: [{ code: "WALL" }, { file: "x.dxf", line: "a" }] } }).report.refused,
    ).toEqual([
      { what: ["breakline WALL"], why: ["it is not there"] },
      { what: ["breakline “a” of x.dxf"], why: ["it is not there"] },
    ]);
  });
});

test("lines of files are breaklines, with levels between those that they have; arcs as chords", () => {
  const xml = `<?xml version="1.0"?><LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2">
<Units><Metric linearUnit="meter"/></Units><Surfaces><Surface name="d"><SourceData><Breaklines>
<Breakline desc="crest"><PntList3D>20 5 7 20 35 13</PntList3D></Breakline></Breaklines></SourceData></Surface></Surfaces>
</LandXML>`;
  const rows = (
    [
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
    ] as P[]
  )
    .map(([e, n], k) => `${k},${e},${n},10,SPOT`)
    .join("\n");
  const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] };
  const recipe = parseRecipe(
    JSON.stringify({
      recipe: 1,
      codeBook: { codes: [{ code: "SPOT" }] },
      intakes: [{ id: "a", file: "a.csv", layout }],
      surfaces: [{ name: "s", breaklines: { also: [{ file: "d.xml", line: "crest" }] } }, { name: "t" }],
    }),
    "r.json",
  );
  const files: Record<string, string> = { "a.csv": rows, "d.xml": xml },
    open = (f: string) => new TextEncoder().encode(files[f]!),
    { state } = openRecipe(recipe, open),
    [s, t] = runChain(state).surfaces;
  if (!s?.ok || !t?.ok) throw new Error("not made");
  expect(s.value.report).toMatchObject({ points: 6, breaklines: 1, refused: [] });
  // The line's levels lie in the middle of the square: 7 at its end, 13 at the other.
  const reader = new SurfaceReader(s.value.surface);
  expect([5, 20, 35].map((e) => reader.at(e, 20)?.level)).toEqual([7, 10, 13].map((z) => expect.closeTo(z, 9)));
  expect(t.value.report).toMatchObject({ points: 4, breaklines: 0 });
  const written = writeRecipe(state, state.points, (k) => ["a.csv", "d.xml"][k]!);
  expect(written.surfaces![0]!.breaklines!.also).toEqual([{ file: "d.xml", line: "crest" }]);
});

describe("corrected by hand", () => {
  // A flat square with a ridge: its diagonal may go either way.
  const rows: Row[] = [
    { number: 1, e: 0, n: 0, z: 0, code: "SPOT" },
    { number: 2, e: 10, n: 0, z: 1, code: "SPOT" },
    { number: 3, e: 11, n: 11, z: 0, code: "SPOT" },
    { number: 4, e: 0, n: 10, z: 1, code: "SPOT" },
    { number: 5, e: 30, n: 5, z: 2, code: "SPOT" },
  ];
  const state = (more: Partial<SurfaceRecipe>) => stateOf(rows, { surfaces: [{ name: "s", ...more }] });
  const sidesOf = (s: JobState) => {
    const b = runChain(s).surfaces[0]!;
    if (!b.ok) throw b.refusal;
    const { tri, point } = b.value.surface;
    return Array.from({ length: tri.length / 3 }, (_, t) =>
      [0, 1, 2]
        .map((k) => s.points.number[point[tri[3 * t + k]!]!])
        .sort()
        .join(""),
    ).sort();
  };
  const lost = (s: JobState) =>
    runChain(s)
      .findings.filter((f) => f.kind === "correction-lost")
      .map((f) => f.data.why);

  test("a side gives way to the other diagonal, a triangle is taken out, in order; what is not there is told", () => {
    expect(sidesOf(state({}))).toEqual(["124", "234", "235"]);
    expect(sidesOf(state({ swap: [["4", "2"]] }))).toEqual(["123", "134", "235"]);
    expect(sidesOf(state({ swap: [["4", "2"]], drop: [["3", "1", "4"]] }))).toEqual(["123", "235"]);
    expect(
      sidesOf(
        state({
          swap: [
            ["2", "4"],
            ["1", "3"],
          ],
        }),
      ),
    ).toEqual(["124", "234", "235"]);
    const s = state({
      swap: [
        ["1", "3"],
        ["2", "5"],
        ["2", "77"],
        ["2", "3"],
      ],
      drop: [["3", "1", "4"]],
    });
    expect(sidesOf(s)).toEqual(["124", "245", "345"]);
    expect(lost(s)).toEqual([
      "there is no such side any more",
      "it lies on the edge",
      "point 77 is none of its points",
      "there is no such triangle any more",
    ]);
  });

  test("a side between triangles that make no convex shape stays, and so does a breakline", () => {
    const arrow = stateOf(
      [
        { number: 1, e: 0, n: 0, z: 0, code: "SPOT" },
        { number: 2, e: 10, n: 4, z: 0, code: "TOP1" },
        { number: 3, e: 20, n: 0, z: 0, code: "SPOT" },
        { number: 4, e: 10, n: 20, z: 0, code: "TOP1" },
      ],
      {
        surfaces: [
          {
            name: "s",
            breaklines: { codes: ["TOP"] },
            swap: [
              ["1", "2"],
              ["2", "4"],
              ["2", "3"],
            ],
          },
        ],
      },
    );
    expect(lost(arrow)).toEqual([
      "its two triangles have no other diagonal",
      "it belongs to a breakline",
      "its two triangles have no other diagonal",
    ]);
  });

  test("corrections stay with their points through a renumbering", () => {
    const before = state({ swap: [["4", "2"]], breaklines: { codes: ["*"], except: [{ pieces: [["1", "2"]] }] } }),
      { change, follows } = renumber(before, [{ id: before.points.id[1]!, number: "2A" }]),
      after = applyChange(before, change);
    expect(after.surfaces).toBe(before.surfaces);
    expect(follows).toEqual([]);
    expect(lost(after)).toEqual([]);
    expect(sidesOf(after)).toEqual(["12A3", "134", "2A35"]);
  });
});

test("pieces so short that they would count as one position are refused in a sentence", () => {
  const line = [0, 50, 100].map((e, k) => ({ number: k, e, n: 0, z: 10, code: "TOP1" }));
  const of = (densify: number) =>
    derive([...line, { number: "a", e: 40, n: 60, z: 9 }], {
      surfaces: [{ name: "s", breaklines: { codes: ["*"], densify } }],
    }).derived.surfaces[0]!;
  const refused = of(0.002);
  expect(refused.ok ? "" : refused.refusal.message).toMatch(/Pieces of at most 0\.002 m would count as one position/);
  expect(of(0.01).ok).toBe(true);
});
