/** A working mesh → a finished surface with its report; and surfaces given as triangles. */
import { refusal } from "../errors";
import type { SurfaceRecipe } from "../job/model";
import { Sum } from "../math/sum";
import { TriMesh } from "./mesh";
import type { BuiltSurface, Surface, SurfaceReport } from "./model";

/** Leaves out vertices without a triangle, cuts the arrays to their length and measures. `shots` names the point at each vertex. */
export function finish(
  name: string, mesh: TriMesh, origin: [number, number], shots: Int32Array, breaklines: number, refused: SurfaceReport["refused"],
): Omit<BuiltSurface, "findings"> {
  const half = 3 * mesh.triangles;
  const kept = new Int32Array(mesh.vertices).fill(-1);
  for (let h = 0; h < half; h++) kept[mesh.tri[h]!] = 0;
  let count = 0;
  for (let v = 0; v < mesh.vertices; v++) if (kept[v] === 0) kept[v] = count++;
  const pack = (of: Float64Array) => {
    const out = new Float64Array(count);
    for (let v = 0; v < mesh.vertices; v++) if (kept[v]! >= 0) out[kept[v]!] = of[v]!;
    return out;
  };
  const point = new Int32Array(count).fill(-1);
  for (let v = 0; v < mesh.vertices; v++) if (kept[v]! >= 0 && v < shots.length) point[kept[v]!] = shots[v]!;
  // Plain loops: Int32Array.from with a function takes a third of the whole building.
  const tri = new Int32Array(half), fixed = new Uint8Array(half);
  for (let h = 0; h < half; h++) {
    tri[h] = kept[mesh.tri[h]!]!;
    fixed[h] = mesh.owner[h] === 0 ? 0 : 1;
  }
  const surface: Surface = { name, origin, x: pack(mesh.x), y: pack(mesh.y), z: pack(mesh.z), point, tri, twin: mesh.twin.slice(0, half), fixed };
  return { surface, report: { ...measure(surface), name, breaklines, refused } };
}

function measure(s: Surface) {
  const area = new Sum(), slope = new Sum();
  for (let h = 0; h < s.tri.length; h += 3) {
    const a = s.tri[h]!, b = s.tri[h + 1]!, c = s.tri[h + 2]!;
    const bx = s.x[b]! - s.x[a]!, by = s.y[b]! - s.y[a]!, bz = s.z[b]! - s.z[a]!;
    const cx = s.x[c]! - s.x[a]!, cy = s.y[c]! - s.y[a]!, cz = s.z[c]! - s.z[a]!;
    const plan = bx * cy - by * cx;
    area.add(plan / 2);
    const u = by * cz - bz * cy, v = bz * cx - bx * cz;
    slope.add(Math.sqrt(plan * plan + u * u + v * v) / 2);
  }
  let minZ = Infinity, maxZ = -Infinity;
  for (const z of s.z) {
    if (z < minZ) minZ = z;
    if (z > maxZ) maxZ = z;
  }
  return { points: s.x.length, triangles: s.tri.length / 3, area: area.value, slopeArea: slope.value, minZ, maxZ };
}

/** A surface given by its triangles. Refused: faces that name no point, have no area, or share a side three times. */
export function surfaceOfTriangles(recipe: SurfaceRecipe): BuiltSurface {
  const { points, faces } = recipe.triangles!;
  const wrong = (why: string) => refusal("surface-triangles", { surface: recipe.name, why });
  if (points.length < 3 || faces.length === 0) throw wrong("it needs three points and a face at least");
  const origin: [number, number] = [Math.floor(Math.min(...points.map((p) => p[0]))), Math.floor(Math.min(...points.map((p) => p[1])))];
  const x = Float64Array.from(points, (p) => p[0] - origin[0]), y = Float64Array.from(points, (p) => p[1] - origin[1]);
  const z = Float64Array.from(points, (p) => p[2]);
  const tri = new Int32Array(3 * faces.length), twin = new Int32Array(3 * faces.length).fill(-1);
  const mesh = new TriMesh(x, y, z, tri, twin);
  const sides = new Map<number, number>();
  faces.forEach((face, f) => {
    if (face.some((v) => !(Number.isInteger(v) && v >= 0 && v < points.length))) throw wrong(`face ${f} names a point that is not there`);
    const turn = mesh.side(face[0], face[1], face[2]);
    if (turn === 0) throw wrong(`face ${f} has no area`);
    tri.set(turn > 0 ? face : [face[0], face[2], face[1]], 3 * f);
    for (let h = 3 * f; h < 3 * f + 3; h++) {
      const a = tri[h]!, b = tri[h % 3 === 2 ? h - 2 : h + 1]!;
      if (sides.has(a * points.length + b)) throw wrong(`face ${f} lies over another one`);
      sides.set(a * points.length + b, h);
      const other = sides.get(b * points.length + a);
      if (other !== undefined) mesh.link(h, other);
    }
  });
  return { ...finish(recipe.name, mesh, origin, new Int32Array(0), 0, []), findings: [] };
}
