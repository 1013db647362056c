/** Strings of courses of a document: read as they are written, run, closed, shared out, their slips noticed, made. */
import fc from "fast-check";
import { chordOver, isArc, type Course } from "../../src/construct/courses/model";
import { readCourses, writeCourse, type CoursesWritten } from "../../src/construct/courses/read";
import { closureOf, distributed, runCourses, slipsOf, type Corner } from "../../src/construct/courses/run";
import type { InPlan } from "../../src/construct/solve";
import { applyChange, inverse } from "../../src/job/change/change";
import { stringMade, type StringWanted } from "../../src/job/edit/courses";
import type { JobState } from "../../src/job/model/model";
import { ANGLE_STYLES } from "../../src/math/angles";
import { refsOfNumbers } from "../../src/points/refs";
import { runOf, stateOf } from "../job";

const METRES: CoursesWritten = { unit: "m", lengths: "m", angle: "bearing-dms" };
const one = (text: string, w: Partial<CoursesWritten> = {}) => {
  const [line] = readCourses(text, { ...METRES, ...w });
  return line && "course" in line ? line.course : line?.problem;
};
const ran = (start: InPlan, courses: readonly Course[], turned = 0): Corner[] => {
  const out = runCourses(start, courses, turned);
  if ("problem" in out) throw new Error(out.problem);
  return out.corners;
};
const near = (x: number, digits = 9) => expect.closeTo(x, digits);

