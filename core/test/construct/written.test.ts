/** Constructions written in one line: every form, what is wrong with it, and that what is written reads back. */
import fc from "fast-check";
import { readWritten, WRITTEN_FORMS, writeConstruction, type Writing, type Written } from "../../src/construct/written";
import type { By, LevelBy, Ray } from "../../src/construct/model";

const NUMBERS = new Set(["12", "13", "14", "15", "1007", "K 1", "to", "A-7"]);
const w: Writing = {
  unit: "m",
  angle: "azimuth-dms",
  order: "EN",
  hasPoint: (n) => NUMBERS.has(n),
  hasSurface: (s) => s === "existing ground",
};
const read = (text: string, more: Partial<Writing> = {}) => readWritten(text, { ...w, ...more });
const by = (text: string, more: Partial<Writing> = {}) => (read(text, more) as Written).by;

test("every form that is shown can be read", () => {
  for (const [form] of WRITTEN_FORMS.filter(([f]) => !f.startsWith("…"))) expect(read(form)).toHaveProperty("by");
});

test("directions in every style, and lengths in every unit", () => {
  expect(by("12 az 47.5 12.25")).toEqual({ from: "12", azimuth: 47.5, distance: 12.25 });
  expect(by("12 az 47 30 00 12.25")).toMatchObject({ azimuth: 47.5, distance: 12.25 });
  expect(by("12 az 47°30′ 12.25")).toMatchObject({ azimuth: 47.5, distance: 12.25 });
  expect(by("12 bearing S 30 15 E 1,5 km")).toMatchObject({ azimuth: 149.75, distance: 1500 });
  expect(by("12 az 100 40", { angle: "azimuth-gon" })).toMatchObject({ azimuth: 90, distance: 40 });
  const feet = by("12 az N 45 W 5' 3\"", { unit: "ftUS" }) as { azimuth: number; distance: number };
  expect([feet.azimuth, feet.distance]).toEqual([315, 5.25]);
  // Feet before inches are no minutes of the direction.
  expect(by("12 az 47.5 5' 3\"", { unit: "ft" })).toMatchObject({ azimuth: 47.5, distance: 5.25 });
  expect(by("line KERB 1 station 15+60.10 offset -2 ft", { unit: "ft" })).toEqual({
    line: { code: "KERB", run: "1" },
    station: 1560.1,
    offset: -2,
  });
});

test("coordinates in the job's order, or named; levels of every kind", () => {
  expect(by("at 100.25 200.5")).toEqual({ at: [100.25, 200.5] });
  expect(by("at 100.25 200.5", { order: "NE" })).toEqual({ at: [200.5, 100.25] });
  expect(by("N 200.5 E 100.25")).toEqual({ at: [100.25, 200.5] });
  expect(by("e 100.25 n 200.5")).toEqual({ at: [100.25, 200.5] });
  const level = (text: string) => (read(`between 12 13 level ${text}`) as Written).elevation;
  expect(level("101.2")).toBe(101.2);
  expect(level("of 14 up -0.5")).toEqual({ of: "14", up: -0.5 });
  expect(level("along up 0.1")).toEqual({ along: true, up: 0.1 });
  expect(level("on existing ground up 2 cm")).toEqual({ surface: "existing ground", up: 0.02 });
});

test("what is wrong is said in a sentence", () => {
  const problem = (text: string) => (read(text) as { problem: string }).problem;
  expect(problem("99 az 10 5")).toBe("There is no point 99.");
  expect(problem("12 az 10")).toBe("“10” is no direction with a distance behind it, such as 47.5 12.25.");
  expect(problem("between 12")).toBe("The number of a point is missing at the end.");
  expect(problem("foot 12 at 13 14")).toBe("“at” stands where “on” should.");
  expect(problem("12 to 13 sideways 4")).toBe("Say forward, beyond, right or angle behind the two points.");
  expect(problem("rectangle 12 13 width 4 corner 5")).toBe("The corner is 3 or 4.");
  expect(problem("centre 12 13 14 15")).toBe("“15” stands where nothing more is expected.");
  expect(problem("centre 12 13 14 level along")).toBe("Its way names no two points along which a level could run.");
  expect(problem("between 12 13 level on water")).toBe("There is no surface “water”.");
  expect(problem("meet 12 dist 0 and 13 az 4")).toBe("The distance of a circle is above 0.");
});

