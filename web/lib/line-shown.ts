/** A line of the core as the screen shows it. */
import type { CodedPoints } from "@bramble/core/codes/read";
import type { Derived } from "@bramble/core/job/chain/values";
import type { Line } from "@bramble/core/lines/model";
import { PLAIN_COLOR, type LineShown } from "./view";

/** `coded` gives what each shot says of the line, `byHand` what a line drawn by hand says at a shot. */
export function lineShown(
  l: Line,
  { coded, ownNames }: Pick<Derived, "coded" | "ownNames">,
  byHand: (name: string, shot: number) => string,
): LineShown {
  const { hand, companion } = l,
    own = ownNames.get(l.key),
    count = (type: string) => l.pieces.filter((p) => p.type === type).length;
  return {
    key: l.key,
    code: l.code,
    name: l.entry.name ?? l.code,
    run: l.run,
    kind: l.entry.kind ?? "point",
    group: l.entry.group ?? "",
    color: own?.color ?? l.entry.color ?? PLAIN_COLOR,
    ...(own?.name === undefined ? {} : { ownName: own.name }),
    layer: l.entry.layer ?? l.code,
    style: l.entry.style ?? "solid",
    breakline: l.entry.breakline ?? "none",
    intake: l.intake,
    shots: l.shots,
    ...(hand !== undefined ? { hand } : {}),
    ...(l.steering ? { steering: l.steering } : {}),
    cues: companion ? [] : l.shots.map((i) => (hand !== undefined ? byHand(hand, i) : cuesOf(coded, i, l))),
    closed: l.closed,
    arcs: count("arc"),
    curves: count("curve"),
    ends: [l.pieces[0]?.from[2] ?? NaN, l.pieces.at(-1)?.to[2] ?? NaN],
    ...(companion ? { companion: { of: companion.of.key, right: companion.right, up: companion.up } } : {}),
    length: l.length,
    slopeLength: l.slopeLength,
    area: l.area,
  };
}

/** What a shot says about one line, in the words of the cues. */
function cuesOf(coded: CodedPoints, i: number, line: { code: string; run: string }): string {
  const element = coded.parsed[coded.description[i]!]?.elements.find((e) => e.code === line.code && e.run === line.run);
  return (element?.cues ?? []).map((c) => (c.value === undefined ? c.action : `${c.action}=${c.value}`)).join(" ");
}
