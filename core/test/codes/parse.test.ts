import fc from "fast-check";
import { compileBook } from "../../src/codes/book";
import { parseDescription } from "../../src/codes/parse";
import { tokenize } from "../../src/codes/tokenize";
import { CODES, derive, found } from "../job";

const book = compileBook({
  aliases: [
    { from: "HDG", to: "HEDGE" },
    { from: "W*", to: "TOE" },
    { from: "WA*", to: "TOP" },
    { from: "X?2", to: "BED" },
    { from: "OLD7", to: "TREE" },
  ],
  codes: [...CODES, { code: "WIRE2", kind: "line" }, { code: "ESPALIERROW", kind: "line" }],
});

describe("looking a word up", () => {
  test.each([
    ["hedge", "HEDGE", "", "code"],
    ["HEDGE02", "HEDGE", "2", "code"],
    ["WIRE2", "WIRE2", "", "code"],
    ["WIRE23", "WIRE2", "3", "code"],
    ["OLD7", "TREE", "", "alias"],
    ["HDG12", "HEDGE", "12", "alias"],
    ["WALLING", "TOP", "", "alias"],
    ["WIDE3", "TOE", "3", "alias"],
    ["XY2", "BED", "", "alias"],
    ["ESPAL", "ESPALIERROW", "", "cut-off"],
    ["ESPALIER4", "ESPALIERROW", "4", "cut-off"],
    ["ESPA", "ESPA", "", undefined],
    ["ZIGGURAT9", "ZIGGURAT", "9", undefined],
  ])("%s is %s, run “%s”, by %s", (word, code, run, by) => expect(book.lookup(word)).toMatchObject({ code, run, by }));
});

describe("the grammar", () => {
  test("elements, cues, attributes by name and by position, quotes and a note", () => {
    const p = parseDescription('TREE 4.2 kind="silver / ""old"" birch" 7/ HEDGE2 new end; by the "post" / wall', book);
    expect(p.note).toBe('by the "post" / wall');
    expect(p.elements.map((e) => [e.code, e.run, e.cues.map((c) => c.action)])).toEqual([
      ["TREE", "", []],
      ["HEDGE", "2", ["new", "end"]],
    ]);
    expect([...p.elements[0]!.attributes]).toEqual([
      ["spread", "4.2"],
      ["kind", 'silver / "old" birch'],
      ["height", "7"],
    ]);
    expect(p.issues).toEqual([]);
  });

  test("a quoted cue is a value; a wrong type keeps its place; words beyond are kept and told", () => {
    const p = parseDescription('TREE wide 7 "end" more', book);
    expect([...p.elements[0]!.attributes]).toEqual([
      ["spread", "wide"],
      ["height", "7"],
      ["kind", "end"],
    ]);
    expect(p.issues.map((i) => i.kind)).toEqual(["attribute-wrong", "unread-word"]);
  });

  test("what stands right behind a quoted value is a word of its own, whatever it is", () => {
    const p = parseDescription('TREE 4.2 kind="silver birch"7/HEDGE2', book);
    expect([...p.elements[0]!.attributes]).toEqual([
      ["spread", "4.2"],
      ["kind", "silver birch"],
      ["height", "7"],
    ]);
    expect(p.elements.map((e) => e.code)).toEqual(["TREE", "HEDGE"]);
    fc.assert(
      fc.property(fc.string(), fc.stringMatching(/^[a-z0-9]{1,8}$/), (value, behind) => {
        const { elements } = tokenize(`X k="${value.replaceAll('"', '""')}"${behind}`);
        expect(elements[0]!.words.slice(1).map((w) => w.value ?? w.text)).toEqual([value, behind]);
      }),
    );
  });

  test("a cue that takes no value and has one is no cue, and is told", () => {
    const p = parseDescription("HEDGE2 end=5 new", book);
    expect(p.elements[0]!.cues).toEqual([{ action: "new", value: undefined }]);
    expect(p.issues).toMatchObject([{ kind: "unread-word", word: "end=5" }]);
  });

  test("of air and ground on one shot the last speaks, within an element and over several", () => {
    const cue = fc.constantFrom("air", "ground");
    fc.assert(
      fc.property(fc.array(fc.tuple(cue, fc.constantFrom(" ", "/SPOT ")), { minLength: 1, maxLength: 6 }), (said) => {
        const text = said.reduce((all, [word, before]) => all + before + word, "HEDGE");
        expect(parseDescription(text, book).ground).toBe(said.at(-1)![0] === "ground");
      }),
    );
  });

  test("a name that is no attribute is told, but not once more for a code that is unknown anyway", () => {
    expect(parseDescription("TREE 4 colour=red", book).issues).toMatchObject([
      { kind: "unread-word", word: "colour=red" },
    ]);
    expect(parseDescription("ZIGGURAT colour=red tall", book).issues).toEqual([]);
  });

  test("a cue that needs a value and has none is told and does nothing", () => {
    expect(parseDescription("HEDGE2 box", book).issues).toMatchObject([
      { kind: "cue-ignored", text: "“box” needs a value, as in box=…" },
    ]);
  });

  test("an empty description is a plain point on the ground; air and ground speak for the whole shot", () => {
    expect(parseDescription("", book)).toMatchObject({ elements: [], ground: true, issues: [] });
    expect(parseDescription("ROD", book).ground).toBe(false);
    expect(parseDescription("ROD/SPOT", book).ground).toBe(true);
    expect(parseDescription("SPOT/HEDGE air", book).ground).toBe(false);
    expect(parseDescription("ROD ground", book).ground).toBe(true);
    expect(parseDescription("ZIGGURAT", book).ground).toBe(true);
  });

  test("cue spellings of a book take the place of the usual ones", () => {
    const own = compileBook({ cues: { loop: ["close", "shut"] }, codes: CODES });
    expect(parseDescription("HEDGE SHUT", own).elements[0]!.cues).toEqual([{ action: "loop", value: undefined }]);
    expect(parseDescription("HEDGE loop", own).issues).toMatchObject([{ kind: "unread-word" }]);
  });

  test("any text is read without a throw, and a note is never cut", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom("H", "E", "D", "G", "E", "2", " ", "/", ";", '"', "=", "n", "w", "é", "-") }),
        fc.string(),
        (head, note) => {
          const p = tokenize(head);
          const words = p.elements.flatMap((e) => e.words.map((w) => w.text));
          expect(p.elements.every((e) => e.words.length > 0)).toBe(true);
          // Nothing of the text is lost but separators and quotes.
          expect(words.join("").replace(/"/g, "").length).toBeLessThanOrEqual(head.length);
          if (!head.includes('"')) expect(tokenize(`${head.replaceAll(";", "")};${note}`).note).toBe(note.trim());
          expect(() => parseDescription(head, book)).not.toThrow();
        },
      ),
    );
  });
});

describe("findings about codes", () => {
  test("one for each word, naming its points", () => {
    const { derived } = derive([
      { number: 1, e: 0, n: 0, z: 1, code: "SOPT" },
      { number: 2, e: 1, n: 0, z: 1, code: "SOPT" },
      { number: 3, e: 2, n: 0, z: 1, code: "TREE" },
      { number: 4, e: 3, n: 0, z: 1, code: "12" },
    ]);
    expect(found(derived, "unknown-code")).toMatchObject([{ points: ["1", "2"], data: { nearest: "SPOT" } }]);
    expect(found(derived, "attribute-missing")).toMatchObject([{ points: ["3"] }]);
    expect(found(derived, "unread-word")).toMatchObject([{ points: ["4"] }]);
  });
});