test("what does not begin like one is none: numbers, codes, names of actions", () => {
  for (const text of ["12", "KERB 1", "Whole job", "12 13", "", '"12', "near here", "N 12", "existing ground"])
    expect(read(text)).toBeUndefined();
});

test("numbers that are words of this language, or hold a blank, stand in quotes", () => {
  expect(by('"K 1" to "to" forward 3')).toEqual({ from: "K 1", to: "to", forward: 3 });
  expect(by("A-7 to 12 beyond 1")).toEqual({ from: "A-7", to: "12", beyond: 1 });
});

test("what is written without rounding reads back as the same, in every order", () => {
  const point = fc.constantFrom(...NUMBERS),
    length = fc.integer({ min: -1e10, max: 1e10 }).map((x) => x / 10_000),
    some = fc.integer({ min: 1, max: 1e10 }).map((x) => x / 10_000),
    degrees = fc.integer({ min: 0, max: 359_999_999 }).map((x) => x / 1_000_000),
    two = fc.tuple(point, point),
    three = fc.tuple(point, point, point),
    right = fc.option(length.filter((x) => x !== 0), { nil: undefined }), // prettier-ignore
    maybe = <T extends object>(of: T, r: number | undefined) => (r === undefined ? of : { ...of, right: r });
  const ray: fc.Arbitrary<Ray> = fc.oneof(
    fc.record({ from: point, azimuth: degrees }),
    fc.record({ from: point, distance: some }),
    fc.tuple(two, right).map(([line, r]): Ray => maybe({ line }, r)),
  );
  const way: fc.Arbitrary<By> = fc.oneof(
    fc.tuple(length, length).map((at): By => ({ at })),
    fc.record({ from: point, azimuth: degrees, distance: length }),
    fc.tuple(point, point, length, right).map(([from, to, forward, r]): By => maybe({ from, to, forward }, r)),
    fc.tuple(point, point, length, right).map(([from, to, beyond, r]): By => maybe({ from, to, beyond }, r)),
    fc.record({ from: point, to: point, angle: degrees, distance: length }),
    fc.record({ between: two, ratio: length }),
    fc.record({ between: two, distance: length }),
    fc.record({ foot: point, on: two }),
    fc.record({ mirror: point, on: two }),
    fc.record({ centre: three }),
    fc.record({ fourth: three }),
    fc.record({ rectangle: two, width: length, corner: fc.constantFrom<3 | 4>(3, 4) }),
    fc.record({ tangents: fc.constant({ code: "KERB", run: "1" }), piece: point }),
    fc.record({ line: fc.constant({ code: "KERB" }), station: length }),
    fc.tuple(ray, ray, point).map(([a, b, near]): By => ({ meet: [a, b], near })),
  );
  const level: fc.Arbitrary<number | LevelBy | undefined> = fc.oneof(
    fc.constant(undefined),
    length,
    fc.record({ of: point }),
    fc.tuple(some).map(([up]): LevelBy => ({ surface: "existing ground", up })),
  );
  fc.assert(
    fc.property(way, level, fc.constantFrom<"EN" | "NE">("EN", "NE"), (by, elevation, order) => {
      const given: Written = elevation === undefined ? { by } : { by, elevation },
        text = writeConstruction(given, { angle: "azimuth-degrees", order }),
        again = read(text, { angle: "azimuth-degrees", order });
      // Angles are written to a ten-millionth of a degree.
      const rounded = (x: unknown) => JSON.parse(JSON.stringify(x), (key, v: unknown) => (["azimuth", "angle"].includes(key) && typeof v === "number" ? Number(v.toFixed(6)) : v)); // prettier-ignore
      expect(rounded(again)).toEqual(rounded(given));
    }),
  );
});
