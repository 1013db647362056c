/** The default book: every code drawn once, with what it needs. */
import { GENERAL_BOOK, openRecipe, runChain } from "../../src";
import { oddLooks } from "../../src/drawing/book-looks";
import { drawSymbols, writeNotes } from "../../src/drawing/content";
import { layOutTexts } from "../../src/drawing/layout";
import { readTemplate } from "../../src/drawing/label";
import { LINE_STYLES } from "../../src/drawing/line-styles";
import { symbolOf, SYMBOLS } from "../../src/drawing/symbols";
import { isPath, reach } from "../../src/drawing/strokes";
import { sampleText } from "./sampler";

const codes = GENERAL_BOOK.codes!;
const bytes = new TextEncoder().encode(sampleText(GENERAL_BOOK));
const { state } = openRecipe(
  {
    recipe: 1,
    codeBook: GENERAL_BOOK,
    intakes: [
      {
        id: "plots",
        file: "plots.csv",
        layout: { columns: ["number", "easting", "northing", "elevation", "description"] },
      },
    ],
  },
  () => bytes,
);
const derived = runChain(state);

test("it has at least 60 codes, each in the drawing once, with its line or its symbol", () => {
  expect(codes.length).toBeGreaterThanOrEqual(60);
  expect(new Set(codes.map((c) => c.code)).size).toBe(codes.length);
  const symbols = drawSymbols(state.points, derived.coded, "m");
  for (const c of codes) {
    if (c.kind === "point") {
      const look = symbols.looks.findIndex((l) => l.code === c.code);
      expect({ code: c.code, drawn: symbols.look.filter((l) => l === look).length }).toEqual({
        code: c.code,
        drawn: 1,
      });
    } else
      expect(derived.lines.filter((l) => l.code === c.code && !l.companion)).toMatchObject([
        { closed: c.kind === "area" },
      ]);
  }
});

test("nothing in it is unread: no finding but the ones that the plots ask for", () => {
  expect(derived.findings).toEqual([]);
});

test("every style and symbol that it names is there, and every template is whole", () => {
  for (const c of codes) {
    if (c.kind === "point") expect(symbolOf(c.symbol)).toBeDefined();
    else expect(LINE_STYLES.map((s) => s.name)).toContain(c.style);
    if (c.label) {
      const read = readTemplate(c.label);
      if (!("template" in read)) throw new Error(`${c.code}: ${read.problem}`);
      const known = ["code", "name", "number", "elevation", "note", ...(c.attributes ?? []).map((a) => a.name)];
      expect(read.template.names.filter((n) => !known.includes(n))).toEqual([]);
    }
    for (const a of [c.size?.attribute, c.rotation?.attribute])
      if (a) expect(c.attributes!.map((x) => x.name)).toContain(a);
    for (const x of c.companions ?? []) if (x.code) expect(codes.map((y) => y.code)).toContain(x.code);
    expect(c.color).toMatch(/^#[0-9a-f]{6}$/);
    expect([c.group, c.layer, c.name].every(Boolean)).toBe(true);
  }
});

test("every code with a template has its note, with no gap left by a value", () => {
  const notes = writeNotes(
    state.points,
    derived.coded,
    drawSymbols(state.points, derived.coded, "m"),
    derived.lines,
    derived.compiled,
    derived.ownNames,
  );
  expect(new Set(notes.map((n) => n.code))).toEqual(new Set(codes.filter((c) => c.label).map((c) => c.code)));
  for (const n of notes) expect(n.text).not.toMatch(/[{}[\]]|\s\s|^\s|\s$/);
  const text = (code: string) => notes.find((n) => n.code === code)!.text;
  expect(text("BENCHMARK")).toMatch(/^\d+\.\d{3}$/);
  expect(text("COVER")).toMatch(/^⌀\d\.\d{2} inv −\d\.\d{2}$/);
  expect(text("TREE")).toMatch(/^kind\d \d\.\d m$/);
});

test("all notes find a place at 1:200 and at 1:1000", () => {
  const symbols = drawSymbols(state.points, derived.coded, "m");
  const notes = writeNotes(state.points, derived.coded, symbols, derived.lines, derived.compiled, derived.ownNames);
  const lines = derived.lines.map((l) => ({
    code: l.code,
    kind: l.entry.kind,
    group: l.entry.group!,
    layer: l.entry.layer!,
    closed: l.closed,
  }));
  for (const scale of [200, 1000]) {
    const layout = layOutTexts(
      {
        table: state.points,
        symbols,
        notes,
        lines,
        chains: derived.chains,
        contours: [],
        drawing: {},
        sets: new Map(),
        want: { notes: true, points: false, contours: false },
      },
      scale / 1000,
    );
    expect({ scale, unplaced: layout.unplaced }).toEqual({ scale, unplaced: [] });
    expect(layout.texts.length).toBeGreaterThanOrEqual(notes.length);
  }
});

test("what a book asks for and the drawing does not have is told; the general book asks for nothing of the kind", () => {
  expect(oddLooks(GENERAL_BOOK)).toEqual([]);
  expect(
    oddLooks({
      codes: [
        { code: "A", kind: "line", style: "zig", symbol: "ignored for lines" },
        { code: "B", symbol: "zag", style: "ignored for points" },
        { code: "C", size: { attribute: "girth" }, rotation: { attribute: "turn" }, attributes: [{ name: "turn" }] },
        { code: "D", label: "{x" },
        { code: "E" },
      ],
    }),
  ).toEqual([
    "A: there is no line style “zig”; its lines are solid.",
    "B: there is no symbol “zag”; it is drawn as a spot.",
    "C: its size is to come from “girth”, which is no attribute of it.",
    expect.stringContaining("D: its note cannot be written. A { at letter 1"),
  ]);
});

test("at least 12 styles and 30 symbols, each of its own strokes within its frame", () => {
  expect(LINE_STYLES.length).toBeGreaterThanOrEqual(12);
  expect(SYMBOLS.length).toBeGreaterThanOrEqual(30);
  expect(
    new Set(LINE_STYLES.map(({ width, dash, rails, marks }) => JSON.stringify([width, dash, rails, marks]))).size,
  ).toBe(LINE_STYLES.length);
  expect(new Set(SYMBOLS.map((s) => JSON.stringify(s.strokes))).size).toBe(SYMBOLS.length);
  for (const s of SYMBOLS) {
    expect({ name: s.name, within: reach(s.strokes) <= 0.75 }).toEqual({ name: s.name, within: true });
    for (const k of s.strokes) if (isPath(k)) expect(k.path.length % 2).toBe(0);
  }
});
