/** What may be chosen of how the sheet looks: the words for it, and the types. */
import type { SetRule } from "@bramble/core";

/** What is shown alone: named for the legend, and either a rule, always current, or points by their ids. */
export type OnlyThese = { name: string } & ({ rule: SetRule } | { ids: ReadonlySet<number> });

export const MEANINGS = {
  code: "by code",
  crew: "by crew",
  kind: "by kind",
  ground: "ground or not",
  breakline: "by kind of breakline",
  elevation: "by elevation",
  finding: "by finding",
} as const;
/** One of MEANINGS, or `set NAME`. */
export type ColorBy = keyof typeof MEANINGS | `set ${string}`;

export const GROUND_SEEN = {
  plain: "ground plain",
  levels: "ground by level",
  slopes: "ground by slope",
  spacing: "ground by spacing",
} as const;
export type GroundSeen = keyof typeof GROUND_SEEN;

/** Where the light comes from: bearings in degrees. */
export const LIGHTS = { northwest: 315, northeast: 45, southeast: 135, southwest: 225 } as const;
export type Light = keyof typeof LIGHTS;
