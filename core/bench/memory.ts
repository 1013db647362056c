/** Peak memory of a surface and its contours, in a process that does nothing else. */
import { DEFAULT_TOLERANCES } from "../src/math/tolerances";
import { buildSurface } from "../src/surface/build";
import { contour } from "../src/surface/contour";
import { ground } from "./data";

/** Builds, and tells how much the process held at most, before and in all. */
export function benchMemory(size: number): void {
  const peak = () => process.resourceUsage().maxRSS / 1024,
    g = ground(size),
    before = peak(),
    { table } = g;
  const { surface } = buildSurface(
    { name: "s", breaklines: { codes: ["*"] } },
    { ...g, unit: "m", e: table.e, n: table.n, z: table.z, tolerance: DEFAULT_TOLERANCES },
  );
  const built = peak(),
    lines = contour(surface, { surface: "s", interval: 1 }).level.length,
    count = size.toLocaleString("en-GB").replaceAll(",", " ").padStart(9);
  console.log(
    `${"peak memory of the process".padEnd(34)} ${count}   ${built.toFixed(0)} MB to the surface, ${peak().toFixed(0)} MB ` +
      `to ${lines} contours, of which ${before.toFixed(0)} MB are the points and lines before   (goal: 600 MB)`,
  );
}
