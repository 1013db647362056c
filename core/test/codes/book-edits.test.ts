/** A code under another name, or gone, with all that names it. */
import { withCodeRenamed, withoutCode } from "../../src/codes/book-edits";
import type { CodeBook } from "../../src/codes/model";

const book: CodeBook = {
  cues: { via: ["C"] },
  aliases: [
    { from: "FNC", to: "hedge" },
    { from: "W", to: "WALL" },
  ],
  codes: [
    { code: "HEDGE", kind: "line", companions: [{ right: 1, up: 0, code: "hedge" }] },
    {
      code: "WALL",
      kind: "line",
      companions: [
        { right: 1, up: 0 },
        { right: 2, up: 0, code: "Hedge" },
      ],
    },
  ],
};

test("aliases and companions follow a code's new name", () =>
  expect(withCodeRenamed(book, "Hedge", "BUSH")).toEqual({
    cues: { via: ["C"] },
    aliases: [
      { from: "FNC", to: "BUSH" },
      { from: "W", to: "WALL" },
    ],
    codes: [
      { code: "BUSH", kind: "line", companions: [{ right: 1, up: 0, code: "BUSH" }] },
      {
        code: "WALL",
        kind: "line",
        companions: [
          { right: 1, up: 0 },
          { right: 2, up: 0, code: "BUSH" },
        ],
      },
    ],
  }));

test("with a code its aliases go; nothing else does", () => {
  expect(withoutCode(book, "wall")).toEqual({ ...book, aliases: [book.aliases![0]], codes: [book.codes![0]] });
  expect(withoutCode({ codes: [{ code: "A" }] }, "A")).toEqual({ codes: [] });
  expect(withCodeRenamed({}, "A", "B")).toEqual({ codes: [] });
});
