/** A line of the core as the screen shows it. */
import type { CodedPoints } from "@bramble/core/codes/read";
import type { Line } from "@bramble/core/lines/model";
import { PLAIN_COLOR, type LineShown } from "./view";

/** `coded` gives what each shot says of the line; without it the cues are left out. */
export function lineShown(l: Line, lines: readonly Line[], coded?: CodedPoints, index?: ReadonlyMap<Line, number>, byHand?: (name: string, shot: number) => string): LineShown {
  return {
    code: l.code, name: l.entry.name ?? l.code, run: l.run, kind: l.entry.kind ?? "point", group: l.entry.group ?? "", color: l.entry.color ?? PLAIN_COLOR, layer: l.entry.layer ?? l.code, style: l.entry.style ?? "solid",
    breakline: l.entry.breakline ?? "none", intake: l.intake, shots: l.shots, ...(l.hand !== undefined ? { hand: l.hand } : {}), ...(l.steering ? { steering: l.steering } : {}), cues: l.companion || !coded ? [] : l.shots.map((i) => (l.hand !== undefined && byHand ? byHand(l.hand, i) : cuesOf(coded, i, l))), closed: l.closed, arcs: l.pieces.filter((p) => p.type === "arc").length,
    curves: l.pieces.filter((p) => p.type === "curve").length, ends: [l.pieces[0]?.from[2] ?? NaN, l.pieces.at(-1)?.to[2] ?? NaN],
    ...(l.companion ? { companion: { of: index?.get(l.companion.of) ?? lines.indexOf(l.companion.of), right: l.companion.right, up: l.companion.up } } : {}),
    length: l.length, slopeLength: l.slopeLength, area: l.area,
  };
}

/** What a shot says about one line, in the words of the cues. */
function cuesOf(coded: CodedPoints, i: number, line: { code: string; run: string }): string {
  const element = coded.parsed[coded.description[i]!]?.elements.find((e) => e.code === line.code && e.run === line.run);
  return (element?.cues ?? []).map((c) => (c.value === undefined ? c.action : `${c.action}=${c.value}`)).join(" ");
}
