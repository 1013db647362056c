import fc from "fast-check";
import { openRecipe, parseRecipe, writeRecipe, type OnlyRows } from "../../src";

const ROWS = [
  "1,0,0,1,SPOT,2031-04-17 08:00:00",
  "2,10,0,1,TREE 4/HEDGE2,2031-04-17 09:00:00",
  "3,0,10,1,HEDGE1,2031-04-17 10:00:00",
  "K4,20,20,1,hedgerow,",
  "5,5,5,x,SPOT,2031-04-17 10:00:00",
];
const open = (only: OnlyRows, rows = ROWS) => {
  const recipe = {
    recipe: 1,
    intakes: [
      {
        id: "d",
        file: "d.csv",
        layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description", "time"] },
        only,
      },
    ],
  };
  return openRecipe(parseRecipe(JSON.stringify(recipe), "r"), () => new TextEncoder().encode(rows.join("\n"))).state;
};
const numbers = (only: OnlyRows) => open(only).points.number;

describe("some of a file's rows alone", () => {
  test.each<[string, OnlyRows, string[]]>([
    ["all", {}, ["1", "2", "3", "K4"]],
    ["by numbers", { numbers: "2-3, K4" }, ["2", "3", "K4"]],
    ["by codes, whichever element of the description, their runs aside", { codes: ["HEDGE"] }, ["2", "3"]],
    ["by a pattern of codes", { codes: ["hedge*", "SPOT"] }, ["1", "2", "3", "K4"]],
    [
      "inside a ring, its corners too",
      {
        inside: [
          [0, 0],
          [12, 0],
          [0, 12],
        ],
      },
      ["1", "2", "3"],
    ],
    ["from a time on", { from: "2031-04-17 09:00" }, ["2", "3"]],
    ["up to a time", { to: "2031-04-17 09:00" }, ["1", "2"]],
    ["all of it at once", { numbers: "1-9", codes: ["HEDGE"], to: "2031-04-17 09:30" }, ["2"]],
  ])("%s", (_, only, expected) => expect(numbers(only)).toEqual(expected));

  test("rows stay points and refused ones; those left out are said, and the recipe keeps the choice", () => {
    const state = open({ numbers: "1" });
    expect(state.intakes[0]).toMatchObject({ rows: 2, points: 1, only: { numbers: "1" } });
    expect(state.intakes[0]!.notes).toContain("3 rows were left out, as chosen.");
    const written = writeRecipe(state, state.points, () => "d.csv");
    const again = openRecipe(parseRecipe(JSON.stringify(written), "r"), () =>
      new TextEncoder().encode(ROWS.join("\n")),
    );
    expect(again.state.points.number).toEqual(["1"]);
  });

  test("what cannot be read is told", () => {
    expect(() => open({ numbers: '1,"' })).toThrow("is no list of numbers");
    expect(() => open({ from: "noon" })).toThrow("“noon” is no time");
    expect(() => open({ inside: [[0, 0]] as never })).toThrow();
  });

  test("a number that is left out clashes with none", () => {
    const twice = [...ROWS, "1,50,50,1,TREE,"];
    expect(() => open({}, twice)).toThrow(/1/);
    expect(open({ codes: ["SPOT"] }, twice).points.number).toEqual(["1"]);
  });

  test("of any numbers chosen just those come, in the file's order", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { minLength: 1 }), (wanted) => {
        const rows = Array.from({ length: 40 }, (_, k) => `${k + 1},${k},0,1,SPOT,`);
        expect(open({ numbers: wanted.join(",") }, rows).points.number).toEqual(
          wanted
            .filter((n) => n <= 40)
            .sort((a, b) => a - b)
            .map(String),
        );
      }),
    );
  });
});
