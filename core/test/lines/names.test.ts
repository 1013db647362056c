/** Own names and colours of lines: found by identity, carried along, in every list and file. */
import { unzipSync } from "fflate";
import { joinLines, recodeLine, reverseLine, splitLine } from "../../src";
import { applyChange, inverse } from "../../src/job/change/change";
import type { LineEdit } from "../../src/job/edit/drawn-lines";
import { nameLine, nameOfLine } from "../../src/job/edit/line-names";
import { insertShot } from "../../src/job/edit/shot-edits";
import { writeFile, type OwnFile } from "../../src/job/leave/handover";
import type { JobState } from "../../src/job/model/model";
import { summarize } from "../../src/job/told/summary";
import { lineTitle } from "../../src/lines/names";
import { layoutSource } from "../../src/job/leave/drawn";
import { CODES, found, runOf, shown, stateOf, type Row } from "../job";

const ring = (code: string, from: number, e: number): Row[] =>
  [
    [0, 0],
    [10, 0],
    [10, 8],
  ].map(([x, y], k) => ({ number: from + k, e: e + x!, n: y!, z: 5, code: k === 2 ? `${code} loop` : code }));
const rows: Row[] = [
  ...ring("BED1", 1, 0),
  ...ring("BED", 11, 20),
  ...ring("BED", 21, 40),
  ...[31, 32, 33, 34].map((number, k) => ({ number, e: 5 * k, n: 30 + (k % 2), z: 6, code: "HEDGE2" })),
  ...[41, 42].map((number, k) => ({ number, e: 20 + 5 * k, n: 30 + (k % 2), z: 6, code: "HEDGE3" })),
];
const PLAIN = { codeBook: { codes: CODES.map((c) => (c.code === "BED" ? { ...c, label: "{line}: {area:1}" } : c)) } };
const start = stateOf(rows, PLAIN);
const titles = (s: JobState) => {
  const { lines, ownNames } = runOf(s);
  return lines.map((l) => lineTitle(l, ownNames));
};
const made = (s: JobState, edit: LineEdit): JobState => {
  if ("refused" in edit) throw new Error(edit.refused);
  return applyChange(s, edit.change);
};
const called = (s: JobState, k: number, name: string, color?: string): JobState =>
  applyChange(s, nameLine(s, shown(s, k), { name, ...(color ? { color } : {}) })!);

test("a recipe names one line by its run, all of a code, those of a delivery, and a line by hand", () => {
  const recipe = {
      ...PLAIN,
      lines: [
        { code: "TOP", points: "1, 11" },
        { name: "Ridge", code: "TOP", points: "11, 21", color: "#00ff00" },
      ],
      names: [
        { line: { code: "BED", run: "1" }, name: "Plot 14", color: "#8a5a2b" },
        { line: { code: "bed", run: "", intake: "day1" }, name: "Common" },
        { line: { code: "BED", run: "", from: "21" }, name: "Pond" },
        { line: { hand: "by hand 1" }, name: "Edge" },
        { line: { code: "HEDGE", run: "2", intake: "day9" }, name: "of another day" },
        { line: { code: "HEDGE", run: "3" }, color: "#0000ff" },
      ],
    },
    s = stateOf(rows, recipe);
  const { lines } = summarize(s, runOf(s), []);
  expect(lines.map((l) => [l.code + l.run, l.name, l.color])).toEqual([
    ["BED1", "Plot 14", "#8a5a2b"],
    ["BED", "Common", undefined],
    ["BED", "Pond", undefined],
    ["HEDGE2", undefined, undefined],
    ["HEDGE3", undefined, "#0000ff"],
    ["TOP", "Edge", undefined],
    ["TOP", "Ridge", "#00ff00"],
  ]);
  expect(found(runOf(s), "name-lost").map((f) => f.message)).toEqual([
    "The name “of another day” is for line HEDGE 2, which is not drawn: nothing is called so.",
  ]);
});

test("a name is of one line alone, changes in its place, and is gone with its last word", () => {
  let s = called(start, 1, "Pond", "#112233");
  expect(titles(s)).toEqual(["BED 1", "Pond", "BED", "HEDGE 2", "HEDGE 3"]);
  expect(nameLine(s, shown(s, 1), { name: "Pond", color: "#112233" })).toBeUndefined();
  s = called(s, 1, "Fish pond");
  expect(s.names).toEqual([{ line: { code: "BED", run: "", from: expect.any(String) }, name: "Fish pond" }]);
  s = applyChange(s, nameLine(s, shown(s, 1), {})!);
  expect([s.names, titles(s)]).toEqual([[], titles(start)]);
});

