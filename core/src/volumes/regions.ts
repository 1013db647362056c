/** The areas within which a comparison is made, as a mesh that tells for every position in which of them it lies. */
import { refusal } from "../errors";
import type { Chains } from "../lines/flatten";
import { lineName, type Line } from "../lines/model";
import { boxIndex, type BoxIndex } from "../math/near";
import { wildcard } from "../math/words";
import type { AreaWanted, VolumeRecipe } from "./model";
import type { Corner } from "../math/ring";
import { checkRing, openRing, partsOf, ringMesh, type MeshRing } from "./ring-mesh";
import type { TriMesh } from "../surface/mesh";

/** An area with its rings, each open: E, N. */
export interface Area {
  name: string;
  rings: Corner[][];
}

export interface Regions {
  areas: string[];
  mesh: {
    x: Float64Array;
    y: Float64Array;
    z: Float64Array;
    tri: Int32Array;
    twin: Int32Array;
    origin: [number, number];
  };
  /** West, south, east, north in the mesh's frame. */
  box: [number, number, number, number];
  /** The part of each triangle; 0 lies in no area. */
  partOf: Int32Array;
  /** The areas that hold each part, by their index. */
  holding: number[][];
  /** The rings of all areas with whose they are, and the boxes of all their sides; east and north. */
  areaRings: { area: number; ring: Corner[] }[];
  sides: BoxIndex;
  /** The part that lies in just these areas; 0 for none. */
  partHeldBy(areas: readonly number[]): number;
}

/** What areas are looked for in. */
export interface AreaSources {
  lines: readonly Line[];
  chains: Chains;
  intakes: readonly string[];
}

/** Areas as a list, however they were written; undefined for the whole. */
export function areasWanted({ within }: Pick<VolumeRecipe, "within">): AreaWanted[] | undefined {
  if (within === undefined) return undefined;
  if (!Array.isArray(within)) return [within];
  return isCorners(within) ? [{ ring: within }] : within;
}

function isCorners(list: readonly unknown[]): list is [number, number][] {
  return list.length > 0 && Array.isArray(list[0]);
}

/** The closed lines of a code (wildcards too), run and intake; throws a Refusal where there is none. */
export function ringsOfLines(
  { code, run, intake }: { code: string; run?: string; intake?: string },
  { lines, chains, intakes }: AreaSources,
  what: string,
): Corner[][] {
  const is = wildcard(code),
    out: Corner[][] = [];
  let open = "";
  lines.forEach((l, k) => {
    if (!is(l.code) || l.companion) return;
    if ((run !== undefined && l.run !== run) || (intake !== undefined && intakes[l.intake] !== intake)) return;
    const [first, end] = [chains.starts[k]!, chains.starts[k + 1]!];
    if (!l.closed || end - first < 4) {
      open ||= lineName(l);
      return;
    }
    const ring: Corner[] = [];
    for (let v = first; v < end; v++) ring.push([chains.xyz[3 * v]!, chains.xyz[3 * v + 1]!]);
    out.push(openRing(ring));
  });
  const called = run ? `${code} ${run}` : code;
  if (out.length === 0)
    throw refusal("area-lines", { what, code: called, why: open ? `${open} is not closed` : "there is no such line" });
  return out;
}

/** The areas of a recipe with their rings; throws a Refusal naming the one that cannot be used. */
export function areasOf(wanted: readonly AreaWanted[], sources: AreaSources, comparison: string): Area[] {
  return wanted.map((w, k) => {
    const name = w.name ?? ("ring" in w ? `area ${k + 1}` : [w.code, w.run].filter(Boolean).join(" ")),
      what = `The area “${name}” of “${comparison}”`,
      rings = "ring" in w ? [openRing(w.ring)] : ringsOfLines(w, sources, what);
    for (const ring of rings) checkRing(ring, what);
    return { name, rings };
  });
}

/** The rings of a heap's toe. */
export function toesOf({ name, toe }: VolumeRecipe, sources: AreaSources): Area {
  const what = `The toe of “${name}”`,
    rings = Array.isArray(toe) ? [openRing(toe)] : ringsOfLines(toe!, sources, what);
  for (const ring of rings) checkRing(ring, what);
  return { name: "toe", rings };
}

/** The areas as one mesh; positions count from the first corner, rounded down. */
export function regionsOf(areas: readonly Area[]): Regions {
  const all = areas.flatMap((a, area) => a.rings.map((ring) => ({ area, ring }))),
    [e, n] = all[0]!.ring[0]!,
    origin: [number, number] = [Math.floor(e), Math.floor(n)];
  const rings: MeshRing[] = all.map(({ ring }) => ({
    x: ring.map(([x]) => x - origin[0]),
    y: ring.map(([, y]) => y - origin[1]),
  }));
  const mesh = ringMesh(rings, origin);
  if (!mesh) throw refusal("area-wrong", { what: `The area “${areas[0]!.name}”`, why: "spans no area", e, n });
  const { partOf, holding } = partsOf(mesh, rings),
    held = holding.map((list) => [...new Set(list.map((k) => all[k]!.area))]),
    keyOf = (list: readonly number[]) => [...new Set(list)].sort((a, b) => a - b).join(" "),
    partOfKey = new Map(held.map((list, part) => [keyOf(list), part]));
  return {
    areas: areas.map((a) => a.name),
    mesh: { ...plain(mesh), origin },
    box: boxOf(rings),
    partOf,
    areaRings: all,
    sides: sidesOf(all.map(({ ring }) => ring)),
    holding: held,
    partHeldBy: (list) => partOfKey.get(keyOf(list)) ?? 0,
  };
}

function sidesOf(rings: readonly Corner[][]): BoxIndex {
  const sides = rings.flatMap((ring) => ring.map((a, k) => [a, ring[(k + 1) % ring.length]!] as const));
  return boxIndex(sides.length, (k) => {
    const [[ae, an], [be, bn]] = sides[k]!;
    return [Math.min(ae, be), Math.min(an, bn), Math.max(ae, be), Math.max(an, bn)];
  });
}

/** A working mesh's arrays at their length. */
export function plain(mesh: TriMesh) {
  const [v, h] = [mesh.vertices, 3 * mesh.triangles];
  return {
    x: mesh.x.slice(0, v),
    y: mesh.y.slice(0, v),
    z: mesh.z.slice(0, v),
    tri: mesh.tri.slice(0, h),
    twin: mesh.twin.slice(0, h),
  };
}

function boxOf(rings: readonly MeshRing[]): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y } of rings)
    for (let k = 0; k < x.length; k++) {
      box[0] = Math.min(box[0], x[k]!);
      box[1] = Math.min(box[1], y[k]!);
      box[2] = Math.max(box[2], x[k]!);
      box[3] = Math.max(box[3], y[k]!);
    }
  return box;
}
