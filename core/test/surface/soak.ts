/**
 * npm run soak -- surfaces [SCENES [FIRST]]: surfaces of nasty inputs made up one after another, each checked by what must hold of
 * any; the first that fails is named and can be made again by its number.
 */
import { contour } from "../../src/surface/contour";
import { SurfaceReader } from "../../src/surface/locate";
import { side } from "../../src/math/predicates";
import { segmentsCross } from "../../src/math/ring";
import type { Surface, SurfaceRecipe } from "../../src/surface/model";
import { outlineOf } from "../../src/surface/outline";
import { Refusal } from "../../src/errors";
import { drawer } from "../drawer";
import { derive, type Row } from "../job";
import { checkSides } from "./invariants";

type P = [e: number, n: number];

/** How positions of a scene lie: each way is hard on plain arithmetic or on what is done with it. */
const WAYS: ((r: () => number) => P)[] = [
  (r) => [Math.floor(12 * r()), Math.floor(12 * r())],
  (r) => [Math.floor(8 * r()) / 3, Math.floor(8 * r()) / 3],
  (r) => [Math.floor(100 * r()) / 10, Math.floor(100 * r()) / 10],
  (r) => [100 * r(), 100 * r()],
  (r) => [5 + 5 * Math.cos(Math.floor(36 * r()) / 6), 5 + 5 * Math.sin(Math.floor(36 * r()) / 6)],
  (r) => [0.1 * Math.floor(60 * r()), 0.3 * Math.floor(3 * r())],
  (r) => [Math.floor(6 * r()) + 2 ** -40 * Math.floor(4 * r()), Math.floor(6 * r()) + 2 ** -40 * Math.floor(4 * r())],
  (r) => [1000 * Math.floor(3 * r()) + 0.002 * r(), 1000 * Math.floor(3 * r()) + 0.002 * r()],
  (r) => [Math.floor(40 * r()), r() < 0.5 ? 0 : 1e-4 * Math.floor(9 * r())],
];

interface Scene {
  rows: Row[];
  recipe: SurfaceRecipe;
}

export function sceneOf(seed: number): Scene {
  const r = drawer(seed),
    way = WAYS[Math.floor(WAYS.length * r())]!,
    whole = (least: number, most: number) => least + Math.floor((most - least + 1) * r()),
    away: P = r() < 0.3 ? [457_000.123, 5_427_000.456] : [0, 0],
    turn = r() < 0.3 ? 2 * Math.PI * r() : 0;
  const at = (): P => {
    const [u, v] = way(r);
    return [away[0] + u * Math.cos(turn) - v * Math.sin(turn), away[1] + u * Math.sin(turn) + v * Math.cos(turn)];
  };
  const level = () => Math.floor(100 * r()) / 10;
  const rows: Row[] = Array.from({ length: whole(1, 60) }, (_, k) => {
    const [e, n] = at();
    return { number: `S${k}`, e, n, z: level(), code: "SPOT" };
  });
  for (let line = 0, lines = whole(0, 6); line < lines; line++) {
    const code = r() < 0.7 ? "TOP" : "PATH",
      shots = whole(2, 5),
      closed = shots > 3 && r() < 0.3;
    for (let k = 0; k < shots; k++) {
      const [e, n] = at();
      const z = r() < 0.1 ? undefined : level();
      rows.push({
        number: `L${line}.${k}`,
        e,
        n,
        z,
        code: `${code}${line + 1}${closed && k === shots - 1 ? " loop" : ""}`,
      });
    }
  }
  const ring = (): P[] => Array.from({ length: whole(3, 7) }, at);
  const breaklines: SurfaceRecipe["breaklines"] = {
    codes: ["*"],
    crossing: (["mean", "higher", "lower"] as const)[whole(0, 2)]!,
    ...(r() < 0.2 ? { thin: r() } : {}),
    ...(r() < 0.2 ? { densify: 0.5 + 5 * r() } : {}),
  };
  const edges: SurfaceRecipe["edge"][] = ["hull", { fit: 0.5 + 10 * r() }, { ring: ring() }, { code: "TOP" }];
  const recipe: SurfaceRecipe = {
    name: "s",
    breaklines,
    edge: edges[whole(0, 3)]!,
    ...(r() < 0.3 ? { holes: [{ ring: ring() }] } : {}),
    ...(r() < 0.2 ? { longestSide: 0.5 + 10 * r() } : {}),
  };
  return { rows, recipe };
}

