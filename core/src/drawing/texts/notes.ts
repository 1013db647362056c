/** Notes of points beside their symbols, and of lines along or within them. */
import { append } from "../../math/many";
import { positionsAlong, wayLength, type OnWay } from "../along";
import type { Note } from "../content";
import type { About, Unplaced } from "../drawn-text";
import { alongWay, besideSymbol, insideRing, upright, type Stand, type Wanted } from "../stand";
import { isByPerson, type Laying } from "./laying";
import { TEXT_HEIGHT } from "./source";

/** Beside a mark without room of its own. */
const CLEAR = 0.8;

const wanted = ({ text, height, place, align }: Note): Wanted => ({
  lines: [text],
  height: height ?? TEXT_HEIGHT,
  place,
  align,
});

/** Notes of lines first: they have fewer places to stand. Of symbols those in a crowd come before those with room. */
export function placeNotes(laying: Laying): void {
  const { s, layout, reach, drawnLine } = laying,
    notes = new NotesPlaced(laying),
    before = { notes: layout.notes, unplaced: layout.unplaced.length };
  const ofSymbols = s.notes.filter((note) => note.symbol >= 0 && reach[note.symbol]! > 0),
    byPerson = new Set(ofSymbols.filter((note) => notes.byHand(note)));
  for (const note of s.notes) if (note.line >= 0 && drawnLine[note.line]) noteOfLine(laying, notes, note);
  for (const note of inCrowdsFirst(
    laying,
    ofSymbols.filter((n) => !byPerson.has(n)),
  ))
    noteBesideSymbol(laying, notes, note);
  if (!s.mostOrNone || 2 * (layout.unplaced.length - before.unplaced) <= layout.notes - before.notes) return;
  layout.texts = layout.texts.filter(isByPerson);
  append(layout.unplaced, notes.placed);
  layout.crowded = true;
}

/** Counts notes, and keeps those that found a place and those that did not. */
class NotesPlaced {
  /** As they would be told if none were written after all. */
  readonly placed: Unplaced[] = [];

  constructor(private readonly laying: Laying) {}

  /** Whether a person placed the note of a symbol, or hid it. */
  byHand(note: Note): boolean {
    const { s, added, byHand, layout } = this.laying,
      { table: t, symbols } = s,
      i = symbols.point[note.symbol]!,
      own = added.notes.get(`${i} ${note.code}`) ?? added.notes.get(String(i)),
      at: [number, number] = [this.laying.x(t.e[i]!), this.laying.y(t.n[i]!)];
    if (!byHand.place(own, wanted(note), at, 0, "note", note.color, note.layer, this.about(note, i))) return false;
    layout.notes++;
    return true;
  }

  settle(note: Note, stand: Stand | undefined, point = -1, time?: number, base?: [number, number]): void {
    const { layout } = this.laying,
      one: Unplaced = { text: note.text, is: "note", point, line: note.line };
    layout.notes++;
    (stand ? this.placed : layout.unplaced).push(one);
    const about = { ...this.about(note, point), line: note.line, ...(time ? { time } : {}), ...(base ? { base } : {}) };
    if (stand) this.laying.take(stand, wanted(note), "note", note.color, note.layer, about);
  }

  private about({ code }: Note, i: number): About {
    const { table: t } = this.laying.s;
    return { point: i, code, ...(i >= 0 ? { base: [t.e[i]!, t.n[i]!] as [number, number] } : {}) };
  }
}

/** Beside the stem while the crown has room for it, else outside the crown. */
function noteBesideSymbol(laying: Laying, notes: NotesPlaced, note: Note): void {
  const { s, crowd, reach } = laying,
    { table: t, symbols } = s,
    k = note.symbol,
    i = symbols.point[k]!,
    w = wanted(note),
    [px, py] = [laying.x(t.e[i]!), laying.y(t.n[i]!)];
  notes.settle(
    note,
    (laying.isHollow(k) ? besideSymbol(w, px, py, 0.5, crowd, false) : undefined) ??
      besideSymbol(w, px, py, reach[k]!, crowd, !s.mostOrNone),
    i,
  );
}

function noteOfLine(laying: Laying, notes: NotesPlaced, note: Note): void {
  const { s, crowd, layout, byHand, added } = laying,
    { xyz, starts } = s.chains,
    w = wanted(note),
    way: number[] = [];
  for (let v = starts[note.line]!; v < starts[note.line + 1]!; v++)
    way.push(laying.x(xyz[3 * v]!), laying.y(xyz[3 * v + 1]!));
  if (way.length < 4) return;
  const backOf = ({ x, y }: { x: number; y: number }) => laying.back(x, y);
  const isByHand = (time: number, middle: OnWay) =>
    byHand.place(
      added.lineNotes.get(`${note.line} ${time}`),
      w,
      [middle.x, middle.y],
      upright(middle.angle),
      "note",
      note.color,
      note.layer,
      { line: note.line, time, code: note.code, base: backOf(middle) },
    );
  // Within an area.
  if (s.lines[note.line]!.closed && (note.place === "centre" || (note.place === "auto" && note.kind === "area"))) {
    let isPlaced = false,
      base: [number, number] | undefined;
    positionsAlong(way, [wayLength(way) / 2], (middle) => {
      base = backOf(middle);
      isPlaced = isByHand(0, { ...middle, angle: 0 });
    });
    if (isPlaced) return void layout.notes++;
    return notes.settle(note, insideRing(w, way, crowd), -1, 0, base);
  }
  // Along a line, as often as it is repeated.
  const apart = Math.max(CLEAR, laying.reachOfLine(note.line) + 0.5),
    { stands, missed, done } = alongWay(w, way, note.every / laying.unitsPerMm, crowd, apart, isByHand);
  layout.notes += done;
  for (const { stand, time, middle } of stands) notes.settle(note, stand, -1, time, backOf(middle));
  if (stands.length || done) {
    for (let k = 0; k < missed; k++) notes.settle(note, undefined);
    return;
  }
  // A line too short for its note has it beside its middle.
  const middle = 2 * Math.floor(way.length / 4);
  notes.settle(note, besideSymbol({ ...w, place: "auto" }, way[middle]!, way[middle + 1]!, 0.3, crowd, !s.mostOrNone));
}

/** Notes of points with many neighbours within a centimetre and a half first; equals keep their order. */
function inCrowdsFirst(laying: Laying, list: readonly Note[]): Note[] {
  const { table: t, symbols } = laying.s,
    cell = 15,
    counts = new Map<number, number>();
  const key = (note: Note) => {
    const i = symbols.point[note.symbol]!;
    return Math.floor(laying.x(t.e[i]!) / cell) * 2 ** 21 + Math.floor(laying.y(t.n[i]!) / cell);
  };
  for (const note of list) counts.set(key(note), (counts.get(key(note)) ?? 0) + 1);
  return list
    .map((note, k) => ({ note, k, n: counts.get(key(note))! }))
    .sort((a, b) => b.n - a.n || a.k - b.k)
    .map((o) => o.note);
}
