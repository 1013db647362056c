/** Looking back: who joined or left a set by which entry, what a change did to one point, the ledger as a text. */
import fc from "fast-check";
import type { EditField } from "../../src/records/fields";
import {
  applyChange,
  Chain,
  beginningOf,
  changeAbout,
  changeDetails,
  inverse,
  ledgerReport,
  runChain,
  type Change,
  type ToldChange,
  type EditableChange,
  type JobState,
} from "../../src";
import { detailNames } from "../../src/job/change/details";
import { membershipHistory } from "../../src/job/told/membership";
import { standingInTheWay } from "../../src/job/change/dependents";
import { fieldValue, type EditValue } from "../../src/points/edits";
import { refByNumber, refOfMade } from "../../src/points/refs";
import { stateOfText } from "../job";

const TEXT = Array.from({ length: 12 }, (_, k) => `${k + 1},${10 * k},0,${k},${k % 2 ? "SPOT" : "TREE"}`).join("\n");
const start = stateOfText(TEXT, {
  codeBook: { codes: [{ code: "SPOT" }, { code: "TREE" }] },
  sets: [
    { name: "low", rule: { all: [{ elevation: [0, 5] }, { codes: ["SPOT"] }] } },
    { name: "few", rule: { any: [{ set: "low" }, { numbers: "1-3" }] } },
  ],
});
const edit = (s: JobState, row: number, field: EditField, value: EditValue): EditableChange => ({
  type: "points",
  edits: [{ id: s.points.id[row]!, field, old: fieldValue(s.points, row, field), new: value }],
});
const members = (s: JobState, set: string) => {
  const made = runChain(s).madeSets.find((x) => x.name === set)!;
  return made.ok ? Array.from(made.value, (i) => s.points.id[i]!) : [];
};
const step = fc.oneof(
  fc.record({ row: fc.nat(11), field: fc.constant("elevation" as const), value: fc.constantFrom(1, 4, 9, null) }),
  fc.record({ row: fc.nat(11), field: fc.constant("description" as const), value: fc.constantFrom("SPOT", "TREE") }),
  fc.record({ row: fc.nat(11), field: fc.constant("deleted" as const), value: fc.boolean() }),
);

test("what joined or left, by which entry, is what the sets held before and after each", () =>
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 8 }), fc.constantFrom("low", "few"), (steps, set) => {
      let s = start,
        held = members(s, set);
      const entries: { seq: number; change: Change }[] = [],
        wanted: { seq: number; joined: number[]; left: number[] }[] = [];
      steps.forEach(({ row, field, value }, k) => {
        const change = edit(s, row, field, value);
        s = applyChange(s, change);
        entries.unshift({ seq: k + 1, change });
        const now = members(s, set),
          joined = now.filter((id) => !held.includes(id)),
          left = held.filter((id) => !now.includes(id));
        if (joined.length || left.length) wanted.unshift({ seq: k + 1, joined, left });
        held = now;
      });
      const chain = new Chain(),
        derived = chain.run(s);
      expect(membershipHistory(chain, s, set, entries)).toEqual({ steps: wanted });
      expect(chain.run(s)).toEqual(derived);
    }),
    { numRuns: 40 },
  ));

test.each<ToldChange>([
  { type: "intake", intake: "d", file: "d.csv", action: "take", replaced: [], id: 1 },
  { type: "large", bytes: 300_000 },
])("before what only the whole job tells nothing is known ($type)", (end) => {
  const change = edit(start, 1, "elevation", 9),
    s = applyChange(start, change);
  expect(
    membershipHistory(new Chain(), s, "low", [
      { seq: 7, change },
      { seq: 6, change: end },
      { seq: 5, change },
    ]),
  ).toEqual({ steps: [{ seq: 7, joined: [], left: [start.points.id[1]] }], end: 6 });
});

