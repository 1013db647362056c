/** The limits of the checks, which a job may set for itself, and checks that it does not want at all. */
import type { FindingKind } from "../finding";
import { METRES, type Unit } from "../math/units";

/** Lengths in the job's unit. */
export interface CheckLimits {
  spike: {
    /** In scales of the residuals round about. */
    limit: number;
    least: number;
  };
  "height-run": {
    /** The smallest shift. */
    least: number;
    /** The fewest shots that bear it out. */
    shots: number;
  };
  "no-ground-near": {
    /** So far round a point that is kept out a ground shot is expected. */
    within: number;
  };
  "shots-far-apart": {
    /** Sides of triangles longer than this are told; 0: none is. */
    apart: number;
  };
}

export type LimitedKind = keyof CheckLimits;
/** What a job sets: limits of some kinds, and `false` for kinds that are not looked for. */
export type ChecksGiven = { [K in FindingKind]?: false | (K extends LimitedKind ? Partial<CheckLimits[K]> : never) };

const METRIC: CheckLimits = {
  spike: { limit: 6, least: 0.3 },
  "height-run": { least: 0.12, shots: 5 },
  "no-ground-near": { within: 3 },
  "shots-far-apart": { apart: 0 },
};
/** Which limits are lengths: these are metres in METRIC. */
const LENGTHS: ReadonlySet<string> = new Set(["least", "within", "apart"]);

/** The limits that hold: the job's own, else those of COMPUTATION.md, in its unit. */
export function limitsOf<K extends LimitedKind>(kind: K, given: ChecksGiven | undefined, unit: Unit): CheckLimits[K] {
  const own = given?.[kind],
    all = Object.entries(METRIC[kind]).map(([name, value]) => [
      name,
      LENGTHS.has(name) ? (value as number) / METRES[unit] : value,
    ]);
  return { ...Object.fromEntries(all), ...(own === false ? {} : own) } as CheckLimits[K];
}

/** Whether a job wants findings of a kind. */
export const isLookedFor = (kind: FindingKind, given: ChecksGiven | undefined) => given?.[kind] !== false;
