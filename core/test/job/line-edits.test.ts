// @long: left out of npm run test:quick.
/** Office edits of lines: each is one change that can be undone, and that holds on corrected data. */
import fc from "fast-check";
import {
  addParallel,
  applyChange,
  closeLine,
  completeLine,
  insertShot,
  inverse,
  joinLines,
  keepHandLine,
  writeNumbers,
  openRecipe,
  Refusal,
  recodeLine,
  removeLine,
  reverseLine,
  runChain,
  splitLine,
  steerShot,
  takeOutShot,
  trimLine,
  withElement,
  writeRecipe,
  type EditableChange,
  type JobState,
  type LineEdit,
} from "../../src";
import { flattenLines } from "../../src/lines/flatten";
import { orderedNumbers } from "../../src/points/numbers";
import { referringGiven } from "../../src/job/recipe/referred";
import { refByNumber, refOf } from "../../src/points/refs";
import { givenLine, runOf, shown, stateOf, type Row } from "../job";

const HEDGE: Row[] = [1, 2, 3, 4, 5].map((k) => ({ number: k, e: 10 * k, n: (k * k) % 3, z: k, code: "HEDGE2" }));
const state = (rows = HEDGE) => stateOf([...rows, { number: 90, e: 33, n: 40, z: 1, code: "SPOT; by the gate" }]);

const drawn = (s: JobState) =>
  runChain(s).lines.map(
    (l) =>
      `${l.code}${l.run} ${l.shots.map((i) => s.points.number[i]).join(" ")}${l.closed ? " closed" : ""}${l.companion ? ` ${l.companion.right}` : ""}`,
  );
const cueFindings = (s: JobState) =>
  runChain(s).findings.filter((f) => f.kind === "cue-ignored" || f.kind === "unread-word");

function done(s: JobState, edit: LineEdit): JobState {
  if (!("change" in edit)) throw new Error(edit.refused);
  const next = applyChange(s, edit.change);
  // Whatever is done is undone by its inverse.
  expect(drawn(applyChange(next, inverse(edit.change) as EditableChange))).toEqual(drawn(s));
  expect(cueFindings(next)).toEqual([]);
  return next;
}

