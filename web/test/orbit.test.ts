import fc from "fast-check";
import { derive } from "../../core/test/job";
import { SurfaceReader } from "../../core/src/surface/locate";
import { toPixel } from "../sheet/camera";
import {
  atLevel,
  fitRoom,
  groundAxes,
  heightsFor,
  LEAST_TILT,
  meetGround,
  MOST_TILT,
  moveOrbit,
  seenAt,
  towardsLight,
  turnOrbit,
  zoomOrbit,
  type Orbit,
} from "../sheet/relief/orbit";

const within = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const orbit: fc.Arbitrary<Orbit> = fc.record({
  e: within(2900, 3200),
  n: within(6900, 7200),
  z: within(0, 50),
  bearing: within(0, 6.28),
  tilt: within(LEAST_TILT, MOST_TILT),
  heights: within(1, 10),
  scale: within(0.5, 20),
  width: within(200, 1500),
  height: within(200, 900),
});

test("a pixel shows at a level the position that is seen there", () => {
  fc.assert(
    fc.property(orbit, within(0, 800), within(0, 600), within(-20, 80), (v, x, y, z) => {
      const [px, py] = seenAt(v, ...atLevel(v, x, y, z), z);
      expect(Math.hypot(px - x, py - y)).toBeLessThan(1e-6);
    }),
  );
});

test("from straight above, looking north, it is the plan", () => {
  const v: Orbit = {
    e: 3050, n: 7050, z: 10, bearing: 0, tilt: MOST_TILT, heights: 3, scale: 4, width: 700, height: 500,
  }; // prettier-ignore
  const [x, y] = seenAt(v, 3061, 7043, 55),
    plan = toPixel(v, 3061, 7043);
  expect([x, y]).toEqual([expect.closeTo(plan[0], 6), expect.closeTo(plan[1], 6)]);
  expect(groundAxes(v)).toEqual({
    east: [expect.closeTo(4, 9), expect.closeTo(0, 9)],
    north: [expect.closeTo(0, 9), expect.closeTo(-4, 9)],
  });
});

test("what lies to the way one looks is farther back, what is higher stands higher and nearer", () => {
  const v: Orbit = {
    e: 0, n: 0, z: 0, bearing: Math.PI / 2, tilt: 0.6, heights: 2, scale: 1, width: 100, height: 100,
  }; // prettier-ignore
  const middle = seenAt(v, 0, 0, 0),
    east = seenAt(v, 10, 0, 0),
    south = seenAt(v, 0, -10, 0),
    above = seenAt(v, 0, 0, 10);
  expect(east[2]).toBeGreaterThan(middle[2]);
  expect(east[1]).toBeLessThan(middle[1]);
  // Looking east, south is to the right.
  expect(south[0]).toBeCloseTo(middle[0] + 10, 9);
  expect(above[2]).toBeLessThan(middle[2]);
  // Twice as high as it is, foreshortened.
  expect(middle[1] - above[1]).toBeCloseTo(20 * Math.cos(0.6), 9);
});

test("zooming keeps what is under the pointer, moving takes it along, turning keeps the middle", () => {
  fc.assert(
    fc.property(orbit, within(0, 800), within(0, 600), within(0.2, 5), within(-90, 90), (v, x, y, factor, d) => {
      const at = atLevel(v, x, y, v.z),
        [zx, zy] = seenAt(zoomOrbit(v, x, y, factor), ...at, v.z),
        [mx, my] = seenAt(moveOrbit(v, d, -d / 2), ...at, v.z),
        turned = turnOrbit(v, d, d),
        [tx, ty] = seenAt(turned, v.e, v.n, v.z);
      expect(Math.hypot(zx - x, zy - y)).toBeLessThan(1e-5);
      expect(Math.hypot(mx - x - d, my - y + d / 2)).toBeLessThan(1e-5);
      expect([tx, ty]).toEqual([expect.closeTo(v.width / 2, 6), expect.closeTo(v.height / 2, 6)]);
      expect(turned.tilt).toBeGreaterThanOrEqual(LEAST_TILT);
      expect(turned.tilt).toBeLessThanOrEqual(MOST_TILT);
    }),
  );
});

