/** The check of levels in an open job: all of it, and after one level changed, against building the surface. */
import { runChain, type JobState } from "../src";
import { fieldOfJob } from "../src/checks/levels/field";
import { LevelCheck, type LevelLimits } from "../src/checks/levels/levels";
import { atOnce } from "../src/math/steps";
import { flattenLines } from "../src/lines/flatten";
import { buildSurface } from "../src/surface/build";
import { jobOf } from "./changes";
import { least, tell } from "./measure";

const LIMITS: LevelLimits = { spike: { limit: 6, least: 0.3 }, run: { least: 0.12, shots: 5 } };

export function benchLevels(size: number, rounds: number): void {
  const state: JobState = jobOf(size),
    { coded, lines } = runChainWithoutLevels(state),
    chains = flattenLines(lines, state.tolerance.chord, coded.usable),
    t = state.points;
  const field = fieldOfJob(t, coded, lines, chains, new Set(), "m"),
    points = Int32Array.from({ length: t.count }, (_, i) => i);
  const finish = (check: LevelCheck, z: Float64Array) => atOnce(check.check({ ...field, z }, LIMITS));
  const kept = new LevelCheck();
  finish(kept, field.z);
  let { z } = field,
    serial = 0;
  const times = least(
    [
      {
        name: "surface",
        run: () =>
          buildSurface(
            { name: "s", breaklines: { codes: ["*"] } },
            { unit: "m", points, e: t.e, n: t.n, z: t.z, lines, chains, tolerance: state.tolerance },
          ),
      },
      {
        name: "one",
        run: () => {
          z = z.slice();
          z[Math.floor(field.count / 2)]! += ++serial % 2 ? 0.25 : -0.25;
          finish(kept, z);
        },
      },
    ],
    rounds,
  );
  const all = least([{ name: "all", run: () => finish(new LevelCheck(), field.z) }], 1).get("all")!;
  const built = times.get("surface")!;
  tell("levels checked, one changed", size, times.get("one")!, "building the surface", built, "100 ms, 400 ms");
  tell("levels checked, all", size, all, "building the surface", built, "in the background");
}

const runChainWithoutLevels = (state: JobState) =>
  runChain({ ...state, checks: { spike: false, "height-run": false } });
