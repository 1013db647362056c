/** Renumbering: whatever names a point goes on meaning it. */
import { handoverSource } from "../../src/job/leave/handover-source";
import fc from "fast-check";
import {
  applyChange,
  inverse,
  openRecipe,
  renumber,
  runChain,
  writeRecipe,
  type EditableChange,
  type JobState,
  type Recipe,
} from "../../src";
import { encodeCueEdits } from "../../src/points/cue-edits";
import { fieldIndex } from "../../src/points/index";
import { refByNumber, refOf } from "../../src/points/refs";
import { readNumberList, renamedNumbers, writeNumbers } from "../../src/points/numbers";
import { csvOf, stateOf, type Row } from "../job";
import { surveyXml, type TruePosition } from "../survey";

const DESCRIPTIONS =
  "HEDGE1,HEDGE1,HEDGE1 end,HEDGE2 from=2,HEDGE2,HEDGE2 join=8,TOP,TOP new,TOP,TOP to=1,SPOT,SPOT,BED,BED,BED loop";
const ROWS: Row[] = DESCRIPTIONS.split(",").map((code, k) => ({
  number: k + 1,
  e: 10 * (k % 5) + k,
  n: 7 * k,
  z: 100 + (k % 3),
  code,
}));
const HAND: Partial<Recipe> = {
  lines: [
    { name: "wall", code: "PATH", points: "2, 10-12", cues: { "11": "via" } },
    { name: "loop", code: "BED", points: ["1", "5", "9"], closed: true },
  ],
  sets: [
    { name: "few", rule: { any: [{ numbers: "3, 7" }, { not: { numbers: ["1", "2"] } }] } },
    { name: "range", rule: { numbers: "10-12" } },
  ],
  handover: [{ file: "pegs.csv", format: "csv", points: "1, 3, 11" }],
};
const start = (): JobState => {
  const s = stateOf(ROWS, HAND),
    edit = (id: number, add: string[], remove: string[] = []) => {
      const element = id < 4 ? "HEDGE1" : "TOP";
      return { id, field: "cues" as const, old: "", new: encodeCueEdits([{ element, add, remove }]) };
    };
  return applyChange(s, { type: "points", edits: [edit(3, ["to=12"], ["end"]), edit(9, ["new", "from=11"])] });
};

/** What a job's drawing means, by ids. */
function meaning(s: JobState) {
  const d = runChain(s),
    ids = (rows: ArrayLike<number>) => Array.from(rows, (i) => s.points.id[i]);
  return {
    lines: d.lines.map((l) => [l.code, l.run, ids(l.shots), l.closed, l.length]),
    sets: d.madeSets.map((m) => [m.name, m.ok && ids(m.value)]),
    // Without the number's own column: easting, northing, elevation.
    file: ids(handoverSource(s.handover[0]!, s, d).rows),
    findings: d.findings.map((f) => [f.kind, f.points]),
  };
}
const numbered = (s: JobState, pairs: [number, string][]) =>
  renumber(
    s,
    pairs.map(([id, number]) => ({ id, number })),
  );

