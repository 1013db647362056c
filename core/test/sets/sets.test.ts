/** Point sets: what each condition takes, the algebra of rules, why a point is in, and what a rename carries along. */
import fc from "fast-check";
import {
  applyChange,
  inverse,
  keepSet,
  openRecipe,
  parseRecipe,
  thingRemoved,
  renameSet,
  runChain,
  setContext,
  usersOf,
  type EditableChange,
  type JobState,
  type Recipe,
  type SetRule,
} from "../../src";
import { explainRow, ruleSentence, tally } from "../../src/sets/explain";
import { pointsOfRule } from "../../src/sets/sets";
import { CODES } from "../job";
import { surveyXml } from "../survey";

const ROWS = [
  // number, e, n, z, description, note, precision, time, spread
  ["1", 0, 0, 90, "SPOT", "", 0.01, "2031-04-17 08:00", ""],
  ["2", 10, 0, 95.5, "HEDGE1", "by the gate", 0.02, "2031-04-17 09:30", ""],
  ["3", 10, 10, "", "HEDGE1 end", "", 0.08, "2031-04-17 10:00", ""],
  ["K1", 0, 10, 101, "TREE 4", "Gate post", "", "", "2,5"],
  ["007", 5, 5, 99, "NEWWORD", "", "", "2031-04-18 07:00", "oak tree"],
];
const recipe: Recipe = {
  recipe: 1,
  codeBook: { codes: CODES },
  intakes: [
    {
      id: "day1",
      file: "day1.csv",
      crew: "A",
      layout: {
        delimiter: ";",
        columns: [
          ...(["number", "easting", "northing", "elevation", "description", "note", "precision", "time"] as const),
          "attr:Spread",
        ],
      },
    },
    { id: "survey", file: "survey.xml", crew: "B" },
  ],
  edits: [{ points: "1", set: { deleted: true } }],
  sets: [
    { name: "hedge", rule: { codes: ["HEDGE*"] } },
    { name: "rest", rule: { not: { set: "hedge" } } },
  ],
  surfaces: [{ name: "some", points: "rest" }],
  handover: [{ file: "hedge.csv", format: "csv", points: "hedge" }],
};
const files: Record<string, string> = {
  "day1.csv": ROWS.map((r) => r.join(";")).join("\n"),
  "survey.xml": surveyXml(
    [
      { number: "S", e: 100, n: 100, z: 50 },
      { number: "B", e: 100, n: 200, z: 50 },
    ],
    [
      {
        id: "st1",
        at: { number: "S", e: 100, n: 100, z: 50 },
        height: 1.5,
        zero: 0,
        backsight: { number: "B", e: 100, n: 200, z: 50 },
        targets: [{ number: "70", e: 120, n: 130, z: 51, height: 1.7, faces: 1 }],
      },
    ],
  ),
};
const start = (): JobState =>
  openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), (f) => new TextEncoder().encode(files[f]!)).state;
const job = start(),
  context = setContext(job, runChain(job));
const taken = (rule: SetRule) => Array.from(pointsOfRule(rule, context, "test"), (i) => job.points.number[i]);

