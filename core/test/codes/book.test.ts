/** The book as a table and back, and changes of single codes. */
import fc from "fast-check";
import { applyChange, checkCodeBookShape, type CodeEntry, type EditableChange, GENERAL_BOOK, inverse } from "../../src";
import { bookToTable, tableToCodes } from "../../src/codes/book-table";
import { stateOf } from "../job";

const utf8 = (text: string) => new TextEncoder().encode(text);

test("the general book comes back from its table as it was", () => {
  const { codes, problems } = tableToCodes("book.csv", utf8(bookToTable(GENERAL_BOOK, "m")));
  expect(problems).toEqual([]);
  expect(codes).toEqual(
    GENERAL_BOOK.codes!.map((c) =>
      JSON.parse(
        JSON.stringify({
          ...c,
          ...(c.attributes
            ? { attributes: c.attributes.map((a) => ({ ...a, ...(a.unit === "" ? { unit: undefined } : {}) })) }
            : {}),
        }),
      ),
    ),
  );
});

const word = fc.stringMatching(/^[a-z]{1,8}$/),
  text = fc
    .string({ minLength: 1, maxLength: 20 })
    .map((s) => s.replace(/[\r\n\t]/g, " ").trim())
    .filter((s) => s !== "" && !s.startsWith("\ufeff"));
const size = fc.double({ min: 0.1, max: 100, noNaN: true });
const entry = fc.record(
  {
    code: fc.stringMatching(/^[A-Z][A-Z0-9_-]{0,8}$/),
    name: text,
    kind: fc.constantFrom("point", "line", "area"),
    group: text,
    layer: text,
    color: fc.stringMatching(/^#[0-9a-f]{6}$/),
    style: word,
    symbol: word,
    size: fc.oneof(fc.record({ fixed: size }), fc.record({ attribute: word })),
    rotation: fc.oneof(fc.record({ fixed: fc.integer({ min: -180, max: 360 }) }), fc.record({ attribute: word })),
    opens: fc.constantFrom("auto", "cue"),
    ground: fc.boolean(),
    breakline: fc.constantFrom("fixed", "draped", "none"),
    maxSegment: size,
    attributes: fc.array(
      fc.record(
        { name: word, type: fc.constantFrom("number", "text"), unit: word, required: fc.constant(true) },
        { requiredKeys: ["name"] },
      ),
      { minLength: 1, maxLength: 3 },
    ),
    label: text,
    labelAt: fc.record(
      { place: fc.constantFrom("right", "centre"), align: fc.constantFrom("start", "end"), every: size, height: size },
      { requiredKeys: ["place"] },
    ),
    companions: fc.array(
      fc.record(
        {
          right: size,
          up: fc.double({ min: -5, max: 5, noNaN: true }).map((x) => x + 0),
          code: fc.stringMatching(/^[A-Z]{1,5}$/),
        },
        { requiredKeys: ["right", "up"] },
      ),
      { minLength: 1, maxLength: 2 },
    ),
  },
  { requiredKeys: ["code"] },
) as fc.Arbitrary<CodeEntry>;

test("any book of plain values comes back from its table", () => {
  fc.assert(
    fc.property(fc.uniqueArray(entry, { selector: (c) => c.code, maxLength: 6 }), (codes) => {
      const plain = JSON.parse(JSON.stringify(codes)) as CodeEntry[];
      const read = tableToCodes("b.csv", utf8(bookToTable({ codes: plain }, "ft")));
      expect(read).toEqual({ codes: plain, problems: [], ...(plain.length && { unit: "ft" }) });
      expect(checkCodeBookShape({ codes: plain })?.message ?? "").not.toContain("no such field");
    }),
  );
});

test("columns in any order, semicolons, what cannot be read told by its row", () => {
  const { codes, problems } = tableToCodes(
    "b.csv",
    utf8(
      "\ufeffName;Code;Kind;Colour;Size mm;Ground\nTree;tree;point;green;2,5;no\nWall;4x;line;;;\nHedge;TREE;line;;;\nPole;POLE;tower;;-1;maybe\n",
    ),
  );
  expect(codes).toEqual([
    { code: "TREE", name: "Tree", kind: "point", size: { fixed: 2.5 }, ground: false },
    { code: "POLE", name: "Pole" },
  ]);
  expect(problems).toEqual([
    expect.stringContaining("“colour” is none of a code book"),
    expect.stringMatching(/Row 3, 4x: “4x” is no code/),
    expect.stringMatching(/Row 4, TREE: the code is there twice/),
    expect.stringMatching(/Row 5, POLE: ground “maybe”/),
    expect.stringMatching(/Row 5, POLE: size mm “-1”/),
    expect.stringMatching(/Row 5, POLE: kind “tower” is none of point, line, area/),
  ]);
});

test("a table without codes is told", () => {
  expect(tableToCodes("b.csv", utf8("")).problems).toEqual(["The table is empty."]);
  expect(tableToCodes("b.csv", utf8("name,kind\na,line\n")).problems).toEqual(["There is no column “code”."]);
  expect(
    tableToCodes(
      "b.csv",
      Uint8Array.from([0x63, 0x6f, 0x64, 0x65, 0x2c, 0x6e, 0x61, 0x6d, 0x65, 10, 0x41, 0x2c, 0xe9, 10]),
    ).codes,
  ).toEqual([{ code: "A", name: "é" }]);
});

describe("changes of single codes", () => {
  const s = stateOf([{ number: "1", e: 0, n: 0, z: 1, code: "HEDGE" }]),
    hedge = s.book.codes!.find((c) => c.code === "HEDGE")!;
  const change = (name: string, old: CodeEntry | null, next: CodeEntry | null): EditableChange => ({
    type: "named",
    part: "codes",
    name,
    old,
    new: next,
  });

  test("a code is made, changed and undone; one of another case is refused", () => {
    const wider = change("HEDGE", hedge, { ...hedge, style: "leaves" }),
      next = applyChange(s, wider);
    expect(next.book.codes!.find((c) => c.code === "HEDGE")).toEqual({ ...hedge, style: "leaves" });
    expect(applyChange(next, inverse(wider) as EditableChange).book).toEqual(s.book);
    expect(applyChange(s, change("POND", null, { code: "POND" })).book.codes!.at(-1)).toEqual({ code: "POND" });
    expect(() => applyChange(s, change("hedge", null, { code: "hedge" }))).toThrow("has a code “HEDGE” already");
    expect(() => applyChange(next, wider)).toThrow("HEDGE");
  });

  test("changes that belong together are made and undone as one", () => {
    const both: EditableChange = {
      type: "several",
      text: "Two things",
      changes: [
        {
          type: "named",
          part: "lines",
          name: "by hand 1",
          old: null,
          new: { name: "by hand 1", code: "TOP", points: "1" },
        },
        { type: "points", edits: [{ id: 1, field: "description", old: "HEDGE", new: "TOP" }] },
      ],
    };
    const next = applyChange(s, both);
    expect([next.lines.length, next.points.texts[next.points.description[0]!]]).toEqual([1, "TOP"]);
    const back = applyChange(next, inverse(both) as EditableChange);
    expect([back.lines, back.points.texts[back.points.description[0]!]]).toEqual([[], "HEDGE"]);
    // One that does not fit leaves nothing of the others.
    expect(() =>
      applyChange(s, {
        ...both,
        changes: [...both.changes, { type: "points", edits: [{ id: 1, field: "note", old: "x", new: "y" }] }],
      }),
    ).toThrow();
    expect(s.lines).toEqual([]);
  });
});
