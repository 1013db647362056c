import fc from "fast-check";
import { readTypedLength, readTypedNumber } from "../../src/math/typed";
import { METRES, type Unit } from "../../src/math/units";

const FOOT = 0.3048,
  US = 1200 / 3937;
const read = (text: string, unit: Unit = "m") => {
  const r = readTypedLength(text, unit);
  return "value" in r ? r.value : r.problem;
};

describe("lengths as people type them", () => {
  test.each<[string, Unit, number]>([
    ["1.5", "m", 1.5],
    ["1,5", "m", 1.5],
    [",5", "m", 0.5],
    ["-0,25 m", "m", -0.25],
    ["−2 cm", "m", -0.02],
    ["15 mm", "ft", 0.015 / FOOT],
    ["0.2 km", "m", 200],
    ["18 in", "m", 1.5 * FOOT],
    ['63 1/2"', "m", (63.5 / 12) * FOOT],
    ["5'-3 1/2\"", "m", (5 + 3.5 / 12) * FOOT],
    ["5' 3 1/2\"", "ftUS", 5 + 3.5 / 12],
    ["5′ 6″", "ft", 5.5],
    ["5' 6\"", "ft", 5.5],
    ["5ft 3in", "m", 5.25 * FOOT],
    ["5 feet 3 inches", "m", 5.25 * FOOT],
    ["2 yd", "m", 6 * FOOT],
    ["1 1/2 ft", "m", 1.5 * FOOT],
    ['1/4"', "ft", 1 / 48],
    ["-5' 6''", "ft", -5.5],
    ["3 ftUS", "m", 3 * US],
    ["10 m", "ftUS", 10 / US],
  ])("%s in a job in %s", (text, unit, value) => expect(read(text, unit)).toBeCloseTo(value, 12));

  test.each([
    ["high", /“high” is no length/],
    ["", /is no length/],
    ["5' 3", /the inches want their sign/],
    ["1,234.5", /more than one point or comma/],
    ["1.234,5 m", /more than one point or comma/],
    ['5/0"', /divides by nothing/],
    ["3 in 5 ft", /is no length/],
    ["2 m 3 cm", /is no length/],
    ["5'-", /is no length/],
    ["1 2 3", /is no length/],
    ["--1", /is no length/],
    ["1e3", /is no length/],
    ["9".repeat(100), /is no length/],
  ])("%s: says why not", (text, why) => expect(read(text)).toMatch(why));

  test("a number with a unit is what the unit says, with point or comma, in any job", () => {
    const sizes = { m: 1, mm: 0.001, cm: 0.01, ft: FOOT, ftUS: US, yd: 3 * FOOT, in: FOOT / 12 };
    fc.assert(
      fc.property(
        fc.integer({ min: -1_000_000, max: 1_000_000 }),
        fc.constantFrom(...(Object.keys(sizes) as (keyof typeof sizes)[])),
        fc.constantFrom<Unit>("m", "ft", "ftUS"),
        fc.constantFrom(".", ","),
        (thousandths, unit, job, mark) => {
          const written = `${(thousandths / 1000).toFixed(3).replace(".", mark)} ${unit}`;
          expect(read(written, job)).toBeCloseTo(((thousandths / 1000) * sizes[unit]) / METRES[job], 9);
        },
      ),
    );
  });

  test("any text at all gives a finite length or a sentence", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(..."0123456789 .,'\"-/mftinydus") }), (text) => {
        const r = readTypedLength(text, "m");
        if ("value" in r) expect(Number.isFinite(r.value)).toBe(true);
        else expect(r.problem).toMatch(/[.]$/);
      }),
      { numRuns: 2000 },
    );
  });
});

test("plain numbers: point or comma, nothing else", () => {
  const values = ["1.5", "1,5", "-3", "−2,25", ".5", "1e-3", "12."].map((t) => readTypedNumber(t));
  expect(values).toEqual([1.5, 1.5, -3, -2.25, 0.5, 0.001, 12].map((value) => ({ value })));
  for (const text of ["", "a", "1.2.3", "1,234.5", "1e999", "0x10", "Infinity"])
    expect(readTypedNumber(text)).toHaveProperty("problem");
});
