import fc from "fast-check";
import { addToNumber, compareNumbers, readNumberList } from "../../src/points/numbers";
import { decodeTable, encodeTable } from "../../src/points/columns";
import { applyRecipeEdits, fieldValue, withEdits, type RecipeEdit } from "../../src/points/edits";
import { numberIndex } from "../../src/points/index";
import { concatTables, extentOf, GONE_GAVE_WAY, pickRows, type PointTable } from "../../src/points/table";
import { derive, found, stateOf, stateOfText, csvOf, type Row } from "../job";

const rows: Row[] = [
  { number: 1, e: 1, n: 2, z: 3, code: "SPOT" },
  { number: "7A", e: 4, n: 5, code: "TREE 4" },
  { number: 12, e: 6, n: 7, z: 8, code: "SPOT" },
];

describe("point numbers", () => {
  test.each([
    ["7A", 1000, "1007A"],
    ["T9", 1, "T10"],
    ["007", 1, "008"],
    ["K", 5, "K5"],
    ["A1B99", 1, "A1B100"],
    ["99999999999999999999", 1, "100000000000000000000"],
  ])("%s + %d is %s", (a, add, b) => expect(addToNumber(a, add)).toBe(b));

  test("lists name single numbers and the whole numbers of ranges", () => {
    const list = readNumberList("7A, 40-52, 007")!;
    expect(["7A", "40", "52", "45", "007"].every(list.has)).toBe(true);
    expect(["7", "39", "53", "045", "45A", ""].some(list.has)).toBe(false);
    expect(readNumberList("52-40")!.has("44")).toBe(true);
    expect(readNumberList("1,,2")).toBeUndefined();
    expect(["10", "9", "7B", "7A"].sort(compareNumbers)).toEqual(["7A", "7B", "9", "10"]);
  });
});

describe("clashes of numbers", () => {
  const layout = {
    delimiter: ",",
    columns: ["number", "easting", "northing", "elevation", "description"] as (
      "number" | "easting" | "northing" | "elevation" | "description"
    )[],
  };
  const twice = (clash?: "stop" | "keep-first" | "replace" | "add") =>
    stateOfText("1,0,0,1,A\n2,1,1,1,B\n1,2,2,2,C\n1,3,3,3,D", {
      codeBook: {},
      intakes: [{ id: "d", file: "f", layout, clash, add: 1 }],
    });

  test("stop refuses the intake, naming it and the number", () =>
    expect(() => twice("stop")).toThrow("Intake “d”, row 3: point 1 is there already"));
  test.each([
    ["keep-first", ["1", "2"], 2],
    ["replace", ["2", "1"], 2],
    ["add", ["1", "2", "3", "4"], 2],
  ] as const)("%s within one file", (clash, numbers, count) => {
    const s = twice(clash),
      there = Array.from(s.points.deleted.keys()).filter((i) => s.points.deleted[i] === 0);
    expect(there.map((i) => s.points.number[i])).toEqual(numbers);
    // What stands aside is there still, and comes back when the others leave.
    expect(s.points.deleted.filter((d) => d === GONE_GAVE_WAY)).toHaveLength(4 - numbers.length);
    expect(s.intakes[0]!.clashes).toHaveLength(count);
    expect(s.intakes[0]!.rows).toBe(4);
    if (clash === "replace") expect(s.points.e[there[1]!]).toBe(3);
  });

  test("add finds for each the first free number, as by trying one after another", () =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("1", "2", "3", "4", "11", "A1", "A2"), { maxLength: 30 }),
        fc.integer({ min: 1, max: 3 }),
        (numbers, add) => {
          const rows = numbers.map((n, k) => `${n},${k},0,1,A`).join("\n"),
            s = stateOfText(rows || "9,0,0,0,A", {
              codeBook: {},
              intakes: [{ id: "d", file: "f", layout, clash: "add", add }],
            });
          const used = new Set<string>(),
            plain = (rows ? numbers : ["9"]).map((n) => {
              let free = n;
              while (used.has(free)) free = addToNumber(free, add);
              used.add(free);
              return free;
            });
          expect(s.points.number).toEqual(plain);
        },
      ),
    ));
  test("a hundred thousand of one number, and as many that stand in each other's way, hold nobody", () => {
    const count = 100_000,
      equal = Array.from({ length: count }, (_, k) => `1,${k},0,1,A`).join("\n"),
      chained = Array.from({ length: 2 * count }, (_, k) => `${1 + (k % count)},${k},0,1,A`).join("\n");
    for (const [text, last] of [
      [equal, count],
      [chained, 2 * count],
    ] as const) {
      const s = stateOfText(text, { codeBook: {}, intakes: [{ id: "d", file: "f", layout, clash: "add", add: 1 }] });
      expect(s.points.number.at(-1)).toBe(String(last));
    }
  });

  test("replace across intakes lets the earlier point give way and tells it", () => {
    const intake = (id: string) => ({ id, file: id, layout, clash: "replace" as const });
    const { state, derived } = derive(
      [
        { number: 1, e: 0, n: 0, z: 1 },
        { number: 2, e: 1, n: 1 },
      ],
      { codeBook: {}, intakes: [intake("a"), intake("b")] },
    );
    expect(Array.from(state.points.deleted)).toEqual([GONE_GAVE_WAY, GONE_GAVE_WAY, 0, 0]);
    expect(numberIndex(state.points).get("1")).toBe(2);
    expect(found(derived, "number-clash")).toHaveLength(2);
  });
});

