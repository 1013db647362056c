/** References by identity: what names a point or a line goes on naming that very one, whatever is called how. */
import {
  applyChange,
  Chain,
  openRecipe,
  reverseLine,
  writeRecipe,
  type EditableChange,
  type JobState,
} from "../../src";
import type { EditField } from "../../src/records/fields";
import { fieldValue, withEdits, type EditValue } from "../../src/points/edits";
import { numberIndex } from "../../src/points/index";
import { csvOf, runOf, stateOf, told, type Row } from "../job";

const edit = (s: JobState, number: string, field: EditField, value: EditValue): EditableChange => {
  const i = numberIndex(s.points).get(number)!;
  return { type: "points", edits: [{ id: s.points.id[i]!, field, old: fieldValue(s.points, i, field), new: value }] };
};
const levels = (s: JobState) => Object.fromEntries(s.points.number.map((n, i) => [n, s.points.z[i]]));

describe("an edit in a saved recipe hits the point that it hit in the application, and no other", () => {
  const rows = ["12", "13", "14", "15", "12-15", "*", 'a"b', "c,d"].map((number, k): Row => ({
    number,
    e: k,
    n: k * k,
    z: k,
    code: "SPOT",
  }));
  const quoted = rows.map((r) => `"${String(r.number).replaceAll('"', '""')}",${r.e},${r.n},${r.z},SPOT`).join("\n");
  const layout = {
    delimiter: ",",
    quote: '"',
    columns: ["number", "easting", "northing", "elevation", "description"] as never,
  };
  const start = openRecipe({ recipe: 1, intakes: [{ id: "day1", file: "day1.csv", layout }] }, () =>
    new TextEncoder().encode(quoted),
  ).state;
  test.each(["12-15", "*", 'a"b', "c,d", "13"])("%s", (number) => {
    const changed = applyChange(start, edit(start, number, "elevation", 99));
    const again = openRecipe(
      writeRecipe(changed, start.points, () => "day1.csv"),
      () => new TextEncoder().encode(quoted),
    ).state;
    expect(levels(changed)).toEqual({ ...levels(start), [number]: 99 });
    expect(levels(again)).toEqual(levels(changed));
  });
});

test("what the office did to points that give way to another delivery is in the recipe, for when that leaves", () => {
  const text = (z: number, numbers: number[]) => numbers.map((n) => `${n},${n},0,${z},SPOT`).join("\n");
  const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
  const files: Record<string, string> = {
    a: `${text(1, [1, 2, 3, 4])}\n4,9,9,9,SPOT`,
    b: text(2, [2, 3, 7]),
    c: text(3, [3, 7]),
  };
  const open = (file: string) => new TextEncoder().encode(files[file]);
  const start = openRecipe(
    { recipe: 1, intakes: ["a", "b", "c"].map((id) => ({ id, file: id, layout, clash: "replace" as const })) },
    open,
  ).state;
  const edited = {
    ...start,
    points: withEdits(start.points, [
      { row: 1, field: "note", value: "seen" },
      { row: 1, field: "number", value: "20" },
      { row: 2, field: "deleted", value: true },
      { row: 4, field: "elevation", value: 8 },
      { row: 5, field: "note", value: "of b" },
      // Both a's and b's 3 stand aside.
      { row: 6, field: "note", value: "b's three" },
      { row: 7, field: "elevation", value: 77 },
      { row: 9, field: "note", value: "of c" },
    ]),
  };
  const recipe = writeRecipe(edited, start.points, (k) => ["a", "b", "c"][k]!),
    again = openRecipe(recipe, open);
  // The first shot with 4 gave way to the second of its own file, which an edit of 4 means: what it had cannot be told.
  const twice = withEdits(edited.points, [{ row: 3, field: "note", value: "aside" }]);
  expect(writeRecipe({ ...edited, points: twice }, start.points, (k) => ["a", "b", "c"][k]!)).toEqual(recipe);
  for (const field of ["number", "elevation", "note", "deleted"] as const)
    for (let i = 0; i < start.points.count; i++)
      expect(fieldValue(again.state.points, i, field)).toBe(fieldValue(edited.points, i, field));
  expect(again.state.points.deleted).toEqual(edited.points.deleted);
  // A number that nobody holds is still counted as missing, whoever stands aside with it.
  const asked = { ...recipe, edits: [{ points: "1-3", intake: "a", set: { note: "x" } }] };
  expect(openRecipe(asked, open).missingInEdits).toBe(2);
});

test("a line through points whose numbers look like ranges is turned, and still there", () => {
  const s = stateOf(
    [
      { number: "101-1", e: 0, n: 0, z: 1 },
      { number: "101-2", e: 5, n: 0, z: 2 },
      { number: "x", e: 5, n: 5, z: 3 },
    ],
    { lines: [{ name: "l", code: "HEDGE", points: '"101-1", "101-2"' }] },
  );
  const [line] = runOf(s).lines,
    turned = reverseLine(s, { ...line!, cues: ["", ""] });
  if (!("change" in turned)) throw new Error(turned.refused);
  const after = applyChange(s, turned.change);
  expect(runOf(after).lines.map((l) => l.shots.map((i) => after.points.number[i]))).toEqual([["101-2", "101-1"]]);
});