describe("each condition", () => {
  test.each<[SetRule, string[], string]>([
    [{ codes: ["HEDGE", "TR?E"] }, ["2", "3", "K1"], "code HEDGE or TR?E"],
    [{ numbers: "2-3, K1" }, ["2", "3", "K1"], "number 2-3, K1"],
    [{ numbers: ["007"] }, ["007"], "number 007"],
    [{ kind: ["control"] }, ["S", "B"], "kind control"],
    [{ intake: ["survey"] }, ["S", "B", "70"], "intake survey"],
    [{ elevation: [95.5, 99] }, ["2", "007"], "elevation 95.5 to 99"],
    [{ elevation: [null, 60] }, ["S", "B", "70"], "elevation up to 60"],
    // Of what is not there nothing can be said, not even of a range without ends.
    [{ elevation: [null, null] }, ["2", "K1", "007", "S", "B", "70"], "elevation any"],
    [{ precision: [null, null] }, ["2", "3"], "precision any"],
    [{ time: [null, null] }, ["2", "3", "007"], "taken any"],
    [
      {
        inside: [
          [5, 5],
          [20, 5],
          [20, 20],
        ],
      },
      ["3", "007"],
      "inside a ring of 3 corners",
    ],
    [{ text: "*GATE*" }, ["2", "K1"], "description or note like *GATE*"],
    [{ attribute: { name: "spread", from: 2, to: 3 } }, ["K1"], "spread 2 to 3"],
    [{ attribute: { name: "SPREAD", is: "oak*" } }, ["007"], "SPREAD like oak*"],
    [{ attribute: { name: "height", from: 0 } }, [], "height from 0"],
    [{ crew: ["B"] }, ["S", "B", "70"], "crew B"],
    [{ setup: ["st1"] }, ["B", "70"], "setup st1"],
    [{ setup: ["survey / st1"] }, ["B", "70"], "setup survey / st1"],
    [{ time: ["2031-04-17 09:30", "2031-04-17 23:00"] }, ["2", "3"], "taken 2031-04-17 09:30 to 2031-04-17 23:00"],
    [{ time: ["2031-04-17 10:01", null] }, ["007"], "taken from 2031-04-17 10:01"],
    [{ precision: [0.02, null] }, ["2", "3"], "precision from 0.02"],
    [{ finding: ["unknown-code"] }, ["007"], "with the finding unknown code"],
    [{ deleted: true }, ["1"], "deleted"],
    [{ not: { deleted: true } }, ["2", "3", "K1", "007", "S", "B", "70"], "not deleted"],
    [{ set: "*ground" }, ["2", "007", "S", "B", "70"], "ground"],
    [{ set: "hedge" }, ["2", "3"], "in set “hedge”"],
    [
      { all: [{ set: "rest" }, { any: [{ numbers: "70" }, { codes: ["TREE"] }] }] },
      ["K1", "70"],
      "in set “rest”, and (number 70, or code TREE)",
    ],
    [{ all: [] }, ["2", "3", "K1", "007", "S", "B", "70"], "every point"],
    [{ any: [] }, [], "no point"],
  ])("%j", (rule, numbers, sentence) => {
    expect(taken(rule)).toEqual(numbers);
    expect(ruleSentence(rule)).toBe(sentence);
    expect(() =>
      parseRecipe(JSON.stringify({ ...recipe, sets: [...recipe.sets!, { name: "x", rule }] }), "r"),
    ).not.toThrow();
  });

  test.each<[SetRule, string[], string]>([
    [{ points: ["*number:2", "*number:1", "day1:5\t007"] }, ["2", "007"], "points 2, 1, 007"],
    [{ not: { points: ["day1:2"] } }, ["3", "K1", "007", "S", "B", "70"], 'not point "row 2 of day1"'],
    [
      { points: Array.from({ length: 22 }, (_, k) => `*number:${900 - 2 * k}`) },
      [],
      `points ${Array.from({ length: 20 }, (_, k) => 900 - 2 * k).join(", ")} and 2 more`,
    ],
    // One that is deleted is asked for by itself as well.
    [{ all: [{ points: ["day1:1\t1", "*number:2"] }, { deleted: true }] }, ["1"], "points 1, 2, and deleted"],
  ])("of chosen points: %j", (rule, numbers, sentence) => {
    expect(taken(rule)).toEqual(numbers);
    expect(ruleSentence(rule)).toBe(sentence);
  });

  test.each([
    [{ time: ["yesterday", null] }, "“yesterday” is no time"],
    [{ intake: ["day9"] }, "there is no intake “day9”"],
    [{ set: "nowhere" }, "there is no point set “nowhere”"],
  ])("%j is refused in words", (rule, words) => expect(() => taken(rule as SetRule)).toThrow(words));

  test.each([
    [{ deleted: false }, "deleted"],
    [{ elevation: [1] }, "elevation"],
    [{ finding: ["nothing"] }, "finding"],
    [{ attribute: { name: "a", is: "x", from: 1 } }, "attribute"],
    [{ kind: ["measured"], crew: ["A"] }, "rule"],
  ])("the recipe refuses %j", (rule, where) =>
    expect(() => parseRecipe(JSON.stringify({ ...recipe, sets: [{ name: "x", rule }] }), "r")).toThrow(where),
  );

  test("a surface cannot be made of what was found, since surfaces give findings", () => {
    const s = applyChange(job, keepSet(job, { name: "rest", rule: { not: { finding: ["spike"] } } })),
      d = runChain(s);
    expect(d.madeSets.find((m) => m.name === "rest")).toMatchObject({ ok: true });
    expect(d.surfaces[0]).toMatchObject({ ok: false, refusal: { message: expect.stringContaining("what is found") } });
  });
});

