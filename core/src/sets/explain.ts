/** A rule in words, why a point is in or not, and which condition leaves how many out. */
import { conditionOf, entryOf, type SetContext } from "./conditions";
import { findPoints, numberSaid, type PointRef, type RefColumns } from "../points/refs";
import { GROUND, withinRule, type Condition, type SetRule } from "./model";
import { ruleTest } from "./sets";

/** `code TOP* or SPOT, and not in set “chambers”`. */
export function ruleSentence(rule: SetRule, numberOf: (ref: PointRef) => string = numberSaid): string {
  const kind = conditionOf(rule);
  if (kind) {
    const [entry, value] = entryOf(rule as Condition, kind);
    return entry.says(value, numberOf);
  }
  if ("set" in rule) return rule.set === GROUND ? "ground" : `in set “${rule.set}”`;
  if ("not" in rule) return `not ${inner(rule.not, numberOf)}`;
  const [rules, word, none] =
    "all" in rule ? [rule.all, "and", "every point"] : [(rule as { any: SetRule[] }).any, "or", "no point"];
  if (rules.length === 0) return none;
  return rules.length === 1
    ? ruleSentence(rules[0]!, numberOf)
    : rules.map((r) => inner(r, numberOf)).join(`, ${word} `);
}

/** Within another rule several conditions stand in brackets. */
function inner(rule: SetRule, numberOf: (ref: PointRef) => string): string {
  const several = withinRule(rule).length > 1 && !("not" in rule);
  return several ? `(${ruleSentence(rule, numberOf)})` : ruleSentence(rule, numberOf);
}

/** What points are called in a job of which all columns are there. */
const numbersIn = ({ table, intakes }: SetContext): ((ref: PointRef) => string) =>
  table.row && intakes ? findPoints(table as RefColumns, intakes).numberOf : numberSaid;

/** One condition and whether it holds of a point, with those that it is made of. */
export interface Reason {
  says: string;
  holds: boolean;
  of: Reason[];
}

/** Why the point of a row is in what a rule takes, or is not. */
export function explainRow(rule: SetRule, row: number, context: SetContext): Reason {
  const asked = "set" in rule ? context.sets.find((s) => s.name === rule.set) : undefined,
    parts = asked ? [asked.rule] : withinRule(rule);
  return {
    says: ruleSentence(rule, numbersIn(context)),
    holds: ruleTest(rule, context, "why")(row),
    of: parts.map((r) => explainRow(r, row, context)),
  };
}

/** A condition of a rule with how many living points it takes alone, and how many are left after it and those before. */
export interface Tally {
  says: string;
  alone: number;
  left: number;
}

/**
 * The conditions of a rule one after another. Of `any` what is left grows; of a single condition it is what it takes.
 */
export function tally(rule: SetRule, context: SetContext): Tally[] {
  const any = "any" in rule,
    parts = any || "all" in rule ? withinRule(rule) : [rule],
    { count, deleted } = context.table;
  // Of each point whether it is still in: of `any` none at first.
  const held = new Uint8Array(count).fill(any ? 0 : 1);
  return parts.map((r) => {
    const test = ruleTest(r, context, "count");
    let alone = 0,
      left = 0;
    for (let i = 0; i < count; i++) {
      if (deleted[i]) continue;
      const is = test(i);
      if (is) alone++;
      if (any ? is : !is) held[i] = any ? 1 : 0;
      if (held[i]) left++;
    }
    return { says: ruleSentence(r, numbersIn(context)), alone, left };
  });
}
