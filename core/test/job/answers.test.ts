import { applyChange } from "../../src/job/change/change";
import { type LookedClash } from "../../src/job/recipe/repeated";
import { lookAt } from "../../src/job/told/look";
import { answerTo, inOrder, meanEdits, stopping, withAnswers } from "../../src/job/told/answers";
import { csvOf, stateOf, type Row } from "../job";

const ROWS: Row[] = [1, 2, 3, 4].map((k) => ({ number: k, e: 10 * k, n: 5, z: k, code: "SPOT" }));
const job = stateOf(ROWS);
const look = (rows: Row[]) =>
  lookAt(
    job,
    new TextEncoder().encode(csvOf(rows)),
    {
      id: "look",
      file: "again.csv",
      layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
    },
    { firstId: 1 },
  );

// Point 1 the same, 2 moved, 3 with another code, 4 left out, 9 and 10 new.
const again = look([
  ROWS[0]!,
  { ...ROWS[1]!, e: 20.5, z: 2.5 },
  { ...ROWS[2]!, code: "HEDGE" },
  { ...ROWS[3]!, number: 9 },
  { number: 10, e: 1, n: 1, code: "SPOT" },
]);

describe("a delivery that comes again", () => {
  test("is told with what is new, the same, changed and gone", () => {
    expect(again.repeated).toEqual({ file: "day1.csv", fresh: 2, same: 1, changed: 2, gone: ["4"] });
    expect(again.clashes.map((c) => [c.number, c.same])).toEqual([
      ["1", true],
      ["2", false],
      ["3", false],
    ]);
    // A row that differs in any one figure is changed.
    const one = (row: Partial<Row>) => look([{ ...ROWS[0]!, ...row }]).clashes[0]!.same;
    expect([{}, { e: 11 }, { n: 6 }, { z: 2 }, { z: undefined }, { code: "TREE" }].map(one)).toEqual([
      true,
      ...Array(5).fill(false),
    ]);
    // Of a file that shares one number in four nothing of the kind is said.
    expect(look([ROWS[0]!, { number: 50, e: 0, n: 0 }]).repeated).toBeUndefined();
  });

  test("rows that say the same are set aside by themselves, the others wait for an answer", () => {
    const none = { given: {}, means: [] };
    expect(stopping(again.clashes, none).map((c) => c.number)).toEqual(["2", "3"]);
    expect(withAnswers(again.clashes, none).clashes).toEqual({ 1: "keep-first" });
    // Where most say the same it is the others that are named.
    const mostly = look([ROWS[0]!, ROWS[2]!, { ...ROWS[1]!, e: 20.5 }]);
    expect(withAnswers(mostly.clashes, { given: { clashes: { 2: "replace" } }, means: [] })).toEqual({
      clash: "keep-first",
      clashes: { 2: "replace" },
    });
    const all = { given: { clash: "replace" as const }, means: [] };
    expect(again.clashes.map((c) => answerTo(c, all))).toEqual(["keep-first", "replace", "replace"]);
    const own = { given: { clashes: { 1: "add" as const } }, means: ["3"] };
    expect(again.clashes.map((c) => answerTo(c, own))).toEqual(["add", "stop", "mean"]);
    expect(withAnswers(again.clashes, own).clashes).toEqual({ 1: "add", 3: "keep-first" });
  });

  test("the mean of both is an edit of the point that is kept; a missing level does not count", () => {
    const edits = meanEdits(job.points, again.clashes, ["2"]);
    expect(edits.map((e) => [e.field, e.old, e.new])).toEqual([
      ["easting", 20, 20.25],
      ["elevation", 2, 2.25],
    ]);
    expect(applyChange(job, { type: "points", edits }).points.e[1]).toBe(20.25);
    const noLevel = look([{ number: 3, e: 31, n: 5 }]);
    expect(meanEdits(job.points, noLevel.clashes, ["3"]).map((e) => [e.field, e.new])).toEqual([["easting", 30.5]]);
  });

  test("is sorted by how far apart both places are", () => {
    const at = (row: number, e: number, z: number): LookedClash => ({
      number: String(row),
      row,
      e,
      n: 0,
      z,
      same: false,
      there: { from: "", e: 0, n: 0, z: 0 },
    });
    const list = [at(1, 0.1, -3), at(2, 2, NaN), at(3, 1, 0.5)];
    const none = { given: {}, means: [] };
    expect(inOrder(list, "row", none).map((c) => c.row)).toEqual([1, 2, 3]);
    expect(inOrder(list, "row", { given: { clashes: { 1: "add" } }, means: [] }).map((c) => c.row)).toEqual([2, 3, 1]);
    expect(inOrder(list, "plan", none).map((c) => c.row)).toEqual([2, 3, 1]);
    expect(inOrder(list, "level", none).map((c) => c.row)).toEqual([1, 3, 2]);
  });
});