describe("a crew's line", () => {
  const s = state(),
    line = shown(s),
    place = (n: number) => s.points.number.indexOf(String(n)),
    ninety = { number: "90", ref: refOf(s.points, s.intakes, place(90)) };
  test.each<[string, () => LineEdit, string[]]>([
    ["is split", () => splitLine(s, line, 2), ["HEDGE2 1 2 3", "HEDGE2 3 4 5"]],
    ["is split with a gap", () => splitLine(s, line, 2, true), ["HEDGE2 1 2 3", "HEDGE2 4 5"]],
    ["closes", () => closeLine(s, line, true), ["HEDGE2 1 2 3 4 5 closed"]],
    ["loses a shot", () => takeOutShot(s, line, 1), ["HEDGE2 1 3 4 5"]],
    ["takes a spot in", () => insertShot(s, line, place(90), 2), ["HEDGE2 1 2 3 90 4 5"]],
    ["is turned round", () => reverseLine(s, line), ["HEDGE2 5 4 3 2 1"]],
    ["is taken away with its points left", () => removeLine(s, line), []],
    ["gets another code", () => recodeLine(s, line, "toe7"), ["TOE7 1 2 3 4 5"]],
    ["gets a parallel", () => addParallel(s, line, -2, 0.5, "path"), ["HEDGE2 1 2 3 4 5", "PATH2  -2"]],
    ["is cut off at a point on it", () => trimLine(s, line, 1, ninety, "before"), ["HEDGE2 1 2 90"]],
    ["begins at a point on it", () => trimLine(s, line, 1, ninety, "after"), ["HEDGE2 90 3 4 5"]],
  ])("%s", (_, edit, lines) => {
    const next = done(s, edit());
    expect(drawn(next)).toEqual(lines);
    expect(next.points.deleted.some((d) => d)).toBe(false);
    expect(
      drawn(
        openRecipe(
          writeRecipe(next, s.points, () => "day1.csv"),
          () => new TextEncoder().encode(csv(s)),
        ).state,
      ),
    ).toEqual(lines);
  });

  test("three corners become a building, two and a width a slab", () => {
    const hut = state(HEDGE.slice(0, 3).map((r, k) => ({ ...r, n: k === 2 ? 12 : 0, e: k === 0 ? 0 : 10 })));
    const next = done(hut, completeLine(hut, shown(hut)));
    expect(runChain(next).lines[0]!.pieces.map((p) => p.to.slice(0, 2))).toEqual([
      [10, 0],
      [10, 12],
      [0, 12],
      [0, 0],
    ]);
    const slab = state(HEDGE.slice(0, 2));
    expect(runChain(done(slab, completeLine(slab, shown(slab), 3))).lines[0]).toMatchObject({ closed: true });
    expect(completeLine(slab, shown(slab))).toEqual({ refused: expect.stringContaining("exactly three corners") });
    expect(completeLine(slab, shown(slab), 0)).toEqual({ refused: expect.stringContaining("other than zero") });
  });

  test("of two that meet at a shot each is changed alone", () => {
    const two = done(s, splitLine(s, line, 2)),
      rest = shown(two, 1);
    expect(drawn(done(two, recodeLine(two, rest, "toe7")))).toEqual(["HEDGE2 1 2 3", "TOE7 3 4 5"]);
    expect(drawn(done(two, removeLine(two, rest)))).toEqual(["HEDGE2 1 2 3"]);
    expect(drawn(done(two, removeLine(two, shown(two, 0))))).toEqual(["HEDGE2 3 4 5"]);
    expect(drawn(done(two, takeOutShot(two, rest, 0)))).toEqual(["HEDGE2 1 2 3", "HEDGE2 4 5"]);
    expect(drawn(done(two, reverseLine(two, rest)))).toEqual(["HEDGE2 1 2 3", "HEDGE2 5 4 3"]);
  });

  test("an area of three corners becomes a building, once", () => {
    const yard = state(
      HEDGE.slice(0, 3).map((r, k) => ({ ...r, code: "BED", n: k === 2 ? 12 : 0, e: k === 0 ? 0 : 10 })),
    );
    const next = done(yard, completeLine(yard, shown(yard)));
    expect(runChain(next).lines[0]!.pieces.map((p) => p.to.slice(0, 2))).toEqual([
      [10, 0],
      [10, 12],
      [0, 12],
      [0, 0],
    ]);
    expect(completeLine(next, shown(next))).toEqual({ refused: expect.stringContaining("exactly three corners") });
  });

  test("two lines are joined by a cue, from the nearer end; with one by hand they become one by hand", () => {
    const two = done(s, splitLine(s, line, 2));
    expect(drawn(done(two, joinLines(two, shown(two, 0), shown(two, 1))))).toEqual(["HEDGE2 1 2 3 4 5"]);
    const byHand = done(two, keepHandLine(two, givenLine(two, { code: "WALL", points: "90, 5" })));
    expect(drawn(byHand)).toContain("WALL 90 5");
    expect(drawn(done(byHand, joinLines(byHand, shown(byHand, 0), shown(byHand, 2))))).toEqual([
      "HEDGE2 3 4 5",
      "HEDGE2 1 2 3 5 90",
    ]);
  });

  test("what cannot be done is told", () => {
    const closed = done(s, closeLine(s, line, true)),
      swung = state(HEDGE.map((r, k) => (k === 3 ? { ...r, code: "HEDGE2 swing" } : r)));
    expect(splitLine(closed, shown(closed), 2)).toEqual({ refused: expect.stringContaining("open it first") });
    expect(splitLine(s, line, 0)).toEqual({ refused: expect.stringContaining("two shots") });
    expect(splitLine(s, line, 4)).toEqual({ refused: expect.stringContaining("two shots") });
    expect(splitLine(s, line, 3, true)).toEqual({ refused: expect.stringContaining("two shots") });
    expect(drawn(done(s, splitLine(s, line, 3)))).toEqual(["HEDGE2 1 2 3 4", "HEDGE2 4 5"]);
    expect(reverseLine(swung, shown(swung))).toEqual({ refused: expect.stringContaining("swing") });
    expect(insertShot(s, line, place(3), 0)).toEqual({ refused: "Point 3 belongs to this line already." });
    expect(recodeLine(s, line, "4x")).toEqual({ refused: expect.stringContaining("no code") });
    expect(addParallel(s, line, 0, 0)).toEqual({ refused: expect.stringContaining("other than zero") });
    const parallel = done(s, addParallel(s, line, 2, 0));
    expect(splitLine(parallel, shown(parallel, 1), 1)).toEqual({
      refused: expect.stringContaining("follows its line"),
    });
  });
});

