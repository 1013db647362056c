/** A comparison in words: what is compared, and what its ± rests on. */
import { volume } from "../math/figures";
import { directionText, type AngleStyle } from "../math/angles";
import { stationText, type StationStyle } from "../math/station-text";
import { lengthText, type Unit, type VolumeUnit } from "../math/units";
import type { DesignLine } from "./along-way";
import { plural } from "../math/words";
import { kindOf, type VolumeKind, type VolumeRecipe } from "./model";
import type { Opinions } from "./opinion";
import type { Precision } from "./precision";
import type { EndAreas } from "./second-opinion";

/** What is compared, in words. */
export function about(r: VolumeRecipe): string {
  switch (kindOf(r)) {
    case "level":
      return `from “${r.surface}” to level ${r.level}`;
    case "surfaces":
      return `from “${r.from}” to “${r.to}”`;
    case "heap":
      return `a heap of “${r.heap}” above the surface through its toe`;
    case "storage":
      return `storage of “${r.storage}” from level ${r.from} to ${r.to}`;
  }
}

/** A figure of a comparison as it is told: under which name, and with which sign. */
export interface FigureTold {
  key: "cut" | "fill" | "net";
  name: string;
  sign: 1 | -1;
}

/** Of a heap it is told how much lies above its base, as people ask for it, and not what would have to be filled. */
export function figuresTold(kind: VolumeKind): readonly FigureTold[] {
  return kind === "heap"
    ? [
        { key: "cut", name: "Above its base", sign: 1 },
        { key: "fill", name: "Below its base", sign: 1 },
        { key: "net", name: "Volume, above − below", sign: -1 },
      ]
    : [
        { key: "cut", name: "Cut", sign: 1 },
        { key: "fill", name: "Fill", sign: 1 },
        { key: "net", name: "Net, fill − cut", sign: 1 },
      ];
}

/** A line of the job, of a file or drawn, in words. */
export function designLineText(line: DesignLine): string {
  if ("points" in line) return "a drawn line";
  if ("file" in line) return `“${line.alignment}” of ${line.file}`;
  return [line.code, line.run].filter(Boolean).join(" ");
}

/** How the sections of end areas lie, in words. */
export function endAreasWords(
  o: EndAreas,
  r: Pick<VolumeRecipe, "sections">,
  { unit, angle, stations }: { unit: Unit; angle: AngleStyle; stations: StationStyle },
): string {
  const how = `${plural(o.sections.length, "section")} every ${lengthText(o.spacing, unit)}`,
    { lie } = o;
  if ("azimuth" in lie) return `${how}, lying at ${directionText((lie.azimuth * Math.PI) / 180, angle)}`;
  const line = typeof r.sections === "object" && "line" in r.sections ? designLineText(r.sections.line) : "a line",
    at = (x: number) => stationText(x, unit, stations);
  return `${how} across ${line}, from ${at(lie.from)} to ${at(lie.to)}, ${lengthText(lie.half, unit, 1)} to either side`;
}

/** When cut and fill would be equal; `second` is what would be raised, as it is called in a sentence. */
export function balanceWords(balance: NonNullable<Opinions["balance"]>, second: string, unit: Unit): string {
  if ("level" in balance) return `Cut and fill are equal at level ${lengthText(balance.level, unit)}`;
  const { raise } = balance;
  return `Cut and fill are equal with ${second} ${raise < 0 ? "lowered" : "raised"} by ${lengthText(Math.abs(raise), unit)}`;
}

/** What a ± rests on and what it leaves out. */
export function assumptions(p: Precision, unit: Unit, shown?: VolumeUnit): string {
  const text = (x: number) => volume(x, unit, shown);
  return [
    `± is one σ: ${text(p.net.independent)} of the net from ${plural(p.shots, "shot")} that err each on its own`,
    p.net.common > 0 ? `, ${text(p.net.common)} from an error that all share. ` : ". ",
    p.assumed > 0 ? `${plural(p.assumed, "shot")} ${p.assumed === 1 ? "has" : "have"} no precision of their own. ` : "",
    p.exact.length > 0 ? `${p.exact.map((n) => `“${n}”`).join(" and ")} counts as exact. ` : "",
    "What the ground does between the shots is not in it.",
  ].join("");
}
