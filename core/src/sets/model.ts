/** A point set is a rule, evaluated anew each time (RECIPE.md, SET). */
import type { Numbers } from "../points/numbers";
import type { PointRef } from "../points/refs";

/** Both ends included; null where there is none. */
export type Range<T> = [from: T | null, to: T | null];

/** What each condition asks for. Lengths in the job's unit; words may have `*` and `?` where they are said to. */
export interface Conditions {
  /** With wildcards. */
  codes: string[];
  numbers: Numbers;
  /** Chosen ones, whatever they are called. */
  points: readonly PointRef[];
  kind: string[];
  /** Ids of intakes. */
  intake: string[];
  elevation: Range<number>;
  /** A ring, E, N; a point on it is inside. */
  inside: [number, number][];
  /** Description or note, with wildcards. */
  text: string;
  /** A number between two ends, or a word with wildcards. */
  attribute: { name: string; from?: number; to?: number } | { name: string; is: string };
  crew: string[];
  /** Setups that observed the point: their ids, or `intake / id`. */
  setup: string[];
  /** As times are written: `2031-04-17 08:00`. */
  time: Range<string>;
  precision: Range<number>;
  /** Kinds of findings. */
  finding: string[];
  deleted: true;
}
export type ConditionKind = keyof Conditions;

export type Condition = { [K in ConditionKind]: { [P in K]: Conditions[K] } }[ConditionKind];
export type SetRule = Condition | { set: string } | { all: SetRule[] } | { any: SetRule[] } | { not: SetRule };

export interface PointSet {
  name: string;
  rule: SetRule;
}

/** The set that always exists: points of the terrain by code, cue and edit that have an elevation. */
export const GROUND = "*ground";

/** A rule with each of its conditions as it becomes. */
export function conditionsChanged(rule: SetRule, to: (c: Condition) => Condition): SetRule {
  const within = (rules: SetRule[]) => rules.map((r) => conditionsChanged(r, to));
  if ("all" in rule) return { all: within(rule.all) };
  if ("any" in rule) return { any: within(rule.any) };
  if ("not" in rule) return { not: conditionsChanged(rule.not, to) };
  return "set" in rule ? rule : to(rule);
}

/** The rules that a rule is made of. */
export const withinRule = (rule: SetRule): readonly SetRule[] =>
  "all" in rule ? rule.all : "any" in rule ? rule.any : "not" in rule ? [rule.not] : [];
