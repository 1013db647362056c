/** Every way of constructing a point, against another way of working it out: complex numbers, and what must hold of it. */
import fc from "fast-check";
import type { By, Ray } from "../../src/construct/model";
import { wayOf, WAY_NAMES } from "../../src/construct/model";
import { solve, type InPlan, type Sources } from "../../src/construct/solve";

/** e + i·n as a complex number: turning clockwise by a is multiplying by exp(−i·a), to the right is by −i. */
type C = readonly [number, number];
const add = (a: C, b: C): C => [a[0] + b[0], a[1] + b[1]],
  sub = (a: C, b: C): C => [a[0] - b[0], a[1] - b[1]],
  mul = (a: C, b: C): C => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]],
  by = (k: number, a: C): C => [k * a[0], k * a[1]],
  over = (a: C, b: C): C => {
    const size = b[0] * b[0] + b[1] * b[1];
    return by(1 / size, mul(a, [b[0], -b[1]]));
  },
  size = (a: C) => Math.hypot(...a),
  rightOf = (a: C): C => mul(a, [0, -1]),
  clockwise = (degrees: number): C => [Math.cos((degrees * Math.PI) / 180), -Math.sin((degrees * Math.PI) / 180)],
  NORTH: C = [0, 1];

const from = (at: Record<string, C>): Sources => ({
  at: (ref) => at[ref],
  rowOf: () => -1,
  way: () => "no lines here",
  line: () => "no lines here",
});
const positions = (by: By, at: Record<string, C>): InPlan[] => {
  const met = solve(by, from(at));
  if (!("at" in met)) throw new Error(JSON.stringify(met));
  return met.at;
};
const only = (by: By, at: Record<string, C>): InPlan => {
  const all = positions(by, at);
  expect(all).toHaveLength(1);
  return all[0]!;
};
const why = (by: By, at: Record<string, C>) => {
  const met = solve(by, from(at));
  return "at" in met ? met.at : "why" in met ? met.why : "missing" in met ? `${met.missing} is missing` : "two";
};

/** Coordinates as jobs have them: near nothing, and of national grids. */
const origin = fc.constantFrom<C>([0, 0], [3200, 7100], [612_345.678, 5_712_345.678]),
  near = fc.integer({ min: -200_000, max: 200_000 }).map((x) => x / 1000),
  plan = fc.tuple(near, near),
  amount = fc.integer({ min: -50_000, max: 50_000 }).map((x) => x / 1000),
  angle = fc.integer({ min: -720_000, max: 720_000 }).map((x) => x / 1000);
/** Three positions, of which the first two are apart. */
const three = fc
  .record({ o: origin, a: plan, b: plan, c: plan })
  .filter(({ a, b }) => size(sub(b, a)) > 0.5)
  .map(({ o, a, b, c }) => ({ a: add(o, a), b: add(o, b), c: add(o, c) }));
/** Of what size rounding may be. */
const close = (x: C, y: C, scale = 1) => expect(size(sub(x, y))).toBeLessThan(1e-8 * scale);

test("each way is told from all others by what it names", () => {
  const examples: By[] = [
    { at: [1, 2] },
    { from: "a", azimuth: 3, distance: 4 },
    { from: "a", to: "b", beyond: 3 },
    { from: "a", to: "b", forward: 3 },
    { from: "a", to: "b", angle: 3, distance: 4 },
    { between: ["a", "b"], ratio: 0.5 },
    { between: ["a", "b"], distance: 4 },
    { foot: "c", on: ["a", "b"] },
    { mirror: "c", on: ["a", "b"] },
    { meet: [{ from: "a", azimuth: 1 }, { from: "b", distance: 2 }] }, // prettier-ignore
    { centre: ["a", "b", "c"] },
    { fourth: ["a", "b", "c"] },
    { rectangle: ["a", "b"], width: 2, corner: 3 },
    { line: { code: "KERB" }, station: 3 },
    { tangents: { code: "KERB" }, piece: "c" },
  ];
  expect(examples.map(wayOf)).toEqual(WAY_NAMES);
});