const leaf: fc.Arbitrary<SetRule> = fc.constantFrom<SetRule>(
  { codes: ["HEDGE"] },
  { numbers: "2, 70" },
  { kind: ["measured"] },
  { elevation: [60, null] },
  { text: "*gate*" },
  { crew: ["A"] },
  { set: "*ground" },
  { set: "rest" },
  {
    inside: [
      [0, 0],
      [20, 0],
      [20, 20],
      [0, 20],
    ],
  },
);
const { rule } = fc.letrec<{ rule: SetRule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 4, depthIdentifier: "rule" },
    leaf,
    fc.record({ all: fc.array(tie("rule"), { maxLength: 3 }) }),
    fc.record({ any: fc.array(tie("rule"), { maxLength: 3 }) }),
    fc.record({ not: tie("rule") }),
  ),
}));
const rowsOf = (r: SetRule) => Array.from(pointsOfRule(r, context, "test"));
const living = rowsOf({ all: [] });

describe("the algebra of rules", () => {
  test("all is the common part, any the union, not what is left (by sets of rows)", () =>
    fc.assert(
      fc.property(rule, rule, (a, b) => {
        const [x, y] = [rowsOf(a), rowsOf(b)];
        expect(rowsOf({ all: [a, b] })).toEqual(x.filter((i) => y.includes(i)));
        expect(rowsOf({ any: [a, b] })).toEqual(living.filter((i) => x.includes(i) || y.includes(i)));
        expect(rowsOf({ not: a })).toEqual(living.filter((i) => !x.includes(i)));
        expect(rowsOf({ not: { all: [a, b] } })).toEqual(rowsOf({ any: [{ not: a }, { not: b }] }));
      }),
    ));

  test("why a point is in or not agrees with whether it is, at every condition", () =>
    fc.assert(
      fc.property(rule, fc.constantFrom(...living), (r, row) => {
        const check = (reason: ReturnType<typeof explainRow>, of: SetRule) => {
          expect(reason.holds).toBe(rowsOf(of).includes(row));
          expect(reason.says).toBe(ruleSentence(of));
          const parts = "all" in of ? of.all : "any" in of ? of.any : "not" in of ? [of.not] : [];
          parts.forEach((p, k) => check(reason.of[k]!, p));
        };
        check(explainRow(r, row, context), r);
      }),
    ));

  test("counted one after another, the last condition leaves what the rule takes", () =>
    fc.assert(
      fc.property(fc.array(rule, { minLength: 1, maxLength: 4 }), fc.boolean(), (parts, every) => {
        const of: SetRule = every ? { all: parts } : { any: parts },
          counts = tally(of, context);
        expect(counts.map((c) => c.alone)).toEqual(parts.map((p) => rowsOf(p).length));
        expect(counts.at(-1)!.left).toBe(rowsOf(of).length);
        for (let k = 1; k < counts.length; k++)
          expect(every ? counts[k]!.left <= counts[k - 1]!.left : counts[k]!.left >= counts[k - 1]!.left).toBe(true);
      }),
    ));
});

describe("a set that is used", () => {
  test("is renamed with all that names it, by one change that is undone whole", () => {
    const s = applyChange(job, {
      type: "setting",
      field: "drawing",
      old: null,
      new: { points: [{ set: "hedge", show: ["number"] }] },
    } as EditableChange);
    expect(usersOf(s, "sets", "hedge")).toEqual(["the set “rest”", "the file “hedge.csv”", "the labels of points"]);
    const change = renameSet(s, "hedge", "green"),
      next = applyChange(s, change);
    expect(next.sets.map((x) => x.name)).toEqual(["green", "rest"]);
    expect(usersOf(next, "sets", "green")).toEqual(usersOf(s, "sets", "hedge"));
    expect(usersOf(next, "sets", "hedge")).toEqual([]);
    expect(runChain(next).madeSets.map((m) => m.ok && m.value)).toEqual(
      runChain(s).madeSets.map((m) => m.ok && m.value),
    );
    expect(applyChange(next, inverse(change) as EditableChange)).toEqual(s);
  });

  test("cannot be taken away, asks not for itself, and has a name of its own", () => {
    expect(() => thingRemoved(job, "sets", "rest")).toThrow(
      "The set “rest” is used by the surface “some”: choose another there, or remove that first.",
    );
    expect(() => keepSet(job, { name: "hedge", rule: { set: "rest" } })).toThrow(
      "The set “hedge” would ask for itself.",
    );
    expect(() => keepSet(job, { name: "me", rule: { not: { set: "me" } } })).toThrow("would ask for itself");
    expect(() => renameSet(job, "hedge", "rest")).toThrow("There is a set “rest” already.");
    expect(() => renameSet(job, "hedge", "*all")).toThrow("a name of its own");
    expect(() => keepSet(job, { name: "*ground", rule: { all: [] } })).toThrow("a name of its own");
    const free = applyChange(job, keepSet(job, { name: "free", rule: { set: "hedge" } }));
    expect(applyChange(free, thingRemoved(free, "sets", "free"))).toEqual(job);
  });
});
