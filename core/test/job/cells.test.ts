/** What is typed or pasted into cells of the points table, and the changes that it means. */
import fc from "fast-check";
import { applyChange, inverse, type EditableChange } from "../../src/job/change/change";
import { changeOfCells, editsFor, readCell } from "../../src/job/edit/cells";
import { readPaste, type Into } from "../../src/job/edit/pasted";
import { FOLLOWS_Z } from "../../src/records/kinds";
import { stateOf } from "../job";

describe("cells of the points table", () => {
  const job = stateOf([
    { number: 1, e: 100, n: 200, z: 50, code: "SPOT" },
    { number: 2, e: 1, n: 2 },
  ]);

  test.each([
    ["elevation", "12.5", 12.5],
    ["elevation", " 1 ft ", 0.3048],
    ["elevation", "", null],
    ["elevation", "12,5", 12.5],
    ["number", "7A", "7A"],
    ["surface", "by code", "auto"],
    ["surface", "out", "out"],
    ["kind", "control", "control"],
    ["note", " x ", "x"],
  ] as const)("%s typed as “%s” is %s", (field, text, value) => expect(readCell(field, text, job)).toEqual({ value }));

  test.each([
    ["elevation", "high"],
    ["northing", ""],
    ["number", " "],
    ["kind", "reference"],
    ["surface", "perhaps"],
    ["easting", "1e999"],
  ] as const)("%s typed as “%s” is refused in a sentence", (field, text) => {
    expect(readCell(field, text, job)).toEqual({ problem: expect.stringMatching(/\.$/) });
  });

  test("a target height moves the elevation by old − new, as one change that undoes whole", () => {
    const measured = { ...job, points: { ...job.points, targetHeight: Float64Array.of(1.65, NaN) } };
    const edits = editsFor(measured, 0, "targetHeight", 2.15);
    expect(edits.map((e) => [e.field, e.new])).toEqual([
      ["targetHeight", 2.15],
      ["elevation", 49.5],
    ]);
    expect(applyChange(measured, { type: "points", edits }).points.z[0]).toBe(49.5);
    expect(editsFor(measured, 1, "targetHeight", 2)).toHaveLength(1);
    expect(editsFor(job, 0, "elevation", 50)).toEqual([]);
  });
});

test("a coordinate typed for an object ahead of its shot takes the place of its past, all of it undone by one change", () => {
  const job = stateOf([
    { number: "1", e: 0, n: 0, z: 10, code: "SPOT" },
    { number: "2", e: 30, n: 40, z: 12, code: "HEDGE2 past=10,0,1" },
  ]);
  const edits = editsFor(job, 1, "elevation", 20);
  expect(edits.map((e) => e.field).sort()).toEqual(["cues", "easting", "elevation", "northing"]);
  const next = applyChange(job, { type: "points", edits });
  expect([next.points.e[1], next.points.n[1], next.points.z[1], next.points.shotAt]).toEqual([
    expect.closeTo(36, 9),
    expect.closeTo(48, 9),
    20,
    undefined,
  ]);
  const back = applyChange(next, inverse({ type: "points", edits }) as EditableChange);
  expect([back.points.z[1], back.points.shotAt?.get(2)]).toEqual([13, [30, 40, 12]]);
  expect(editsFor(job, 1, "note", "x")).toEqual([{ id: 2, field: "note", old: "", new: "x" }]);
});

test("a level that follows from raw observations moves with its target height by itself: one edit alone", () => {
  const job = stateOf([{ number: 1, e: 0, n: 0, z: 50, code: "SPOT" }]),
    points = { ...job.points, targetHeight: Float64Array.of(1.65), follows: Uint8Array.of(FOLLOWS_Z) };
  expect(editsFor({ ...job, points }, 0, "targetHeight", 2.15).map((e) => e.field)).toEqual(["targetHeight"]);
});

describe("a block of text pasted from a cell on", () => {
  const job = stateOf([1, 2, 3, 4].map((k) => ({ number: k, e: k, n: k, z: k, code: "SPOT" }))),
    of = { job, view: { code: [0, 0, 0, 0], codes: [""], said: new Map<string, ReadonlyMap<number, string>>() } },
    columns: Into[] = [
      { title: "Number", field: "number" },
      { title: "Northing m", field: "northing" },
      { title: "Code" },
      { title: "Elevation m", field: "elevation" },
      { title: "Note", field: "note" },
    ],
    rows = Int32Array.of(3, 1, 0, 2),
    one = { rows: 1, columns: 1 };

  test("goes row by row as the table is sorted; read-only columns keep their place, what is beyond is counted", () => {
    const made = readPaste("5\tX\t7\n6\tY\t8\t9\t10", one, of, rows, 3, columns, 1);
    expect(made.beyond).toEqual({ rows: 1, columns: 1 });
    expect(made.cells.map((c) => [c.row, c.field, c.value])).toEqual([
      [2, "northing", 5],
      [2, "elevation", 7],
    ]);
    expect(made.refusedCount).toBe(0);
  });

  test("one value fills all cells that are chosen; of what cannot be taken five are named and all are counted", () => {
    const filled = readPaste("9", { rows: 3, columns: 1 }, of, rows, 0, columns, 3);
    expect(filled.cells.map((c) => [c.row, c.value])).toEqual([
      [3, 9],
      [1, 9],
      [0, 9],
    ]);
    const deleted = { ...of, job: { ...job, points: { ...job.points, deleted: Uint8Array.of(0, 0, 0, 1) } } };
    const wrong = readPaste("high\nlow\n3\n4", one, deleted, rows, 0, columns, 3);
    expect(wrong.refused).toEqual([
      "Point 4, elevation “high”: it is deleted.",
      expect.stringMatching(/^Point 2, elevation “low”: .*\.$/),
    ]);
    expect(wrong.cells).toHaveLength(2);
    const many = readPaste(Array(4).fill("a\tb").join("\n"), one, of, rows, 0, columns, 3);
    expect([many.refused.length, many.refusedCount, many.cells.length]).toEqual([4, 4, 4]);
  });

  test("what was pasted is what the cells then hold, and one step back leaves what there was", () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -99_999, max: 99_999 }), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 0, max: 3 }),
        (thousandths, from) => {
          const text = thousandths.map((x) => `${x / 1000}`).join("\n"),
            { cells, beyond } = readPaste(text, one, of, rows, from, columns, 3),
            { change } = changeOfCells(of, cells);
          expect(beyond.rows).toBe(Math.max(0, from + thousandths.length - rows.length));
          const next = change ? applyChange(job, change) : job;
          for (const [k, x] of thousandths.entries())
            if (from + k < rows.length) expect(next.points.z[rows[from + k]!]).toBe(x / 1000);
          if (change) expect(applyChange(next, inverse(change) as EditableChange).points.z).toEqual(job.points.z);
        },
      ),
    ));
});
