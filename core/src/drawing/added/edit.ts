/** A text of the drawing moved, turned, resized or hidden by hand, and put back: what of the additions that changes. */
import type { Line } from "../../lines/model";
import { findPoints, refOf } from "../../points/refs";
import type { PointTable } from "../../points/table";
import type { DrawnText } from "../drawn-text";
import type { Added, Dimension, PlacedText, TextRef, Words } from "./model";
import { freeAddedName } from "./name";
import { lineRefOf } from "../../lines/refs";
import { anchorOn } from "./resolve";

export interface EditSources {
  table: PointTable;
  intakes: readonly { id: string }[];
  lines: readonly Pick<Line, "code" | "run" | "shots" | "hand">[];
  added: readonly Added[];
}

/** What may be done to a text: moved by so much on the ground, turned, another height, hidden, other words. */
export interface TextEdit {
  move?: readonly [e: number, n: number];
  turn?: number;
  height?: number;
  hidden?: boolean;
  words?: string;
}

/** By which name a text that the drawing has itself is kept. */
export function textRefOf(t: DrawnText, s: EditSources): TextRef | undefined {
  if (t.is === "contour") return t.base && { contour: t.layer, level: Number(t.lines[0]), near: t.base };
  if (t.is === "point") return { label: refOf(s.table, s.intakes, t.point) };
  if (t.is !== "note") return undefined;
  if (t.point >= 0)
    return { note: refOf(s.table, s.intakes, t.point), ...(t.code === undefined ? {} : { code: t.code }) };
  const line = s.lines[t.line] && lineRefOf(s.lines[t.line]!, s);
  return line && { noteOf: line, ...(t.time ? { time: t.time } : {}) };
}

/**
 * The addition that holds an edit of a text, before and after; `after` is null where it is put back. A dimension moves
 * with its line, a measure stays beside its piece. Undefined where the text does not let this be done to it.
 */
export function editText(
  t: DrawnText,
  edit: TextEdit | null,
  s: EditSources,
): { name: string; before: Added | null; after: Added | null } | undefined {
  const own = t.added === undefined ? undefined : s.added.find((a) => a.name === t.added);
  if (own && !("text" in own)) {
    if ("symbol" in own || (edit?.move && "measures" in own)) return undefined;
    const after = edit && {
      ...("words" in own ? editWords(own, t, edit) : "dimension" in own ? editDimension(own, edit, s) : own),
      ...(edit.height === undefined ? {} : { height: edit.height }),
    };
    return { name: own.name, before: own, after };
  }
  if (edit === null) return own && { name: own.name, before: own, after: null };
  const text = own?.text ?? textRefOf(t, s);
  if (!text || !t.base) return undefined;
  const name = own?.name ?? freeAddedName("text", s.added);
  return { name, before: own ?? null, after: { ...placed({ ...(own ?? { name, text }) }, t, edit) } };
}

function placed(was: PlacedText, t: DrawnText, { move, turn, height, hidden }: TextEdit): PlacedText {
  const by = movedBy(was.by, t, move),
    next: PlacedText = { ...was, ...(by ? { by } : {}) };
  if (turn !== undefined) next.turn = turn;
  if (height !== undefined) next.height = height;
  if (hidden) next.hidden = true;
  return next;
}

/** From where it belongs to where it stands and on; a text that is only turned stays where it stands. */
function movedBy(
  was: readonly [number, number] | undefined,
  t: DrawnText,
  move: readonly [number, number] = [0, 0],
): readonly [number, number] {
  const [e, n] = was ?? [t.e - t.base![0], t.n - t.base![1]];
  return [millimetres(e + move[0]), millimetres(n + move[1])];
}

function editWords(was: Words, t: DrawnText, { move, turn, words }: TextEdit): Words {
  return {
    ...was,
    ...(move && t.base ? { by: movedBy(was.by, t, move) } : {}),
    ...(turn === undefined ? {} : { turn }),
    ...(words?.trim() ? { words: words.trim() } : {}),
  };
}

/** Its line goes as far to the right as it was moved to the right of its way. */
function editDimension(was: Dimension, { move }: TextEdit, { table, intakes }: EditSources): Dimension {
  const [from, to] = was.dimension.map(anchorOn(table, findPoints(table, intakes).rowOf));
  if (!move || !from || !to) return was;
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]],
    right = (move[0] * dy - move[1] * dx) / (Math.hypot(dx, dy) || 1);
  return { ...was, right: millimetres(was.right + right) };
}

/** Where a text stands needs no more digits. */
const millimetres = (x: number) => Math.round(x * 1000) / 1000;
