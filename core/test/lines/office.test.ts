/**
 * Office linework: cues added and removed as edits, and lines drawn by hand; both survive the intake being read again.
 */
import { runOf, told } from "../job";
import fc from "fast-check";
import { applyChange, openRecipe, parseRecipe, runChain, writeRecipe, type JobState, type Recipe } from "../../src";
import { encodeCueEdits } from "../../src/points/cue-edits";
import { orderedNumbers } from "../../src/points/numbers";

const utf8 = (text: string) => new TextEncoder().encode(text);
const codeBook = {
  codes: [{ code: "HEDGE", kind: "line" }, { code: "WALL", kind: "line" }, { code: "SPOT" }],
} as never;
const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] } as never;
const row = (n: number, code: string, e = n * 10, no = (n * n) % 7) => `${n},${e},${no},1,${code}`;
const TEXT = [1, 2, 3, 4, 5, 6].map((n) => row(n, "HEDGE2")).join("\n");

function open(more: Partial<Recipe>, text = TEXT): JobState {
  return openRecipe(
    parseRecipe(
      JSON.stringify({ recipe: 1, codeBook, intakes: [{ id: "day1", file: "f", layout }], ...more }),
      "r.json",
    ),
    () => utf8(text),
  ).state;
}
const lines = (s: JobState) =>
  runChain(s).lines.map(
    (l) => `${l.code}${l.run} ${l.shots.map((i) => s.points.number[i]).join(" ")}${l.closed ? " closed" : ""}`,
  );

test("splitting is end on one and new on the next; joining is join; inserting is after; taking back removes", () => {
  expect(
    lines(
      open({
        edits: [
          { points: "3", cues: [{ element: "HEDGE2", add: ["end"] }] },
          { points: "4", cues: [{ element: "HEDGE2", add: ["new"] }] },
        ],
      }),
    ),
  ).toEqual(["HEDGE2 1 2 3", "HEDGE2 4 5 6"]);
  const split = TEXT.replace("3,30,2,1,HEDGE2", "3,30,2,1,HEDGE2 end");
  expect(lines(open({}, split))).toEqual(["HEDGE2 1 2 3", "HEDGE2 4 5 6"]);
  expect(
    lines(open({ edits: [{ points: "3", cues: [{ element: "hedge2", remove: ["end"], add: ["join=4"] }] }] }, split)),
  ).toEqual(["HEDGE2 1 2 3 4 5 6"]);
  expect(lines(open({ edits: [{ points: "6", cues: [{ element: "HEDGE2", add: ["after=1"] }] }] }))).toEqual([
    "HEDGE2 1 6 2 3 4 5",
  ]);
  expect(
    lines(
      open({
        edits: [
          { points: "5, 6", cues: [{ element: "HEDGE2", add: ["lone"] }] },
          { points: "6", cues: [{ element: "HEDGE2", remove: ["lone"] }] },
        ],
      }),
    ),
  ).toEqual(["HEDGE2 1 2 3 4 6"]);
});

test("an element or a cue that is not there is told", () => {
  const s = open({
    edits: [
      {
        points: "1",
        cues: [
          { element: "WALL", add: ["end"] },
          { element: "HEDGE2", add: ["jump"] },
        ],
      },
    ],
  });
  expect(
    told(runOf(s))
      .filter((f) => f.kind === "cue-ignored")
      .map((f) => f.points),
  ).toEqual([["1"], ["1"]]);
});

test("edited cues of one point leave others of the same description alone, and undo by their old value", () => {
  const s = open({});
  const cues = encodeCueEdits([{ element: "HEDGE2", add: ["end"] }]);
  const next = applyChange(s, { type: "points", edits: [{ id: 2, field: "cues", old: "", new: cues }] });
  expect(lines(next)).toEqual(["HEDGE2 1 2", "HEDGE2 3 4 5 6"]);
  expect(lines(applyChange(next, { type: "points", edits: [{ id: 2, field: "cues", old: cues, new: "" }] }))).toEqual(
    lines(s),
  );
});

