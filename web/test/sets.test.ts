/** Sets and the table's filter as forms: texts in fields, rules, and back. */
import fc from "fast-check";
import { FINDING_KINDS, runChain, setContext, type SetRule } from "@bramble/core";
import { numberSaid, refByNumber } from "@bramble/core/points/refs";
import { pointsOfRule } from "@bramble/core/sets/sets";
import {
  attributeTexts,
  endsOf,
  readAttribute,
  readEnds,
  readRow,
  rowsOfRule,
  rowText,
  ruleOfRows,
  type RowKind,
} from "../bench/sets/values";
import { columnsOf, timeText } from "../bench/table/columns";
import { arrange } from "../bench/table/ColumnsForm";
import { elsewhere, filterRows, ruleOfFilter, sortedBy, sortRows, type RowFilter } from "../bench/table/rows";
import { refsOf } from "../lib/rows";
import { EMPTY_VIEW, type View } from "../lib/view";
import { stateOf } from "../../core/test/job";

describe("a rule as rows of a form", () => {
  const condition = fc.constantFrom<SetRule>(
    { codes: ["TOP*", "SPOT"] },
    { numbers: "12, 40-52" },
    { kind: ["control"] },
    { intake: ["day1"] },
    { text: "*gate*" },
    { elevation: [90, null] },
    { time: [null, "2031-04-17 08:00"] },
    { precision: [0, 0.05] },
    { attribute: { name: "spread", from: 2 } },
    { attribute: { name: "kind", is: "oak*" } },
    {
      inside: [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
    },
    { finding: ["zero-elevation"] },
    { points: ["*number:7", "*number:a b"] },
    { deleted: true },
    { set: "*ground" },
  );
  const part = fc.oneof(
    condition,
    condition.map((r): SetRule => ({ not: r })),
  );

  test("comes back as it was, and so does every row by its texts", () =>
    fc.assert(
      fc.property(fc.array(part, { maxLength: 5 }), fc.constantFrom("all" as const, "any" as const), (parts, word) => {
        const rule = (word === "all" ? { all: parts } : { any: parts }) as SetRule,
          form = rowsOfRule(rule)!;
        expect(ruleOfRows(form.word, form.rows)).toEqual(rule);
        for (const row of form.rows) {
          const text = rowText(row, numberSaid),
            ends = endsOf(row);
          if (text !== undefined) expect(readRow(row.kind, text, refByNumber)).toEqual({ rule: row.rule });
          if (ends) expect(readEnds(row.kind, ends, "m")).toEqual({ rule: row.rule });
          if (row.kind === "attribute") expect(readAttribute(attributeTexts(row.rule))).toEqual({ rule: row.rule });
        }
      }),
    ));

  test("one condition alone is a row; what is nested deeper is not taken apart", () => {
    expect(rowsOfRule({ codes: ["A"] })).toMatchObject({ word: "all", rows: [{ not: false, kind: "codes" }] });
    expect(rowsOfRule({ all: [{ any: [{ codes: ["A"] }, { codes: ["B"] }] }] })).toBeUndefined();
    expect(rowsOfRule({ not: { all: [] } })).toBeUndefined();
  });

  test.each<[RowKind, string, unknown]>([
    ["codes", " a , b ,", { rule: { codes: ["a", "b"] } }],
    ["codes", " , ", { problem: "Write at least one code." }],
    ["numbers", "1-", { rule: { numbers: "1-" } }],
    ["numbers", '1, "', { problem: "Write numbers such as 12, 40-52." }],
    ["points", "12, 14-15", { rule: { points: ["*number:12", "*number:14", "*number:15"] } }],
    ["points", "12, 99", { problem: "There is no point 99." }],
    ["points", "*", { problem: "Write numbers such as 12, 40-52." }],
    ["finding", "zero elevation", { rule: { finding: ["zero-elevation"] } }],
    ["text", "  ", { problem: "Write a word, with * for the rest." }],
  ])("%s %j", (kind, text, read) =>
    expect(readRow(kind, text, (n) => (n === "99" ? undefined : refByNumber(n)))).toEqual(read),
  );

  test("ends are typed in any unit, and refused in words", () => {
    expect(readEnds("elevation", ["10 ft", ""], "m")).toEqual({ rule: { elevation: [3.048, null] } });
    expect(readEnds("precision", ["", "much"], "m")).toHaveProperty("problem");
    expect(readAttribute({ name: " ", is: "", from: "", to: "" })).toEqual({ problem: "Name the attribute." });
    expect(readAttribute({ name: "height", is: "", from: "2,5", to: "" })).toEqual({
      rule: { attribute: { name: "height", from: 2.5 } },
    });
  });
});

describe("the table's filter", () => {
  const job = stateOf([
      { number: 1, e: 0, n: 0, z: 1, code: "SPOT" },
      { number: 12, e: 1, n: 0, z: 2, code: "HEDGE by the gate" },
      { number: "K1", e: 2, n: 0, z: 3, code: "TREE 12" },
      { number: 40, e: 3, n: 0, z: 0, code: "NEWWORD" },
      { number: "a-1", e: 4, n: 0, code: "SPOT" },
    ]),
    derived = runChain(job),
    codes = ["", "SPOT", "HEDGE", "TREE", "NEWWORD"],
    of = ["SPOT", "HEDGE", "TREE", "NEWWORD", "SPOT"];
  const view: View = {
    ...EMPTY_VIEW,
    codes,
    code: Uint16Array.from(of, (c) => codes.indexOf(c)),
    findings: derived.findings,
  };
  const text = fc.constantFrom("", "12", "1-40", "HEDGE", "T*", "1, K1", '"a-1"', "gate", "spot");
  test("kept as a set, it takes the points that it shows", () =>
    fc.assert(
      fc.property(
        text,
        fc.constantFrom("*", "SPOT", "TREE"),
        fc.constantFrom<RowFilter["only"]>("all", "findings", "selected"),
        fc.boolean(),
        (words, code, only, ruled) => {
          const rule: SetRule | undefined = ruled ? { all: [{ elevation: [1, null] }] } : undefined,
            f: RowFilter = { text: words, code, intake: ruled ? "day1" : "*", only, ...(rule ? { rule } : {}) };
          const context = setContext(job, derived),
            rows = rule && pointsOfRule(rule, context, "filter"),
            shown = filterRows(job, view, f, new Set([1, 3]), rows).rows;
          const kept = pointsOfRule(ruleOfFilter(f, refsOf(job, [1, 3]), FINDING_KINDS), context, "set");
          expect([...kept]).toEqual([...shown].sort((a, b) => a - b));
        },
      ),
    ));

  test("where a word stands that is in none of the columns asked", () => {
    const noted = { ...job, points: { ...job.points, note: job.points.description } };
    expect(elsewhere({ job: noted, view }, "gate")).toEqual([
      { where: "the note", count: 1, rule: { text: "*gate*" } },
    ]);
    expect(elsewhere({ job, view }, "day1")).toEqual([{ where: "the intake", count: 5, rule: { intake: ["day1"] } }]);
    expect(elsewhere({ job, view }, "measured").map((x) => [x.where, x.count])).toEqual([["the kind", 5]]);
    expect(elsewhere({ job, view }, "1, 2")).toEqual([]);
  });
});

describe("the order of the table's rows", () => {
  const job = stateOf([
      { number: 10, e: 1, n: 0, z: 5, code: "B" },
      { number: 9, e: 2, n: 0, z: 5, code: "A" },
      { number: 1, e: 3, n: 0, code: "A" },
      { number: 2, e: 4, n: 0, z: 7, code: "B" },
    ]),
    data = { job, view: EMPTY_VIEW },
    columns = columnsOf("m", "EN", []);
  const sorted = (...sort: [string, boolean?][]) =>
    [
      ...sortRows(
        data,
        Int32Array.of(0, 1, 2, 3),
        columns,
        sort.map(([key, down = false]) => ({ key, down })),
      ),
    ].map((i) => job.points.number[i]);

  test("by one column, by several, and as they were where all are equal", () => {
    expect(sorted()).toEqual(["10", "9", "1", "2"]);
    expect(sorted(["number"])).toEqual(["1", "2", "9", "10"]);
    expect(sorted(["elevation"])).toEqual(["1", "10", "9", "2"]);
    expect(sorted(["description"], ["number", true])).toEqual(["9", "1", "10", "2"]);
    expect(sorted(["elevation", true], ["number"])).toEqual(["2", "9", "10", "1"]);
    expect(sorted(["kind"])).toEqual(["10", "9", "1", "2"]);
    expect(sorted(["no such column"])).toEqual(["10", "9", "1", "2"]);
  });

  test("a heading goes up, down and out; with more the others stay in their order", () => {
    const up = sortedBy([], "a", false);
    expect(up).toEqual([{ key: "a", down: false }]);
    expect(sortedBy(up, "a", false)).toEqual([{ key: "a", down: true }]);
    expect(sortedBy([{ key: "a", down: true }], "a", false)).toEqual([]);
    expect(sortedBy(up, "b", false)).toEqual([{ key: "b", down: false }]);
    const both = sortedBy(up, "b", true);
    expect(both.map((s) => s.key)).toEqual(["a", "b"]);
    expect(sortedBy(both, "a", true)).toEqual([
      { key: "a", down: true },
      { key: "b", down: false },
    ]);
    expect(sortedBy(sortedBy(both, "a", true), "a", true)).toEqual([{ key: "b", down: false }]);
  });

  test("columns stand and are hidden as chosen; new ones come at the end as they are at first", () => {
    const keys = (list: readonly { key: string }[]) => list.map((c) => c.key);
    expect(keys(arrange(columns, undefined).shown)).not.toContain("crew");
    expect(keys(arrange(columns, undefined).all)).toEqual(keys(columns));
    const chosen = arrange(columns, { order: ["number", "crew", "elevation"], hidden: ["elevation"] });
    expect(keys(chosen.all).slice(0, 4)).toEqual(["number", "crew", "elevation", "easting"]);
    expect(keys(chosen.shown).slice(0, 3)).toEqual(["number", "crew", "easting"]);
    expect(keys(chosen.shown)).not.toContain("time");
  });

  test("a time is told with its day only where the file gave one", () => {
    expect(timeText(NaN)).toBe("");
    expect(timeText(8.5 * 3_600_000)).toBe("08:30:00");
    expect(timeText(Date.UTC(2031, 3, 17, 8, 0, 5))).toBe("2031-04-17 08:00:05");
  });
});
