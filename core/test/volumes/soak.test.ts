// @long: left out of npm run test:quick.
import { surfaceOfTriangles } from "../../src/surface/finish";
import type { Surface } from "../../src/surface/model";
import { compare } from "../../src/volumes/compare";
import { endAreas, gridOpinion } from "../../src/volumes/second-opinion";
import { checkScene, sceneOf } from "./soak";
import { delaunayOf, rectangle, withLevels, type Triple } from "./surfaces";

test("six hundred nasty pairs hold what any comparison must; npm run soak tries a million", () => {
  let made = 0;
  for (let k = 0; k < 600; k++) {
    const scene = sceneOf(k);
    if (!scene) continue;
    made++;
    checkScene(scene, k % 10 === 0);
  }
  expect(made).toBeGreaterThan(540);
});

test.each([
  [1077, "a middle on the height of a corner from which two sides of the outline go up: ground under it was not found"],
  [102800, "the same where corners lie on one height but for the last digit"],
  [209328, "a middle on a side was followed from whichever triangle the walk came through, and summed in that order"],
  [8920, "the same where one walk left the mesh and another did not"],
  [50279856, "a sliver that only rounding makes, by a level of before: its patch beside lay a last digit away"],
  [372, "triangles outside that touch an inner triangle's corner were taken whole"],
])("pair %d: %s", (k) => checkScene(sceneOf(k)!, true));

/** A lattice on the south-western side of a diagonal. */
function half(size: number, level: number): Surface {
  const at: Triple[] = [];
  for (let j = 0; j <= size; j++) for (let i = 0; i + j <= size; i++) at.push([i, j, level]);
  return delaunayOf(at)!;
}

test("a large triangle beside the ground, in whose box patches of the ground lie, is not taken for under it", () => {
  const ground = half(96, 5),
    beyond = surfaceOfTriangles("beyond", Float64Array.of(96, 0, 9, 96, 96, 9, 0, 96, 9), [0, 1, 2]).surface,
    both = surfaceOfTriangles(
      "both",
      Float64Array.of(96, 0, 9, 96, 96, 9, 0, 96, 9, 0, 0, 9),
      [0, 1, 2, 3, 0, 2],
    ).surface;
  expect(compare({ from: ground, to: beyond }).whole.area).toBe(0);
  const { whole } = compare({ from: ground, to: both });
  expect([whole.area, whole.fill, whole.cut]).toEqual([4608, 4608 * 4, 0]);
});

describe("exactly at the deadband", () => {
  const shots: Triple[] = Array.from({ length: 60 }, (_, k) => [(k * 7) % 13, (k * 5) % 11, 0.1 * ((k * 3) % 9)]);
  const plane = (e: number, n: number) => 100.1 + 0.3 * e - 0.7 * n;
  const tilted = delaunayOf(shots.map(([e, n]): Triple => [e, n, plane(e, n)]))!,
    other = rectangle(0, 0, 12, 10, plane, "other");

  test.each([0.1, 0.02, 0.3])("planes %d apart count nothing, one way and the other, by every method", (t) => {
    for (const pair of [
      { from: tilted, to: withLevels(other, (z) => z + t) },
      { from: withLevels(other, (z) => z + t), to: tilted },
      { from: withLevels(tilted, () => 100.1), to: 100.1 + t },
      { from: withLevels(tilted, () => 100.1), to: 100.1 - t },
    ]) {
      const { whole } = compare(pair, t);
      expect([whole.cut, whole.fill, whole.cutArea, whole.fillArea]).toEqual([0, 0, 0, 0]);
      expect(whole.area).toBeCloseTo(120, 9);
      expect(endAreas(pair, { spacing: 1, azimuth: 0 }, t)).toMatchObject({ cut: 0, fill: 0 });
      expect(gridOpinion(pair, t, 900)).toMatchObject({ cut: 0, fill: 0 });
      // A hair more apart all of it counts.
      const more = compare(pair, t - 1e-6).whole;
      expect(more.cut + more.fill).toBeCloseTo(120 * t, 6);
    }
  });
});