test("the recipe of a job with office linework runs to the same lines", () => {
  const s = open({
    edits: [
      { points: "2, 5", cues: [{ element: "HEDGE2", add: ["via"] }] },
      { points: "4", cues: [{ element: "HEDGE2", add: ["end"] }] },
    ],
    lines: [{ code: "WALL3", points: "6, 1-3", cues: { "1": "via" } }],
  });
  const received = open({}),
    recipe = writeRecipe(s, received.points, () => "f");
  expect(recipe.edits).toHaveLength(2);
  expect(lines(openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), () => utf8(TEXT)).state)).toEqual(lines(s));
});

describe("hand lines", () => {
  test("through points in the order of the list, with cues, closed, under a code and its run", () => {
    const s = open({
      lines: [
        { code: "WALL", points: "3, 1, 6-5" },
        { code: "WALL2", points: "1-4", closed: true, cues: { "2": "via" } },
        { code: "FENCE", points: "2, 4" },
      ],
    });
    expect(lines(s).slice(1)).toEqual(["WALL 3 1 6 5", "WALL2 1 2 3 4 closed", "FENCE 2 4"]);
    expect(runChain(s).lines[2]!.pieces[0]!.type).toBe("arc");
    expect(runChain(s).lines[1]!.intake).toBe(-1);
  });
  test("numbers that do not exist are passed over and told; deleting the line keeps its points", () => {
    const s = open({ lines: [{ code: "WALL", points: "1, 99, 2" }] });
    expect(lines(s)[1]).toBe("WALL 1 2");
    expect(told(runOf(s)).find((f) => f.data.line === "WALL")!.message).toContain("no point 99");
    expect(open({}).points.count).toBe(s.points.count);
  });
  test("a cue that cannot steer a hand line is told", () => {
    const s = open({ lines: [{ code: "WALL", points: "1-3", cues: { "2": "to=5 jump", "3": "loop" } }] });
    expect(lines(s)[1]).toBe("WALL 1 2 3 closed");
    expect(
      told(runOf(s))
        .filter((f) => f.kind === "cue-ignored")
        .map((f) => f.points),
    ).toEqual([["2"], ["2"]]);
  });
  test("a point that moves moves the hand line", () => {
    const s = open({ lines: [{ code: "WALL", points: "1, 2" }] });
    const moved = applyChange(s, { type: "points", edits: [{ id: 2, field: "easting", old: 20, new: 50 }] });
    expect(runChain(moved).lines.find((l) => l.code === "WALL")!.length).toBeCloseTo(Math.hypot(40, 3), 12);
  });
  test("lists name their numbers in order", () => {
    expect(orderedNumbers("12, 40-42, 7A, 3-1")).toEqual(["12", "40", "41", "42", "7A", "3", "2", "1"]);
    expect(orderedNumbers("1,,2")).toEqual([]);
  });
});

test("cue edits give the same lines whatever the order in which intakes came and edits were made", () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          point: fc.integer({ min: 1, max: 12 }),
          cue: fc.constantFrom("end", "new", "via", "lone", "loop"),
        }),
        { maxLength: 8 },
      ),
      fc.boolean(),
      (edits, turn) => {
        const texts: Record<string, string> = {
          a: [1, 2, 3, 4, 5, 6].map((n) => row(n, "HEDGE1")).join("\n"),
          b: [7, 8, 9, 10, 11, 12].map((n) => row(n, "HEDGE1")).join("\n"),
        };
        const make = (order: string[], list: typeof edits) => {
          const recipe: Recipe = {
            recipe: 1,
            codeBook,
            intakes: order.map((id) => ({ id, file: id, layout })),
            edits: list.map((e) => ({ points: String(e.point), cues: [{ element: "HEDGE1", add: [e.cue] }] })),
          };
          return lines(openRecipe(recipe, (f) => utf8(texts[f]!)).state).sort();
        };
        expect(make(turn ? ["b", "a"] : ["a", "b"], edits.toReversed())).toEqual(make(["a", "b"], edits));
      },
    ),
    { numRuns: 80 },
  ));
