/** Stationing, angles, packing and units: closed formulas and round trips. */
import fc from "fast-check";
import { areaFactor, METRES, UNITS, volumeFactor } from "../../src/math/units";
import {
  azimuthOf,
  circularMean,
  directionText,
  dmsText,
  fromPackedDms,
  positiveAngle,
  signedAngle,
} from "../../src/math/angles";
import { pack, unpack } from "../../src/math/pack";
import { stationing, straightLine } from "../../src/math/station";

const DEGREE = Math.PI / 180;

describe("stations and offsets", () => {
  const bend = stationing(
    straightLine(
      [
        [0, 0],
        [100, 0],
        [100, 50],
      ],
      1000,
    ),
  )!;
  test.each([
    [1000, 0, 0, 0, 0],
    [1040, 5, 40, -5, 0],
    [1040, -5, 40, 5, 0],
    [1100, 5, 105, 0, 0],
    [1120, 3, 103, 20, 0],
    [990, 2, -10, -2, 10],
    [1155, 0, 100, 55, 5],
  ])("station %d, offset %d", (s, o, e, n, beyond) => {
    const at = bend(s, o);
    expect([at.e, at.n, at.beyond].map((x) => Math.round(x * 1e9) / 1e9 + 0)).toEqual([e, n, beyond]);
  });

  test("on an arc the offset is along the radius and the station along the arc", () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        fc.boolean(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (sweep, right, share, offset) => {
          // A circle of radius 10 about (0, 0), from its north place, clockwise to the right.
          const turn = right ? sweep : -sweep,
            xyz = Float64Array.of(0, 10, NaN, 10 * Math.sin(turn), 10 * Math.cos(turn), NaN);
          const locate = stationing({ xyz, sweep: Float64Array.of(turn), start: 0 })!;
          const at = locate(10 * sweep * share, offset);
          expect(Math.hypot(at.e, at.n)).toBeCloseTo(10 - (right ? offset : -offset), 9);
          expect(at.beyond).toBeLessThan(1e-9);
          if (Math.abs(offset) < 5)
            expect(Math.abs(signedAngle(azimuthOf(0, 0, at.e, at.n) - turn * share))).toBeLessThan(1e-9);
        },
      ),
    ));

  test("a line without length cannot be walked", () =>
    expect(
      stationing(
        straightLine([
          [1, 1],
          [1, 1],
        ]),
      ),
    ).toBeUndefined());
});

