/** Surfaces, contours and volumes, at several sizes in turn so that their growth is seen. */
import Delaunator from "delaunator";
import { DEFAULT_TOLERANCES } from "../src/math/tolerances";
import { buildSurface } from "../src/surface/build";
import { contour } from "../src/surface/contour";
import { delaunay } from "../src/surface/delaunay";
import type { Surface } from "../src/surface/model";
import { compare } from "../src/volumes/compare";
import { ground } from "./data";
import { least, roundsOf, tell } from "./measure";

export function benchTerrain(sizes: readonly number[]): void {
  /** Least times by what was measured, of each size in turn. */
  const growth = new Map<string, [size: number, ms: number][]>();
  const grown = (what: string, size: number, ms: number) => growth.set(what, [...(growth.get(what) ?? []), [size, ms]]);
  for (const size of sizes) {
    const rounds = roundsOf(size);
    // Numbers and words of the points are no matter of their ground: they are let go.
    const {
      table: { e, n, z },
      points,
      lines,
      chains,
      coords,
    } = ground(size);
    let surface: Surface | undefined;
    const terrain = least(
      [
        { name: "published", run: () => new Delaunator(coords.slice()) },
        { name: "bare", run: () => delaunay(e, n) },
        {
          name: "constrained",
          run: () => {
            surface = buildSurface(
              { name: "s", breaklines: { codes: ["*"] } },
              { unit: "m", points, e, n, z, lines, chains, tolerance: DEFAULT_TOLERANCES },
            ).surface;
          },
        },
      ],
      rounds,
    );
    const built = terrain.get("constrained")!,
      published = terrain.get("published")!,
      yardstick = "delaunator on bare points";
    tell("bare triangulation", size, terrain.get("bare")!, yardstick, published, "0.6 or less at 1 000 000");
    tell("surface with breaklines", size, built, yardstick, published, "1.5 or less at 1 000 000");

    const s = surface!;
    let low = Infinity,
      high = -Infinity;
    for (const level of s.z) {
      low = Math.min(low, level);
      high = Math.max(high, level);
    }
    const views = least(
      [
        { name: "contours", run: () => contour(s, { surface: "s", interval: (high - low) / 100 }) },
        { name: "volume", run: () => compare({ from: s, to: (low + high) / 2 }) },
      ],
      rounds,
    );
    tell("100 contour levels", size, views.get("contours")!, "building the surface", built, "less than 1");
    grown("bare triangulation", size, terrain.get("bare")!);
    grown("surface with breaklines", size, built);
    grown("100 contour levels", size, views.get("contours")!);
    tell("volume to a level", size, views.get("volume")!, "building the surface", built, "less than 1");
  }
  for (const [what, times] of growth)
    for (let k = 1; k < times.length; k++) {
      const [[n0, t0], [n1, t1]] = [times[k - 1]!, times[k]!],
        expected = (n1 * Math.log(n1)) / (n0 * Math.log(n0));
      tell(`${what}, growth`, n1, t1, `the time for ${n0}; n log n is ${expected.toFixed(1)}`, t0);
    }
}
