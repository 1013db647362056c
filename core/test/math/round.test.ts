import fc from "fast-check";
import { formatFixed, formatGrouped, plainNumber } from "../../src/math/round";
import { readLength, unitFactor, METRES } from "../../src/math/units";
import { decimalSteps } from "../../src/math/decimal";
import { Sum } from "../../src/math/sum";
import { editDistance, nearestName, wildcard } from "../../src/math/words";

describe("rounding", () => {
  test.each([
    [1.005, 2, "1.01"],
    [-1.005, 2, "-1.01"],
    [-0.0003, 3, "0.000"],
    [0.0005, 3, "0.001"],
    [49.9995, 3, "50.000"],
    [-49.9995, 3, "-50.000"],
    [612345.6785, 3, "612345.679"],
    [7.00049999, 3, "7.000"],
    [0, 0, "0"],
    [-0, 2, "0.00"],
    [0.5, 0, "1"],
    [-0.5, 0, "-1"],
    [1e21, 1, "1000000000000000000000.0"],
    [5e-324, 3, "0.000"],
    [9.995, 2, "10.00"],
    [NaN, 3, ""],
  ])("%d with %d decimals is %s", (x, d, text) => expect(formatFixed(x, d)).toBe(text));

  test("is the nearest of its neighbours, by exact decimals", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e12, max: 1e12 }),
        fc.integer({ min: 0, max: 6 }),
        fc.integer({ min: 0, max: 6 }),
        (k, d, more) => {
          const x = Number(`${k}e-${d + more}`);
          const ten = 10n ** BigInt(more),
            big = BigInt(k < 0 ? -k : k);
          const half = (2n * big + ten) / (2n * ten);
          const want = half === 0n ? 0n : k < 0 ? -half : half;
          expect(BigInt(formatFixed(x, d).replace(".", ""))).toBe(want);
        },
      ),
    );
  });

  test.each([
    [0.1640416666666667, "0.164042"],
    [-0, "0"],
    [0.3 - 0.1 - 0.2, "0"],
    [100, "100"],
    [12.5, "12.5"],
    [0.1 + 0.2, "0.3"],
    [6371000, "6371000"],
    [-0.25, "-0.25"],
    [1e-7, "1e-7"],
    [5012345.1234567, "5012345.123457"],
  ])("%d as people read and type it is %s", (x, text) => expect(plainNumber(x)).toBe(text));

  test("groups of three", () => expect(formatGrouped(1234567.891, 1)).toBe("1\u202f234\u202f567.9"));
});

describe("lengths typed with a unit", () => {
  test.each([
    ["1.5m", "m", 1.5],
    ["1.5 m", "ft", 1.5 / 0.3048],
    ["4.25 ft", "m", 1.2954],
    ["4.25ftUS", "ftUS", 4.25],
    ["250mm", "m", 0.25],
    ["12", "ft", 12],
    ["-0.4", "m", -0.4],
    ["5' 3 1/2\"", "ft", 5 + 3.5 / 12],
    ["5' 3\"", "m", 5.25 * 0.3048],
    ["6'", "ftUS", 6],
    // Five feet and eleven sixteenths of an inch.
    ["5' 11/16\"", "ft", 5 + 11 / 16 / 12],
    ["-2' 6.5\"", "ft", -(2 + 6.5 / 12)],
    ["5' 0 1/8\"", "ft", 5 + 1 / 96],
  ] as const)("%s in a job in %s", (text, unit, value) => expect(readLength(text, unit)).toBeCloseTo(value, 12));

  test.each(["", "abc", "1,5", "5' 3 1/0\"", "5' 1/00\"", "5' 3 1\"", "5' /2\"", "1e3", "NaN", "Infinity"])(
    "“%s” is none",
    (text) => expect(readLength(text, "m")).toBeUndefined(),
  );

  test("the survey foot is its exact ratio", () => {
    expect(METRES.ftUS).toBe(1200 / 3937);
    expect(unitFactor("ft", "ft")).toBe(1);
  });
});

test("a compensated sum keeps what a plain one loses", () => {
  const s = new Sum();
  for (const x of [1e16, 1, -1e16, 1]) s.add(x);
  expect(s.value).toBe(2);
});

test("steps from a base are the doubles nearest to the decimals meant", () => {
  expect([1, 2, 3].map(decimalSteps(100, 0.1))).toEqual([100.1, 100.2, 100.3]);
  expect([0, 1, 7].map(decimalSteps(-0.3, 0.1))).toEqual([-0.3, -0.2, 0.4]);
  expect(decimalSteps(1e-7, 1e-7)(3)).toBe(4e-7);
  const decimal = fc.tuple(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 0, max: 4 }));
  fc.assert(
    fc.property(decimal, decimal, fc.integer({ min: -1000, max: 1000 }), ([b, p], [s, q], k) => {
      // Whole numbers of ten-thousandths are exact.
      const whole = b * 10 ** (4 - p) + k * s * 10 ** (4 - q);
      expect(decimalSteps(Number(`${b}e-${p}`), Number(`${s}e-${q}`))(k) + 0).toBe(Number(`${whole}e-4`) + 0);
    }),
  );
});

test("words: wildcards, distance, nearest name", () => {
  expect(wildcard("TOP*")("topside")).toBe(true);
  // A pattern of many stars is decided at once.
  expect(wildcard("*a".repeat(40) + "*b")("a".repeat(5000))).toBe(false);
  fc.assert(
    fc.property(
      fc.string({ unit: fc.constantFrom("a", "B", "*", "?", ".") }),
      fc.string({ unit: fc.constantFrom("a", "b", "A", ".", "é") }),
      (pattern, text) => {
        const source = pattern.replaceAll(".", "\\.").replace(/\*+/g, ".*").replaceAll("?", ".");
        expect(wildcard(pattern)(text)).toBe(new RegExp(`^${source}$`, "is").test(text));
      },
    ),
    { numRuns: 5000 },
  );
  // What follows a later star is not looked for before it.
  expect(wildcard("*ab*a")("abb")).toBe(false);
  expect(wildcard("*b*bc")("bc")).toBe(false);
  expect(wildcard("T?P")("TOP")).toBe(true);
  expect(wildcard("T.P")("TOP")).toBe(false);
  expect(editDistance("SOPT", "SPOT")).toBe(2);
  expect(nearestName("SOPT", ["WALL", "SPOT", "TREE"])).toBe("SPOT");
  expect(nearestName("PYLON", ["WALL", "SPOT", "TREE"])).toBeUndefined();
});
