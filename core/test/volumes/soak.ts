/**
 * npm run soak -- volumes [PAIRS [FIRST]]: pairs of small surfaces made up one after another, with corners, sides and
 * lines in common, holes and several parts, each compared both ways, raised, in parts, followed, and every tenth with
 * what plain clipping of every pair of triangles gives; the first that fails is named and can be made again by its number.
 */
import { surfaceOfTriangles } from "../../src/surface/finish";
import type { Surface } from "../../src/surface/model";
import { compare, type KeptComparison } from "../../src/volumes/compare";
import type { Figures } from "../../src/volumes/model";
import { regionsOf } from "../../src/volumes/regions";
import { drawer } from "../drawer";
import { byPlainClipping } from "./plain";
import { delaunayOf, withLevels, type Triple } from "./surfaces";

interface Scene {
  from: Surface;
  to: Surface;
  deadband: number;
  /** East of which one part of the whole lies. */
  parting: number;
  /** Levels that become others, one after another: of which surface, at which vertex, what. */
  edits: [ofFrom: boolean, vertex: number, level: number][];
}

/** The scene of a number; undefined where its positions span no area. */
export function sceneOf(seed: number): Scene | undefined {
  const r = drawer(seed),
    whole = (least: number, most: number) => least + Math.floor((most - least + 1) * r()),
    isLarge = r() < 0.01,
    size = isLarge ? 40 : whole(3, 9),
    scale = [1, 1, 0.1, 1 / 3, 7][whole(0, 4)]!,
    away: [number, number] = r() < 0.3 ? [457_000.3, 5_427_000.7] : [0, 0],
    level = r() < 0.5 ? () => whole(0, 4) : () => whole(90, 120) / 10;
  const at = (): Triple => [away[0] + scale * whole(0, size), away[1] + scale * whole(0, size), level()];
  const cloud = (count: number): Triple[] => Array.from({ length: count }, at);
  const count = () => (isLarge ? whole(100, 250) : whole(3, 14)),
    first = cloud(count()),
    // Some positions are the other's, some of them at the same level, some all moved by a step of the lattice.
    shares = r(),
    move = r() < 0.3 ? scale * whole(-2, 2) : 0,
    own = cloud(count()),
    second = r() < 0.15 ? first : own.map((p, k) => (r() < shares ? (first[k % first.length] ?? p) : p));
  const moved = second.map(([e, n, z]): Triple => [e + move, n, r() < 0.5 ? z : level()]),
    a = delaunayOf(first, away),
    b = delaunayOf(moved, r() < 0.5 ? away : [Math.floor(away[0]) + 1, Math.floor(away[1]) - 2]),
    from = a && withoutSome(a, r() < 0.4 ? 0.3 * r() : 0, r),
    to = b && withoutSome(b, r() < 0.4 ? 0.3 * r() : 0, r);
  if (!from || !to) return undefined;
  return {
    from,
    to,
    deadband: [0, 0, 0, 1, 0.1, 0.5][whole(0, 5)]!,
    parting: away[0] + scale * whole(0, 2 * size) * 0.5,
    edits: Array.from({ length: 2 }, () => [r() < 0.5, whole(0, 1e6), level()]),
  };
}

/** The surface without a share of its triangles, so that it has holes and parts; undefined where none is left. */
function withoutSome(s: Surface, share: number, r: () => number): Surface | undefined {
  if (share === 0) return s;
  const faces: number[] = [];
  for (let h = 0; h < s.tri.length; h += 3) if (r() >= share) faces.push(...s.tri.subarray(h, h + 3));
  if (faces.length === 0) return undefined;
  const points = Float64Array.from({ length: 3 * s.x.length }, (_, k) => {
    const v = Math.floor(k / 3);
    return k % 3 === 0 ? s.x[v]! + s.origin[0] : k % 3 === 1 ? s.y[v]! + s.origin[1] : s.z[v]!;
  });
  return surfaceOfTriangles("parts", points, faces).surface;
}

const KEYS = ["cut", "fill", "net", "area", "cutArea", "fillArea"] as const;

function mustAgree(what: string, is: Figures, wanted: Figures, keys: readonly (typeof KEYS)[number][] = KEYS): void {
  // Coordinates of millions come rounded to a thousand-millionth.
  const much = 1e-8 * (0.1 + wanted.cut + wanted.fill + wanted.area);
  for (const k of keys)
    if (!(Math.abs(is[k] - wanted[k]) <= much)) throw new Error(`${what}: ${k} is ${is[k]}, not ${wanted[k]}`);
}

const exchanged = (f: Figures): Figures => ({
  ...f,
  cut: f.fill,
  fill: f.cut,
  net: -f.net,
  cutArea: f.fillArea,
  fillArea: f.cutArea,
});

/** Throws where a pair's figures are not what they must be; `plain` cuts every triangle with every other as well. */
export function checkScene({ from, to, deadband, parting, edits }: Scene, plain: boolean): void {
  const kept: KeptComparison = {},
    { whole } = compare({ from, to }, deadband, kept);
  mustAgree("exchanged", exchanged(compare({ from: to, to: from }, deadband).whole), whole);
  if (plain) mustAgree("plain clipping", whole, byPlainClipping(from, to, deadband));

  const flat = deadband === 0 ? whole : compare({ from, to }).whole,
    raised = compare({ from, to: withLevels(to, (z) => z + 0.75) }).whole;
  mustAgree("raised", { ...raised, net: raised.net - 0.75 * raised.area }, flat, ["net", "area"]);

  const [e, n] = from.origin,
    far = 1e3;
  const half = (west: number, east: number) =>
    ([west, east] as const).flatMap((x, k) => [n - far, n + far].map((y) => [x, k === 0 ? y : 2 * n - y] as const));
  const parts = regionsOf([
    { name: "west", rings: [half(e - far, parting)] },
    { name: "east", rings: [half(parting, e + far)] },
  ]);
  const parted = compare({ from, to, within: parts }, deadband),
    [west, east] = parted.areas as [Figures, Figures];
  const sum = Object.fromEntries(KEYS.map((k) => [k, west[k] + east[k]])) as unknown as Figures;
  mustAgree("the sum of two parts", sum, whole);
  mustAgree("the whole of two parts", parted.whole, whole);

  let now = { from, to };
  for (const [ofFrom, vertex, level] of edits) {
    const change = (s: Surface) => withLevels(s, (z, v) => (v === vertex % s.z.length ? level : z));
    now = ofFrom ? { ...now, from: change(now.from) } : { ...now, to: change(now.to) };
    const followed = compare(now, deadband, kept).whole,
      fresh = compare(now, deadband).whole;
    if (KEYS.some((k) => followed[k] !== fresh[k]))
      throw new Error(`followed ${JSON.stringify(followed)}, made anew ${JSON.stringify(fresh)}`);
  }
}

if (process.argv[1]?.endsWith("soak-volumes.mjs")) {
  const [count = 1_000_000, first = 0] = process.argv.slice(2).map(Number);
  let made = 0;
  for (let k = first; k < first + count; k++) {
    try {
      const scene = sceneOf(k);
      if (scene) {
        made++;
        checkScene(scene, k % 10 === 0);
      }
    } catch (e) {
      console.error(`Pair ${k} (npm run soak -- volumes 1 ${k}): ${(e as Error).stack}`);
      process.exit(1);
    }
    if ((k + 1 - first) % 50_000 === 0) console.log(`${k + 1 - first} pairs, ${made} compared: all is as it must be`);
  }
}
