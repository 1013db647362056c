/**
 * The drawing as a list of primitives, the lowest first: each line in its style, each symbol in its size, each text at
 * its position. Made once from the job; canvas, DXF and whatever comes only render it, so that all show the same.
 */
import type { CodeKind } from "../codes/model";
import type { DrawnSymbols, Look } from "./content";
import { sizeOnPaper, type DrawnText, type Layout } from "./layout";
import { drawRank, isDrawn, kindsInOrder } from "./order";
import { lineStyle, type LineStyle } from "./line-styles";
import type { DrawingSettings } from "./model";
import { stretched, type Stroke } from "./strokes";
import { symbolOf, type Symbol } from "./symbols";

/** How a line is drawn, by its code. */
export interface LineLook {
  kind?: CodeKind;
  group: string;
  layer: string;
  style?: string;
  color?: string;
}

export interface LinePrimitive {
  is: "line";
  /** Its index among the lines. */
  line: number;
  look: LineLook;
  style: LineStyle;
  /** Hidden things stand in a file on layers that are switched off; a sheet passes them over. */
  hidden: boolean;
}

export interface SymbolPrimitive {
  is: "symbol";
  /** Its row among the symbols. */
  row: number;
  /** Its point's row in the table. */
  point: number;
  look: Look;
  symbol: Symbol;
  /** On paper, mm, and how many times as wide as it is long. */
  size: number;
  aspect: number;
  /** What it is drawn of, for its size: the symbol's, stretched where it is not as wide as long. */
  strokes: readonly Stroke[];
  /** Degrees to the right from north. */
  turn: number;
  hidden: boolean;
}

export type Primitive = LinePrimitive | SymbolPrimitive | { is: "text"; text: DrawnText };

export interface DisplaySource {
  lines: readonly LineLook[];
  symbols: DrawnSymbols;
  layout?: Layout;
  drawing: DrawingSettings;
  /** Job units for a millimetre of paper. */
  unitsPerMm: number;
}

/** The primitives of some of the lines and symbols, by their indices and rows; texts come last, over all. */
export function displayList(
  s: DisplaySource,
  lines: Iterable<number> = s.lines.keys(),
  symbols: Iterable<number> = s.symbols.point.keys(),
): Primitive[] {
  const rank = drawRank(s.drawing),
    { hidden } = s.drawing,
    list: Primitive[] = [];
  const ofLines = [...lines]
    .map((line) => ({ line, look: s.lines[line]!, rank: rank(s.lines[line]!) }))
    .sort((a, b) => a.rank - b.rank || a.line - b.line);
  const looks = s.symbols.looks.map((look) => ({
    look,
    rank: rank(look),
    symbol: symbolOf(look.symbol) ?? symbolOf("spot")!,
    hidden: !isDrawn(look, hidden),
  }));
  const lookOf = (row: number) => looks[s.symbols.look[row]!]!;
  const ofSymbols = Int32Array.from(symbols).sort((a, b) => lookOf(a).rank - lookOf(b).rank || a - b);
  for (const kind of kindsInOrder(s.drawing)) {
    if (kind === "point")
      for (const row of ofSymbols) {
        const { look, symbol, hidden } = lookOf(row),
          aspect = s.symbols.aspect?.get(row) ?? 1;
        list.push({
          is: "symbol",
          row,
          point: s.symbols.point[row]!,
          look,
          symbol,
          size: sizeOnPaper(s.symbols, row, s.unitsPerMm),
          aspect,
          strokes: aspect === 1 ? symbol.strokes : stretched(symbol.strokes, aspect),
          turn: s.symbols.turn[row]!,
          hidden,
        });
      }
    else
      for (const { line, look } of ofLines) {
        // Lines without a kind of their own are lines.
        if ((look.kind === "area") !== (kind === "area")) continue;
        list.push({ is: "line", line, look, style: lineStyle(look.style), hidden: !isDrawn(look, hidden) });
      }
  }
  for (const text of s.layout?.texts ?? []) list.push({ is: "text", text });
  return list;
}