describe("reading", () => {
  const WRITTEN: [text: string, course: Course, w?: Partial<CoursesWritten>][] = [
    [`N 45°30'00" E 125.40`, { azimuth: 45.5, distance: 125.4 }],
    ["S45-30-36W 12,5 m", { azimuth: 225.51, distance: 12.5 }],
    ["S 10 15 E 7", { azimuth: 169.75, distance: 7 }],
    ["N 20", { azimuth: 0, distance: 20 }],
    ["due West, a distance of 20.5;", { azimuth: 270, distance: 20.5 }],
    ["3. Thence South 45 degrees 30 minutes West, for 80.20 m;", { azimuth: 225.5, distance: 80.2 }],
    ["A-B: North 10° West 100 ft.", { azimuth: 350, distance: 30.48 }],
    ["47.5 12.25", { azimuth: 47.5, distance: 12.25 }],
    ["az 123 30 15 40", { azimuth: 123 + 30.25 / 60, distance: 40 }],
    ["120.25 gon 40", { azimuth: 108.225, distance: 40 }],
    ["50 40", { azimuth: 45, distance: 40 }, { angle: "azimuth-gon" }],
    [`N 90 E 5' 3"`, { azimuth: 90, distance: 5.25 }, { unit: "ft", lengths: "ft" }],
    ["N 90 E 10", { azimuth: 90, distance: 3.048 }, { lengths: "ft" }],
    ["N 90 E 10 m", { azimuth: 90, distance: 10 }, { lengths: "ft" }],
    ["arc left radius 30 angle 45", { radius: 30, turn: -45 }],
    ["curve to the right, radius 20, chord 20", { radius: 20, turn: 60 }],
    ["arc right R 20 chord N 10 E 20", { radius: 20, turn: 60, chord: 10 }],
    ["arc right radius 20 arc length 31.416", { radius: 20, turn: 90.00021045914971 }],
    [
      "along a curve to the left having a radius of 100, a central angle of 90, chord bearing S 45 W",
      { radius: 100, turn: -90, chord: 225 },
    ],
  ];
  test.each(WRITTEN.map(([text, course, w = {}]) => [text, course, w] as const))("%s", (text, course, w) => {
    const read = one(text, w);
    expect(Object.keys(read as Course).sort()).toEqual(Object.keys(course).sort());
    for (const [key, x] of Object.entries(course)) expect((read as never)[key]).toBeCloseTo(x, 10);
  });

  test.each([
    ["N 45 E", "“N 45 E” is no course: write a direction and a distance, such as N 45°30′ E 125.40, or an arc."],
    ["N 95 E 20", "“N 95 E 20” is no course: write a direction and a distance, such as N 45°30′ E 125.40, or an arc."],
    ["N 45 E -20", "“N 45 E -20”: a distance is above 0; a course the other way has the other bearing."],
    ["arc radius 30 angle 45", "An arc turns left or right: say which."],
    ["arc left angle 45", "An arc has a radius: say it, such as radius 30."],
    ["arc left radius 30", "An arc has an angle, a chord or a length beside its radius: say one."],
    ["arc left radius 30 chord 61", "Its chord is longer than two radii: no such arc."],
    ["arc left radius 30 angle 90 chord 42.00", "Its chord would be 42.426, not 42.000: leave one out."],
    ["arc left radius 30 angle 90 length 47.0", "By its angle it is 47.124 long, not 47.000: leave one out."],
    ["arc left radius 30 radius 40 angle 9", "Its radius is said twice."],
    ["arc left radius thirty angle 9", "The arc's radius “thirty” cannot be read."],
    ["arc left radius 0 angle 9", "The arc's radius is above 0."],
    ["arc left 30 angle 9", "“30” says nothing of an arc: radius, angle, chord, length, towards, left, right."],
    ["N 45 E ".repeat(50), "This line is too long for a course."],
  ])("%s is told", (text, problem) => expect(one(text)).toBe(problem));

  test("words that mean something to a program mean nothing here", () => {
    for (const word of ["constructor", "__proto__", "toString", "hasOwnProperty"])
      for (const text of [word, `${word} 20`, `N ${word} E 20`, `arc left ${word} 30`, `arc left radius ${word}`])
        expect(one(text)).toEqual(expect.any(String));
  });

  test("blank lines are passed over; lines keep their places; no more than a string has", () => {
    expect(readCourses("\nN 1\n\n x\n", METRES).map((c) => [c.line, "course" in c])).toEqual([
      [1, true],
      [3, false],
    ]);
    const many = readCourses("N 1\n".repeat(2500), METRES);
    expect([many.length, many.at(-1)]).toEqual([2001, { line: 2000, problem: "A string has at most 2000 courses." }]);
  });

  const course: fc.Arbitrary<Course> = fc.oneof(
    fc.record({
      azimuth: fc.integer({ min: 0, max: 1_295_999 }).map((s) => s / 3600),
      distance: fc.integer({ min: 1, max: 9_999_999 }).map((mm) => mm / 1000),
    }),
    fc.record(
      {
        radius: fc.integer({ min: 1, max: 500_000 }).map((mm) => mm / 1000),
        turn: fc.integer({ min: 1, max: 359_999 }).chain((x) => fc.constantFrom(x / 1000, -x / 1000)),
        chord: fc.integer({ min: 0, max: 1_295_999 }).map((s) => s / 3600),
      },
      { requiredKeys: ["radius", "turn"] },
    ),
  );
  test("a course written is read again, in every style and unit", () =>
    fc.assert(
      fc.property(
        course,
        fc.constantFrom(...ANGLE_STYLES),
        fc.constantFrom("m" as const, "ft" as const, "ftUS" as const),
        (c, angle, lengths) => {
          const w: CoursesWritten = { unit: "m", lengths, angle },
            again = one(writeCourse(c, w), w) as Course;
          const expected = Object.fromEntries(
            Object.entries(c).map(([k, x]) => [k, k === "turn" || k === "radius" || k === "distance" ? near(x, 5) : x]),
          );
          expect(Object.keys(again)).toEqual(Object.keys(expected));
          const away = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);
          if (!isArc(c)) expect(away((again as typeof c).azimuth, c.azimuth)).toBeLessThan(1e-4);
          else if (c.chord !== undefined) expect(away((again as typeof c).chord!, c.chord)).toBeLessThan(1e-4);
          for (const key of ["turn", "radius", "distance"] as const)
            if (key in c) expect((again as never)[key]).toBeCloseTo((c as never)[key], 5);
        },
      ),
    ));

  test("whatever is pasted is read in no time", () => {
    for (const text of [
      "N 1 ".repeat(70),
      "9 ".repeat(140),
      "arc ".repeat(70),
      "-1".repeat(140),
      "N 45 E 1\n".repeat(1e4),
    ])
      expect(readCourses(text, METRES).length).toBeGreaterThan(0);
  });
});