describe("a point with another number", () => {
  test("what names it by number follows, and is told before; lines by hand need not, the field's words stay", () => {
    const s = start(),
      { change, follows } = numbered(s, [
        [2, "902"],
        [11, "A 11"],
        [12, "13a"],
      ]);
    expect(follows.map(({ what, from, to }) => `${what}: ${from} → ${to}`)).toEqual([
      "Cues of point 3: to=12 → to=13a",
      "Cues of point 9: new from=11 → new from=A 11",
      "Set “few”: 3, 7; 1, 2 → 3, 7; 1, 902",
      "Set “range”: 11 by 10-12 → ",
      "Set “range”: 12 by 10-12 → ",
      'File “pegs.csv”: 1, 3, 11 → 1, 3, "A 11"',
    ]);
    const next = applyChange(s, change),
      before = meaning(s),
      after = meaning(next);
    expect(after.lines).toEqual(before.lines);
    expect(after.findings).toEqual(before.findings);
    expect(next.points.texts[next.points.description[3]!]).toBe("HEDGE2 from=2");
    expect(next.lines).toBe(s.lines);
    expect(next.points.cameAs).toEqual({ 2: "2", 11: "11", 12: "12" });
    expect(change).toMatchObject({ type: "several", text: "3 points renumbered; 4 things that named them follow" });
  });

  test("what was known by its number alone is known by itself from then on, without a word", () => {
    const s = start(),
      lines = [{ name: "wall", code: "PATH", points: ["2", "10", "77"].map(refByNumber) }],
      known = { ...s, lines },
      { change, follows } = numbered(known, [
        [2, "902"],
        [3, "2"],
      ]);
    expect(follows.filter((f) => f.what.includes("wall"))).toEqual([]);
    const next = applyChange(known, change);
    expect(next.lines[0]!.points).toEqual([refOf(s.points, s.intakes, 1), refByNumber("10"), refByNumber("77")]);
    expect(meaning(next).lines.at(-1)).toEqual(meaning(known).lines.at(-1));
  });

  test("a word of an office cue that steers, but names no point, is no number", () => {
    const s = stateOf([
        { number: 1, e: 0, n: 0, z: 1, code: "HEDGE off=2,0" },
        { number: 2, e: 5, n: 5, z: 1, code: "HEDGE" },
      ]),
      cues = encodeCueEdits([{ element: "HEDGE", add: ["off=2,0", "after=2"] }]),
      steered = applyChange(s, { type: "points", edits: [{ id: 1, field: "cues", old: "", new: cues }] });
    expect(numbered(steered, [[2, "7"]]).follows).toEqual([
      { what: "Cues of point 1", from: "off=2,0 after=2", to: "off=2,0 after=7" },
    ]);
  });

  test("a cue that the office added and took away again stays away; one of the field's is taken away as it was", () => {
    const s = stateOf(
        [
          { number: 1, e: 0, n: 0, z: 1, code: "HEDGE to=3" },
          { number: 2, e: 5, n: 0, z: 1, code: "HEDGE" },
          { number: 3, e: 5, n: 5, z: 1, code: "SPOT" },
        ],
        { handover: HAND.handover! },
      ),
      said = encodeCueEdits([
        { element: "HEDGE", add: ["from=2"] },
        { element: "HEDGE", remove: ["from=2", "to=3"] },
      ]),
      steered = applyChange(s, { type: "points", edits: [{ id: 1, field: "cues", old: "", new: said }] });
    const next = applyChange(
      steered,
      numbered(steered, [
        [2, "20"],
        [3, "30"],
      ]).change,
    );
    expect(meaning(next).lines).toEqual(meaning(steered).lines);
    expect(next.points.texts[next.points.cues[0]!]).toBe(
      encodeCueEdits([
        { element: "HEDGE", add: ["from=20"] },
        { element: "HEDGE", remove: ["from=20", "to=3"] },
      ]),
    );
  });

  test.each([
    ["enters", 1, "12", [{ what: "Set “range”", from: "", to: "12 by 10-12", leaves: true }]],
    ["leaves", 10, "99", [{ what: "Set “range”", from: "10 by 10-12", to: "", leaves: true }]],
    ["stays in", 10, "12", []],
  ])("a point that %s a range by its new number", (_, id, number, told) => {
    // 12 is free here.
    const s = stateOf(
      ROWS.filter((r) => r.number !== 12),
      { sets: HAND.sets! },
    );
    expect(numbered(s, [[id, number]]).follows.filter((f) => f.leaves)).toEqual(told);
  });

  test("a number that another point keeps, one given twice, a blank one and a lost point are refused", () => {
    const s = start();
    expect(() => numbered(s, [[1, "2"]])).toThrow("Point 2 is there already");
    expect(() =>
      numbered(s, [
        [1, "x"],
        [2, "x"],
      ]),
    ).toThrow("Point x is there already");
    expect(() => numbered(s, [[1, " "]])).toThrow("Point 1 needs a number");
    expect(() => numbered(s, [[99, "7a"]])).toThrow("A point that you renumber is not in this job any more");
    // Exchanged, both are free.
    expect(
      applyChange(
        s,
        numbered(s, [
          [1, "2"],
          [2, "1"],
        ]).change,
      ).points.number.slice(0, 2),
    ).toEqual(["2", "1"]);
  });

  test("whatever is renumbered, any number of times, the drawing means the same; undo and the recipe agree", () => {
    const word = fc.constantFrom("1", "2", "3", "11", "12", "40", "41", "K1", "x-1", "a b", "007");
    const step = fc.array(fc.tuple(fc.integer({ min: 1, max: ROWS.length }), word), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 4 }), (steps) => {
        const begin = start();
        let s = begin;
        for (const pairs of steps) {
          let done: ReturnType<typeof numbered>;
          try {
            done = numbered(s, pairs);
          } catch {
            continue;
          }
          const next = applyChange(s, done.change);
          expect(applyChange(next, inverse(done.change) as EditableChange)).toEqual(s);
          // Sets by ranges are left and entered, as it was told.
          const left = done.follows.some((f) => f.leaves),
            [was, is] = [meaning(s), meaning(next)];
          expect(is.lines).toEqual(was.lines);
          expect(is.findings).toEqual(was.findings);
          if (!left) expect(is).toEqual(was);
          s = next;
        }
        const recipe = writeRecipe(s, stateOf(ROWS, HAND).points, () => "day1.csv"),
          again = openRecipe(recipe, () => new TextEncoder().encode(csvOf(ROWS))).state;
        expect(again.points.number).toEqual(s.points.number);
        expect(again.points.cameAs ?? {}).toEqual(s.points.cameAs ?? {});
        expect(meaning(again)).toEqual(meaning(s));
      }),
      { numRuns: 150 },
    );
  });

  test("backsights and stations of the field mean the point that they were observed on", () => {
    const K1: TruePosition = { number: "K1", e: 0, n: 0, z: 100 },
      K2: TruePosition = { number: "K2", e: 60, n: 80, z: 101 };
    const targets = [{ number: "51", e: 20, n: 30, z: 99, height: 1.7, faces: 1 }],
      xml = surveyXml([], [{ id: "S1", at: K1, height: 1.6, zero: 0.4, backsight: K2, targets }]);
    const recipe: Recipe = {
      recipe: 1,
      intakes: [
        {
          id: "control",
          file: "c.csv",
          kind: "control",
          layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
        },
        { id: "survey", file: "s.xml" },
      ],
      codeBook: { codes: [] },
    };
    const bytes = (file: string) =>
      new TextEncoder().encode(file === "c.csv" ? "K1,0,0,100,CP\nK2,60,80,101,CP\n" : xml);
    const s = openRecipe(recipe, bytes).state,
      renamed = applyChange(
        s,
        numbered(s, [
          [1, "K2"],
          [2, "K9"],
        ]).change,
      );
    expect(s.points.e[2]).toBeCloseTo(20, 6);
    expect([...renamed.points.e]).toEqual([...s.points.e]);
    expect([...renamed.points.z]).toEqual([...s.points.z]);
    expect(runChain(renamed).findings).toEqual(runChain(s).findings);
    // So the office's own words of a backsight stay by the number that its point came with, and follow a later one.
    const sighted = (of: JobState, backsight: string) => ({
        ...of,
        setups: [{ intake: "survey", setup: "S1", backsights: [backsight] }],
      }),
      first = numbered(sighted(s, "K2"), [[2, "K9"]]);
    expect(first.follows).toEqual([]);
    const later = applyChange(sighted(s, "K2"), first.change);
    expect(numbered(sighted(later, "K9"), [[2, "K10"]]).follows).toEqual([
      { what: "Setup survey / S1", from: "K9", to: "K10" },
    ]);
  });
});

