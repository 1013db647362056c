/**
 * npm run bench [-- SIZE …]: the hot ways against their yardsticks, as ratios in one run. Each matter has a process of
 * its own, in which it and its yardstick take turns: what another holds in memory would be paid for by both.
 */
import { spawnSync } from "node:child_process";
import { benchChanges, benchFollowing } from "./changes";
import { benchHandover } from "./handover";
import { benchLevels } from "./levels";
import { benchLines } from "./lines";
import { benchMemory } from "./memory";
import { benchReading } from "./reading";
import { roundsOf } from "./measure";
import { benchTerrain } from "./terrain";
import { benchVolumes } from "./volumes";

const MATTERS: Record<string, (sizes: readonly number[]) => void> = {
  changes: () => [20_000, 200_000].forEach((size) => benchChanges(size, size > 100_000 ? 9 : 25)),
  following: () => [20_000, 200_000].forEach((size) => benchFollowing(size, 15)),
  levels: () => [20_000, 200_000].forEach((size) => benchLevels(size, size > 100_000 ? 5 : 9)),
  reading: (sizes) => sizes.forEach((size) => benchReading(size, roundsOf(size))),
  terrain: benchTerrain,
  volumes: (sizes) => sizes.forEach(benchVolumes),
  lines: (sizes) => sizes.forEach(benchLines),
  handover: () => [20_000, 200_000].forEach(benchHandover),
  memory: (sizes) => benchMemory(Math.max(...sizes)),
};

const [first = "", ...others] = process.argv.slice(2),
  matter = MATTERS[first];
if (matter) matter(others.map(Number));
else {
  const sizes = [first, ...others].map(Number).filter((n) => n >= 100);
  console.log("Least CPU time of each, interleaved in one run; trust the ratios.\n");
  for (const name of Object.keys(MATTERS)) {
    const given = (sizes.length ? sizes : [10_000, 100_000, 1_000_000]).map(String),
      { status } = spawnSync(process.execPath, [...process.execArgv, process.argv[1]!, name, ...given], {
        stdio: "inherit",
      });
    if (status !== 0) process.exit(status ?? 1);
    console.log("");
  }
}
