/** Figures as people read and type them: areas, volumes and misclosures in their units, directions in their style. */
import fc from "fast-check";
import { ANGLE_STYLES, directionShort, directionText, FULL, readDirection, signedAngle } from "../../src/math/angles";
import { area, areaFigure, volume, volumeFigure } from "../../src/math/figures";
import { metresOf, misclosureDecimals, volumeFactor } from "../../src/math/units";
import { levelPrecisionOf } from "../../src/volumes/precision";
import { balanceWords } from "../../src/volumes/words";

test("an acre-foot is 43,560 cubes of the job's foot, of the international one in a metric job", () => {
  expect(volumeFactor("ftUS", "acft") * 43_560).toBe(1);
  expect(volumeFactor("m", "acft")).toBeCloseTo(1 / 1233.48183754752, 12);
  expect(volume(43_560 * 12.3456, "ft", "acft")).toBe("12.346 ac·ft");
  expect(volumeFigure(-27, "ft", "yd")).toBe("−1.0");
  expect(volume(1.25, "m")).toBe("1.3 m³");
  expect([area(43_560, "ftUS", "acre"), areaFigure(12_345, "m", "ha"), area(2, "ft")]).toEqual([
    "1.000 ac",
    "1.2345",
    "2.0 ft²",
  ]);
});

test("attributes name their units; inches are those of the job's foot", () => {
  expect(metresOf("in", "ft")! * 12).toBe(0.3048);
  expect(metresOf("in", "ftUS")! * 12).toBe(1200 / 3937);
  expect(metresOf("in", "m")! * 12).toBe(0.3048);
  expect([metresOf("mm", "ft"), metresOf("cm", "ft"), metresOf("m³", "m"), metresOf("", "m")]).toEqual([
    0.001,
    0.01,
    undefined,
    undefined,
  ]);
});

test("what is taken for granted is round in each unit, and a misclosure has a decimal more than a coordinate", () => {
  expect(levelPrecisionOf(undefined, "m")).toEqual({ shot: 0.02, common: 0.01 });
  expect(levelPrecisionOf({ shot: 0.05 }, "ftUS")).toEqual({ shot: 0.05, common: 0.03 });
  expect([misclosureDecimals("m"), misclosureDecimals("ft")]).toEqual([4, 3]);
});

test("what must sink is lowered by so much, never raised by less than nothing", () => {
  expect(balanceWords({ raise: -0.28 }, "“design”", "ft")).toBe(
    "Cut and fill are equal with “design” lowered by 0.28 ft",
  );
  expect(balanceWords({ raise: 0.28 }, "it", "m")).toBe("Cut and fill are equal with it raised by 0.280 m");
  expect(balanceWords({ level: 99.5 }, "it", "m")).toBe("Cut and fill are equal at level 99.500 m");
});

test("a direction is read in the style in which it is written, to the second", () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: FULL, noNaN: true }), fc.constantFrom(...ANGLE_STYLES), (a, style) => {
      const read = readDirection(directionText(a, style, 2), style)!;
      expect(Math.abs(signedAngle(read - a))).toBeLessThan(((2 * Math.PI) / 360 / 3600) * 0.02);
    }),
  );
});

test.each<[string, (typeof ANGLE_STYLES)[number], number | undefined]>([
  ["45.5", "azimuth-dms", 45.5],
  ["45,5", "azimuth-degrees", 45.5],
  ["50", "azimuth-gon", 45],
  ["50 gon", "azimuth-dms", 45],
  ["45 30", "bearing-dms", 45.5],
  ["45d30'36\"", "azimuth-dms", 45.51],
  ["N 45 30 E", "bearing-dms", 45.5],
  ["n45°30′w", "azimuth-dms", 314.5],
  ["S 10 E", "bearing-dms", 170],
  ["S 10 W", "bearing-dms", 190],
  ["-30", "azimuth-dms", 330],
  ["N 95 E", "bearing-dms", undefined],
  ["45 75", "azimuth-dms", undefined],
  ["north", "bearing-dms", undefined],
  ["", "azimuth-dms", undefined],
  ["1".repeat(50), "azimuth-dms", undefined],
])("“%s” in %s is %p°", (text, style, degrees) => {
  const read = readDirection(text, style);
  if (degrees === undefined) expect(read).toBeUndefined();
  else expect((read! / FULL) * 360).toBeCloseTo(degrees, 9);
});

test("in short a direction is a whole degree, and never 360 of them", () => {
  const at = (degrees: number) => ANGLE_STYLES.map((s) => directionShort((degrees / 360) * FULL, s));
  expect(at(123.4)).toEqual(["123°", "123°", "137 gon", "S 57° E"]);
  expect(at(359.8)).toEqual(["0°", "0°", "0 gon", "N 0° W"]);
});