describe("the point table", () => {
  test("columns as bytes come back the same", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            number: fc.uuid(),
            e: fc.double({ noNaN: true, noDefaultInfinity: true }),
            n: fc.integer(),
            z: fc.option(fc.double({ noNaN: true, noDefaultInfinity: true }), { nil: undefined }),
            code: fc.constantFrom("SPOT", "é; 水", ""),
          }),
          { maxLength: 12 },
        ),
        (list) => {
          if (list.length === 0) return;
          const t = stateOfText(csvOf(list)).points;
          const back = decodeTable(encodeTable(t).buffer);
          expect(back).toEqual(t);
        },
      ),
      { numRuns: 60 },
    );
  });

  test("joining, picking and edits share what they can and change nothing in place", () => {
    const t = stateOf(rows).points;
    const twice = concatTables(t, t);
    expect(twice.number).toEqual(["1", "7A", "12", "1", "7A", "12"]);
    expect(twice.texts).toEqual(t.texts);
    expect(pickRows(t, [2, 0]).number).toEqual(["12", "1"]);
    const edited = withEdits(t, [
      { row: 0, field: "elevation", value: null },
      { row: 1, field: "note", value: "look" },
    ]);
    expect(fieldValue(edited, 0, "elevation")).toBeNull();
    expect(t.z[0]).toBe(3);
    expect(edited.e).toBe(t.e);
    expect(edited.z).not.toBe(t.z);
    expect(extentOf(t)).toEqual({ minE: 1, minN: 2, maxE: 6, maxN: 7, minZ: 3, maxZ: 8 });
  });

  test("an edit of a recipe: target height moves the elevation, numbers not there are counted", () => {
    const t: PointTable = { ...stateOf(rows).points, targetHeight: Float64Array.of(1.65, NaN, 1.65) };
    const { table, missing } = applyRecipeEdits(t, [{ points: "1, 12-14", set: { targetHeight: 2.15 } }], []);
    expect(Array.from(table.z)).toEqual([3 + 1.65 - 2.15, NaN, 8 + 1.65 - 2.15]);
    expect(missing).toBe(2);
    expect(() => applyRecipeEdits(t, [{ points: "1", set: { number: "12" } }], [])).toThrow(
      "another point has this number",
    );
    expect(() => applyRecipeEdits(t, [{ points: "1", intake: "x", set: { note: "a" } }], [])).toThrow(
      "there is no intake “x”",
    );
  });
});

test("an edit of a recipe passes deleted points over, unless it brings them back", () => {
  const { state } = derive([
    { number: 1, e: 0, n: 0, z: 1 },
    { number: 2, e: 1, n: 0, z: 1 },
  ]);
  const after = (edits: RecipeEdit[]) => {
    const { table: t, missing } = applyRecipeEdits(state.points, edits, state.intakes);
    return [t.texts[t.note[0]!], t.deleted[0], missing];
  };
  const gone = { points: "1", set: { deleted: true } },
    noted = { points: "1", set: { note: "x" } };
  expect(after([gone, noted])).toEqual(["", 1, 1]);
  expect(after([gone, { points: "1-2", set: { note: "x" } }])).toEqual(["", 1, 1]);
  expect(after([gone, { points: "1", set: { deleted: false, note: "x" } }])).toEqual(["x", 0, 0]);
});

test.each<[string, string | string[], string, string[]]>([
  ["in the order of the table for all", "*", "500", ["500", "501", "502", "503"]],
  ["in the order of the list", "4, 2", "A9", ["1", "A10", "3", "A9"]],
  ["a range as it runs", "3-2", "007", ["1", "008", "007", "4"]],
  ["exact numbers", ["2", "1"], "3x", ["4x", "3x", "3", "4"]],
  ["numbers that move within the range itself", "2-4", "3", ["1", "3", "4", "5"]],
])("many points are numbered from a first one: %s", (_, points, numbersFrom, numbers) => {
  const recipe = { edits: [{ points, set: { numbersFrom, note: "x" } }] } as never,
    { state } = derive(
      [1, 2, 3, 4].map((number) => ({ number, e: number, n: 0, z: 1 })),
      recipe,
    );
  expect(state.points.number).toEqual(numbers);
});

test("a series that meets a number of another point is refused with its path", () => {
  const rows = [1, 2, 3].map((number) => ({ number, e: number, n: 0, z: 1 }));
  expect(() => derive(rows, { edits: [{ points: "1-2", set: { numbersFrom: "2" } }] } as never)).toThrow(
    "edits[0].set.numbersFrom: another point has this number already",
  );
});

describe("checks of levels", () => {
  test("zero is found where the job lies far from zero, and missing ones are told together", () => {
    const far = derive([
      ...Array.from({ length: 9 }, (_, k) => ({ number: k, e: k, n: 0, z: 90 + k })),
      { number: "Z", e: 0, n: 5, z: 0 },
      { number: "M", e: 1, n: 5 },
    ]);
    expect(found(far.derived, "zero-elevation")).toMatchObject([{ points: ["Z"], severity: "error" }]);
    expect(found(far.derived, "no-elevation")).toMatchObject([{ points: ["M"] }]);
    const near = derive(Array.from({ length: 9 }, (_, k) => ({ number: k, e: k, n: 0, z: k - 4 })));
    expect(found(near.derived, "zero-elevation")).toEqual([]);
    // The middle half, 3 to 7, lies no farther from zero than its own spread of 4.
    const spread = derive(Array.from({ length: 9 }, (_, k) => ({ number: k, e: k, n: 0, z: k })));
    expect(found(spread.derived, "zero-elevation")).toEqual([]);
    const below = derive([
      ...Array.from({ length: 9 }, (_, k) => ({ number: k, e: k, n: 0, z: -30 - k })),
      { number: "Z", e: 0, n: 5, z: 0 },
    ]);
    expect(found(below.derived, "zero-elevation")).toMatchObject([{ points: ["Z"] }]);
  });
});