describe("running", () => {
  test("straight courses go by bearing and distance, arcs on from the course before, to the last digit far away", () => {
    const start: InPlan = [512_000.25, 5_640_000.5];
    const corners = ran(start, [
      { azimuth: 0, distance: 100 },
      { radius: 50, turn: 90 },
      { azimuth: 90, distance: 30 },
      { radius: 20, turn: -180, chord: 0 },
    ]);
    expect(corners.map((c) => [c.at[0] - start[0], c.at[1] - start[1]])).toEqual([
      [near(0), near(100)],
      [near(50), near(150)],
      [near(80), near(150)],
      [near(80), near(190)],
    ]);
    // A quarter's middle, and half a turn to the left whose chord runs north: it bulges east.
    const r = 50 * Math.SQRT1_2;
    expect(corners[1]!.middle!.map((x, k) => x - start[k]!)).toEqual([near(50 - r), near(100 + r)]);
    expect(corners[3]!.middle!.map((x, k) => x - start[k]!)).toEqual([near(100), near(170)]);
    expect(corners.map((c) => c.length)).toEqual([100, near(25 * Math.PI), 30, near(20 * Math.PI)]);
  });

  test("an arc that comes first needs its direction", () =>
    expect(runCourses([0, 0], [{ radius: 1, turn: 3 }])).toEqual({
      course: 0,
      problem: "An arc that comes first needs the direction of its chord: towards N 10 E.",
    }));

  test("turning all bearings turns the string about its start, arcs with it", () =>
    fc.assert(
      fc.property(fc.double({ min: -180, max: 180, noNaN: true }), (turned) => {
        const courses: Course[] = [
          { azimuth: 20, distance: 40 },
          { radius: 12, turn: -70 },
          { radius: 30, turn: 100, chord: 75 },
        ];
        const [a, b] = [ran([7, 9], courses), ran([7, 9], courses, turned)],
          [s, c] = [Math.sin((turned * Math.PI) / 180), Math.cos((turned * Math.PI) / 180)];
        const rotate = ([e, n]: InPlan) => [near(7 + (e - 7) * c + (n - 9) * s), near(9 - (e - 7) * s + (n - 9) * c)];
        expect(b.map((x) => [...x.at, ...(x.middle ?? [])])).toEqual(
          a.map((x) => [...rotate(x.at), ...(x.middle ? rotate(x.middle) : [])]),
        );
      }),
    ));

  const polygon = fc
    .array(
      fc.record({ a: fc.double({ min: 0, max: 360, noNaN: true }), d: fc.double({ min: 5, max: 90, noNaN: true }) }),
      { minLength: 3, maxLength: 9 },
    )
    .map((list): Course[] => list.map(({ a, d }) => ({ azimuth: a, distance: d })));
  test("shared out the last corner is at the target, each correction in proportion to the way run", () =>
    fc.assert(
      fc.property(polygon, fc.double({ min: -3, max: 3, noNaN: true }), (courses, off) => {
        const raw = ran([100, 200], courses),
          target: InPlan = [raw.at(-1)!.at[0] + off, raw.at(-1)!.at[1] - 2 * off],
          closure = closureOf(raw, target),
          out = distributed(raw, target);
        expect(closure.error).toBeCloseTo(Math.hypot(off, 2 * off), 9);
        expect(out.at(-1)!.at).toEqual([near(target[0]), near(target[1])]);
        let run = 0;
        for (const [k, { at }] of out.entries()) {
          run += courses[k]!["distance" as never] as number;
          expect(at[0] - raw[k]!.at[0]).toBeCloseTo((off * run) / closure.length, 9);
          expect(at[1] - raw[k]!.at[1]).toBeCloseTo((-2 * off * run) / closure.length, 9);
        }
      }),
    ));

  test("the middle of an arc is moved by half of what its course adds", () => {
    const courses: Course[] = [
        { azimuth: 0, distance: 50 },
        { radius: 100 / Math.PI, turn: 90 },
        { azimuth: 90, distance: 100 },
      ],
      raw = ran([0, 0], courses),
      out = distributed(raw, [raw[2]!.at[0] + 2, raw[2]!.at[1] - 4]);
    // 50, then 50 along the arc, then 100: of 200.
    expect(out[1]!.middle!.map((x, k) => x - raw[1]!.middle![k]!)).toEqual([near(2 * 0.375), near(-4 * 0.375)]);
    expect(out[1]!.at.map((x, k) => x - raw[1]!.at[k]!)).toEqual([near(1), near(-2)]);
  });

  test("of a string as long as may be, whatever is wrong with it, the page is not held up", () => {
    const courses = Array.from({ length: 2000 }, (_, k): Course => ({
      azimuth: (k * 37) % 360,
      distance: 10 + (k % 7),
    }));
    expect(slipsOf([0, 0], courses, [900, 900])).toEqual([]);
    expect(slipsOf([0, 0], courses.slice(0, 400), [900, 900]).length).toBeLessThanOrEqual(4);
  });

  test("what only halves the error is no slip", () => {
    // Out and back, 0.2 short to the east; a course of 0.05 to the west, the other way, would leave half of it.
    const courses: Course[] = [
      { azimuth: 90, distance: 300 },
      { azimuth: 270, distance: 300.15 },
      { azimuth: 270, distance: 0.05 },
    ];
    expect(closureOf(ran([0, 0], courses), [0, 0]).ratio).toBeLessThan(5000);
    expect(slipsOf([0, 0], courses, [0, 0])).toEqual([]);
  });

  test("a course that was reversed, put into another quadrant, or an arc that turned to the other side is noticed", () => {
    const good: Course[] = [
      { azimuth: 12, distance: 61.2 },
      { azimuth: 77.5, distance: 80.4 },
      { radius: 25, turn: 60, chord: 130 },
      { azimuth: 171, distance: 47.3 },
      { azimuth: 236, distance: 70.1 },
    ];
    // Its last course comes home to a centimetre.
    const { at } = ran([0, 0], good).at(-1)!,
      home: Course = {
        azimuth: ((Math.atan2(-at[0], -at[1]) * 180) / Math.PI + 360) % 360,
        distance: Math.hypot(...at) - 0.01,
      },
      all = [...good, home];
    expect(slipsOf([0, 0], all, [0, 0])).toEqual([]);
    const slipped = (k: number, c: Course) => slipsOf([0, 0], all.with(k, c), [0, 0])[0];
    for (const k of [0, 1, 3, 4, 5]) {
      const c = all[k] as Extract<Course, { azimuth: number }>;
      expect(slipped(k, { ...c, azimuth: (c.azimuth + 180) % 360 })).toMatchObject({
        course: k,
        kind: "reversed",
        error: near(0.01, 6),
        instead: { azimuth: near(c.azimuth), distance: c.distance },
      });
      expect(slipped(k, { ...c, azimuth: 360 - c.azimuth })).toMatchObject({ course: k, kind: "east for west" });
      expect(slipped(k, { ...c, azimuth: (540 - c.azimuth) % 360 })).toMatchObject({
        course: k,
        kind: "north for south",
      });
    }
    expect(slipped(2, { radius: 25, turn: -60, chord: 130 })).toBeUndefined();
    // An arc that goes on from the course before leads elsewhere when it turns the other way.
    const tangent: Course[] = [
      { azimuth: 0, distance: 50 },
      { radius: 20, turn: 180 },
      { azimuth: 180, distance: 50 },
    ];
    expect(slipsOf([0, 0], tangent.with(1, { radius: 20, turn: -180 }), [40, 0])[0]).toMatchObject({
      course: 1,
      kind: "other side",
      instead: { turn: 180 },
      error: near(0),
    });
  });
});

