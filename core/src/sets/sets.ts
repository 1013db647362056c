/** Point sets are rules, evaluated anew each time, so that they are always current. */
import type { IntakeInfo } from "../intake/model";
import { KINDS } from "../records/kinds";
import type { PointSet, SetRule } from "./model";
import { codeOf, type CodedPoints } from "../codes/read";
import { refusal } from "../errors";
import { insideRing } from "../math/ring";
import { wildcard } from "../math/words";
import { readNumberList, type Numbers } from "../points/numbers";
import type { PointTable } from "../points/table";

/** What the rules of sets depend on. */
export type SetColumns = Pick<PointTable, "count" | "e" | "n" | "z" | "number" | "kind" | "intake" | "deleted">;

export interface SetContext {
  table: SetColumns;
  coded: CodedPoints;
  intakes: readonly IntakeInfo[];
  sets: readonly PointSet[];
}

/** The set that always exists: points of the terrain by code, cue and edit that have an elevation. */
export const GROUND = "*ground";

/** Table rows of a set's points, in table order. `path` names the asker when the set is not there. */
export function pointsOfSet(name: string, context: SetContext, path: string): Int32Array {
  return rowsThat(setTest(name, context, path, []), context.table);
}

function rowsThat(test: Test, table: SetColumns): Int32Array {
  const rows = new Int32Array(table.count);
  let count = 0;
  for (let i = 0; i < table.count; i++) if (!table.deleted[i] && test(i)) rows[count++] = i;
  return rows.slice(0, count);
}

/** A set's name, `*` for all, or else a number list. */
export function pointsOfSelection(selection: Numbers, context: SetContext, path: string): Int32Array {
  if (typeof selection === "string" && (selection === GROUND || context.sets.some((s) => s.name === selection)))
    return pointsOfSet(selection, context, path);
  const list = readNumberList(selection);
  if (!list) throw refusal("reference-missing", { path, what: "point set", name: String(selection) });
  return rowsThat((i) => list.has(context.table.number[i]!), context.table);
}

type Test = (i: number) => boolean;

function setTest(name: string, context: SetContext, path: string, asking: string[]): Test {
  const { table, coded, sets } = context;
  if (name === GROUND) return (i) => coded.ground[i] === 1 && !Number.isNaN(table.z[i]!);
  const set = sets.find((s) => s.name === name);
  if (!set) throw refusal("reference-missing", { path, what: "point set", name });
  if (asking.includes(name))
    throw refusal("recipe-field", {
      path,
      why: `the sets ${[...asking, name].join(" → ")} ask for each other in a circle`,
    });
  return ruleTest(set.rule, context, path, [...asking, name]);
}

function ruleTest(rule: SetRule, context: SetContext, path: string, asking: string[]): Test {
  const { table, coded, intakes } = context;
  if ("codes" in rule) {
    const patterns = rule.codes.map(wildcard);
    return (i) => {
      const elements = coded.parsed[coded.description[i]!]!.elements;
      return elements.length
        ? elements.some((e) => patterns.some((is) => is(e.code)))
        : patterns.some((is) => is(codeOf(coded, i)));
    };
  }
  if ("numbers" in rule) {
    const list = readNumberList(rule.numbers);
    if (!list) throw refusal("recipe-field", { path, why: `“${String(rule.numbers)}” is no list of point numbers` });
    return (i) => list.has(table.number[i]!);
  }
  if ("kind" in rule) return (i) => rule.kind.includes(KINDS[table.kind[i]!]!);
  if ("intake" in rule) {
    const wanted = new Set(
      rule.intake.map((id) => {
        const index = intakes.findIndex((k) => k.id === id);
        if (index < 0) throw refusal("reference-missing", { path, what: "intake", name: id });
        return index;
      }),
    );
    return (i) => wanted.has(table.intake[i]!);
  }
  if ("elevation" in rule) return (i) => table.z[i]! >= rule.elevation[0] && table.z[i]! <= rule.elevation[1];
  if ("inside" in rule) return (i) => insideRing(rule.inside, table.e[i]!, table.n[i]!);
  if ("set" in rule) return setTest(rule.set, context, path, asking);
  const tests = ("all" in rule ? rule.all : "any" in rule ? rule.any : [rule.not]).map((r) =>
    ruleTest(r, context, path, asking),
  );
  if ("all" in rule) return (i) => tests.every((t) => t(i));
  if ("any" in rule) return (i) => tests.some((t) => t(i));
  return (i) => !tests[0]!(i);
}
