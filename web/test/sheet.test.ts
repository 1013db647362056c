import fc from "fast-check";
import { farAt, leastOf, spacingOfContours, thinned } from "../sheet/thinning";
import { denominator, fitTo, isWhole, MARGIN, toPixel, toPlan, zoomAt } from "../sheet/camera";
import { pick } from "../sheet/pick";
import { Gesture } from "../sheet/gesture";
import { onSheet } from "../lib/theme";
import { EMPTY_VIEW, type LineShown, type View } from "../lib/view";
import { stateOf } from "../../core/test/job";

const view = fc.record({
  e: fc.double({ min: -1e6, max: 1e6, noNaN: true }),
  n: fc.double({ min: -1e7, max: 1e7, noNaN: true }),
  scale: fc.double({ min: 0.01, max: 500, noNaN: true }),
  width: fc.integer({ min: 300, max: 2000 }),
  height: fc.integer({ min: 300, max: 1500 }),
});

describe("the window onto the plan", () => {
  test("pixel and place are each other's inverse; north is up and east is right", () => {
    fc.assert(
      fc.property(view, fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 0, max: 1500 }), (v, x, y) => {
        const [e, n] = toPlan(v, x, y);
        const [bx, by] = toPixel(v, e, n);
        expect(Math.abs(bx - x)).toBeLessThan(1e-4);
        expect(Math.abs(by - y)).toBeLessThan(1e-4);
        expect(toPixel(v, e + 10 / v.scale, n)[0]).toBeGreaterThan(bx);
        expect(toPixel(v, e, n + 10 / v.scale)[1]).toBeLessThan(by);
      }),
    );
  });

  test("zooming keeps the place under the cursor where it is", () => {
    fc.assert(
      fc.property(
        view,
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 0, max: 300 }),
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        (v, x, y, factor) => {
          const [e, n] = toPlan(v, x, y);
          const after = zoomAt(v, x, y, factor);
          const [ax, ay] = toPixel(after, e, n);
          expect(Math.abs(ax - x)).toBeLessThan(1e-3);
          expect(Math.abs(ay - y)).toBeLessThan(1e-3);
          expect(after.scale).toBeCloseTo(v.scale * factor, 9);
        },
      ),
    );
  });

  test("fitting shows the whole rectangle inside the margin; a single place at 1:500", () => {
    fc.assert(
      fc.property(
        view,
        fc.double({ min: 1, max: 5000, noNaN: true }),
        fc.double({ min: 1, max: 5000, noNaN: true }),
        (v, w, h) => {
          const box = { minE: 100, maxE: 100 + w, minN: 200, maxN: 200 + h };
          const fitted = fitTo(v, box, 1);
          for (const [e, n] of [
            [box.minE, box.minN],
            [box.maxE, box.maxN],
          ] as const) {
            const [x, y] = toPixel(fitted, e, n);
            expect(x).toBeGreaterThan(40);
            expect(x).toBeLessThan(v.width - 40);
            expect(y).toBeGreaterThan(40);
            expect(y).toBeLessThan(v.height - 40);
          }
        },
      ),
    );
    const one = fitTo({ e: 0, n: 0, scale: 1, width: 800, height: 600 }, { minE: 5, maxE: 5, minN: 6, maxN: 6 }, 1);
    expect(denominator(one, 1)).toBeCloseTo(500, 0);
    expect([one.e, one.n]).toEqual([5, 6]);
  });
});

describe("pointing", () => {
  const run = (act: (t: Gesture) => void, draws = false) => {
    const told: string[] = [];
    const gesture = new Gesture({
      pan: (dx, dy) => told.push(`pan ${dx} ${dy}`),
      box: (c) => told.push(c ? `box ${c.join(" ")}` : "box gone"),
      click: (x, y, add) => told.push(`click ${x} ${y}${add ? " add" : ""}`),
      boxed: (c) => told.push(`boxed ${c.join(" ")}`),
      draws: () => draws,
      drawn: (c) => told.push(`drawn ${c.join(" ")}`),
    });
    act(gesture);
    return { told, state: gesture.state.at };
  };

  test("where a tool draws, dragging draws a line and the sheet stays", () => {
    const drag = (t: Gesture) => {
      t.down(10, 10, false);
      t.move(30, 20);
      t.up(40, 25);
    };
    expect(run(drag, true)).toEqual({ told: ["drawn 10 10 30 20", "drawn 10 10 40 25"], state: "idle" });
    expect(run(drag).told).toEqual(["pan 20 10"]);
  });

  test("a press and a lift is a click, also with a tremble of the hand", () => {
    expect(
      run((t) => {
        t.down(10, 10, false);
        t.move(12, 11);
        t.up(12, 11);
      }),
    ).toEqual({ told: ["click 12 11"], state: "idle" });
  });

  test("dragging pans; with Shift it draws a box that ends as a choice", () => {
    expect(
      run((t) => {
        t.down(10, 10, false);
        t.move(20, 10);
        t.move(25, 14);
        t.up(25, 14);
      }).told,
    ).toEqual(["pan 10 0", "pan 5 4"]);
    expect(
      run((t) => {
        t.down(10, 10, true);
        t.move(30, 40);
        t.up(31, 41);
      }).told,
    ).toEqual(["box 10 10 30 40", "box gone", "boxed 10 10 31 41"]);
  });

  test("moving without a press does nothing; Esc leaves a box", () => {
    expect(run((t) => t.move(50, 50)).told).toEqual([]);
    expect(
      run((t) => {
        t.down(0, 0, true);
        t.move(30, 30);
        t.cancel();
        t.up(30, 30);
      }),
    ).toEqual({ told: ["box 0 0 30 30", "box gone"], state: "idle" });
  });
});