describe("angles", () => {
  test("degrees, minutes and seconds carry", () => {
    expect(dmsText(59.9999999 * DEGREE)).toBe("60°00′00″");
    expect(dmsText((12 + 59 / 60 + 59.994 / 3600) * DEGREE, 2)).toBe("12°59′59.99″");
    expect(dmsText((12 + 59 / 60 + 59.9996 / 3600) * DEGREE, 2)).toBe("13°00′00.00″");
    expect(directionText(-1e-12, "azimuth-dms")).toBe("0°00′00″");
  });
  test("what rounds up to the full turn is north again", () => {
    const almost = 2 * Math.PI - 1e-9;
    expect(directionText(almost, "azimuth-degrees")).toBe("0.0000°");
    expect(directionText(almost, "azimuth-gon")).toBe("0.0000 gon");
    expect(directionText(almost, "azimuth-dms")).toBe("0°00′00″");
    expect(directionText(almost, "azimuth-dms", 2)).toBe("0°00′00.00″");
    expect(directionText(359.99994 * DEGREE, "azimuth-degrees")).toBe("359.9999°");
    expect(positiveAngle(-1e-20)).toBe(0);
    fc.assert(
      fc.property(fc.double({ min: -20, max: 20, noNaN: true }), (a) => {
        const x = positiveAngle(a);
        expect(x >= 0 && x < 2 * Math.PI).toBe(true);
      }),
    );
  });
  test("the mean of directions does not depend on their order, and keeps every digit of near ones", () => {
    const angle = fc.double({ min: 0, max: 6.28, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(angle, fc.double({ min: 0.1, max: 9, noNaN: true })), { minLength: 1, maxLength: 9 }),
        fc.infiniteStream(fc.nat(99)),
        (list, order) => {
          const mixed = list
            .map((x) => ({ x, k: order.next().value! }))
            .sort((a, b) => a.k - b.k)
            .map(({ x }) => x);
          const mean = (of: [number, number][]) =>
            circularMean(
              of.map(([a]) => a),
              of.map(([, w]) => w),
            );
          expect(mean(mixed)).toBe(mean(list));
        },
      ),
    );
    // 0.1 and 0.3 about zero, the second three times as heavy.
    expect(signedAngle(circularMean([0.1, 2 * Math.PI - 0.3], [1, 3]))).toBeCloseTo(-0.2, 15);
  });
  test("quadrant bearings", () => {
    expect([30, 150, 210, 330].map((a) => directionText(a * DEGREE, "bearing-dms"))).toEqual([
      "N 30°00′00″ E",
      "S 30°00′00″ E",
      "S 30°00′00″ W",
      "N 30°00′00″ W",
    ]);
    expect(directionText(100 * DEGREE, "azimuth-gon")).toBe("111.1111 gon");
  });
  test("packed degrees are read by their decimal digits", () => {
    expect(fromPackedDms(12.3405)).toBeCloseTo((12 + 34 / 60 + 5 / 3600) * DEGREE, 14);
    expect(fromPackedDms(-0.3)).toBeCloseTo(-0.5 * DEGREE, 14);
    expect(fromPackedDms(359.595999)).toBeCloseTo((359 + 59 / 60 + 59.99 / 3600) * DEGREE, 12);
  });
  test("a mean of directions does not mind where zero lies", () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 8 }),
        (at, parts) => {
          const mean = circularMean(parts.map((p) => positiveAngle(at + p))),
            want = at + parts.reduce((s, p) => s + p, 0) / parts.length;
          expect(Math.abs(signedAngle(mean - want))).toBeLessThan(1e-9);
        },
      ),
    ));
});

test("whatever is packed is unpacked the same, typed arrays as views", () => {
  const value = fc.letrec((tie) => ({
    node: fc.oneof(
      { depthSize: "small" },
      fc.constant(null),
      fc.boolean(),
      fc.double(),
      fc.string(),
      fc.float64Array({ maxLength: 20 }),
      fc.uint8Array({ maxLength: 20 }),
      fc.int32Array({ maxLength: 20 }),
      fc.array(tie("node"), { maxLength: 4 }),
      fc.dictionary(
        fc.string({ minLength: 1 }).filter((k) => k !== "$" && k !== "__proto__"),
        tie("node"),
        { maxKeys: 4 },
      ),
    ),
  })).node;
  const plain = (v: unknown): unknown =>
    ArrayBuffer.isView(v)
      ? [v.constructor.name, ...(v as Float64Array)]
      : Array.isArray(v)
        ? v.map(plain)
        : v && typeof v === "object"
          ? Object.fromEntries(Object.entries(v).map(([k, x]) => [k, plain(x)]))
          : v === 0
            ? 0
            : v;
  fc.assert(fc.property(value, (v) => expect(plain(unpack(pack(v).buffer))).toEqual(plain(v))));
  const long = Array.from({ length: 200 }, (_, i) => `${i}é`);
  expect(unpack(pack({ long, nan: NaN }).buffer)).toEqual({ long, nan: NaN });
});

test("acres and cubic yards by their definition, for each unit", () => {
  for (const unit of UNITS) {
    const foot = unit === "m" ? 0.3048 : METRES[unit];
    expect(areaFactor(unit, "acre") * 43_560 * (foot / METRES[unit]) ** 2).toBeCloseTo(1, 12);
    expect(volumeFactor(unit, "yd") * 27 * (foot / METRES[unit]) ** 3).toBeCloseTo(1, 12);
    expect(areaFactor(unit, "ha") * 10_000).toBeCloseTo(METRES[unit] ** 2, 12);
    expect(areaFactor(unit, "unit")).toBe(1);
  }
});