test("a room is shown whole, as large as the window allows; flat ground is raised, steep ground is not", () => {
  const room = { minE: 3000, minN: 7000, maxE: 3300, maxN: 7100, minZ: 80, maxZ: 120 };
  fc.assert(
    fc.property(orbit, (v) => {
      const fitted = fitRoom(v, room),
        corners = [room.minE, room.maxE].flatMap((e) =>
          [room.minN, room.maxN].flatMap((n) => [room.minZ, room.maxZ].map((z) => seenAt(fitted, e, n, z))),
        );
      const reach = corners.map(([x, y]) =>
        Math.max(Math.abs(x - v.width / 2) / (v.width - 80), Math.abs(y - v.height / 2) / (v.height - 80)),
      );
      expect(Math.max(...reach)).toBeCloseTo(0.5, 6);
    }),
  );
  expect(heightsFor(room)).toBe(1);
  expect(heightsFor({ ...room, maxZ: 82 })).toBe(10);
  expect(heightsFor({ ...room, maxZ: 91 })).toBe(3);
});

test("the line of sight meets the ground where it is first seen", () => {
  const rows = Array.from({ length: 441 }, (_, k) => {
    const [e, n] = [3000 + 5 * (k % 21), 7000 + 5 * Math.floor(k / 21)];
    return { number: k, e, n, z: 20 + 9 * Math.sin(e / 13) + 6 * Math.cos(n / 9), code: "SPOT" };
  });
  const made = derive(rows, { surfaces: [{ name: "s" }] }).derived.surfaces[0]!;
  if (!made.ok) throw new Error("no surface");
  const { surface, report } = made.value,
    reader = new SurfaceReader(surface),
    levels = [report.minZ, report.maxZ] as const;
  let sides = 0,
    open = 0,
    hidden = 0;
  fc.assert(
    fc.property(orbit, within(3005, 3095), within(7005, 7095), (v, e, n) => {
      const z = reader.at(e, n)!.level,
        [x, y, back] = seenAt(v, e, n, z),
        found = meetGround(v, reader, levels, x, y);
      // A crest may be overlooked where less than a pixel of it stands in the way, and nothing more.
      const until = found?.level ?? report.minZ;
      let deepest = 0;
      for (let k = 1; k < 200; k++) {
        const level = report.maxZ - ((report.maxZ - until) * k) / 200,
          under = reader.at(...atLevel(v, x, y, level));
        if (under) deepest = Math.max(deepest, under.level - level);
      }
      expect(deepest).toBeLessThan(4 / v.scale);
      if (!found) return;
      const [fx, fy, before] = seenAt(v, found.e, found.n, found.level);
      if (found.isSide) {
        sides++;
        expect(before).toBeLessThan(back + 2 / v.scale / Math.sin(v.tilt));
        return;
      }
      expect(Math.hypot(fx - x, fy - y)).toBeLessThan(1e-3);
      expect(found.level).toBeCloseTo(reader.at(found.e, found.n)!.level, 9);
      if (back - before > 1) hidden++;
      else if (Math.abs(back - before) < 1e-3) open++;
    }),
    { numRuns: 150 },
  );
  expect(Math.min(open, hidden, sides)).toBeGreaterThan(8);
  // Much is seen, much is hidden, much is a side: what is tested is not one of them alone.
  expect(meetGround({ ...BIRD, width: 100, height: 100 }, reader, levels, -5000, 0)).toBeUndefined();
});

const BIRD: Orbit = { e: 3050, n: 7050, z: 20, bearing: 0, tilt: 1, heights: 1, scale: 5, width: 100, height: 100 };

test("the light comes from where it says", () => {
  const [e, n, up] = towardsLight("northwest");
  expect(e).toBeLessThan(0);
  expect(n).toBeGreaterThan(0);
  expect(up).toBeGreaterThan(0);
  expect(Math.hypot(e, n, up)).toBeCloseTo(1, 9);
});