test("along, aside and turned from two points: complex numbers say the same, at any coordinates", () =>
  fc.assert(
    fc.property(three, amount, amount, angle, ({ a, b }, along, right, turn) => {
      const at = { a, b },
        ab = sub(b, a),
        u = by(1 / size(ab), ab),
        aside = add(by(along, u), by(right, rightOf(u)));
      close(only({ from: "a", to: "b", forward: along, right }, at), add(a, aside));
      close(only({ from: "a", to: "b", beyond: along, right }, at), add(b, aside));
      close(only({ from: "a", to: "b", forward: along }, at), add(a, by(along, u)));
      close(only({ from: "a", to: "b", angle: turn, distance: along }, at), add(a, by(along, mul(u, clockwise(turn)))));
      close(only({ from: "a", azimuth: turn, distance: along }, at), add(a, by(along, mul(NORTH, clockwise(turn)))));
      close(only({ between: ["a", "b"], distance: along }, at), add(a, by(along, u)));
      close(only({ between: ["a", "b"], ratio: along }, at), add(a, by(along, ab)), 100);
      close(only({ rectangle: ["a", "b"], width: right, corner: 3 }, at), add(b, by(right, rightOf(u))));
      close(only({ rectangle: ["a", "b"], width: right, corner: 4 }, at), add(a, by(right, rightOf(u))));
    }),
  ));

test("along the axes nothing is lost to trigonometry", () => {
  const at = { a: [612_345.678, 5_712_345.678] as C };
  expect([0, 90, 180, 270, 360, -90].map((azimuth) => only({ from: "a", azimuth, distance: 0.25 }, at))).toEqual([
    [612_345.678, 5_712_345.928],
    [612_345.928, 5_712_345.678],
    [612_345.678, 5_712_345.428],
    [612_345.428, 5_712_345.678],
    [612_345.678, 5_712_345.928],
    [612_345.428, 5_712_345.678],
  ]);
});

test("a foot is where the way to it is square to the line; the fourth corner makes both sides parallel", () =>
  fc.assert(
    fc.property(three, ({ a, b, c }) => {
      const at = { a, b, c },
        foot = only({ foot: "c", on: ["a", "b"] }, at),
        // The real part of (c − a)/(b − a) is the share of the way.
        share = over(sub(c, a), sub(b, a))[0];
      close(foot, add(a, by(share, sub(b, a))), 100);
      close(only({ fourth: ["a", "b", "c"] }, at), add(a, sub(c, b)));
      // Mirroring turns the share of the way along into its conjugate.
      const whole = over(sub(c, a), sub(b, a));
      close(only({ mirror: "c", on: ["a", "b"] }, at), add(a, mul([whole[0], -whole[1]], sub(b, a))), 100);
    }),
  ));

test("a centre is as far from all three; of three on one line there is none", () => {
  fc.assert(
    fc.property(three, ({ a, b, c }) => {
      const at = { a, b, c },
        met = solve({ centre: ["a", "b", "c"] }, from(at)),
        // Half the sine of the angle between the sides, times their lengths: the triangle's area.
        area = Math.abs(mul(sub(b, a), [sub(c, a)[0], -sub(c, a)[1]])[1]) / 2;
      fc.pre(area > 1);
      expect(met).toHaveProperty("at");
      const centre = (met as { at: InPlan[] }).at[0]!,
        radii = [a, b, c].map((x) => size(sub(x, centre)));
      expect(Math.max(...radii) - Math.min(...radii)).toBeLessThan(1e-12 * radii[0]! ** 2 + 1e-7);
    }),
  );
  const line = { a: [612_000.1, 5_700_000.3] as C, b: [612_000.2, 5_700_000.6] as C, c: [612_000.4, 5_700_001.2] as C };
  expect(why({ centre: ["a", "b", "c"] }, line)).toBe("its three points are on one line");
  expect(why({ centre: ["a", "a", "c"] }, line)).toBe("its three points are on one line");
});