describe("what is under the cursor", () => {
  const t = stateOf([
    { number: 1, e: 0, n: 0 },
    { number: 2, e: 10, n: 0 },
    { number: 3, e: 10, n: 10 },
  ]).points;
  const lines: View = {
    ...EMPTY_VIEW,
    lines: [{ code: "HEDGE" } as LineShown],
    chains: {
      xyz: Float64Array.of(0, 0, 0, 10, 0, 0, 10, 10, 0),
      shot: Int32Array.of(0, 1, 2),
      starts: Uint32Array.of(0, 3),
    },
  };
  const all = { points: true, lines: true };

  test("the nearest point within reach, else the nearest line, else nothing", () => {
    expect(pick(t, lines, 0.3, 0.2, 1, all)).toEqual({ point: 0 });
    expect(pick(t, lines, 9.4, 0.1, 1, all)).toEqual({ point: 1 });
    expect(pick(t, lines, 5, 0.4, 1, all)).toEqual({ line: 0 });
    expect(pick(t, lines, 5, 4, 1, all)).toBeUndefined();
    expect(pick(t, lines, 0.3, 0.2, 1, { points: false, lines: true })).toEqual({ line: 0 });
    expect(pick(t, lines, 5, 0.4, 1, { points: true, lines: false })).toBeUndefined();
  });

  test("a deleted point is not there", () => {
    expect(pick({ ...t, deleted: Uint8Array.of(1, 0, 0) }, EMPTY_VIEW, 0.3, 0.2, 1, all)).toBeUndefined();
  });
});

test("survey colours keep their hue on the dark sheet and grow light enough to read", () => {
  const [r, g, b] = onSheet("#861d4e", true);
  expect(r).toBeGreaterThan(b);
  expect(b).toBeGreaterThan(g);
  expect(Math.min(r, g, b)).toBeGreaterThan(0.37);
  expect(onSheet("#ff0080", false)).toEqual([1, 0, 128 / 255]);
});

describe("what is seen from far away", () => {
  test("is as crowded as area by length says", () => {
    // Eleven lines of 100, 10 apart: an area of 100 × 100.
    const starts = Uint32Array.from({ length: 12 }, (_, l) => 2 * l),
      xy = Float64Array.from(
        { length: 44 },
        (_, k) => [0, 10 * Math.floor(k / 4), 100, 10 * Math.floor(k / 4)][k % 4]!,
      );
    const spacing = spacingOfContours({ xy, starts });
    expect(spacing).toBeCloseTo(10_000 / 1100, 12);
    expect(spacingOfContours({ xy: new Float64Array(0), starts: new Uint32Array(1) })).toBe(Infinity);
    const all = { lines: Infinity, contours: spacing };
    expect([farAt(all, 4.01 / spacing), farAt(all, 3.99 / spacing)].map((f) => f.contours)).toEqual([false, true]);
    expect(farAt({ lines: 16, contours: Infinity }, 0.99)).toEqual({ lines: true, contours: false });
    expect(leastOf(all, "contours")).toBeCloseTo((1.5 * spacing) / 4, 12);
  });

  test("a way keeps both ends, and no side but the last is shorter than the least", () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 })), { minLength: 2 }),
        fc.integer({ min: 0, max: 15 }),
        (way, least) => {
          const sides: [number, number][] = [];
          thinned(
            0,
            way.length,
            (k) => way[k]!,
            least,
            (a, b) => sides.push([a, b]),
          );
          expect([sides[0]![0], sides.at(-1)![1]]).toEqual([0, way.length - 1]);
          sides.forEach(([a, b], k) => {
            if (k > 0) expect(a).toBe(sides[k - 1]![1]);
            const long = Math.hypot(way[b]![0] - way[a]![0], way[b]![1] - way[a]![1]);
            if (k < sides.length - 1) expect(long).toBeGreaterThanOrEqual(least);
          });
          if (least === 0) expect(sides).toHaveLength(way.length - 1);
        },
      ),
    ));
});

test("a text stands whole within the window and clear of its margin, turned or not; one too large for it is written", () => {
  const view = { e: 0, n: 0, scale: 1, width: 400, height: 300 };
  fc.assert(
    fc.property(
      fc.integer({ min: -50, max: 450 }),
      fc.integer({ min: -50, max: 350 }),
      fc.integer({ min: 1, max: 100 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: -314, max: 314 }).map((hundredths) => hundredths / 100),
      (x, y, w, h, angle) => {
        const corners = [
          [-w, -h],
          [w, -h],
          [w, h],
          [-w, h],
        ].map(([u, v]) => [
          x + u! * Math.cos(angle) - v! * Math.sin(angle),
          y + u! * Math.sin(angle) + v! * Math.cos(angle),
        ]);
        const is = corners.every(([a, b]) => a! >= MARGIN && a! <= 400 && b! >= MARGIN && b! <= 300);
        expect(isWhole(view, x, y, w, h, angle)).toBe(is);
      },
    ),
  );
  expect([isWhole(view, 200, 150, 900, 10), isWhole(view, 2000, 150, 900, 10)]).toEqual([true, false]);
});
