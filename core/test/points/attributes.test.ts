/** Attributes that the office gives, beside those of file and description. */
import fc from "fast-check";
import { applyChange, inverse, openRecipe, writeRecipe, type EditableChange, type JobState } from "../../src";
import { attributesOf, decodeAttributes, encodeAttributes } from "../../src/points/attributes";
import { fieldValue, type RecipeEdit } from "../../src/points/edits";
import { attributeOf } from "../../src/codes/read";
import { concatTables, emptyTable, pickRows } from "../../src/points/table";
import { handoverSource } from "../../src/job/leave/handover-source";
import { summarize } from "../../src/job/told/summary";
import type { FileOf } from "../../src/handover/files";
import { writeGeoJson } from "../../src/handover/geojson";
import { csvOf, derive, found, runOf, stateOf, type Row } from "../job";

const ROWS = [
  { number: 1, e: 0, n: 0, z: 1, code: "TREE 4" },
  { number: 2, e: 9, n: 0, z: 1, code: "TREE" },
  { number: 3, e: 9, n: 9, z: 1, code: "SPOT" },
];
const give = (s: JobState, id: number, to: Record<string, string>): EditableChange => ({
  type: "points",
  edits: [{ id, field: "attributes", old: fieldValue(s.points, id - 1, "attributes"), new: encodeAttributes(to) }],
});

test("a missing attribute is repaired by giving it, a wrong one by another value, and both are found again undone", () => {
  const s = stateOf(ROWS),
    missing = (of: JobState) => found(runOf(of), "attribute-missing").map((f) => f.points);
  expect(missing(s)).toEqual([["2"]]);
  const change = give(s, 2, { Spread: "3,5" }),
    given = applyChange(s, change);
  expect(missing(given)).toEqual([]);
  expect(attributeOf(given.points, runOf(given).coded, 1, "spread")).toBe("3,5");
  const wrong = applyChange(given, give(given, 2, { Spread: "wide", height: "tall" }));
  expect(found(runOf(wrong), "attribute-wrong").map((f) => [f.points, f.data])).toEqual([
    [["2"], { word: "wide", attribute: "spread", text: "spread is “wide”, expected a number; kept as text" }],
    [["2"], { word: "tall", attribute: "height", text: "height is “tall”, expected a number; kept as text" }],
  ]);
  expect(missing(applyChange(given, inverse(change) as EditableChange))).toEqual([["2"]]);
  expect(applyChange(given, inverse(change) as EditableChange)).toEqual(s);
});

test("what the office gives goes before the description, which then is not accused any more", () => {
  const s = stateOf([{ number: 1, e: 0, n: 0, z: 1, code: "TREE wide" }]);
  expect(found(runOf(s), "attribute-wrong")).toHaveLength(1);
  const mended = applyChange(s, give(s, 1, { spread: "4" }));
  expect(found(runOf(mended), "attribute-wrong")).toEqual([]);
  expect(attributeOf(mended.points, runOf(mended).coded, 0, "spread")).toBe("4");
});

test.each<[string, RecipeEdit["set"], string]>([
  ["numbers and words", { attributes: { spread: 4.25, kind: "oak" } }, '{"kind":"oak","spread":"4.25"}'],
  ["taken away by null", { attributes: { spread: null } }, '{"spread":null}'],
  ["a blank is none", { attributes: { spread: "" } }, ""],
])("an edit of a recipe: %s", (_, set, text) => {
  const { state } = derive(ROWS, { edits: [{ points: "2", set }] } as never);
  expect(attributesOf(state.points, 1)).toBe(text);
});

test("an edit adds to what is there, and takes only what it names", () => {
  const edits = [
    { points: "1-2", set: { attributes: { spread: 2, height: 7 } } },
    { points: "2", set: { attributes: { spread: null, kind: "ash" } } },
  ];
  const { state } = derive(ROWS, { edits } as never);
  expect([0, 1, 2].map((i) => decodeAttributes(attributesOf(state.points, i)))).toEqual([
    { spread: "2", height: "7" },
    { height: "7", kind: "ash", spread: null },
    {},
  ]);
});

