/** Sets and the table's filter as forms: texts in fields, rules, and back. */
import fc from "fast-check";
import { FINDING_KINDS, runChain, setContext, type SetRule } from "@bramble/core";
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
import { elsewhere, filterRows, ruleOfFilter, type RowFilter } from "../bench/table/rows";
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
          const text = rowText(row),
            ends = endsOf(row);
          if (text !== undefined) expect(readRow(row.kind, text)).toEqual({ rule: row.rule });
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
    ["finding", "zero elevation", { rule: { finding: ["zero-elevation"] } }],
    ["text", "  ", { problem: "Write a word, with * for the rest." }],
  ])("%s %j", (kind, text, read) => expect(readRow(kind, text)).toEqual(read));

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
          const kept = pointsOfRule(ruleOfFilter(f, ["1", "K1"], FINDING_KINDS), context, "set");
          expect([...kept]).toEqual([...shown].sort((a, b) => a - b));
        },
      ),
    ));

  test("where a word stands that is in none of the columns asked", () => {
    const noted = { ...job, points: { ...job.points, note: job.points.description } };
    expect(elsewhere(noted, "gate")).toEqual([{ where: "the note", count: 1, rule: { text: "*gate*" } }]);
    expect(elsewhere(job, "day1")).toEqual([{ where: "the intake", count: 5, rule: { intake: ["day1"] } }]);
    expect(elsewhere(job, "measured").map((x) => [x.where, x.count])).toEqual([["the kind", 5]]);
    expect(elsewhere(job, "1, 2")).toEqual([]);
  });
});