test("of a change of many points only what it did to one is left", () => {
  const many: Change = {
    type: "several",
    text: "Two deeds",
    changes: [
      { type: "points", edits: [1, 2, 3].map((id) => ({ id, field: "note" as const, old: "", new: `n${id}` })) },
      { type: "setting", field: "name", old: "a", new: "b" },
    ],
  };
  expect(changeAbout(many, 2)).toEqual({
    type: "several",
    text: "Two deeds",
    changes: [{ type: "points", edits: [{ id: 2, field: "note", old: "", new: "n2" }] }],
  });
  expect(changeAbout(many, 9)).toBeUndefined();
  const add: Change = {
    type: "add",
    points: {
      id: [5, 6],
      number: ["5", "6"],
      easting: [1, 2],
      northing: [3, 4],
      elevation: [null, 7],
      description: ["A", "B"],
      note: ["", ""],
      kind: ["computed", "computed"],
      precision: [null, null],
      targetHeight: [null, null],
    },
  };
  expect(changeAbout(add, 6)).toMatchObject({ points: { id: [6], number: ["6"], elevation: [7] } });
  // The beginning of one shows as many of its details as are asked for, and is small.
  const names = { point: String, ref: String, unit: "m" };
  for (const change of [many, add])
    for (const most of [1, 2])
      expect(changeDetails(beginningOf(change, most), names, most).details).toEqual(
        changeDetails(change, names, most).details,
      );
  expect(beginningOf(many, 1)).toEqual({
    type: "several",
    text: "Two deeds",
    changes: [{ type: "points", edits: [{ id: 1, field: "note", old: "", new: "n1" }] }],
  });
  expect(beginningOf(add, 1)).toMatchObject({ points: { id: [5], number: ["5"], description: ["A"] } });
});

test("the ledger as a text tells each value before and after, and what was taken back", () => {
  const report = ledgerReport(
    "Plot",
    [
      {
        seq: 1,
        author: "Ada",
        at: "2031-04-17T08:05:09.123Z",
        text: "Elevation of 1 point changed",
        undone: true,
        change: edit(start, 0, "elevation", 2.5),
      },
    ],
    detailNames(start.points, start.intakes, "m"),
  );
  expect(report).toBe(
    "Ledger of Plot\n1 entry, times in UTC\n\n" +
      "1. 2031-04-17 08:05:09  Ada: Elevation of 1 point changed (taken back since)\n" +
      "    Point 1, elevation: 0 m -> 2.5 m\n",
  );
});

test("taking back is only in the way where something is left without what it names", () => {
  const made: EditableChange = {
    type: "named",
    part: "sets",
    name: "more",
    old: null,
    new: { name: "more", rule: { set: "low" } },
  };
  const s = applyChange(start, made);
  expect(standingInTheWay(s, inverse(made))).toEqual([]);
  const labels = { points: [{ set: "*", number: true }] };
  expect(standingInTheWay(s, { type: "setting", field: "drawing", old: s.drawing ?? null, new: labels })).toEqual([]);
  const at90 = refOfMade(90, "A90"),
    made90: Change = {
      type: "add",
      points: { id: [90], number: ["A90"], easting: [1], northing: [1], elevation: [5], description: ["SPOT"] },
    },
    referring: JobState = {
      ...start,
      surfaces: [{ name: "ground", swap: [[at90, refByNumber("1")]] }],
      sets: [{ name: "one", rule: { not: { points: [at90] } } }],
      added: [{ name: "a1", words: "x", to: { point: at90 } }],
      lines: [{ name: "l", code: "WALL", points: [refByNumber("1"), at90] }],
    };
  expect(standingInTheWay(referring, inverse(made90)).sort()).toEqual([
    "The addition to the drawing “a1” refers to point A90.",
    "The line WALL drawn by hand goes through point A90.",
    "The point set “one” refers to point A90.",
    "The surface “ground” refers to point A90.",
  ]);
  const low = start.sets[0]!,
    gone: Change = { type: "named", part: "sets", name: "low", old: low, new: null };
  expect(standingInTheWay(s, gone)).toEqual([
    "The set “few” uses the set “low”.",
    "The set “more” uses the set “low”.",
  ]);
  // What was so before is no reason.
  const without = { ...start, sets: start.sets.slice(1) };
  expect(standingInTheWay(without, { type: "setting", field: "client", old: null, new: "x" })).toEqual([]);
  expect(standingInTheWay(start, { type: "setting", field: "client", old: null, new: "x" })).toEqual([]);
});
