/** The limits of the checks, which a job may set for itself, and checks that it does not want at all. */
import { kindOfFinding, type CheckLimits, type FindingKind, type LimitedKind } from "../finding-kinds";
import { METRES, type Unit } from "../math/units";

/** What a job sets: limits of some kinds, and `false` for kinds that are not looked for. */
export type ChecksGiven = { [K in FindingKind]?: false | (K extends LimitedKind ? Partial<CheckLimits[K]> : never) };

/** The limits that hold: the job's own, else those of COMPUTATION.md, in its unit. */
export function limitsOf<K extends LimitedKind>(kind: K, given: ChecksGiven | undefined, unit: Unit): CheckLimits[K] {
  const own = given?.[kind],
    all = Object.entries(kindOfFinding(kind).limits!).map(([name, { is, usual }]) => [
      name,
      is === "length" ? usual / METRES[unit] : usual,
    ]);
  return { ...Object.fromEntries(all), ...(own === false ? {} : own) } as CheckLimits[K];
}

/** Whether a job wants findings of a kind. */
export const isLookedFor = (kind: FindingKind, given: ChecksGiven | undefined) => given?.[kind] !== false;
