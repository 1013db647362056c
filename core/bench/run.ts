/** npm run bench [-- SIZE …]: the hot ways against their yardsticks, as ratios in one run. */
import { DEFAULT_TOLERANCES } from "../src/math/tolerances";
import Delaunator from "delaunator";
import { compileBook } from "../src/codes/book";
import { readCodes } from "../src/codes/read";
import { assembleLines, type KeptLines } from "../src/lines/assemble";
import { flattenLines } from "../src/lines/flatten";
import type { PointTable } from "../src/points/table";
import { buildSurface } from "../src/surface/build";
import { delaunay } from "../src/surface/delaunay";
import { contour } from "../src/surface/contour";
import type { Surface } from "../src/surface/model";
import { volumeToLevel } from "../src/volumes/level";
import { benchChanges } from "./changes";
import { coded, ground } from "./data";
import { least, tell } from "./measure";
import { benchLevels } from "./levels";
import { benchReading } from "./reading";

const sizes = process.argv
  .slice(2)
  .map(Number)
  .filter((n) => n >= 100);
console.log("Least CPU time of each, interleaved in one run; trust the ratios.\n");
for (const size of [20_000, 200_000]) benchChanges(size, size > 100_000 ? 9 : 25);
for (const size of [20_000, 200_000]) benchLevels(size, size > 100_000 ? 5 : 9);
console.log("");
for (const size of sizes.length ? sizes : [10_000, 100_000, 1_000_000]) {
  const rounds = size >= 1_000_000 ? 3 : 7;
  benchReading(size, rounds);
  const g = ground(size);
  let surface: Surface | undefined;
  const terrain = least(
    [
      { name: "published", run: () => new Delaunator(g.coords.slice()) },
      { name: "bare", run: () => delaunay(g.table.e, g.table.n) },
      {
        name: "constrained",
        run: () => {
          surface = buildSurface(
            { name: "s", breaklines: { codes: ["*"] } },
            {
              unit: "m",
              points: g.points,
              e: g.table.e,
              n: g.table.n,
              z: g.table.z,
              lines: g.lines,
              chains: g.chains,
              tolerance: DEFAULT_TOLERANCES,
            },
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
  for (const z of s.z) {
    low = Math.min(low, z);
    high = Math.max(high, z);
  }
  const views = least(
    [
      { name: "contours", run: () => contour(s, { surface: "s", interval: (high - low) / 100 }) },
      { name: "volume", run: () => volumeToLevel(s, { name: "v", surface: "s", level: (low + high) / 2 }) },
    ],
    rounds,
  );
  tell("100 contour levels", size, views.get("contours")!, "building the surface", built, "less than 1");
  tell("volume to a level", size, views.get("volume")!, "building the surface", built, "less than 1");

  const drawn = coded(size),
    book = compileBook({ codes: [{ code: "WALL", kind: "line" }] });
  const words = readCodes(drawn, book),
    kept: KeptLines = new Map();
  const build = (t: PointTable, from?: KeptLines) => assembleLines(t, words, DEFAULT_TOLERANCES, "m", book, [], from);
  build(drawn, kept);
  const e = drawn.e.slice();
  let moved = 0;
  const lines = least(
    [
      { name: "codes", run: () => readCodes(drawn, compileBook({ codes: [{ code: "WALL", kind: "line" }] })) },
      { name: "lines", run: () => flattenLines(build(drawn).lines, DEFAULT_TOLERANCES.chord) },
      {
        name: "again",
        run: () => {
          e[5]! += 0.01 * (++moved % 2 ? 1 : -1);
          flattenLines(build({ ...drawn, e }, kept).lines, DEFAULT_TOLERANCES.chord);
        },
      },
    ],
    rounds,
  );
  tell(
    `${size / 10} lines with arcs and curves`,
    size,
    lines.get("lines")!,
    "reading their codes",
    lines.get("codes")!,
  );
  tell("the same after one shot moved", size, lines.get("again")!, "all lines", lines.get("lines")!, "less than 0.5");
  console.log("");
}