function heightOf({ tri, x, y }: Surface, t: number): number {
  const at = [0, 1, 2].map((k) => tri[3 * t + k]!),
    sides = at.map((v, k) => Math.hypot(x[v]! - x[at[(k + 1) % 3]!]!, y[v]! - y[at[(k + 1) % 3]!]!)),
    [a, b, c] = at as [number, number, number];
  return side(x[a]!, y[a]!, x[b]!, y[b]!, x[c]!, y[c]!) / Math.max(...sides);
}

/** Whether two sides of a ring that are no neighbours meet. */
function crossesItself(ring: readonly P[]): boolean {
  const n = ring.length;
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n; j++)
      if (!(i === 0 && j === n - 1) && segmentsCross(ring[i]!, ring[i + 1]!, ring[j]!, ring[(j + 1) % n]!)) return true;
  return false;
}

/** Throws where a scene's surface is not what any must be; whether there is one at all. */
export function checkScene({ rows, recipe }: Scene): boolean {
  const { derived } = derive(rows, { tolerance: { coincident: 1e-5 }, surfaces: [recipe] }),
    made = derived.surfaces[0]!;
  if (!made.ok) {
    const { refusal } = made;
    if (refusal instanceof Refusal && /^surface-(too-few|on-one-line|nothing-left)$/.test(refusal.code)) return false;
    throw refusal;
  }
  const { surface: s, report } = made.value;
  checkSides(s);
  // A ring that crosses itself is refused where a recipe is read: told by name is all that is asked of one here.
  const rings = [recipe.edge, ...(recipe.holes ?? [])].flatMap((w) =>
      typeof w === "object" && "ring" in w ? [w.ring] : [],
    ),
    isOfCrossedRing = (what: readonly unknown[]) =>
      /^(the edge|a hole)$/.test(String(what)) && rings.some((ring) => crossesItself(ring));
  for (const { what, why } of report.refused)
    if (/could not be followed/.test(String(why)) && !isOfCrossedRing(what))
      throw new Error(`refused: ${String(what)}, ${why.join("")}`);
  // Triangles that overlap or leave a gap have another area than their outline.
  let within = 0,
    size = 0;
  for (const ring of outlineOf(s)) {
    const [e0, n0] = s.origin;
    for (let i = 2; i < ring.length; i += 2)
      within += ((ring[i - 2]! - e0) * (ring[i + 1]! - n0) - (ring[i]! - e0) * (ring[i - 1]! - n0)) / 2;
    for (let i = 0; i < ring.length; i += 2) size = Math.max(size, Math.hypot(ring[i]! - e0, ring[i + 1]! - n0));
  }
  if (!(Math.abs(within - report.area) <= 1e-9 * (size * size + 1)))
    throw new Error(`the triangles cover ${report.area}, their outline ${within}`);
  // In triangles of next to no height a level is anything between their corners'.
  for (let t = 0; t < s.tri.length / 3; t++) if (heightOf(s, t) < 1e-5) return true;
  const reader = new SurfaceReader(s),
    { xy, starts, level, closed } = contour(s, { surface: "s", interval: 1.7, base: 0.05 });
  for (let k = 0; k < level.length; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]! - 1];
    if (closed[k] && (xy[2 * from] !== xy[2 * to] || xy[2 * from + 1] !== xy[2 * to + 1]))
      throw new Error(`contour ${k} at ${level[k]} is not closed`);
    for (let i = from; i < to; i++) {
      const under = reader.at(
        s.origin[0] + (xy[2 * i]! + xy[2 * i + 2]!) / 2,
        s.origin[1] + (xy[2 * i + 1]! + xy[2 * i + 3]!) / 2,
      );
      if (under && !(Math.abs(under.level - level[k]!) <= 1e-6 * (1 + under.slope)))
        throw new Error(`a contour at ${level[k]} lies at ${under.level}`);
    }
  }
  return true;
}

if (process.argv[1]?.endsWith("soak.mjs")) {
  const [count = 10_000, first = 0] = process.argv.slice(2).map(Number);
  let made = 0;
  for (let k = first; k < first + count; k++) {
    try {
      if (checkScene(sceneOf(k))) made++;
    } catch (e) {
      console.error(`Scene ${k} (npm run soak -- surfaces 1 ${k}): ${(e as Error).stack}`);
      process.exit(1);
    }
    if ((k + 1 - first) % 1000 === 0)
      console.log(`${k + 1 - first} scenes, ${made} with a surface: all is as it must be`);
  }
}
