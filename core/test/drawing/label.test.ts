/** Note templates, widths and ways along lines. */
import fc from "fast-check";
import { Crowd } from "../../src/drawing/crowd";
import { alongWay, type Wanted } from "../../src/drawing/stand";
import { marksAlong, positionsAlong, railOf, wayLength } from "../../src/drawing/along";
import { fillTemplate, readTemplate } from "../../src/drawing/label";
import { lineStyle } from "../../src/drawing/line-styles";
import { isPath, placed, reach, type Stroke } from "../../src/drawing/strokes";
import { textWidth } from "../../src/drawing/text-width";

function note(source: string, values: Record<string, string | number | undefined>): string {
  const read = readTemplate(source);
  if (!("template" in read)) throw new Error(read.problem);
  return fillTemplate(read.template, (name) => values[name]);
}

describe("templates", () => {
  const tree = { kind: "birch", height: "12.345", spread: "", number: "7", elevation: 101.005 };
  test.each([
    ["{kind} {height:1} m", "birch 12.3 m"],
    ["{kind}[ ⌀{spread:2}]", "birch"],
    ["[{spread} ][{kind}]", "birch"],
    ["{kind}[, h {height:0}[, s {spread}]]", "birch, h 12"],
    ["{elevation:2}", "101.01"],
    ["no. {number}", "no. 7"],
    ["{ kind : 3 }", "birch"],
    ["{spread} {kind}  {spread}", "birch"],
    ["plain", "plain"],
    ["", ""],
    ["[all {spread}]", ""],
  ])("%s gives “%s”", (source, text) => expect(note(source, tree)).toBe(text));

  test.each([
    ["{kind", "letter 1 is not closed"],
    ["a [b", "[ is not closed"],
    ["a] b", "] at letter 2 closes nothing"],
    ["{}", "not written as"],
    ["{a:x}", "not written as"],
    ["a } b", "} at letter 3"],
    ["{a{b}}", "not written as"],
  ])("%s is told", (source, problem) => {
    expect(readTemplate(source)).toEqual({ problem: expect.stringContaining(problem) });
  });

  test("a number is rounded half away from zero, a text is left as it is", () => {
    expect(note("{x:2}", { x: 0.125 })).toBe("0.13");
    expect(note("{x:0}", { x: -2.5 })).toBe("-3");
    expect(note("{x:2}", { x: "1e3" })).toBe("1e3");
    expect(note("{x:1}", { x: NaN })).toBe("");
  });

  test("any text without brackets and braces is a template of itself", () => {
    fc.assert(
      fc.property(
        fc.string().filter((s) => !/[{}[\]]/.test(s)),
        (s) => expect(note(s, {})).toBe(s.replace(/\s+/g, " ").trim()),
      ),
    );
  });
});

describe("along a line", () => {
  const way = fc
    .array(fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 })), {
      minLength: 2,
      maxLength: 8,
    })
    .map((l) => l.flat());

  test("places stand on the way at their distances", () => {
    fc.assert(
      fc.property(way, fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 6 }), (w, shares) => {
        const length = wayLength(w),
          asked = shares.map((s) => s * length).sort((a, b) => a - b);
        const got: [number, number][] = [];
        positionsAlong(w, asked, (at) => got.push([at.x, at.y]));
        if (length === 0) return;
        expect(got).toHaveLength(asked.length);
        // The way up to the place is as long as asked.
        got.forEach(([x, y], k) => {
          let least = Infinity,
            gone = 0;
          for (let i = 2; i < w.length; i += 2) {
            const step = Math.hypot(w[i]! - w[i - 2]!, w[i + 1]! - w[i - 1]!),
              from = Math.hypot(x - w[i - 2]!, y - w[i - 1]!),
              to = Math.hypot(x - w[i]!, y - w[i + 1]!);
            if (Math.abs(from + to - step) < 1e-6) least = Math.min(least, Math.abs(gone + from - asked[k]!));
            gone += step;
          }
          expect(least).toBeLessThan(1e-6);
        });
      }),
    );
  });

  test("marks are evenly spaced, in turn, and a short way has one in its middle", () => {
    const at: number[] = [],
      second: boolean[] = [];
    marksAlong([0, 0, 10, 0], lineStyle("slope"), (m, s) => {
      at.push(m.x);
      second.push(s);
    });
    expect(at).toEqual([0.8, 2.4, 4, 5.6, 7.2, 8.8].map((x) => expect.closeTo(x, 9)));
    expect(second).toEqual([false, true, false, true, false, true]);
    const one: number[] = [];
    marksAlong([0, 0, 1, 0], lineStyle("posts"), (m) => one.push(m.x));
    expect(one).toEqual([0.5]);
  });

  test("a way typed a thousand times too long holds nobody: it has no marks, and its note so many times", () => {
    const count = (length: number) => {
      let marks = 0;
      marksAlong([0, 0, length, 0], lineStyle("posts"), () => marks++);
      return marks;
    };
    expect(count(1e5)).toBeGreaterThan(10_000);
    expect(count(1e12)).toBe(0);
    const note: Wanted = { lines: ["h 1.2"], height: 1.8, place: "auto", align: "middle" },
      { stands, missed } = alongWay(note, [0, 0, 1e9, 0], 0.5, new Crowd(), 1);
    expect(stands.length + missed).toBe(2000);
  });

  test("a parallel stroke keeps its distance from straight parts and turns with the line", () => {
    expect(railOf([0, 0, 10, 0], 2, false)).toEqual([0, 2, 10, 2]);
    expect(railOf([0, 0, 10, 0, 10, 10, 0, 10, 0, 0], 1, true).map((x) => Math.round(x * 1e9) / 1e9)).toEqual([
      1, 1, 9, 1, 9, 9, 1, 9, 1, 1,
    ]);
    expect(railOf([0, 0, 0, 0, 5, 0], -1, false)).toEqual([0, -1, 5, -1]);
  });
});

test("strokes turn and grow about their origin", () => {
  const s: Stroke = { path: [1, 0, 2, 0] };
  const turned = placed(s, 2, Math.PI / 2, 10, 20);
  if (!isPath(turned)) throw new Error("a path stays a path");
  expect(turned.path.map((x) => Math.round(x * 1e9) / 1e9)).toEqual([10, 22, 10, 24]);
  expect(placed({ at: [1, 0], radius: 0.5, from: 0, to: 90 }, 2, Math.PI / 2)).toMatchObject({
    radius: 1,
    from: 90,
    to: 180,
  });
  expect(reach([{ path: [3, 4] }, { at: [1, 0], radius: 1 }])).toBe(5);
});

test("texts are as wide as their letters, whatever they are", () => {
  expect(textWidth("")).toBe(0);
  fc.assert(
    fc.property(fc.string(), fc.string(), (a, b) =>
      expect(textWidth(a + b)).toBeCloseTo(textWidth(a) + textWidth(b), 9),
    ),
  );
  expect(textWidth("W")).toBeGreaterThan(3 * textWidth("i"));
  expect(textWidth("水")).toBeGreaterThan(0.5);
});
