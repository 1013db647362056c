/** The stored state of a job: everything a person gave, nothing derived. It only composes what the stages define. */
import type { IntakeInfo } from "../../intake/model";
import type { Unit } from "../../math/units";
import type { PointTable } from "../../points/table";
import type { Delivered } from "../../records/delivered";
import type { Reference } from "../../records/reference";
import { NAMED_PARTS, PARTS, type JobParts } from "./parts";
import { SETTING_FIELDS, SETTINGS, type JobSettings, type Setting } from "./settings";

/** Everything stored about a job but its points and deliveries. Lengths are in the job's unit, which never changes. */
export type JobDefinition = JobSettings & JobParts & { unit: Unit };

export type JobState = JobDefinition & {
  intakes: IntakeInfo[];
  /** What each intake brought beside points, in the order of `intakes`. */
  delivered: Delivered[];
  /** Files that only surfaces name, with their reference. */
  files?: { file: string; reference: Reference }[];
  /** Positions that follow from observations are reduced; see job/model/reduce.ts. */
  points: PointTable;
};

/** What a template carries on to the next job: settings and named things that do not belong to one job alone. */
export function templateFields(): string[] {
  return [
    "unit",
    ...SETTING_FIELDS.filter((f) => !(SETTINGS[f] as Setting<unknown>).own),
    ...NAMED_PARTS.filter((p) => !PARTS[p].own),
  ];
}
