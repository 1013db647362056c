// @long: left out of npm run test:quick.
import fc from "fast-check";
import { surfaceOfTriangles } from "../../src/surface/finish";
import { SurfaceReader } from "../../src/surface/locate";
import { mergeCoincident } from "../../src/surface/merge";
import { next, prev, type TriMesh } from "../../src/surface/mesh";
import { triangulate } from "../../src/surface/triangulate";
import { inCircle, side } from "../../src/math/predicates";
import { hullArea } from "./invariants";

const places = fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 })), {
  minLength: 4,
  maxLength: 60,
  selector: (p) => p.join(),
});
const columns = (list: readonly (readonly [number, number])[]) => ({
  x: Float64Array.from(list, (p) => p[0]),
  y: Float64Array.from(list, (p) => p[1]),
  z: new Float64Array(list.length),
});

function check(mesh: TriMesh): void {
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    expect(mesh.side(mesh.tri[h]!, mesh.tri[next(h)]!, mesh.tri[prev(h)]!)).toBeGreaterThan(0);
    const t = mesh.twin[h]!;
    if (t >= 0) expect([mesh.twin[t], mesh.tri[t], mesh.tri[next(t)]]).toEqual([h, mesh.tri[next(h)], mesh.tri[h]]);
  }
  for (let v = 0; v < mesh.vertices; v++) {
    const h = mesh.edgeOf[v]!;
    if (h >= 0) {
      expect(h).toBeLessThan(3 * mesh.triangles);
      expect(mesh.tri[h]).toBe(v);
    }
  }
}

const area = (mesh: TriMesh) => {
  let twice = 0;
  for (let h = 0; h < 3 * mesh.triangles; h += 3) twice += mesh.side(mesh.tri[h]!, mesh.tri[h + 1]!, mesh.tri[h + 2]!);
  return twice / 2;
};

test("signs of the predicates: y is up", () => {
  expect(side(0, 0, 1, 0, 0, 1)).toBeGreaterThan(0);
  expect(side(0, 0, 1, 0, 5, 0)).toBe(0);
  expect(inCircle(0, 0, 1, 0, 0, 1, 0.5, 0.5)).toBeGreaterThan(0);
  expect(inCircle(0, 0, 1, 0, 0, 1, 1, 1)).toBe(0);
  expect(inCircle(0, 0, 1, 0, 0, 1, 5, 5)).toBeLessThan(0);
});

describe("the working mesh", () => {
  test("covers the hull; locating any place finds its triangle or says outside", () => {
    fc.assert(
      fc.property(
        places,
        fc.double({ min: -5, max: 65, noNaN: true }),
        fc.double({ min: -5, max: 65, noNaN: true }),
        (list, px, py) => {
          const { x, y, z } = columns(list);
          const mesh = triangulate(x, y, z, 1e-12);
          check(mesh);
          expect(area(mesh)).toBeCloseTo(mesh.triangles ? hullArea(x, y) : 0, 9);
          if (!mesh.triangles) return;
          const h = mesh.locate(px, py);
          const inside = (t: number) =>
            [t, t + 1, t + 2].every(
              (k) =>
                side(x[mesh.tri[k]!]!, y[mesh.tri[k]!]!, x[mesh.tri[next(k)]!]!, y[mesh.tri[next(k)]!]!, px, py) >= 0,
            );
          if (h >= 0) expect(inside(h - (h % 3))).toBe(true);
          else for (let t = 0; t < 3 * mesh.triangles; t += 3) expect(inside(t)).toBe(false);
        },
      ),
      { numRuns: 150 },
    );
  });

  test("splitting sides and triangles, flipping and removing keep it whole", () => {
    fc.assert(
      fc.property(places, fc.array(fc.nat(), { maxLength: 12 }), (list, choices) => {
        const { x, y, z } = columns(list);
        const mesh = triangulate(x, y, z, 1e-12);
        if (!mesh.triangles) return;
        const before = area(mesh);
        for (const [k, choice] of choices.entries()) {
          const h = choice % (3 * mesh.triangles);
          const a = mesh.tri[h]!,
            b = mesh.tri[next(h)]!,
            c = mesh.tri[prev(h)]!;
          if (k % 2)
            mesh.splitTriangle(
              h,
              mesh.addVertex((mesh.x[a]! + mesh.x[b]! + mesh.x[c]!) / 3, (mesh.y[a]! + mesh.y[b]! + mesh.y[c]!) / 3, 0),
            );
          else if (Number.isInteger((mesh.x[a]! + mesh.x[b]!) / 2) && Number.isInteger((mesh.y[a]! + mesh.y[b]!) / 2))
            mesh.splitEdge(h, mesh.addVertex((mesh.x[a]! + mesh.x[b]!) / 2, (mesh.y[a]! + mesh.y[b]!) / 2, 0));
        }
        check(mesh);
        expect(area(mesh)).toBeCloseTo(before, 7);
        const t = choices.length % mesh.triangles;
        const gone = mesh.side(mesh.tri[3 * t]!, mesh.tri[3 * t + 1]!, mesh.tri[3 * t + 2]!) / 2;
        mesh.removeTriangle(t);
        check(mesh);
        expect(area(mesh)).toBeCloseTo(before - gone, 7);
      }),
      { numRuns: 150 },
    );
  });

  test("flipping twice gives the same two triangles back", () => {
    const { x, y, z } = columns([
      [0, 0],
      [4, 0],
      [5, 4],
      [0, 3],
    ]);
    const mesh = triangulate(x, y, z, 0);
    const inner = Array.from(mesh.twin.subarray(0, 6)).findIndex((t) => t >= 0);
    const sides = () =>
      [0, 3]
        .map((t) =>
          Array.from(mesh.tri.subarray(t, t + 3))
            .sort((p, q) => p - q)
            .join(),
        )
        .sort();
    const first = sides();
    mesh.flip(inner);
    check(mesh);
    expect(sides()).not.toEqual(first);
    mesh.flip(prev(inner));
    expect(sides()).toEqual(first);
  });
});