describe("what the field means by a number", () => {
  const t = (list: [intake: number, number: string, cameAs?: string][]) => ({
    count: list.length,
    id: Int32Array.from(list.keys()),
    intake: Int32Array.from(list, ([k]) => k),
    number: list.map(([, n]) => n),
    deleted: new Uint8Array(list.length),
    cameAs: Object.fromEntries(list.flatMap(([, , c], i) => (c === undefined ? [] : [[i, c]]))),
  });
  test.each<[string, [number, string, string?][], [number, string], number]>([
    [
      "its own point that came with it",
      [
        [0, "9", "1"],
        [1, "1"],
      ],
      [0, "1"],
      0,
    ],
    [
      "seen from the other file, that one's own",
      [
        [0, "9", "1"],
        [1, "1"],
      ],
      [1, "1"],
      1,
    ],
    [
      "from a third file, the one that has it still",
      [
        [0, "9", "1"],
        [1, "1"],
      ],
      [2, "1"],
      1,
    ],
    [
      "one that came with it, before one that only has it now",
      [
        [0, "9", "1"],
        [1, "1", "5"],
      ],
      [2, "1"],
      0,
    ],
    ["one that has it now, where none came with it", [[1, "1", "5"]], [2, "1"], 0],
    ["none", [[0, "9", "1"]], [0, "7"], -1],
  ])("%s", (_, points, [intake, number], row) => expect(fieldIndex(t(points))(intake, number)).toBe(row));

  test("a deleted one means nothing", () => {
    const table = { ...t([[0, "9", "1"]]), deleted: Uint8Array.of(1) };
    expect(fieldIndex(table)(0, "1")).toBe(-1);
  });
});

describe("a number list with numbers that have become others", () => {
  const to = new Map([
    ["2", "50"],
    ["7", "a-b"],
  ]);
  test.each<[string, string]>([
    ["1, 3", "1, 3"],
    ["2", "50"],
    ['"2", 9', "50, 9"],
    ["1-3, 7", '1-3, "a-b"'],
    ["*", "*"],
    ["4-6", "4-6"],
  ])("%s", (list, next) => expect(renamedNumbers(list, to)).toBe(next));

  test("it names the renamed numbers", () =>
    fc.assert(
      fc.property(fc.array(fc.constantFrom("1", "2", "3", "4", "7", "x y", '"'), { minLength: 1 }), (numbers) => {
        const list = writeNumbers(numbers),
          kept = readNumberList(renamedNumbers(list, to))!;
        for (const n of readNumberList(list)!.exact ?? []) expect(kept.has(to.get(n) ?? n)).toBe(true);
      }),
    ));
});
