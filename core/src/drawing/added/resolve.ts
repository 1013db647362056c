/** What a person added, with the points and lines that it names now: ready to be laid out. */
import { lengthText, type Unit } from "../../math/units";
import type { Line } from "../../lines/model";
import type { OwnNames } from "../../lines/names";
import { lineIndex } from "../../lines/refs";
import { findPoints, type PointFinder } from "../../points/refs";
import type { PointTable } from "../../points/table";
import { measureTexts, type MeasureStyle, type MeasureText } from "./measures";
import type { Added, Anchor, OwnSymbol } from "./model";

type At = readonly [e: number, n: number];

/** How a text that the drawing has anyway was placed by hand. */
export interface ByHand {
  name: string;
  by?: At;
  /** Degrees to the right. */
  turn?: number;
  height?: number;
  hidden?: true;
}

export interface ResolvedAdded {
  measures: { name: string; line: number; texts: MeasureText[]; height?: number }[];
  dimensions: { name: string; from: At; to: At; right: number; text: string; height?: number }[];
  words: { name: string; lines: string[]; at: At; by: At; turn?: number; height?: number; leader: boolean }[];
  /** Of notes of points by row, `row code` where a code is said; of notes of lines by index and time; of labels by row. */
  notes: ReadonlyMap<string, ByHand>;
  lineNotes: ReadonlyMap<string, ByHand>;
  labels: ReadonlyMap<number, ByHand>;
  contours: readonly (ByHand & { surface: string; level: number; near: At })[];
  /** Additions whose points or lines are not there any more, by their names. */
  lost: string[];
}

export const NOTHING_ADDED: ResolvedAdded = {
  measures: [],
  dimensions: [],
  words: [],
  notes: new Map(),
  lineNotes: new Map(),
  labels: new Map(),
  contours: [],
  lost: [],
};

export interface AddedSources {
  table: PointTable;
  intakes: readonly { id: string }[];
  lines: readonly Line[];
  ownNames: OwnNames;
  unit: Unit;
  style: MeasureStyle;
}

export function resolveAdded(added: readonly Added[], s: AddedSources): ResolvedAdded {
  if (added.length === 0) return NOTHING_ADDED;
  const { table: t, intakes, lines, unit, style } = s,
    { rowOf } = findPoints(t, intakes),
    lineAt = lineIndex(lines, rowOf);
  const out = {
    ...NOTHING_ADDED,
    measures: [] as ResolvedAdded["measures"],
    dimensions: [] as ResolvedAdded["dimensions"],
    words: [] as ResolvedAdded["words"],
    notes: new Map<string, ByHand>(),
    lineNotes: new Map<string, ByHand>(),
    labels: new Map<number, ByHand>(),
    contours: [] as (ByHand & { surface: string; level: number; near: At })[],
    lost: [] as string[],
  };
  const at = anchorOn(t, rowOf);
  for (const a of added) {
    const lose = () => out.lost.push(a.name);
    if ("measures" in a) {
      const line = lineAt(a.measures);
      if (line < 0) lose();
      else
        out.measures.push({
          ...a,
          line,
          texts: measureTexts(lines[line]!, a.show, style, s.ownNames.get(lines[line]!.key)?.name),
        });
    } else if ("dimension" in a) {
      const [from, to] = a.dimension.map(at);
      if (!from || !to) lose();
      else {
        const text = lengthText(Math.hypot(to[0] - from[0], to[1] - from[1]), unit);
        out.dimensions.push({ name: a.name, right: a.right, from, to, text, ...heightOf(a) });
      }
    } else if ("words" in a) {
      const to = at(a.to);
      if (!to) lose();
      else
        out.words.push({
          name: a.name,
          lines: a.words.split("\n"),
          at: to,
          by: a.by ?? [0, 0],
          leader: a.leader ?? false,
          ...(a.turn === undefined ? {} : { turn: a.turn }),
          ...heightOf(a),
        });
    } else if ("symbol" in a) {
      if (!resolveSymbol(a, at, rowOf)) lose();
    } else {
      const { text, ...byHand } = a;
      if ("contour" in text)
        out.contours.push({ ...byHand, surface: text.contour, level: text.level, near: text.near });
      else if ("noteOf" in text) {
        const line = lineAt(text.noteOf);
        if (line < 0) lose();
        else out.lineNotes.set(`${line} ${text.time ?? 0}`, byHand);
      } else {
        const row = rowOf("note" in text ? text.note : text.label);
        if (row < 0) lose();
        else if ("label" in text) out.labels.set(row, byHand);
        else out.notes.set(text.code === undefined ? String(row) : `${row} ${text.code}`, byHand);
      }
    }
  }
  return out;
}

/** Finds where an anchor is. */
export function anchorOn(t: Pick<PointTable, "e" | "n">, rowOf: PointFinder["rowOf"]) {
  return (a: Anchor): At | undefined => {
    if ("at" in a) return a.at;
    const row = rowOf(a.point);
    return row < 0 ? undefined : [t.e[row]!, t.n[row]!];
  };
}

/** The row of a symbol's point and where it is turned to; undefined where either is gone. */
export function resolveSymbol(
  { symbol, toward }: OwnSymbol,
  at: (a: Anchor) => At | undefined,
  rowOf: PointFinder["rowOf"],
): { row: number; toward?: At } | undefined {
  const row = rowOf(symbol),
    there = toward && at(toward);
  if (row < 0 || (toward && !there)) return undefined;
  return there ? { row, toward: there } : { row };
}

const heightOf = ({ height }: { height?: number }) => (height === undefined ? {} : { height });
