/** One thing done to the cells of many points. */
import fc from "fast-check";
import { applyChange, inverse, type EditableChange, type JobState } from "@bramble/core";
import { changeOfCells } from "../bench/table/change";
import { cellsOfMany, MANY, type ManyCells } from "../bench/table/many";
import { stateOf } from "../../core/test/job";

const job = (levels: (number | undefined)[]): JobState =>
  stateOf(
    levels.map((z, k) => ({ number: k + 1, e: k, n: 2 * k, ...(z === undefined ? {} : { z }), code: "SPOT; gate" })),
  );
const every = (s: JobState) => Int32Array.from(s.points.number.keys());
const cells = (made: ManyCells | { problem: string }) => {
  if ("problem" in made) throw new Error(made.problem);
  return made;
};
const done = (s: JobState, made: ManyCells | { problem: string }) => {
  const { change } = changeOfCells(s, cells(made).cells);
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
        const raised = done(s, cellsOfMany(s, every(s), "elevation", "add", amount));
        expect([...raised.points.z]).toEqual(thousandths.map((x) => (x + by) / 1000));
        const back = done(raised, cellsOfMany(raised, every(s), "elevation", "add", String(-by / 1000)));
        expect([...back.points.z]).toEqual([...s.points.z]);
      },
    ),
  ));

test("any unit is typed; points without a value stay and are counted", () => {
  const s = job([1, undefined, 3]),
    made = cells(cellsOfMany(s, every(s), "elevation", "add", "1 ft"));
  expect([made.cells.length, made.without]).toEqual([2, 1]);
  expect([...done(s, made).points.z]).toEqual([1.3048, NaN, 3.3048]);
  expect(cellsOfMany(s, every(s), "elevation", "add", "much")).toHaveProperty("problem");
});

test("a target height set for many moves their elevations by old − new, in one change that is undone whole", () => {
  const measured = done(job([10, 11]), cellsOfMany(job([10, 11]), [0, 1], "targetHeight", "set", "1.65")),
    { change } = changeOfCells(measured, cells(cellsOfMany(measured, [0, 1], "targetHeight", "set", "2.15")).cells);
  const next = applyChange(measured, change!);
  expect([...next.points.z].map((z) => z.toFixed(6))).toEqual(["9.500000", "10.500000"]);
  expect([...next.points.targetHeight]).toEqual([2.15, 2.15]);
  expect(applyChange(next, inverse(change!) as EditableChange)).toEqual(measured);
});

test("a word is replaced wherever it stands, as it is written; what has it not is no change", () => {
  const s = job([1, 2]),
    made = cells(cellsOfMany(s, every(s), "description", "replace", "gate", "door.*"));
  expect(made.cells.map((c) => c.value)).toEqual(["SPOT; door.*", "SPOT; door.*"]);
  expect(cells(cellsOfMany(s, every(s), "description", "replace", "GATE", "x")).cells).toEqual([]);
  expect(cellsOfMany(s, every(s), "description", "replace", "")).toEqual({ problem: "Say which word is replaced." });
});

test("deleted points are passed over, those from drawings too and counted; the same value is no change", () => {
  const s = applyChange(job([1, 2, 3]), {
      type: "points",
      edits: [{ id: 1, field: "deleted", old: false, new: true }],
    }),
    kinds = s.points.kind.slice();
  kinds[1] = 4;
  const drawn = { ...s, points: { ...s.points, kind: kinds } };
  expect(cells(cellsOfMany(drawn, every(s), "note", "set", "seen"))).toEqual({
    cells: [{ row: 2, field: "note", value: "seen" }],
    without: 0,
    readOnly: 1,
  });
  expect(cells(cellsOfMany(s, every(s), "surface", "set", "auto")).cells).toEqual([]);
  expect(cellsOfMany(s, every(s), "kind", "set", "spaceship")).toHaveProperty("problem");
});

test("every field that many points can be given takes a value of its kind", () => {
  const high = done(job([1, 2]), cellsOfMany(job([1, 2]), [0, 1], "targetHeight", "set", "1.6")),
    s = done(high, cellsOfMany(high, [0, 1], "note", "set", "S"));
  for (const { field, deeds, choices } of MANY)
    for (const deed of deeds) {
      const text = choices?.at(-1) ?? (deed === "replace" ? "S" : "1.5");
      expect(done(s, cellsOfMany(s, every(s), field, deed, text, "x"))).not.toBe(s);
    }
});
