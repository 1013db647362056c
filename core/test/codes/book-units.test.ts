/** Code books in feet and in metres: starter books, books of another unit, and what is drawn by them. */
import { bookIn, checkCodeBookShape, GENERAL_BOOK, generalBook, openRecipe, runChain, type CodeBook } from "../../src";
import { bookToTable, tableToCodes } from "../../src/codes/book-table";
import { oddLooks } from "../../src/drawing/book-looks";
import { writeNotes } from "../../src/drawing/content";
import { compileBook } from "../../src/codes/book";

const utf8 = (text: string) => new TextEncoder().encode(text);
const entry = (book: CodeBook, code: string) => book.codes!.find((c) => c.code === code)!;

test("the starter book in feet has the metric one's codes, in round feet and inches", () => {
  for (const unit of ["ft", "ftUS"] as const) {
    const book = generalBook(unit);
    expect(checkCodeBookShape(book)).toBeUndefined();
    expect(oddLooks(book)).toEqual([]);
    expect(book.codes!.map((c) => [c.code, c.kind, c.layer, c.breakline])).toEqual(
      GENERAL_BOOK.codes!.map((c) => [c.code, c.kind, c.layer, c.breakline]),
    );
    expect(JSON.stringify(book)).not.toMatch(/ m\b|m³|"unit":"m"/);
    expect(entry(book, "KERB")).toMatchObject({ maxSegment: 100, companions: [{ right: 0.5, up: 0.5 }] });
    expect(entry(book, "TREE").attributes![0]).toEqual({ name: "spread", type: "number", unit, required: true });
    expect(entry(book, "COVER").attributes![0]!.unit).toBe("in");
  }
});

/** What two shots are drawn as in a job of feet: the size of their symbols in feet, and their notes. */
function drawn(book: CodeBook) {
  const rows = "1,100,100,10,TREE 51 41.5\n2,200,200,10,COVER 24 6.25\n",
    intake = {
      id: "d",
      file: "d.csv",
      layout: { columns: ["number", "northing", "easting", "elevation", "description"] },
    };
  const { state } = openRecipe({ recipe: 1, unit: "ftUS", codeBook: book, intakes: [intake] } as never, () =>
      utf8(rows),
    ),
    d = runChain(state),
    notes = writeNotes(state.points, d.coded, d.symbols, d.lines, compileBook(state.book), new Map());
  return { sizes: Array.from(d.symbols.ground), notes: notes.map((n) => n.text) };
}

test("a crown of 51 ft is 51 ft wide and says so; a cover of 24 inches is 2 ft wide", () => {
  const { sizes, notes } = drawn(generalBook("ftUS"));
  expect(sizes[0]).toBeCloseTo(51, 4);
  expect(sizes[1]).toBeCloseTo(2, 4);
  expect(notes).toEqual([expect.stringContaining("41.5 ft"), "⌀24 in inv −6.25"]);
});

test("a book of another unit is converted where a job takes it, with a word; its own unit goes", () => {
  const metric: CodeBook = {
    unit: "m",
    codes: [
      { code: "KERB", kind: "line", maxSegment: 30, companions: [{ right: 0.15, up: -0.12, code: "KERBTOP" }] },
      { code: "KERBTOP", kind: "line", labelAt: { every: 80, height: 2 } },
      { code: "TREE", attributes: [{ name: "spread", type: "number", unit: "m" }] },
    ],
  };
  const { book, words } = bookIn(metric, "ftUS");
  expect(book).not.toHaveProperty("unit");
  expect(entry(book, "KERB").maxSegment).toBeCloseTo((30 * 3937) / 1200, 6);
  expect(entry(book, "KERB").companions).toEqual([
    {
      right: Number(((0.15 * 3937) / 1200).toFixed(6)),
      up: Number(((-0.12 * 3937) / 1200).toFixed(6)),
      code: "KERBTOP",
    },
  ]);
  // The height of a text is millimetres on paper, and an attribute keeps the unit that it names.
  expect(entry(book, "KERBTOP").labelAt).toEqual({ every: Number(((80 * 3937) / 1200).toFixed(6)), height: 2 });
  expect(entry(book, "TREE")).toEqual(metric.codes![2]);
  expect(words).toBe(
    "Its lengths are in metres and are converted to US survey feet: 1 longest segment, 1 distance of notes, 1 parallel.",
  );
  expect(bookIn(metric, "m")).toEqual({ book: { codes: metric.codes }, words: "" });
  expect(bookIn({ codes: metric.codes }, "ft").words).toBe("");
  // There and back it is what it was.
  expect(bookIn({ unit: "ftUS", ...book }, "m").book.codes![0]).toEqual(metric.codes![0]);
});

test("a recipe's book says its unit, its table says it in each row, and rows of two units come in the first's", () => {
  const recipe = { recipe: 1, unit: "ft", codeBook: { unit: "m", codes: [{ code: "KERB", maxSegment: 30.48 }] } };
  expect(openRecipe(recipe as never, () => utf8("")).state.book).toEqual({
    codes: [{ code: "KERB", maxSegment: 100 }],
  });
  const table = bookToTable({ codes: [{ code: "KERB", maxSegment: 100 }] }, "ft");
  expect(tableToCodes("b.csv", utf8(table))).toEqual({
    unit: "ft",
    codes: [{ code: "KERB", maxSegment: 100 }],
    problems: [],
  });
  const mixed = "code,longest segment,unit\nA,100,ft\nB,30.48,m\nC,7,\nD,7,furlong\n";
  const read = tableToCodes("b.csv", utf8(mixed));
  expect(read.unit).toBe("ft");
  expect(read.codes.map((c) => c.maxSegment)).toEqual([100, 100, 7, 7]);
  expect(read.problems).toEqual(["Row 5, D: unit “furlong” is none of m, ft, ftUS."]);
});