test("a line turned twice runs as before, arcs and curves included, and turned once has the same length", () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          e: fc.integer({ min: 0, max: 400 }),
          n: fc.integer({ min: 0, max: 400 }),
          cue: fc.constantFrom("", "", " via", " flow", " still"),
        }),
        { minLength: 3, maxLength: 9 },
      ),
      fc.boolean(),
      fc.boolean(),
      (shots, loop, area) => {
        const s = state(
          shots.map((x, k) => ({
            number: k + 1,
            e: x.e + 0.37 * k,
            n: x.n,
            z: k,
            code: `${area ? "BED2" : "HEDGE2"}${x.cue}${loop && k === shots.length - 1 ? " loop" : ""}`,
          })),
        );
        const line = shown(s),
          length = runChain(s).lines[0]!.length;
        const edit = reverseLine(s, line);
        if (!("change" in edit)) return;
        const once = applyChange(s, edit.change),
          again = reverseLine(once, shown(once));
        if (!("change" in again)) throw new Error(again.refused);
        const twice = applyChange(once, again.change);
        // Cues that did nothing may come out differently; where all were carried out the way is the same.
        if (runChain(s).findings.some((f) => f.kind === "cue-ignored" || f.kind === "arc-flat")) return;
        // Shots nearly on a straight hardly tell the radius of their circle.
        if (runChain(s).lines[0]!.pieces.some((p) => p.type === "arc" && p.radius > 1000)) return;
        for (const turned of [once, twice])
          expect(Math.abs(runChain(turned).lines[0]!.length / length - 1)).toBeLessThan(1e-7);
        expect(runChain(twice).lines[0]!.shots).toEqual(line.shots);
      },
    ),
    { numRuns: 200 },
  );
});

test("what lies beside a line stays where it lies when the line is turned: its parallels change sides, not places", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 2, max: 40 }), fc.integer({ min: -10, max: 10 })), {
        minLength: 2,
        maxLength: 6,
      }),
      fc.constantFrom("3,0", "-3,0.25", "2,-0.5"),
      (steps, off) => {
        let e = 0;
        const s = state(
          steps.map(([de, n], k) => ({
            number: k + 1,
            e: (e += de),
            n,
            z: k,
            code: `HEDGE2${k === 0 ? ` off=${off}` : ""}`,
          })),
        );
        const parallelOf = (job: JobState) => {
          const line = runChain(job).lines.find((l) => l.companion)!;
          return [line.companion!.right, flattenLines([line], 0.01).xyz] as const;
        };
        const [right, xyz] = parallelOf(s),
          edit = reverseLine(s, shown(s));
        if (!("change" in edit)) throw new Error(edit.refused);
        const [turnedRight, turned] = parallelOf(applyChange(s, edit.change));
        expect(turnedRight).toBe(-right);
        expect(turned).toHaveLength(xyz.length);
        for (let k = 0; k < xyz.length / 3; k++)
          for (const axis of [0, 1, 2])
            expect(turned[turned.length - 3 * k - 3 + axis]).toBeCloseTo(xyz[3 * k + axis]!, 9);
      },
    ),
    { numRuns: 60 },
  );
});

const given = (s: JobState) => referringGiven(s).lines;