test("a line that is recoded, reversed, joined, split or given another's shot keeps its name", () => {
  const s = called(start, 3, "North hedge"),
    edits: [string, LineEdit][] = [
      ["recoded", recodeLine(s, shown(s, 3), "TOP7")],
      ["reversed", reverseLine(s, shown(s, 3))],
      ["split", splitLine(s, shown(s, 3), 1)],
      ["with a shot before its first", insertShot(s, shown(s, 3), 0, -1)],
      ["joined by hand", joinLines(s, shown(s, 3), shown(s, 4), { of: "first", to: "first", rows: [9, 13], apart: 0 })],
      [
        "the other of two",
        joinLines(s, shown(s, 4), shown(s, 3), { of: "first", to: "first", rows: [13, 9], apart: 0 }),
      ],
    ];
  for (const [what, edit] of edits) {
    const after = made(s, edit);
    expect([what, titles(after).filter((t) => t === "North hedge")]).toEqual([what, ["North hedge"]]);
    expect([what, found(runOf(after), "name-lost")]).toEqual([what, []]);
  }
});

test("taken back a name is again where it was among the others", () => {
  const s = called(called(called(start, 0, "Plot 14"), 3, "North hedge"), 4, "South hedge"),
    edit = reverseLine(s, shown(s, 3));
  if ("refused" in edit) throw new Error(edit.refused);
  expect(applyChange(applyChange(s, edit.change), inverse(edit.change) as never).names).toEqual(s.names);
});

test("the name of a line whose code a cell changes is told, and comes back with it", () => {
  const s = called(start, 3, "North hedge"),
    id = s.points.id[9]!,
    change = { id, field: "description" as const, old: "HEDGE2", new: "SPOT" },
    after = applyChange(s, { type: "points", edits: [change] });
  // The run begins at its second shot now.
  expect(found(runOf(after), "name-lost").map((f) => f.message)).toEqual([
    "The name “North hedge” is for line HEDGE 2 from point 31, which is not drawn: nothing is called so.",
  ]);
  const back = applyChange(after, { type: "points", edits: [{ ...change, old: "SPOT", new: "HEDGE2" }] });
  expect(titles(back)).toEqual(titles(s));
  expect(nameOfLine(back, shown(back, 3))!.name).toBe("North hedge");
});

test("notes, additions and files say the name; drawings take the colour", async () => {
  const s = stateOf(rows, {
      ...PLAIN,
      system: "EPSG:25832",
      names: [{ line: { code: "BED", run: "1" }, name: "Plot 14", color: "#8a5a2b" }],
      added: [{ name: "a", measures: { code: "BED", run: "1", from: "day1:1" }, show: ["name"] }],
    }),
    d = runOf(s);
  expect(d.notes.map((n) => n.text)).toEqual(["Plot 14: 40.0", "BED: 40.0", "BED: 40.0"]);
  const { added } = layoutSource(s, d, { notes: true, points: true, contours: true });
  expect(added!.measures[0]!.texts.map((x) => x.text)).toEqual(["Plot 14"]);
  const bytesOf = async (file: OwnFile) => (await writeFile(file, s, d)).bytes,
    text = async (file: OwnFile) => new TextDecoder().decode(await bytesOf(file));
  const areas = (await text({ file: "a.csv", format: "list", of: "areas" })).split(/\r?\n/);
  expect(areas[1]).toMatch(/^BED,1,Plot 14,BED,/);
  expect(areas[2]).toMatch(/^BED,,Planting bed,BED,/);
  const [bed, other] = (
    JSON.parse(await text({ file: "a.geojson", format: "geojson" })) as { features: { properties: object }[] }
  ).features.filter((f) => "run" in f.properties);
  expect(bed!.properties).toMatchObject({ code: "BED", run: "1", line: "Plot 14" });
  expect(other!.properties).not.toHaveProperty("line");
  expect(await text({ file: "a.kml", format: "kml" })).toMatch(
    /<name>Plot 14<\/name>[\s\S]*?<Data name="code"><value>BED</,
  );
  // Opacity, blue, green, red.
  expect(await text({ file: "a.kml", format: "kml" })).toContain("<color>ff2b5a8a</color>");
  const dxf = await text({ file: "a.dxf", format: "dxf" }),
    own = dxf.split("420\r\n9067051\r\n").length - 1;
  // Its corners and its end in space, and its plan.
  expect([own, Number.parseInt("8a5a2b", 16)]).toEqual([6, 9067051]);
  // What comes after a line of its own colour has that of its layer.
  const last = stateOf(rows, {
      ...PLAIN,
      surfaces: [{ name: "g" }],
      contours: [{ surface: "g", interval: 0.25 }],
      names: [{ line: { code: "HEDGE", run: "3" }, color: "#8a5a2b" }],
    }),
    after = new TextDecoder().decode((await writeFile({ file: "b.dxf", format: "dxf" }, last, runOf(last))).bytes);
  const entities = after.split("\r\n0\r\n").filter((x) => `${x}\r\n`.includes("\r\n420\r\n9067051\r\n"));
  expect(entities.map((x) => x.slice(0, x.indexOf("\r\n"))).sort()).toEqual(
    ["LWPOLYLINE", "POLYLINE", "SEQEND", "VERTEX", "VERTEX"].sort(),
  );
  const sheets = unzipSync(await bytesOf({ file: "a.xlsx", format: "xlsx" }));
  expect(
    Object.values(sheets)
      .map((b) => new TextDecoder().decode(b))
      .join(""),
  ).toContain("Plot 14");
});