describe("what crews write into descriptions", () => {
  const TREES: Row[] = [
    { number: 1, e: 0, n: 0, z: 1, code: "TREE 4.0 7 oak" },
    { number: 2, e: 9, n: 0, z: 1, code: "TREE spread=6,5" },
    { number: 3, e: 9, n: 9, z: 1, code: "SPOT" },
    { number: 4, e: 5, n: 5, z: 1, code: "SPOT / TREE 9 9 ash" },
  ];
  const rule = (attribute: object) => ({ name: "s", rule: { attribute } });
  const numbersOf = (attribute: object, more: object = {}) => {
    const { state, derived } = derive(TREES, { sets: [rule(attribute)], ...more } as never);
    return summarize(state, derived, []).sets.find((x) => x.name === "s")!.numbers;
  };

  test("sets by attribute see it: by position, by name, of every element", () => {
    expect(numbersOf({ name: "spread", from: 4, to: 8 })).toEqual(["1", "2"]);
    expect(numbersOf({ name: "Spread", from: 8 })).toEqual(["4"]);
    expect(numbersOf({ name: "kind", is: "*" })).toEqual(["1", "4"]);
    expect(numbersOf({ name: "kind", is: "OA*" })).toEqual(["1"]);
  });

  test("what the office gives goes before it, and what the office takes away is away", () => {
    const edits = [
      { points: "1", set: { attributes: { SPREAD: 9, kind: null } } },
      { points: "2", set: { attributes: { spread: null } } },
    ];
    expect(numbersOf({ name: "spread", from: 4 }, { edits })).toEqual(["1", "4"]);
    expect(numbersOf({ name: "kind", is: "*" }, { edits })).toEqual(["4"]);
    const { state, derived } = derive(TREES, { edits } as never);
    expect([0, 1, 3].map((i) => attributeOf(state.points, derived.coded, i, "spread"))).toEqual(["9", "", "9"]);
    // A tree needs its spread: taken away it is missing.
    expect(found(derived, "attribute-missing").map((f) => [f.points, f.data])).toEqual([
      [["2"], { word: "spread", attribute: "spread", text: "TREE needs its spread" }],
    ]);
  });

  test("written as a recipe and read again it is still away; rows picked and tables joined keep it", () => {
    const start = stateOf(TREES),
      s = applyChange(start, {
        type: "points",
        edits: [{ id: 1, field: "attributes", old: "", new: encodeAttributes({ kind: null, height: "8" }) }],
      });
    const recipe = writeRecipe(s, start.points, () => "day1.csv");
    expect(recipe.edits).toEqual([{ points: "1", intake: "day1", set: { attributes: { height: "8", kind: null } } }]);
    const again = openRecipe(recipe, () => new TextEncoder().encode(csvOf(TREES))).state;
    for (const t of [again.points, pickRows(s.points, [0]), concatTables(s.points, emptyTable())])
      expect(attributesOf(t, 0)).toBe('{"height":"8","kind":null}');
    const joined = concatTables(start.points, s.points);
    expect([0, 4].map((i) => attributesOf(joined, i))).toEqual(["", '{"height":"8","kind":null}']);
  });

  test("it leaves with the points of every format that has fields, but for what was taken away", () => {
    const edits = [{ points: "1", intake: "day1", set: { attributes: { kind: null } } }];
    const { state, derived } = derive(TREES, { edits } as never),
      file: FileOf<"geojson"> = { file: "a.geojson", format: "geojson", holds: ["points"] };
    const { features } = JSON.parse(
      new TextDecoder().decode(writeGeoJson(file, handoverSource(file, state, derived))),
    ) as { features: { properties: Record<string, unknown> }[] };
    expect(features.map(({ properties: p }) => [p.number, p.spread, p.height])).toEqual([
      ["1", "4.0", "7"],
      ["2", "6.5", undefined],
      ["3", undefined, undefined],
      ["4", "9", "9"],
    ]);
    expect(features[0]!.properties).not.toHaveProperty("kind", "oak");
  });
});

test("any edits: the written recipe gives the same, undo gives back what was, and no other point is touched", () => {
  const given = fc.dictionary(
    fc.constantFrom("spread", "height", "kind", "Ø", "__proto__"),
    fc.constantFrom("", "1", "x y", "é"),
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom(1, 2, 3), given), { maxLength: 6 }), (steps) => {
      const start = stateOf(ROWS);
      let s = start;
      for (const [id, to] of steps) {
        const change = give(s, id, to),
          next = applyChange(s, change);
        expect(attributesOf(next.points, id - 1)).toBe(encodeAttributes(to));
        for (const other of [0, 1, 2])
          if (other !== id - 1) expect(attributesOf(next.points, other)).toBe(attributesOf(s.points, other));
        const back = applyChange(next, inverse(change) as EditableChange);
        for (const i of [0, 1, 2]) expect(attributesOf(back.points, i)).toBe(attributesOf(s.points, i));
        s = next;
      }
      const again = openRecipe(
        writeRecipe(s, start.points, () => "day1.csv"),
        () => new TextEncoder().encode(csvOf(ROWS)),
      );
      for (const i of [0, 1, 2]) expect(attributesOf(again.state.points, i)).toBe(attributesOf(s.points, i));
    }),
  );
});