test("a line by hand: points, order and cues are its own; splitting, inserting and turning change its list", () => {
  const s = done(
    state(),
    keepHandLine(state(), givenLine(state(), { code: "WALL3", points: "5, 90, 1-3", cues: { 90: "via" } })),
  );
  const line = shown(s, 1);
  expect(line).toMatchObject({ code: "WALL", run: "3", hand: "by hand 1" });
  expect(drawn(done(s, insertShot(s, line, s.points.number.indexOf("4"), 0)))[1]).toBe("WALL3 5 4 90 1 2 3");
  const split = done(s, splitLine(s, line, 2));
  expect(drawn(split).slice(1)).toEqual(["WALL3 5 90 1", "WALL3 1 2 3"]);
  const joined = done(split, joinLines(split, shown(split, 1), shown(split, 2)));
  expect(drawn(joined).slice(1)).toEqual(["WALL3 5 90 1 2 3"]);
  expect(given(joined).map((l) => l.points)).toEqual(["5, 90, 1-3"]);
  expect(drawn(done(s, splitLine(s, line, 2, true))).slice(1)).toEqual(["WALL3 5 90 1", "WALL3 2 3"]);
  expect(given(done(s, reverseLine(s, line)))).toEqual([
    { name: "by hand 1", code: "WALL3", points: "3, 2, 1, 90, 5", cues: { 90: "via" } },
  ]);
  expect(drawn(done(s, takeOutShot(s, line, 1)))[1]).toBe("WALL3 5 1 2 3");
  expect(given(done(s, steerShot(s, line, 1, "")))).toEqual([
    { name: "by hand 1", code: "WALL3", points: "5, 90, 1-3" },
  ]);
  expect(given(done(s, steerShot(s, line, 3, "via")))[0]!.cues).toEqual({ 90: "via", 2: "via" });
  // Known by its numbers alone, what it says is of the very same points.
  const numbered = { name: "by hand 1", code: "WALL3", points: ["5", "90", "1"].map(refByNumber) },
    loose: JobState = { ...state(), lines: [{ ...numbered, cues: { [refByNumber("90")]: "via" } }] };
  for (const edit of [addParallel(loose, shown(loose, 1), 2, 0), insertShot(loose, shown(loose, 1), 1, 2)])
    expect(runOf(done(loose, edit)).lines[1]!.steering).toContain("via");
  expect(drawn(done(s, closeLine(s, line, true)))[1]).toContain("closed");
  expect(drawn(done(s, removeLine(s, line)))).toEqual(drawn(state()));
});

test.each([false, true])(
  "one splits a line while another turns it: whoever comes second is told; by hand %p",
  (byHand) => {
    const base = byHand
        ? done(state(), keepHandLine(state(), givenLine(state(), { code: "WALL3", points: "1-5" })))
        : state(),
      line = shown(base, byHand ? 1 : 0),
      edits = [splitLine(base, line, 2), reverseLine(base, line)].map((e) => {
        if ("refused" in e) throw new Error(e.refused);
        return e.change;
      });
    for (const [first, second] of [edits, edits.toReversed()]) {
      const next = applyChange(base, first!);
      expect(() => applyChange(next, second!)).toThrow(Refusal);
    }
  },
);

test("of several lines by hand, two joined and undone are back in their places", () => {
  let s = state();
  for (const points of ["1, 2", "3, 4", "5, 90"]) s = done(s, keepHandLine(s, givenLine(s, { code: "WALL", points })));
  for (const [a, b] of [
    [1, 2],
    [2, 1],
    [1, 3],
    [3, 2],
  ] as const) {
    const edit = joinLines(s, shown(s, a), shown(s, b));
    if (!("change" in edit)) throw new Error(edit.refused);
    expect(applyChange(applyChange(s, edit.change), inverse(edit.change) as EditableChange).lines).toEqual(s.lines);
  }
});

test("a list of numbers reads back in its order", () => {
  expect(writeNumbers(["1", "2", "3", "7", "6", "5", "9", "10"])).toBe("1-3, 7, 6, 5, 9, 10");
  expect(writeNumbers(["07", "08", "09", "A1"])).toBe("07, 08, 09, A1");
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.nat(40).map(String), fc.constantFrom("007", "7A", "K1")), { minLength: 1, maxLength: 30 }),
      (list) => expect(orderedNumbers(writeNumbers(list))).toEqual(list),
    ),
  );
});

test("an element is put before the note, whatever stands in quotes", () => {
  expect(withElement("TREE 4; old oak", "HEDGE2 after=4")).toBe("TREE 4/HEDGE2 after=4; old oak");
  expect(withElement('TREE kind="a;b/c"', "HEDGE")).toBe('TREE kind="a;b/c"/HEDGE');
  expect(withElement("; only a note", "HEDGE")).toBe("HEDGE; only a note");
});

function csv(s: JobState): string {
  const t = s.points;
  return Array.from(
    { length: t.count },
    (_, i) => `${t.number[i]},${t.e[i]},${t.n[i]},${t.z[i]},${t.texts[t.description[i]!]}`,
  ).join("\n");
}
