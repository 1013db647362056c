/** A working mesh → a finished surface with its report; and surfaces given as triangles. */
import { refusal } from "../errors";
import { boxIndex } from "../math/near";
import { sumTriangles, type KeptSums } from "./block-sums";
import { TriMesh } from "./mesh";
import type { BuiltSurface, Surface, SurfaceReport } from "./model";

const AS_IT_CAME = { breaklines: 0, thinned: { count: 0, most: 0 }, densified: 0, outside: 0 };

/**
 * Leaves out vertices without a triangle, cuts the arrays to their length and measures; the mesh is used up by it.
 * `shots` names the point at each vertex.
 */
export function finish(
  name: string,
  mesh: TriMesh,
  origin: [number, number],
  shots: Int32Array,
  refused: SurfaceReport["refused"],
  sums?: KeptSums,
  about: Pick<SurfaceReport, "breaklines" | "thinned" | "densified" | "outside"> = AS_IT_CAME,
  stands: Uint8Array = standing(mesh),
): Omit<BuiltSurface, "findings"> {
  const half = 3 * mesh.triangles,
    n = mesh.vertices;
  const kept = new Int32Array(n).fill(-1);
  let count = 0;
  for (let v = 0; v < n; v++) if (stands[v] === 1) kept[v] = count++;
  const isWhole = count === n;
  const pack = (of: Float64Array) => {
    if (isWhole) return cutTo(of, n);
    const out = new Float64Array(count);
    for (let v = 0; v < n; v++) if (kept[v]! >= 0) out[kept[v]!] = of[v]!;
    return out;
  };
  const point = new Int32Array(count).fill(-1);
  for (let v = 0; v < n; v++) if (kept[v]! >= 0 && v < shots.length) point[kept[v]!] = shots[v]!;
  // Plain loops: Int32Array.from with a function takes a third of the whole building.
  const tri = cutTo(mesh.tri, half),
    fixed = new Uint8Array(half);
  if (!isWhole) for (let h = 0; h < half; h++) tri[h] = kept[tri[h]!]!;
  for (let h = 0; h < half; h++) fixed[h] = mesh.owner[h] === 0 ? 0 : 1;
  const surface: Surface = {
    name,
    origin,
    x: pack(mesh.x),
    y: pack(mesh.y),
    z: pack(mesh.z),
    point,
    tri,
    twin: cutTo(mesh.twin, half),
    fixed,
  };
  return { surface, report: { ...measure(surface, sums), name, ...about, refused } };
}

/** 1 for each vertex of a mesh that has a triangle. */
export function standing(mesh: TriMesh): Uint8Array {
  const stands = new Uint8Array(mesh.vertices);
  for (let h = 0; h < 3 * mesh.triangles; h++) stands[mesh.tri[h]!] = 1;
  return stands;
}

/** The first part of an array that nobody needs any more: itself, unless most of it were held for nothing. */
function cutTo<T extends Float64Array | Int32Array>(list: T, length: number): T {
  const isMost = 5 * length * list.BYTES_PER_ELEMENT >= 4 * list.buffer.byteLength;
  return (isMost ? list.subarray(0, length) : list.slice(0, length)) as T;
}

/** Counts, areas and levels of a surface for its report. */
export function measure(s: Surface, sums?: KeptSums) {
  const [area, slopeArea] = sumTriangles(
    s,
    2,
    (h, sums) => {
      const a = s.tri[h]!,
        b = s.tri[h + 1]!,
        c = s.tri[h + 2]!;
      const bx = s.x[b]! - s.x[a]!,
        by = s.y[b]! - s.y[a]!,
        bz = s.z[b]! - s.z[a]!;
      const cx = s.x[c]! - s.x[a]!,
        cy = s.y[c]! - s.y[a]!,
        cz = s.z[c]! - s.z[a]!;
      const w = bx * cy - by * cx,
        u = by * cz - bz * cy,
        v = bz * cx - bx * cz;
      // No destructuring here: it walks the list by its iterator, for each triangle.
      sums[0]!.add(w / 2);
      sums[1]!.add(Math.sqrt(w * w + u * u + v * v) / 2);
    },
    sums,
  ) as [number, number];
  let minZ = Infinity,
    maxZ = -Infinity;
  for (const z of s.z) {
    if (z < minZ) minZ = z;
    if (z > maxZ) maxZ = z;
  }
  return { points: s.x.length, triangles: s.tri.length / 3, area, slopeArea, minZ, maxZ };
}

/**
 * A surface given by its triangles: east, north, level triples and three corners a face. A face that names no point is
 * refused. One without area in plan, or that lies over an earlier one and would count twice, is refused when `strict`,
 * else left out and named in the report: files have upright walls.
 */
