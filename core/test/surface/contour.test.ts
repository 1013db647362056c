// @long: left out of npm run test:quick.
import fc from "fast-check";
import { side } from "../../src/math/predicates";
import { Chain } from "../../src/job/chain/chain";
import { contour, contourLevels, labelContours } from "../../src/surface/contour";
import { SurfaceReader } from "../../src/surface/locate";
import type { Surface } from "../../src/surface/model";
import { stateOf, type Row } from "../job";

function surfaceOf(rows: Row[]): Surface | undefined {
  const s = new Chain().run(stateOf(rows, { surfaces: [{ name: "s" }] })).surfaces[0]!;
  return s.ok ? s.value.surface : undefined;
}

const scene = fc.uniqueArray(
  fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 12 })),
  { minLength: 5, maxLength: 50, selector: ([e, n]) => `${e} ${n}` },
);

describe("contours", () => {
  test("every vertex is at its level, lines are closed or end on the outline, high ground is on the left", () => {
    fc.assert(
      fc.property(scene, (places) => {
        const s = surfaceOf(places.map(([e, n, z], i) => ({ number: i, e: e * 10, n: n * 10, z })));
        if (!s) return;
        const c = contour(s, { surface: "s", interval: 0.7, base: 0.13 });
        const reader = new SurfaceReader(s);
        const outline: [number, number, number, number][] = [];
        for (let h = 0; h < s.tri.length; h++)
          if (s.twin[h]! < 0)
            outline.push([
              s.x[s.tri[h]!]!,
              s.y[s.tri[h]!]!,
              s.x[s.tri[h % 3 === 2 ? h - 2 : h + 1]!]!,
              s.y[s.tri[h % 3 === 2 ? h - 2 : h + 1]!]!,
            ]);
        const onOutline = (x: number, y: number) =>
          outline.some(
            ([ax, ay, bx, by]) =>
              Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay) < 1e-7,
          );
        for (let k = 0; k < c.level.length; k++) {
          const from = c.starts[k]!,
            to = c.starts[k + 1]! - 1;
          expect(to - from).toBeGreaterThan(0);
          const same = c.xy[2 * from] === c.xy[2 * to] && c.xy[2 * from + 1] === c.xy[2 * to + 1];
          if (c.closed[k]) expect(same).toBe(true);
          else for (const i of [from, to]) expect(onOutline(c.xy[2 * i]!, c.xy[2 * i + 1]!)).toBe(true);
          for (let i = from; i < to; i++) {
            const [ax, ay, bx, by] = [c.xy[2 * i]!, c.xy[2 * i + 1]!, c.xy[2 * i + 2]!, c.xy[2 * i + 3]!];
            const length = Math.hypot(bx - ax, by - ay);
            if (length < 1e-3) continue;
            // A little to the left of the middle the ground is not lower than the level.
            const mx = (ax + bx) / 2 - ((by - ay) / length) * 1e-6,
              my = (ay + by) / 2 + ((bx - ax) / length) * 1e-6;
            const under = reader.at(mx + s.origin[0], my + s.origin[1]);
            if (under) expect(under.level).toBeGreaterThan(c.level[k]! - 1e-9);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  test("a cone's contours are its known rings; a summit exactly at a level makes none", () => {
    const rows: Row[] = [{ number: "top", e: 0, n: 0, z: 10 }];
    for (let k = 0; k < 48; k++)
      rows.push({ number: k, e: 20 * Math.cos((k * Math.PI) / 24), n: 20 * Math.sin((k * Math.PI) / 24), z: 0 });
    const c = contour(surfaceOf(rows)!, { surface: "s", interval: 5 });
    const levels = contourLevels(c);
    expect(levels.map((l) => [l.level, l.index, l.lines, l.closed])).toEqual([[5, false, 1, 1]]);
    expect(levels[0]!.length).toBeCloseTo(48 * 2 * 10 * Math.sin(Math.PI / 48), 9);
    const plain = contour(surfaceOf(rows)!, { surface: "s", interval: 2, index: 2, base: 1 });
    expect(contourLevels(plain).map((l) => [l.level, l.index])).toEqual([
      [1, true],
      [3, false],
      [5, true],
      [7, false],
      [9, true],
    ]);
  });

  test("a plateau exactly at a level is ringed by it, whatever the interval and base", () => {
    // A frustum: from 99 at 20 m to a flat top of 10 m half width at the level.
    const plateau = (level: number) =>
      surfaceOf(
        [
          [20, 99],
          [10, level],
        ].flatMap(([r, z], k) =>
          [
            [-1, -1],
            [1, -1],
            [1, 1],
            [-1, 1],
          ].map(([e, n], i): Row => ({ number: 4 * k + i, e: e! * r!, n: n! * r!, z: z! })),
        ),
      )!;
    for (const [level, interval, base] of [
      [100.1, 0.1, 0],
      [100.3, 0.1, 100],
      [100.3, 0.1, 0],
      [100.2, 0.2, 0],
      [100.5, 0.5, 0],
      [100.05, 0.05, 0],
      [100.15, 0.05, 0.1],
      [100.7, 0.1, 99.9],
    ] as const) {
      const levels = contourLevels(contour(plateau(level), { surface: "s", interval, base }));
      expect(levels.at(-1)).toMatchObject({ level, lines: 1, closed: 1, length: 80 });
      // The lowest is the first level above the foot's: the foot itself is all above it, and has none.
      expect(levels[0]!.level).toBe(Number((99 + interval).toFixed(2)));
      expect(levels).toHaveLength(Math.round((level - 99) / interval));
    }
  });

  test("lines of different levels never cross", () => {
    fc.assert(
      fc.property(scene, (all) => {
        const places = all.slice(0, 14);
        const s = surfaceOf(places.map(([e, n, z], i) => ({ number: i, e, n, z })));
        if (!s) return;
        const c = contour(s, { surface: "s", interval: 1, base: 0.5 });
        const segments: [number, number, number, number, number][] = [];
        for (let k = 0; k < c.level.length; k++)
          for (let i = c.starts[k]!; i < c.starts[k + 1]! - 1; i++)
            segments.push([c.xy[2 * i]!, c.xy[2 * i + 1]!, c.xy[2 * i + 2]!, c.xy[2 * i + 3]!, c.level[k]!]);
        let crossings = 0;
        for (let i = 0; i < segments.length; i++)
          for (let k = i + 1; k < segments.length; k++) {
            const [a, b] = [segments[i]!, segments[k]!];
            if (a[4] === b[4]) continue;
            if (
              side(a[0], a[1], a[2], a[3], b[0], b[1]) * side(a[0], a[1], a[2], a[3], b[2], b[3]) < 0 &&
              side(b[0], b[1], b[2], b[3], a[0], a[1]) * side(b[0], b[1], b[2], b[3], a[2], a[3]) < 0
            )
              crossings++;
          }
        expect(crossings).toBe(0);
      }),
      { numRuns: 40 },
    );
  });

  test("labels stand on index contours, read upright and keep apart", () => {
    const rows: Row[] = [];
    for (let i = 0; i <= 20; i++)
      for (let j = 0; j <= 20; j++)
        rows.push({ number: rows.length, e: i * 10, n: j * 10, z: 0.05 * i * 10 + 6 * Math.sin(j / 4) });
    const c = contour(surfaceOf(rows)!, { surface: "s", interval: 0.5, index: 4 });
    const labels = labelContours(c, 60, 2);
    expect(labels.length).toBeGreaterThan(5);
    for (const [i, l] of labels.entries()) {
      expect(Math.abs(Number(l.text) % 2)).toBe(0);
      expect(Math.abs(l.angle)).toBeLessThanOrEqual(Math.PI / 2);
      for (const m of labels.slice(i + 1)) expect(Math.hypot(l.x - m.x, l.y - m.y)).toBeGreaterThan(2 * 2);
    }
  });

  test("a contour that runs a thousand times too far is labelled so many times, and holds nobody", () => {
    const far = {
      surface: "g",
      interval: 1,
      origin: [0, 0] as [number, number],
      xy: Float64Array.of(0, 0, 1e12, 0),
      sides: Int32Array.of(-1, -1),
      starts: Uint32Array.of(0, 2),
      level: Float64Array.of(5),
      index: Uint8Array.of(1),
      closed: Uint8Array.of(0),
    };
    const labels = labelContours(far, 60, 2);
    expect(labels).toHaveLength(2000);
    expect(labels[0]!.x).toBeGreaterThan(0);
    expect(labels.at(-1)!.x).toBeLessThan(1e12);
  });

  test("an interval that would make too many levels is refused", () => {
    const s = surfaceOf([
      { number: 1, e: 0, n: 0, z: 0 },
      { number: 2, e: 9, n: 0, z: 900 },
      { number: 3, e: 0, n: 9, z: 5 },
    ])!;
    expect(() => contour(s, { surface: "s", interval: 0.001 })).toThrow("choose a larger interval");
  });
});

describe("the level under the cursor", () => {
  test("a plane gives its level, slope and direction of fall; outside there is none", () => {
    const s = surfaceOf(
      [
        [0, 0],
        [10, 0],
        [0, 10],
        [10, 10],
        [4, 7],
      ].map(([e, n], i) => ({ number: i, e: e! + 500, n: n! + 900, z: 5 + 0.3 * e! + 0.4 * n! })),
    )!;
    const reader = new SurfaceReader(s);
    const u = reader.at(503, 905)!;
    expect(u.level).toBeCloseTo(5 + 0.9 + 2, 10);
    expect(u.slope).toBeCloseTo(0.5, 12);
    expect(u.fall).toBeCloseTo(Math.atan2(-0.3, -0.4) + 2 * Math.PI, 12);
    expect(reader.at(511, 905)).toBeUndefined();
    expect(reader.at(500, 900)).toMatchObject({ level: 5 });
  });
});