describe("made", () => {
  const start = stateOf([
    { number: "1", e: 100, n: 200, z: 5, code: "SPOT" },
    { number: "2", e: 160, n: 200, z: 6, code: "SPOT" },
    { number: "902", e: 0, n: 0, z: 6, code: "SPOT" },
  ]);
  const ref = refsOfNumbers(start.points, start.intakes);
  const courses: Course[] = [
    { azimuth: 0, distance: 40 },
    { radius: 30, turn: 180, chord: 90 },
    { azimuth: 180, distance: 40 },
    { azimuth: 270, distance: 60 },
  ];
  const wanted = (more: Partial<StringWanted> = {}): StringWanted => ({
    start: { point: ref("1"), at: [100, 200] },
    corners: ran([100, 200], courses),
    ends: "start",
    code: "BED7",
    name: "Plot 14",
    number: "901",
    description: "PEG",
    ...more,
  });
  const made = (w: StringWanted, s: JobState = start): JobState =>
    applyChange(
      s,
      stringMade(
        s,
        w,
        Array.from({ length: stringMade(s, w).count }, (_, k) => 500 + k),
      ).change,
    );
  const numbers = (s: JobState, k: number) => runOf(s).lines[k]!.shots.map((i) => s.points.number[i]);

  test("points, a closed line with its arc, and its name; taken back as one", () => {
    const w = wanted(),
      s = made(w),
      d = runOf(s),
      [line] = d.lines;
    // 902 is taken.
    expect(numbers(s, 0)).toEqual(["1", "901", "903", "904", "905"]);
    expect(line!.pieces.map((p) => p.type)).toEqual(["straight", "arc", "straight", "straight"]);
    expect(line!.area).toBeCloseTo(60 * 40 + (Math.PI * 900) / 2, 9);
    expect(d.ownNames.get(line!.key)).toEqual({ name: "Plot 14" });
    const back = applyChange(s, inverse(stringMade(start, w, [500, 501, 502, 503]).change) as never);
    expect([back.points.number, back.lines, back.names, back.computed]).toEqual([start.points.number, [], [], []]);
  });

  test("the string follows its start", () => {
    const s = made(wanted()),
      moved = applyChange(s, {
        type: "points",
        edits: [{ id: start.points.id[0]!, field: "easting", old: 100, new: 110 }],
      });
    const [before, after] = [runOf(s), runOf(moved)];
    expect(Array.from(after.points.e.slice(3), (e, k) => e - before.points.e[3 + k]!)).toEqual(
      [10, 10, 10, 10].map((x) => near(x)),
    );
    expect(after.lines[0]!.area).toBeCloseTo(before.lines[0]!.area!, 9);
  });

  test("from a position of its own, and on to a point of the job", () => {
    const open = made(wanted({ start: { at: [100, 200] }, ends: "open" }));
    expect(numbers(open, 0)).toEqual(["901", "903", "904", "905", "906", "907"]);
    expect(open.computed.length).toBe(5);
    const s = made(
      wanted({ code: "HEDGE7", ends: { point: ref("2") }, corners: ran([100, 200], courses.slice(0, 3)) }),
    );
    expect(numbers(s, 0)).toEqual(["1", "901", "903", "904", "2"]);
    expect(runOf(s).lines[0]!.length).toBeCloseTo(80 + 30 * Math.PI, 9);
  });

  test("a closing course that is an arc closes the line as one", () => {
    const closing: Course[] = [
      { azimuth: 0, distance: 40 },
      { azimuth: 90, distance: 60 },
      { azimuth: 180, distance: 40 },
      { radius: 30, turn: 180, chord: 270 },
    ];
    const [line] = runOf(made(wanted({ corners: ran([100, 200], closing) }))).lines;
    expect(line!.pieces.map((p) => p.type)).toEqual(["straight", "straight", "straight", "arc"]);
    expect(line!.area).toBeCloseTo(60 * 40 + (Math.PI * 900) / 2, 9);
  });

  test("chords are those of the arc", () =>
    fc.assert(
      fc.property(fc.double({ min: 1, max: 99, noNaN: true }), fc.double({ min: 1, max: 359, noNaN: true }), (r, a) => {
        const [c] = ran([0, 0], [{ radius: r, turn: a, chord: 45 }]);
        expect(Math.hypot(...c!.at)).toBeCloseTo(Math.abs(chordOver(r, a)), 9);
      }),
    ));
});