export function surfaceOfTriangles(
  name: string,
  points: Float64Array,
  faces: ArrayLike<number>,
  strict = true,
): BuiltSurface {
  const count = points.length / 3,
    size = Math.floor(faces.length / 3);
  const wrong = (why: string) => refusal("surface-triangles", { surface: name, why });
  if (count < 3 || size === 0) throw wrong("it needs three points and a face at least");
  let minE = Infinity,
    minN = Infinity;
  for (let v = 0; v < count; v++) {
    minE = Math.min(minE, points[3 * v]!);
    minN = Math.min(minN, points[3 * v + 1]!);
  }
  const origin: [number, number] = [Math.floor(minE), Math.floor(minN)];
  const x = new Float64Array(count),
    y = new Float64Array(count),
    z = new Float64Array(count);
  for (let v = 0; v < count; v++)
    [x[v], y[v], z[v]] = [points[3 * v]! - origin[0], points[3 * v + 1]! - origin[1], points[3 * v + 2]!];
  const all = new Int32Array(3 * size),
    twins = new Int32Array(3 * size).fill(-1);
  const mesh = new TriMesh(x, y, z, all, twins);
  const sides = new Map<number, number>();
  const refused: SurfaceReport["refused"] = [];
  const beneath = faceIndex(x, y, faces, size);
  let kept = 0;
  /** A face that cannot be used: of a file it is left out and named, else the surface is refused. */
  const leaveOut = (f: number, why: string) => {
    if (strict) throw wrong(`face ${f} ${why}`);
    refused.push({
      what: [`face ${f + 1}`],
      why: [`it ${why.replace(/face (\d+)/, (_, g: string) => `face ${Number(g) + 1}`)}`],
    });
  };
  const slotOf = new Int32Array(size).fill(-1);
  for (let f = 0; f < size; f++) {
    const a = faces[3 * f]!,
      b = faces[3 * f + 1]!,
      c = faces[3 * f + 2]!;
    if ([a, b, c].some((v) => !(Number.isInteger(v) && v >= 0 && v < count)))
      throw wrong(`face ${f} names a point that is not there`);
    const turn = mesh.side(a, b, c);
    if (turn === 0) {
      leaveOut(f, "has no area in plan");
      continue;
    }
    all.set(turn > 0 ? [a, b, c] : [a, c, b], 3 * kept);
    const over = beneath(f).find((g) => slotOf[g]! >= 0 && overlap(mesh, kept, slotOf[g]!));
    if (over !== undefined) {
      leaveOut(f, `lies over face ${over}`);
      continue;
    }
    for (let h = 3 * kept; h < 3 * kept + 3; h++) {
      const from = all[h]!,
        to = all[h % 3 === 2 ? h - 2 : h + 1]!;
      sides.set(from * count + to, h);
      const other = sides.get(to * count + from);
      if (other !== undefined) mesh.link(h, other);
    }
    slotOf[f] = kept++;
  }
  if (kept === 0) throw wrong("none of its faces has an area in plan");
  const cut = kept === size ? mesh : new TriMesh(x, y, z, all.slice(0, 3 * kept), twins.slice(0, 3 * kept));
  return { ...finish(name, cut, origin, new Int32Array(0), refused), findings: [] };
}

/** For each face the earlier ones whose boxes meet its own, rising. */
function faceIndex(x: Float64Array, y: Float64Array, faces: ArrayLike<number>, size: number): (f: number) => number[] {
  const box = (f: number): [number, number, number, number] => {
    const [a, b, c] = [faces[3 * f]!, faces[3 * f + 1]!, faces[3 * f + 2]!];
    return [
      Math.min(x[a]!, x[b]!, x[c]!),
      Math.min(y[a]!, y[b]!, y[c]!),
      Math.max(x[a]!, x[b]!, x[c]!),
      Math.max(y[a]!, y[b]!, y[c]!),
    ];
  };
  const index = boxIndex(size, box);
  return (f) =>
    index
      .search(...box(f))
      .filter((g) => g < f)
      .sort((a, b) => a - b);
}

/**
 * Whether two triangles, each counter-clockwise, share more than their outlines: no side of either has the other all on
 * its right.
 */
function overlap(mesh: TriMesh, s: number, t: number): boolean {
  const { tri } = mesh;
  const parts = (a: number, b: number) => {
    for (let h = 3 * a; h < 3 * a + 3; h++) {
      const from = tri[h]!,
        to = tri[h % 3 === 2 ? h - 2 : h + 1]!;
      if ([0, 1, 2].every((k) => mesh.side(from, to, tri[3 * b + k]!) <= 0)) return true;
    }
    return false;
  };
  return !parts(s, t) && !parts(t, s);
}
