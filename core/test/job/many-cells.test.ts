/** One thing done to the cells of many points. */
import fc from "fast-check";
import { applyChange, inverse, type EditableChange } from "../../src/job/change/change";
import { type JobState } from "../../src/job/model/model";
import { changeOfCells } from "../../src/job/edit/cells";
import { cellsOfMany, manyOf, type ManyCells } from "../../src/job/edit/many-cells";
import { attributeText } from "../../src/job/edit/attributed";
import { EMPTY_VIEW } from "../../../web/lib/view";
import { stateOf } from "../job";

const job = (levels: (number | undefined)[]): JobState =>
  stateOf(
    levels.map((z, k) => ({ number: k + 1, e: k, n: 2 * k, ...(z === undefined ? {} : { z }), code: "SPOT; gate" })),
  );
const as = (job: JobState) => ({ job, view: EMPTY_VIEW });
const every = (s: JobState) => Int32Array.from(s.points.number.keys());
const cells = (made: ManyCells | { problem: string }) => {
  if ("problem" in made) throw new Error(made.problem);
  return made;
};
const done = (s: JobState, made: ManyCells | { problem: string }) => {
  const { change } = changeOfCells(as(s), cells(made).cells);
  return change ? applyChange(s, change) : s;
};

test("an amount is added as the decimal that it is, and taken off again it leaves nothing behind", () =>
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -999_999, max: 999_999 }), { minLength: 1, maxLength: 8 }),
      fc.integer({ min: -9999, max: 9999 }),
      (thousandths, by) => {
        const s = job(thousandths.map((x) => x / 1000)),
          amount = String(by / 1000);
        const raised = done(s, cellsOfMany(as(s), every(s), { field: "elevation" }, "add", amount));
        expect([...raised.points.z]).toEqual(thousandths.map((x) => (x + by) / 1000));
        const back = done(raised, cellsOfMany(as(raised), every(s), { field: "elevation" }, "add", String(-by / 1000)));
        expect([...back.points.z]).toEqual([...s.points.z]);
      },
    ),
  ));

test("any unit is typed; points without a value stay and are counted", () => {
  const s = job([1, undefined, 3]),
    made = cells(cellsOfMany(as(s), every(s), { field: "elevation" }, "add", "1 ft"));
  expect([made.cells.length, made.without]).toEqual([2, 1]);
  expect([...done(s, made).points.z]).toEqual([1.3048, NaN, 3.3048]);
  expect(cellsOfMany(as(s), every(s), { field: "elevation" }, "add", "much")).toHaveProperty("problem");
});

test("a target height set for many moves their elevations by old − new, in one change that is undone whole", () => {
  const measured = done(
      job([10, 11]),
      cellsOfMany(as(job([10, 11])), [0, 1], { field: "targetHeight" }, "set", "1.65"),
    ),
    { change } = changeOfCells(
      as(measured),
      cells(cellsOfMany(as(measured), [0, 1], { field: "targetHeight" }, "set", "2.15")).cells,
    );
  const next = applyChange(measured, change!);
  expect([...next.points.z].map((z) => z.toFixed(6))).toEqual(["9.500000", "10.500000"]);
  expect([...next.points.targetHeight]).toEqual([2.15, 2.15]);
  expect(applyChange(next, inverse(change!) as EditableChange)).toEqual(measured);
});

test("a word is replaced wherever it stands, as it is written; what has it not is no change", () => {
  const s = job([1, 2]),
    made = cells(cellsOfMany(as(s), every(s), { field: "description" }, "replace", "gate", "door.*"));
  expect(made.cells.map((c) => c.value)).toEqual(["SPOT; door.*", "SPOT; door.*"]);
  expect(cells(cellsOfMany(as(s), every(s), { field: "description" }, "replace", "GATE", "x")).cells).toEqual([]);
  expect(cellsOfMany(as(s), every(s), { field: "description" }, "replace", "")).toEqual({
    problem: "Say which word is replaced.",
  });
});

test("deleted points are passed over, those from drawings too and counted; the same value is no change", () => {
  const s = applyChange(job([1, 2, 3]), {
      type: "points",
      edits: [{ id: 1, field: "deleted", old: false, new: true }],
    }),
    kinds = s.points.kind.slice();
  kinds[1] = 4;
  const drawn = { ...s, points: { ...s.points, kind: kinds } };
  expect(cells(cellsOfMany(as(drawn), every(s), { field: "note" }, "set", "seen"))).toEqual({
    cells: [{ row: 2, field: "note", value: "seen" }],
    without: 0,
    readOnly: 1,
  });
  expect(cells(cellsOfMany(as(s), every(s), { field: "surface" }, "set", "auto")).cells).toEqual([]);
  expect(cellsOfMany(as(s), every(s), { field: "kind" }, "set", "spaceship")).toHaveProperty("problem");
});

test("every field that many points can be given takes a value of its kind", () => {
  const high = done(job([1, 2]), cellsOfMany(as(job([1, 2])), [0, 1], { field: "targetHeight" }, "set", "1.6")),
    s = done(high, cellsOfMany(as(high), [0, 1], { field: "note" }, "set", "S"));
  for (const { field, deeds, choices } of manyOf(as(s)))
    for (const deed of deeds) {
      const text = choices?.at(-1) ?? (deed === "replace" ? "S" : "1.5");
      expect(done(s, cellsOfMany(as(s), every(s), { field }, deed, text, "x"))).not.toBe(s);
    }
});

test("an attribute of many points: what descriptions say counts as theirs, and is passed over where it cannot be so", () => {
  const trees = stateOf([
      { number: 1, e: 0, n: 0, z: 1, code: "TREE 4 7 oak" },
      { number: 2, e: 9, n: 0, z: 1, code: "TREE 5" },
      { number: 3, e: 9, n: 9, z: 1, code: "SPOT" },
    ]),
    codes = ["", "TREE", "SPOT"],
    said = new Map([
      [
        "spread",
        new Map([
          [0, "4"],
          [1, "5"],
        ]),
      ],
      ["kind", new Map([[0, "oak"]])],
    ]),
    of = (s: JobState) => ({ job: s, view: { ...EMPTY_VIEW, codes, code: Uint16Array.of(1, 1, 2), said } });
  expect(manyOf(of(trees)).flatMap((m) => m.attribute ?? [])).toEqual(
    expect.arrayContaining(["spread", "height", "kind"]),
  );
  const make = (s: JobState, attribute: string, deed: "set" | "replace", text: string, by = "") =>
    cells(cellsOfMany(of(s), every(s), { field: "attributes", attribute }, deed, text, by));
  expect(make(trees, "kind", "replace", "oak", "ash").cells).toEqual([
    { row: 0, field: "attributes", attribute: "kind", value: "ash" },
  ]);
  // Those that are so already stay.
  expect(make(trees, "spread", "set", "4").cells.map((c) => c.row)).toEqual([1, 2]);
  const wide = make(trees, "spread", "set", "wide");
  expect([wide.cells.map((c) => c.row), wide.refused]).toEqual([
    [2],
    { count: 2, why: "spread of this point is a number." },
  ]);
  // Taken away it is away, though the description says it still, and undone it is back.
  const { change } = changeOfCells(of(trees), make(trees, "spread", "set", "").cells),
    without = applyChange(trees, change!);
  expect([0, 1, 2].map((i) => attributeText(of(without), i, "Spread"))).toEqual(["", "", ""]);
  const back = applyChange(without, inverse(change!) as EditableChange);
  expect([0, 1, 2].map((i) => attributeText(of(back), i, "Spread"))).toEqual(["4", "5", ""]);
});