describe("coincident places", () => {
  test("are linked exactly as a slow search links them", () => {
    const list = (min: number, max: number, most: number) =>
      fc.array(fc.tuple(fc.integer({ min, max }), fc.integer({ min, max })), { maxLength: most });
    // Many all over; and few where cells meet: 192 is four cells of 16 × 3, and 200 one of 16 × 12.5.
    const near = fc.oneof(list(0, 400, 60), list(186, 206, 8));
    fc.assert(
      fc.property(near, fc.constantFrom(0, 3, 12.5), (list, tolerance) => {
        const x = Float64Array.from(list, (p) => p[0]),
          y = Float64Array.from(list, (p) => p[1]),
          z = Float64Array.from(list, (_, i) => i);
        const group = list.map((_, i) => i);
        for (let i = 0; i < list.length; i++)
          for (let j = 0; j < i; j++) {
            if (Math.hypot(x[i]! - x[j]!, y[i]! - y[j]!) <= tolerance) {
              const [a, b] = [group[i]!, group[j]!];
              for (let k = 0; k < list.length; k++) if (group[k] === a) group[k] = b;
            }
          }
        const merged = mergeCoincident(x, y, z, tolerance);
        for (let i = 0; i < list.length; i++)
          for (let j = 0; j < i; j++) expect(merged.vertexOf[i] === merged.vertexOf[j]).toBe(group[i] === group[j]);
        expect(merged.x.length).toBe(new Set(group).size);
        expect(merged.groups.every((g) => g.length > 1)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });

  test("stand at their mean place and level; levels not known do not count", () => {
    const m = mergeCoincident(
      Float64Array.of(0, 0.0008, 5),
      Float64Array.of(0, 0, 5),
      Float64Array.of(10, 10.5, 3),
      0.001,
    );
    expect([m.x[0], m.z[0], m.x[1]]).toEqual([0.0004, 10.25, 5]);
    expect(mergeCoincident(Float64Array.of(1, 1), Float64Array.of(1, 1), Float64Array.of(NaN, 7), 0).z).toEqual(
      Float64Array.of(7),
    );
  });
});

describe("surfaces given by triangles", () => {
  const square = {
    points: [
      [0, 0, 1],
      [10, 0, 1],
      [10, 10, 2],
      [0, 10, 2],
    ] as [number, number, number][],
  };
  const make = (faces: [number, number, number][], points = square.points) =>
    surfaceOfTriangles("s", Float64Array.from(points.flat()), faces.flat());

  test("either way round, measured in plan and along the slope", () => {
    const { report, surface } = make([
      [0, 1, 2],
      [0, 3, 2],
    ]);
    expect(report).toMatchObject({ points: 4, triangles: 2, area: 100, minZ: 1, maxZ: 2, breaklines: 0, refused: [] });
    expect(report.slopeArea).toBeCloseTo(100 * Math.hypot(1, 0.1), 10);
    expect(Array.from(surface.twin).filter((t) => t >= 0)).toHaveLength(2);
  });

  test.each([
    [[[0, 1, 9]], "face 0 names a point that is not there"],
    [[[0, 1, 1]], "face 0 has no area"],
    [
      [
        [0, 1, 2],
        [1, 2, 0],
      ],
      "face 1 lies over face 0",
    ],
  ] as [[number, number, number][], string][])("%j is refused", (faces, why) => expect(() => make(faces)).toThrow(why));

  test("faces that lie over one another count once: a file's are left out and named, a recipe's refuse the surface", () => {
    // The last face lies within the first two; side by side or touching at a corner is not over.
    const points = [...square.points, [2, 1, 5], [6, 1, 5], [6, 5, 5], [20, 10, 2]] as [number, number, number][],
      faces = [0, 1, 2, 0, 2, 3, 4, 5, 6, 1, 7, 2];
    const { report } = surfaceOfTriangles("s", Float64Array.from(points.flat()), faces, false);
    expect(report).toMatchObject({ triangles: 3, refused: [{ what: ["face 3"], why: ["it lies over face 1"] }] });
    expect(report.area).toBeCloseTo(150, 12);
    expect(() => surfaceOfTriangles("s", Float64Array.from(points.flat()), faces)).toThrow("face 2 lies over face 0");
  });

  test("no two faces of a triangulation lie over one another, in whatever order and sense they are given", () => {
    fc.assert(
      fc.property(places, fc.infiniteStream(fc.nat(1000)), (list, order) => {
        const { x, y, z } = columns(list),
          mesh = triangulate(x, y, z, 1e-12);
        if (!mesh.triangles) return;
        const faces = Array.from({ length: mesh.triangles }, (_, t) => ({
          k: order.next().value!,
          f: [0, 1, 2].map((c) => mesh.tri[3 * t + c]!),
        }))
          .sort((a, b) => a.k - b.k)
          .flatMap(({ f }, i) => (i % 2 ? f : [f[1]!, f[0]!, f[2]!]));
        const points = Float64Array.from(list.flatMap(([e, n]) => [e, n, 0]));
        expect(surfaceOfTriangles("s", points, faces).report.area).toBeCloseTo(area(mesh), 8);
      }),
      { numRuns: 60 },
    );
  });

  test("a place is found in every part of a surface with hollows, wherever one looked before", () => {
    fc.assert(
      fc.property(
        places,
        fc.array(fc.boolean(), { minLength: 200, maxLength: 200 }),
        fc.array(fc.tuple(fc.integer({ min: -10, max: 250 }), fc.integer({ min: -10, max: 250 })), {
          minLength: 10,
          maxLength: 40,
        }),
        (list, kept, asked) => {
          const { x, y, z } = columns(list),
            mesh = triangulate(x, y, z, 1e-12);
          const faces = Array.from({ length: mesh.triangles }, (_, t) => t)
            .filter((t) => kept[t % 200])
            .map((t) => [0, 1, 2].map((c) => mesh.tri[3 * t + c]!));
          if (faces.length === 0) return;
          const { surface: s } = surfaceOfTriangles(
              "s",
              Float64Array.from(list.flatMap(([e, n]) => [e, n, e + 2 * n])),
              faces.flat(),
            ),
            reader = new SurfaceReader(s);
          for (const [p, q] of asked) {
            const e = p / 4,
              n = q / 4,
              px = e - s.origin[0],
              py = n - s.origin[1];
            const within = Array.from({ length: s.tri.length / 3 }, (_, t) => t).filter((t) =>
              [0, 1, 2].every((c) => {
                const a = s.tri[3 * t + c]!,
                  b = s.tri[3 * t + ((c + 1) % 3)]!;
                return side(s.x[a]!, s.y[a]!, s.x[b]!, s.y[b]!, px, py) > 0;
              }),
            );
            // Strictly within a triangle the answer is sure; on a side either neighbour may give it.
            if (within.length) expect(reader.at(e, n)?.level).toBeCloseTo(e + 2 * n, 6);
            const found = reader.at(e, n);
            if (found) expect(found.level).toBeCloseTo(e + 2 * n, 6);
          }
        },
      ),
      { numRuns: 150 },
    );
  });

  test("points that no face names are left out", () => expect(make([[0, 1, 2]]).report.points).toBe(3));
});
