/** Point sets are rules, evaluated anew each time, so that they are always current. */
import { refusal } from "../errors";
import { readNumberList, type Numbers } from "../points/numbers";
import { conditionOf, entryOf, type SetContext, type SetReads, type Test } from "./conditions";
import { GROUND, withinRule, type Condition, type PointSet, type SetRule } from "./model";

export { GROUND } from "./model";
export type { SetContext } from "./conditions";

/**
 * Table rows of a set's points, in table order. `path` names the asker when the set is not there. Deleted points are in
 * it only where the rule asks for them.
 */
export function pointsOfSet(name: string, context: SetContext, path: string): Int32Array {
  return rowsThat(setTest(name, context, path, []), context, asksDeleted({ set: name }, context.sets));
}

/** Table rows of the points that a rule takes, as of a set. */
export function pointsOfRule(rule: SetRule, context: SetContext, path: string): Int32Array {
  return rowsThat(ruleTest(rule, context, path, []), context, asksDeleted(rule, context.sets));
}

function rowsThat(test: Test, { table }: SetContext, deleted = false): Int32Array {
  const rows = new Int32Array(table.count);
  let count = 0;
  for (let i = 0; i < table.count; i++) if ((deleted || !table.deleted[i]) && test(i)) rows[count++] = i;
  return rows.slice(0, count);
}

/** A set's name, `*` for all, or else a number list. Living points alone: what is deleted is in no drawing or file. */
export function pointsOfSelection(selection: Numbers, context: SetContext, path: string): Int32Array {
  if (typeof selection === "string" && isSet(selection, context.sets))
    return rowsThat(setTest(selection, context, path, []), context);
  const list = readNumberList(selection);
  if (!list) throw refusal("reference-missing", { path, what: "point set", name: String(selection) });
  return rowsThat((i) => list.has(context.table.number![i]!), context);
}

const isSet = (name: string, sets: readonly PointSet[]) => name === GROUND || sets.some((s) => s.name === name);

/** What a set's name or number list reads of a job, with the sets that it asks for. */
export function readsOfSelection(selection: Numbers, sets: readonly PointSet[]): SetReads[] {
  return typeof selection === "string" && isSet(selection, sets) ? readsOfRule({ set: selection }, sets) : ["number"];
}

export function readsOfRule(rule: SetRule, sets: readonly PointSet[]): SetReads[] {
  const reads = new Set<SetReads>();
  for (const r of allRules(rule, sets)) {
    if ("set" in r && r.set === GROUND) for (const read of ["coded", "z"] as const) reads.add(read);
    const kind = conditionOf(r);
    if (kind) for (const read of entryOf(r as Condition, kind)[0].reads) reads.add(read);
  }
  return [...reads];
}

const asksDeleted = (rule: SetRule, sets: readonly PointSet[]) =>
  [...allRules(rule, sets)].some((r) => conditionOf(r) === "deleted");

/** A rule with all the rules within it and within the sets that it asks for, each set once. */
function* allRules(rule: SetRule, sets: readonly PointSet[], seen = new Set<string>()): Generator<SetRule> {
  yield rule;
  if ("set" in rule && !seen.has(rule.set)) {
    seen.add(rule.set);
    const set = sets.find((s) => s.name === rule.set);
    if (set) yield* allRules(set.rule, sets, seen);
  }
  for (const r of withinRule(rule)) yield* allRules(r, sets, seen);
}

/** Names of the sets that a rule asks for, by itself or by others. */
export function setsAsked(rule: SetRule, sets: readonly PointSet[]): Set<string> {
  return new Set([...allRules(rule, sets)].flatMap((r) => ("set" in r ? [r.set] : [])));
}

function setTest(name: string, context: SetContext, path: string, asking: string[]): Test {
  const { table, coded, sets } = context;
  if (name === GROUND) return (i) => coded!.ground[i] === 1 && !Number.isNaN(table.z![i]!);
  const set = sets.find((s) => s.name === name);
  if (!set) throw refusal("reference-missing", { path, what: "point set", name });
  if (asking.includes(name))
    throw refusal("recipe-field", {
      path,
      why: `the sets ${[...asking, name].join(" → ")} ask for each other in a circle`,
    });
  return ruleTest(set.rule, context, path, [...asking, name]);
}

/** Whether a rule takes the point of a row; `asking` are the sets on the way to it. */
export function ruleTest(rule: SetRule, context: SetContext, path: string, asking: string[] = []): Test {
  const kind = conditionOf(rule);
  if (kind) {
    const [entry, value] = entryOf(rule as Condition, kind);
    return entry.test(value, context, path);
  }
  if ("set" in rule) return setTest(rule.set, context, path, asking);
  const tests = withinRule(rule).map((r) => ruleTest(r, context, path, asking));
  if ("all" in rule) return (i) => tests.every((t) => t(i));
  if ("any" in rule) return (i) => tests.some((t) => t(i));
  return (i) => !tests[0]!(i);
}
