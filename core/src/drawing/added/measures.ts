/** Bearings, distances, areas and names along a line, as texts that follow it. */
import { azimuthOf, directionText, type AngleStyle } from "../../math/angles";
import { area as areaText } from "../../math/figures";
import { formatFixed } from "../../math/round";
import { decimalsOf, type AreaUnit, type Unit } from "../../math/units";
import { enclosedArea, planLength } from "../../lines/measure";
import { positionOnArc } from "../../lines/arc";
import { positionOnCurve } from "../../lines/curve";
import { lineName, type Line, type Piece, type Position } from "../../lines/model";
import type { Measure } from "./model";

type At = readonly [e: number, n: number];

/** A text beside a piece, from its beginning by its middle to its end; or of a closed line as a whole, within its ring. */
export interface MeasureText {
  text: string;
  from: At;
  middle: At;
  to: At;
  ring?: readonly At[];
}

export interface MeasureStyle {
  unit: Unit;
  angle: AngleStyle;
  areaUnit: AreaUnit;
}

/**
 * The texts of a line, piece by piece, then of the whole. A bearing is that of the piece as the line runs, of an arc
 * that of its chord; an arc says its radius with its length. `own`: the line's own name, where it has one.
 */
export function measureTexts(line: Line, show: readonly Measure[], style: MeasureStyle, own?: string): MeasureText[] {
  const texts: MeasureText[] = [],
    decimals = decimalsOf(style.unit);
  for (const p of line.pieces) {
    const said = [
      ...(show.includes("bearing") ? [directionText(directionOf(p), style.angle)] : []),
      ...(show.includes("distance") ? [distanceText(p, decimals)] : []),
    ];
    if (said.length && planLength(p) > 0)
      texts.push({ text: said.join("  "), from: plan(p.from), middle: middleOf(p), to: plan(p.to) });
  }
  const { name } = line.entry,
    called = own ?? (name ? [name, line.run].filter(Boolean).join(" ") : lineName(line)),
    said = [
      ...(show.includes("name") ? [called] : []),
      ...(show.includes("area") && line.closed
        ? [areaText(enclosedArea(line.pieces), style.unit, style.areaUnit)]
        : []),
    ];
  if (said.length) texts.push({ text: said.join("  "), ...wholeOf(line) });
  return texts;
}

const plan = ([e, n]: Position): At => [e, n];

function middleOf(p: Piece): At {
  if (p.type === "arc") return plan(positionOnArc(p, 0.5));
  if (p.type === "curve") return plan(positionOnCurve(p, 0.5));
  return [(p.from[0] + p.to[0]) / 2, (p.from[1] + p.to[1]) / 2];
}

/** A closed line is written within, an open one along its middle piece. */
function wholeOf({ pieces, closed }: Line): Omit<MeasureText, "text"> {
  const p = pieces[Math.floor(pieces.length / 2)]!,
    at = { from: plan(p.from), middle: middleOf(p), to: plan(p.to) };
  return closed ? { ...at, ring: pieces.flatMap((x) => [plan(x.from), middleOf(x)]) } : at;
}

const directionOf = (p: Piece) => azimuthOf(p.from[0], p.from[1], p.to[0], p.to[1]);

function distanceText(p: Piece, decimals: number): string {
  const length = formatFixed(planLength(p), decimals);
  return p.type === "arc" ? `${length}  R ${formatFixed(p.radius, decimals)}` : length;
}
