/** What points that the office makes one after another have in common, kept under a name. */
import type { PointKind } from "../records/kinds";
import type { LevelBy } from "./model";

export interface Preset {
  name: string;
  kind?: Exclude<PointKind, "reference">;
  /** From where they are numbered on; as the job says for their kind, where it is not said. */
  number?: string;
  /** Its code, and what goes with it; none where it is not said. */
  description?: string;
  /** The description is asked for at each point. */
  ask?: true;
  attributes?: Record<string, string>;
  /** A level typed, on the slope of the way, or of a surface; of each pick its own, or missing, where it is not said. */
  level?: number | Exclude<LevelBy, { of: unknown }>;
  /** It is to be set out: an attribute says so, by which sets and files find it. */
  setOut?: true;
}

/** The attribute that tells points to be set out. */
export const SET_OUT = "set-out";

/** The attributes of a point made by a preset. */
export const attributesOfPreset = ({ attributes = {}, setOut }: Preset): Record<string, string> => ({
  ...attributes,
  ...(setOut ? { [SET_OUT]: "yes" } : {}),
});