describe("where two meet", () => {
  /** How far a position is from a ray that it should be on. */
  function misses(x: C, ray: Ray, at: Record<string, C>): number {
    if ("distance" in ray) return Math.abs(size(sub(x, at[ray.from]!)) - ray.distance);
    const [p, u] =
      "azimuth" in ray
        ? [at[ray.from]!, mul(NORTH, clockwise(ray.azimuth))]
        : [at[ray.line[0]]!, sub(at[ray.line[1]]!, at[ray.line[0]]!)];
    // The imaginary part of (x − p)/u, times its size, is how far to the left x is.
    return Math.abs(over(sub(x, p), u)[1] * size(u) + ("line" in ray ? (ray.right ?? 0) : 0));
  }
  const ray = (p: string, q: string): fc.Arbitrary<Ray> =>
    fc.oneof(
      angle.map((azimuth) => ({ from: p, azimuth })),
      amount.filter((d) => d > 0).map((distance) => ({ from: p, distance })),
      amount.map((right): Ray => ({ line: [p, q], right })),
    );

  test("every position is on both, and two of one kind come whichever is named first", () =>
    fc.assert(
      fc.property(three, ray("a", "b"), ray("c", "b"), ({ a, b, c }, first, second) => {
        fc.pre(size(sub(b, c)) > 0.5 && size(sub(a, c)) > 0.5);
        const at = { a, b, c },
          met = solve({ meet: [first, second] }, from(at)),
          turned = solve({ meet: [second, first] }, from(at));
        if (!("at" in met)) {
          expect(turned).not.toHaveProperty("at");
          return;
        }
        const far = Math.max(1, ...met.at.map((x) => size(sub(x, a))));
        // Lines nearly parallel, and circles that nearly touch, meet where a hair decides.
        for (const x of met.at)
          for (const r of [first, second]) expect(misses(x, r, at)).toBeLessThan(1e-7 * far + 1e-12 * far ** 2);
        expect((turned as { at: InPlan[] }).at).toHaveLength(met.at.length);
      }),
    ));

  const at = { a: [612_300, 5_712_300] as C, b: [612_340, 5_712_330] as C, c: [612_340, 5_712_300] as C };
  test("two circles: both positions, one where they touch within rounding, none apart or within", () => {
    const circles = (p: number, q: number) => why({ meet: [{ from: "a", distance: p }, { from: "b", distance: q }] }, at); // prettier-ignore
    // 30, 40, 50: square at both, mirrored at the line between.
    const both = circles(40, 30) as InPlan[];
    expect(both).toHaveLength(2);
    for (const x of both) close([size(sub(x, at.a)), size(sub(x, at.b))], [40, 30]);
    close(
      both.find((x) => x[1] < 5_712_301)!,
      [612_340, 5_712_300],
    );
    expect(circles(20, 30)).toHaveLength(1);
    close((circles(20, 30) as InPlan[])[0]!, [612_316, 5_712_312]);
    close((circles(80, 30) as InPlan[])[0]!, [612_364, 5_712_348]);
    close((circles(30, 80) as InPlan[])[0]!, [612_276, 5_712_282]);
    expect(circles(20 - 1e-6, 30)).toBe("its circles are apart");
    expect(circles(20 + 1e-6, 30)).toHaveLength(2);
    expect(circles(80 + 1e-6, 30)).toBe("one of its circles lies within the other");
    expect(why({ meet: [{ from: "a", distance: 5 }, { from: "a", distance: 6 }] }, at)).toBe("its circles have one centre"); // prettier-ignore
  });

  test("a line and a circle: two, one where it touches, none beside it; parallels never", () => {
    const meet = (first: Ray, second: Ray) => why({ meet: [first, second] }, at);
    const round: Ray = { from: "c", distance: 24 };
    // The line from a to b passes c at 24 exactly.
    expect(meet({ line: ["a", "b"] }, round)).toHaveLength(1);
    expect(meet({ line: ["a", "b"], right: 1 }, round)).toHaveLength(2);
    expect(meet({ line: ["a", "b"], right: -1 }, round)).toBe("its line passes the circle by");
    expect(meet({ from: "a", azimuth: 10 }, { from: "b", azimuth: 190 })).toBe("its lines are parallel");
    expect(meet({ line: ["a", "a"] }, round)).toBe("two of its points stand at one position");
    expect(meet({ from: "x", azimuth: 1 }, round)).toBe("x is missing");
    expect(meet(round, { line: ["a", "x"] })).toBe("x is missing");
    // A thousandth of a degree apart they meet far off, and truly.
    const [far] = meet({ from: "a", azimuth: 0 }, { from: "c", azimuth: 359.999 }) as InPlan[];
    expect(far![1] - 5_712_300).toBeCloseTo(40 / Math.tan((0.001 * Math.PI) / 180), 2);
  });
});

test("points at one position, and points that are not there, are said", () => {
  const at = { a: [5, 5] as C, b: [5, 5] as C };
  const same = "two of its points stand at one position";
  expect(why({ from: "a", to: "b", forward: 1 }, at)).toBe(same);
  expect(why({ between: ["a", "b"], distance: 1 }, at)).toBe(same);
  expect(why({ foot: "a", on: ["a", "b"] }, at)).toBe(same);
  expect(why({ mirror: "a", on: ["a", "b"] }, at)).toBe(same);
  expect(why({ rectangle: ["a", "b"], width: 1, corner: 4 }, at)).toBe(same);
  expect(why({ between: ["a", "x"], ratio: 0.5 }, at)).toBe("x is missing");
  expect(only({ between: ["a", "b"], ratio: 0.5 }, at)).toEqual([5, 5]);
});
