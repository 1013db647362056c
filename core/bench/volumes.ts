/** Volumes between two surfaces against building one of them, and against a grid that is as near to the truth. */
import { DEFAULT_TOLERANCES } from "../src/math/tolerances";
import { buildSurface } from "../src/surface/build";
import type { Surface } from "../src/surface/model";
import { compare, type KeptComparison } from "../src/volumes/compare";
import { gridOpinion } from "../src/volumes/second-opinion";
import { chance, ground, type Ground } from "./data";
import { least, roundsOf, tell } from "./measure";

/** How near to the exact cut and fill a grid must come, as a share of both. */
const NEAR = 1e-5;

export function benchVolumes(triangles: number): void {
  const points = Math.ceil(triangles / 2),
    build = ({ table: { e, n, z }, ...g }: Ground): Surface =>
      buildSurface(
        { name: "s", breaklines: { codes: ["*"] } },
        { unit: "m", points: g.points, e, n, z, lines: g.lines, chains: g.chains, tolerance: DEFAULT_TOLERANCES },
      ).surface;
  const measured = ground(points),
    from = build(measured),
    // A design that cuts here and fills there, a few metres at most.
    design = build(ground(points, 8, (e, n) => 3 * Math.sin(e / 130) * Math.cos(n / 110))),
    noise = chance(11),
    // The same ground measured again, other positions, each some millimetres off.
    again = build(ground(points, 9, () => 0.03 * (noise() - 0.5)));
  let kept: KeptComparison = {};
  compare({ from, to: design }, 0, kept);
  const changed = Math.floor(from.z.length / 3),
    other = { ...from, z: from.z.map((z, v) => (v === changed ? z + 0.4 : z)) };
  let flip = false;
  const pair = { kind: "surfaces", from, to: design } as const,
    cells = cellsFor(pair);
  const times = least(
    [
      { name: "build", run: () => build(measured) },
      { name: "design", run: () => compare({ from, to: design }) },
      { name: "again", run: () => compare({ from, to: again }) },
      {
        name: "changed",
        run: () => {
          flip = !flip;
          compare({ from: flip ? other : from, to: design }, 0, kept);
        },
      },
      { name: "grid", run: () => gridOpinion(pair, 0, cells) },
    ],
    Math.min(3, roundsOf(triangles)),
  );
  kept = {};
  const size = from.tri.length / 3,
    of = (name: string) => times.get(name)!;
  tell("exact volume to a design", size, of("design"), "building one of them", of("build"), "less than 1");
  tell("exact volume to the same ground", size, of("again"), "building one of them", of("build"));
  tell("one level changed", size, of("changed"), "the exact volume", of("design"));
  tell(`exact volume`, size, of("design"), `a grid as near (${cells} cells)`, of("grid"));
}

/** Cells of a grid that comes as near as wanted; twice as many until it does. */
function cellsFor(pair: Parameters<typeof gridOpinion>[0]): number {
  const { whole } = compare(pair);
  for (let cells = 10_000; ; cells *= 2) {
    const grid = gridOpinion(pair, 0, cells)!,
      off = Math.hypot(grid.cut - whole.cut, grid.fill - whole.fill);
    if (off <= NEAR * (whole.cut + whole.fill) || cells >= 4_000_000) return cells;
  }
}
