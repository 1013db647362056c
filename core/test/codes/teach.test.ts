import { compileBook } from "../../src/codes/book";
import type { CodeBook } from "../../src/codes/model";
import { parseDescription } from "../../src/codes/parse";
import { withAlias, withAttribute, withCode, withSpelling } from "../../src/codes/teach";

const book: CodeBook = {
  codes: [
    { code: "WALL", kind: "line" },
    { code: "TREE", kind: "point", attributes: [{ name: "GIRTH", type: "number" }] },
  ],
};
const read = (b: CodeBook, text: string) => {
  const { elements, issues } = parseDescription(text, compileBook(b));
  return { codes: elements.map((e) => e.code), cues: elements.flatMap((e) => e.cues.map((c) => c.action)), issues };
};

test("a number of an attribute may have a decimal comma, a text keeps it", () => {
  const sorted = withAttribute(book, "TREE", { name: "SORT", type: "text" });
  const { elements, issues } = parseDescription("TREE 1,25 2,5", compileBook(sorted));
  expect(issues).toEqual([]);
  expect([...elements[0]!.attributes.values()]).toEqual(["1.25", "2,5"]);
  expect(read(book, "TREE 1,2,3").issues).toMatchObject([{ kind: "attribute-wrong" }]);
});

test("a word that is not known is read once the book has learnt it", () => {
  expect(read(withAlias(book, "MUR", "WALL"), "mur1").codes).toEqual(["WALL"]);
  expect(compileBook(withCode(book, "pond", "area")).lookup("POND3").entry).toEqual({ code: "POND", kind: "area" });

  expect(read(book, "TREE 1.2 birch").issues).toMatchObject([{ kind: "unread-word", word: "birch", code: "TREE" }]);
  const taught = withAttribute(book, "tree", { name: "SORT", type: "text" });
  const { elements, issues } = parseDescription("TREE 1.2 birch", compileBook(taught));
  expect(issues).toEqual([]);
  expect([...elements[0]!.attributes]).toEqual([
    ["GIRTH", "1.2"],
    ["SORT", "birch"],
  ]);

  expect(read(book, "WALL fin").issues).toMatchObject([{ word: "fin", code: "WALL" }]);
  const spelt = withSpelling(book, "end", "FIN");
  expect(read(spelt, "WALL fin")).toMatchObject({ cues: ["end"], issues: [] });
  // The cue's own word still means it.
  expect(read(spelt, "WALL end").cues).toEqual(["end"]);
});