describe("findings", () => {
  const rows: Row[] = [
    { number: "5", e: 0, n: 0, z: 10, code: "HEDGE" },
    { number: "6", e: 5, n: 0, code: "HEDGE past=2" },
    { number: "7", e: 9, n: 9, z: 11, code: "NOTHING KNOWN" },
    { number: "8", e: 4, n: 9, z: 12, code: "BED2" },
  ];
  const start = stateOf(rows, { surfaces: [{ name: "s" }] }),
    keys = (s: JobState) => runOf(s).findings.map((f) => f.key);

  test("say the number that a point has now, under the key that they had", () => {
    const chain = new Chain(),
      before = chain.run(start),
      renamed = applyChange(start, edit(start, "7", "number", "77")),
      after = chain.run(renamed);
    expect(after.findings.map((f) => f.key)).toEqual(before.findings.map((f) => f.key));
    expect(
      told(runOf(renamed))
        .filter((f) => f.points.includes("77"))
        .map((f) => f.message)
        .join(),
    ).toContain("77");
    expect(told(runOf(renamed)).some((f) => / 7\b/.test(f.message))).toBe(false);
  });
  test("about a shot beside its object are told by the number that it has now (named the old one)", () => {
    // The last shot's direction is its own: an object past it without one is told.
    const one = stateOf([{ number: "5", e: 0, n: 0, z: 1, code: "TREE past=2" }]),
      renamed = applyChange(one, edit(one, "5", "number", "55")),
      chain = new Chain();
    chain.run(one);
    const messages = (d: ReturnType<Chain["run"]>) => d.findings.map((f) => JSON.stringify(f.words));
    expect(messages(chain.run(renamed))).toEqual(messages(new Chain().run(renamed)));
    expect(told(runOf(renamed)).some((f) => /point 5\b/i.test(f.message))).toBe(false);
  });
  test("keep their keys when something else changes, and lose them with their facts", () => {
    const noted = applyChange(start, edit(start, "8", "note", "by the gate"));
    expect(keys(noted)).toEqual(keys(start));
    const levelled = applyChange(start, edit(start, "6", "elevation", 10));
    expect(keys(start).filter((k) => !keys(levelled).includes(k)).length).toBeGreaterThan(0);
    expect(new Set(keys(start)).size).toBe(keys(start).length);
  });
});

describe("a stage runs again only when what it reads is another", () => {
  const rows: Row[] = [
    ...Array.from({ length: 8 }, (_, k) => ({
      number: k + 1,
      e: 7 * k,
      n: (k * 31) % 40,
      z: k,
      code: k < 4 ? "TOP1" : "SPOT",
    })),
    { number: "B", e: 3, n: 50, z: 3, code: "SPOT" },
  ];
  const start = stateOf(rows, {
    surfaces: [{ name: "s", breaklines: { codes: ["TOP"] } }],
    contours: [{ surface: "s", interval: 1 }],
    volumes: [{ name: "v", surface: "s", level: 3 }],
  });
  test("a note costs no reading of codes, a number no lines and no terrain, a level no reading of codes", () => {
    const chain = new Chain(),
      first = chain.run(start);
    const noted = chain.run(applyChange(start, edit(start, "5", "note", "by the gate")));
    expect([
      noted.coded === first.coded,
      noted.lines === first.lines,
      noted.surfaces === first.surfaces,
      noted.volumes[0] === first.volumes[0],
    ]).toEqual([true, true, true, true]);
    const renumbered = chain.run(applyChange(start, edit(start, "5", "number", "500")));
    expect([
      renumbered.coded === first.coded,
      renumbered.surfaces[0] === first.surfaces[0],
      renumbered.contours[0] === first.contours[0],
    ]).toEqual([true, true, true]);
    const levelled = chain.run(applyChange(start, edit(start, "5", "elevation", 9)));
    expect([
      levelled.coded === first.coded,
      levelled.lines === first.lines,
      levelled.surfaces[0] === first.surfaces[0],
    ]).toEqual([true, true, false]);
  });
});

test("bringing back 10 000 of 100 000 deleted points is no search of the table for each of them", () => {
  const count = 100_000,
    text = csvOf(
      Array.from({ length: count }, (_, k): Row => ({ number: k + 1, e: k % 300, n: Math.floor(k / 300), z: 1 })),
    );
  const s = openRecipe(
    {
      recipe: 1,
      intakes: [
        {
          id: "d",
          file: "d.csv",
          layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
        },
      ],
    },
    () => new TextEncoder().encode(text),
  ).state;
  const turn = (old: boolean): EditableChange => ({
    type: "points",
    edits: Array.from({ length: 10_000 }, (_, k) => ({ id: s.points.id[10 * k]!, field: "deleted", old, new: !old })),
  });
  const gone = applyChange(s, turn(false)),
    back = applyChange(gone, turn(true));
  expect([gone, back].map((x) => x.points.deleted.reduce((sum, d) => sum + d, 0))).toEqual([10_000, 0]);
  expect(numberIndex(back.points).get("99991")).toBe(99_990);
});
