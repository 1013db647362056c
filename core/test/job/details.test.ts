import fc from "fast-check";
import { changeDetails, type Change } from "../../src";

const names = {
  point: (id: number) => (id === 99 ? undefined : String(100 + id)),
  ref: (ref: string) => `no. ${ref}`,
  unit: "m",
};
const words = (change: Change, most?: number) => {
  const { details, more } = changeDetails(change, names, most);
  return [...details.map((d) => `${d.what}: ${d.from} → ${d.to}`), ...(more ? [`${more} more`] : [])];
};
const line = { name: "l1", code: "WALL", points: ["1", "2"] };

describe("a change in words", () => {
  test.each<[string, Change, string[]]>([
    [
      "a level, a note, a use in surfaces",
      {
        type: "points",
        edits: [
          { id: 1, field: "elevation", old: 10.5, new: null },
          { id: 2, field: "note", old: "", new: "lid" },
          { id: 3, field: "surface", old: "auto", new: "out" },
          { id: 99, field: "deleted", old: false, new: true },
        ],
      },
      [
        "Point 101, elevation: 10.5 m → missing",
        "Point 102, note: blank → lid",
        "Point 103, use in surfaces: by code → out always",
        "A point that is gone, deletion: there → deleted",
      ],
    ],
    [
      "cues",
      {
        type: "points",
        edits: [{ id: 1, field: "cues", old: "", new: '[{"element":"HEDGE1","add":["end"],"remove":["via"]}]' }],
      },
      ["Point 101, cues: as shot → HEDGE1 with end without via"],
    ],
    [
      "a point made",
      {
        type: "add",
        points: { id: [5], number: ["105"], easting: [1.5], northing: [2], elevation: [null], description: ["SPOT"] },
      },
      ["Point 105: not there → 1.5 m E, 2 m N"],
    ],
    [
      "a line drawn",
      { type: "named", part: "lines", name: "l1", old: null, new: line },
      ["Line “l1”: none → name l1, code WALL, points no. 1, no. 2"],
    ],
    [
      "a line through one point more",
      { type: "named", part: "lines", name: "l1", old: line, new: { ...line, points: ["1", "2", "3"], closed: true } },
      ["Line “l1”, points: no. 1, no. 2 → no. 1, no. 2, no. 3", "Line “l1”, closed: none → yes"],
    ],
    ["a setting", { type: "setting", field: "order", old: "NE", new: "EN" }, ["Coordinate order: NE → EN"]],
    [
      "one code of a book",
      {
        type: "setting",
        field: "book",
        old: {
          codes: [
            { code: "WALL", kind: "line", maxSegment: 5 },
            { code: "SPOT", kind: "point" },
          ],
        },
        new: {
          codes: [
            { code: "WALL", kind: "line", maxSegment: 6 },
            { code: "TREE", kind: "point" },
          ],
        },
      },
      [
        "Code book, codes, “WALL”, max segment: 5 → 6",
        "Code book, codes, “SPOT”: code SPOT, kind point → none",
        "Code book, codes, “TREE”: none → code TREE, kind point",
      ],
    ],
    [
      "codes in another order",
      {
        type: "setting",
        field: "book",
        old: {
          codes: [
            { code: "A", kind: "line" },
            { code: "B", kind: "line" },
          ],
        },
        new: {
          codes: [
            { code: "B", kind: "line" },
            { code: "A", kind: "line" },
          ],
        },
      },
      ["Code book, codes: A, B → B, A"],
    ],
    [
      "an intake read again",
      { type: "intake", intake: "d1", file: "day1.txt", action: "take", replaced: [], id: 2, instead: 1 },
      ["“day1.txt”: read another way → in the job"],
    ],
  ])("%s", (_, change, expected) => expect(words(change)).toEqual(expected));

  test("only so many are told, and how many more there are", () => {
    const edits = Array.from({ length: 30 }, (_, id) => ({ id, field: "note" as const, old: "", new: "x" }));
    expect(words({ type: "points", edits }, 2)).toEqual([
      "Point 100, note: blank → x",
      "Point 101, note: blank → x",
      "28 more",
    ]);
  });

  test("any two values that differ are told apart, without a brace", () => {
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom("a", "bC", "codes"), fc.jsonValue({ maxDepth: 2 })),
        fc.dictionary(fc.constantFrom("a", "bC", "codes"), fc.jsonValue({ maxDepth: 2 })),
        (old, now) => {
          const told = words({ type: "setting", field: "drawing", old, new: now });
          expect(told.length > 0).toBe(JSON.stringify(sorted(old)) !== JSON.stringify(sorted(now)));
          const inValues = JSON.stringify([old, now]).match(/"[^"]*[{[][^"]*"/);
          if (!inValues) expect(told.join("")).not.toMatch(/[{[]|undefined|object/);
        },
      ),
    );
  });
});

/** With keys in one order, null and missing alike. */
function sorted(x: unknown): unknown {
  if (Array.isArray(x)) return x.map(sorted);
  if (typeof x !== "object" || x === null) return x;
  const entries = Object.entries(x).filter(([, v]) => v !== null);
  return Object.fromEntries(entries.sort(([a], [b]) => (a < b ? -1 : 1)).map(([k, v]) => [k, sorted(v)]));
}
