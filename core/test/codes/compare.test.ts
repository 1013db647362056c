import fc from "fast-check";
import { compareBooks, mergeBooks } from "../../src/codes/compare";
import { compileBook } from "../../src/codes/book";
import type { CodeBook } from "../../src/codes/model";

const now: CodeBook = {
  codes: [{ code: "WALL", kind: "line" }, { code: "TREE", kind: "point", name: "Tree" }, { code: "OLD" }],
  aliases: [{ from: "MUR", to: "WALL" }],
  cues: { end: ["end", "fin"] },
};
const other: CodeBook = {
  codes: [
    { code: "tree", kind: "point", name: "Tree, single" },
    { code: "WALL", kind: "line" },
    { code: "POND", kind: "area" },
  ],
  aliases: [
    { from: "mur", to: "TREE" },
    { from: "HAG", to: "TREE" },
  ],
  cues: { end: ["fin", "stop"], new: ["new", "neu"] },
};

test("what taking another book would bring is told, and merging brings that and takes nothing away", () => {
  expect(compareBooks(now, other)).toEqual({ fresh: ["POND"], changed: ["tree"], same: 1, gone: ["OLD"], words: 4 });
  const merged = mergeBooks(now, other);
  expect(merged.codes!.map((c) => [c.code, c.name])).toEqual([
    ["WALL", undefined],
    ["tree", "Tree, single"],
    ["OLD", undefined],
    ["POND", undefined],
  ]);
  expect(merged.aliases).toEqual([
    { from: "MUR", to: "WALL" },
    { from: "HAG", to: "TREE" },
  ]);
  expect(merged.cues).toEqual({ end: ["end", "fin", "stop"], new: ["new", "neu"] });
  expect(compileBook(merged).actionOf("stop")).toBe("end");
});

test("merged once more a book is as it was, and the other has nothing new to bring", () => {
  const book = fc.record({
    codes: fc.uniqueArray(
      fc.record({
        code: fc.constantFrom("A", "B", "C", "D"),
        kind: fc.constantFrom("point" as const, "line" as const),
      }),
      { selector: (c) => c.code },
    ),
  });
  fc.assert(
    fc.property(book, book, (a, b) => {
      const merged = mergeBooks(a, b);
      expect(mergeBooks(merged, b)).toEqual(merged);
      expect(compareBooks(merged, b)).toMatchObject({ fresh: [], changed: [], words: 0 });
      expect(compareBooks(merged, a).fresh).toEqual([]);
    }),
  );
});
