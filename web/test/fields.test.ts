/** What is written into a field is read back as it was; what is wrong is told in a sentence, never read as something else. */
import fc from "fast-check";
import { UNITS } from "@bramble/core";
import { ANGLE_STYLES } from "@bramble/core/math/angles";
import {
  directionReading,
  lengthReading,
  numberReading,
  orNothing,
  textReading,
  type Reading,
} from "../controls/fields/reading";

const value = <T>(reading: Reading<T>, text: string) => {
  const read = reading.read(text);
  return "value" in read ? read.value : read.problem;
};
const finite = fc.integer({ min: -1e9, max: 1e9 }).map((x) => x / 1e5);

test("a length, a number and nothing are read back from what is written of them", () => {
  fc.assert(
    fc.property(finite, fc.constantFrom(...UNITS), (x, unit) => {
      const length = lengthReading(unit),
        number = numberReading(() => true, "a number");
      expect(value(length, length.write(x))).toBeCloseTo(x, 8);
      expect(value(number, number.write(x))).toBeCloseTo(x, 8);
      expect(value(orNothing(number), orNothing(number).write(x))).toBeCloseTo(x, 8);
    }),
  );
  expect(orNothing(numberReading(() => true, "")).write(undefined)).toBe("");
  expect(value(orNothing(numberReading(() => false, "none may be")), "  ")).toBeUndefined();
  expect(value(orNothing(numberReading(() => false, "none may be")), "7")).toBe("none may be");
});

test("lengths take any unit into the job's; one that must be above 0 says so; rounded ones never become 0", () => {
  expect(value(lengthReading("m"), "2 ft")).toBeCloseTo(0.6096, 12);
  expect(value(lengthReading("ft"), "1 m")).toBeCloseTo(1 / 0.3048, 12);
  for (const text of ["0", "-1", "−0.5"])
    expect(value(lengthReading("m", { positive: true }), text)).toBe("A length above 0, such as 0.5 or 2 ft.");
  expect(value(lengthReading("m"), "−0.5")).toBe(-0.5);
  expect(value(lengthReading("m"), "wide")).toContain("“wide” is no length");
  expect(lengthReading("m", { decimals: 3 }).write(1.23456)).toBe("1.235");
  expect(lengthReading("m", { decimals: 3 }).write(0.0001)).toBe("0.0001");
});

test("a direction is degrees from north in every style, to what the style shows", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 359 }), fc.constantFrom(...ANGLE_STYLES), (degrees, style) => {
      const reading = directionReading(style);
      expect(value(reading, reading.write(degrees))).toBeCloseTo(degrees, 3);
    }),
  );
  expect(value(directionReading("bearing-dms"), "nowhere")).toBe("A direction such as N 45°30′ E or 45.5.");
  expect(value(directionReading("azimuth-dms"), "nowhere")).toBe("A direction such as 45.5 or 45°30′.");
});

test("a text is without blanks at its ends, of its pattern, and there where it must be", () => {
  const system = textReading({ pattern: /^EPSG:\d+$/, hint: "Write it as EPSG:25832." });
  expect(value(system, "  EPSG:25832 ")).toBe("EPSG:25832");
  expect(value(system, "25832")).toBe("Write it as EPSG:25832.");
  expect(value(system, " ")).toBe("");
  expect(value(textReading({ must: "A job needs a name." }), " ")).toBe("A job needs a name.");
});
