/** What becomes of numbers that are there already: the answers given so far, and what they come to. */
import { type ClashPolicy, type IntakeOptions } from "../../intake/model";
import { type PointEdit } from "../change/change";
import { type LookedClash } from "../../job/recipe/repeated";
import { fieldValue } from "../../points/edits";
import { numberIndex } from "../../points/index";
import type { PointTable } from "../../points/table";

/** An answer to one number: a policy of the intake, or the mean of both positions, which is an edit after it. */
export type Answer = ClashPolicy | "mean";

export interface Answers {
  given: IntakeOptions;
  /** Numbers answered with the mean. */
  means: readonly string[];
}

/** What holds for a clash now; rows that say the same are set aside by themselves. */
export function answerTo(c: LookedClash, { given, means }: Answers): Answer {
  if (means.includes(c.number)) return "mean";
  const own = given.clashes && Object.hasOwn(given.clashes, c.number) ? given.clashes[c.number] : undefined;
  return own ?? (c.same ? "keep-first" : (given.clash ?? "stop"));
}

/** Those that would stop the intake. */
export function stopping(clashes: readonly LookedClash[], answers: Answers): LookedClash[] {
  return clashes.filter((c) => answerTo(c, answers) === "stop");
}

/** The options that carry all answers out. */
export function withAnswers(clashes: readonly LookedClash[], answers: Answers): IntakeOptions {
  const own: Record<string, ClashPolicy> = { ...answers.given.clashes };
  const same = clashes.filter((c) => c.same).length,
    // Of a whole delivery come again it is shorter to say what becomes of the others.
    mostlySame = same > clashes.length / 2 && (answers.given.clash ?? "stop") === "stop";
  for (const c of clashes) {
    const answer = answerTo(c, answers);
    // The first is kept, and moved to the mean when the intake is there.
    if (answer === "mean") own[c.number] = "keep-first";
    else if (mostlySame ? !c.same : c.same) own[c.number] = answer;
  }
  const given: IntakeOptions = mostlySame ? { ...answers.given, clash: "keep-first" } : answers.given;
  return Object.keys(own).length ? { ...given, clashes: own } : given;
}

/** The edits that move points to the mean of both positions; a level that only one has is taken as it is. */
export function meanEdits(t: PointTable, clashes: readonly LookedClash[], means: readonly string[]): PointEdit[] {
  // The index of all numbers is not made for none.
  if (means.length === 0) return [];
  const index = numberIndex(t);
  return means.flatMap((number) => {
    const row = index.get(number),
      mine = clashes.filter((c) => c.number === number);
    if (row === undefined || mine.length === 0) return [];
    const id = t.id[row]!,
      mean = (values: number[]) => {
        const known = values.filter((x) => !Number.isNaN(x));
        return known.length ? known.reduce((s, x) => s + x, 0) / known.length : NaN;
      };
    const wanted = {
      easting: mean([t.e[row]!, ...mine.map((c) => c.e)]),
      northing: mean([t.n[row]!, ...mine.map((c) => c.n)]),
      elevation: mean([t.z[row]!, ...mine.map((c) => c.z)]),
    };
    return (Object.keys(wanted) as (keyof typeof wanted)[]).flatMap((field) => {
      const old = fieldValue(t, row, field),
        next = Number.isNaN(wanted[field]) ? null : wanted[field];
      return old === next ? [] : [{ id, field, old, new: next }];
    });
  });
}

export type ClashOrder = "row" | "plan" | "level";

/** How far apart both positions are, in plan and in level. */
export const apart = (c: LookedClash) => ({
  plan: Math.hypot(c.e - c.there.e, c.n - c.there.n),
  level: c.z - c.there.z,
});

/** By row, those without an answer first; or the farthest apart first, those without a level last. */
export function inOrder(clashes: readonly LookedClash[], by: ClashOrder, answers: Answers): LookedClash[] {
  const open = (c: LookedClash) => (answerTo(c, answers) === "stop" ? 0 : 1);
  const size = (c: LookedClash) => {
    const { plan, level } = apart(c);
    return by === "plan" ? plan : Number.isNaN(level) ? -1 : Math.abs(level);
  };
  return clashes.toSorted((a, b) => (by === "row" ? open(a) - open(b) : size(b) - size(a)) || a.row - b.row);
}
