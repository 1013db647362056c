/** Surfaces for tests: triangulations of positions, and planes. */
import fc from "fast-check";
import { finish, surfaceOfTriangles } from "../../src/surface/finish";
import { alongCurve } from "../../src/surface/curve";
import { mergeCoincident } from "../../src/surface/merge";
import type { Surface } from "../../src/surface/model";
import { triangulate } from "../../src/surface/triangulate";

export type Triple = [number, number, number];

/** The Delaunay surface of positions; each is the shot of its place in the list. Undefined where they span no area. */
export function delaunayOf(at: readonly Triple[], origin: [number, number] = [0, 0]): Surface | undefined {
  const column = (k: 0 | 1 | 2) => Float64Array.from(at, (p) => p[k] - (k < 2 ? origin[k as 0 | 1] : 0)),
    order = alongCurve(column(0), column(1)),
    sorted = (k: 0 | 1 | 2) => Float64Array.from(order, (i) => at[i]![k] - (k < 2 ? origin[k as 0 | 1] : 0));
  const m = mergeCoincident(sorted(0), sorted(1), sorted(2), 1e-9),
    mesh = triangulate(m.x, m.y, m.z, 1e-12),
    shots = new Int32Array(m.x.length).fill(-1);
  if (mesh.triangles === 0) return undefined;
  m.vertexOf.forEach((v, k) => (shots[v] = order[k]!));
  return finish("made", mesh, origin, shots, []).surface;
}

/** A rectangle from (e, n), two triangles, with the level of a function at its corners. */
export function rectangle(
  e: number,
  n: number,
  wide: number,
  high: number,
  level: (e: number, n: number) => number,
  name = "rectangle",
): Surface {
  const corners = [
    [e, n],
    [e + wide, n],
    [e + wide, n + high],
    [e, n + high],
  ] as const;
  return surfaceOfTriangles(
    name,
    Float64Array.from(corners.flatMap(([x, y]) => [x, y, level(x, y)])),
    [0, 1, 2, 0, 2, 3],
  ).surface;
}

/** Positions on a small lattice, so that surfaces share vertices, sides and lines, and levels that often agree. */
export const positions = fc.array(
  fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 6 })),
  { minLength: 5, maxLength: 40 },
) as fc.Arbitrary<Triple[]>;

/** Positions anywhere in a square. */
const free = fc.double({ min: 0, max: 12, noNaN: true });
export const freePositions = fc.array(fc.tuple(free, free, free), { minLength: 5, maxLength: 40 }) as fc.Arbitrary<
  Triple[]
>;

/** The same surface with some levels others. */
export function withLevels(s: Surface, level: (z: number, v: number) => number): Surface {
  return { ...s, z: s.z.map(level) };
}
