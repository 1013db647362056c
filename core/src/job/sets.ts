/** What a job's sets are tested on, and how one is renamed or taken away with all that names it. */
import { pointsOf } from "../handover/model";
import { refusal } from "../errors";
import type { SetContext } from "../sets/conditions";
import { withinRule, type PointSet, type SetRule } from "../sets/model";
import { readsOfRule, setsAsked } from "../sets/sets";
import type { NamedChange, OneChange, SeveralChange } from "./change";
import type { JobState } from "./model";
import type { Derived } from "./values";

export function setContext(
  state: Pick<JobState, "points" | "intakes" | "sets">,
  d: Pick<Derived, "coded" | "findingsAt" | "pointSetups">,
): SetContext {
  const { coded, findingsAt, pointSetups } = d;
  return { table: state.points, intakes: state.intakes, sets: state.sets, coded, findingsAt, pointSetups };
}

/** Who names a set, in words: other sets, surfaces, files, the labels of the drawing. */
export function usersOfSet(job: JobState, name: string): string[] {
  return [
    ...job.sets.filter((s) => asks(s.rule, name)).map((s) => `set “${s.name}”`),
    ...job.surfaces.filter((s) => s.points === name).map((s) => `surface “${s.name}”`),
    ...job.handover.filter((f) => pointsOf(f) === name).map((f) => `file “${f.file}”`),
    ...((job.drawing?.points ?? []).some((p) => p.set === name) ? ["the labels of points"] : []),
  ];
}

/** `*` is every point, and names that begin with it are the program's own. */
function checkName(name: string): void {
  if (name.trim() === "" || name.startsWith("*"))
    throw refusal("request-wrong", { why: "A set needs a name of its own, which does not begin with *" });
}

/** Whether a rule names a set itself. */
const asks = (rule: SetRule, name: string): boolean =>
  ("set" in rule && rule.set === name) || withinRule(rule).some((r) => asks(r, name));

/** A set kept under its name, made new or changed. Refused when it would ask for itself. */
export function keepSet(job: JobState, set: PointSet): NamedChange {
  checkName(set.name);
  const others = job.sets.filter((s) => s.name !== set.name);
  if (setsAsked(set.rule, others).has(set.name))
    throw refusal("request-wrong", { why: `The set “${set.name}” would ask for itself` });
  const old = job.sets.find((s) => s.name === set.name) ?? null;
  return { type: "named", part: "sets", name: set.name, old, new: set };
}

/** The set under another name, and all that names it with it. */
export function renameSet(job: JobState, name: string, to: string): SeveralChange {
  const at = job.sets.findIndex((s) => s.name === name),
    set = job.sets[at];
  if (!set) throw refusal("change-unknown", { what: `The set “${name}”` });
  checkName(to);
  if (job.sets.some((s) => s.name === to)) throw refusal("request-wrong", { why: `There is a set “${to}” already` });
  const named = (part: NamedChange["part"], of: string, old: unknown, next: unknown): NamedChange => ({
    type: "named",
    part,
    name: of,
    old,
    new: next,
  });
  const changes: OneChange[] = [
    { ...named("sets", name, set, null), at },
    { ...named("sets", to, null, { ...set, name: to }), at },
    ...job.sets.flatMap((s) =>
      s !== set && asks(s.rule, name) ? [named("sets", s.name, s, { ...s, rule: asking(s.rule, name, to) })] : [],
    ),
    ...job.surfaces.flatMap((s) => (s.points === name ? [named("surfaces", s.name, s, { ...s, points: to })] : [])),
    ...job.handover.flatMap((f) => (pointsOf(f) === name ? [named("handover", f.file, f, { ...f, points: to })] : [])),
  ];
  const { drawing } = job,
    labels = drawing?.points;
  if (labels?.some((p) => p.set === name)) {
    const points = labels.map((p) => (p.set === name ? { ...p, set: to } : p));
    changes.push({ type: "setting", field: "drawing", old: drawing, new: { ...drawing, points } });
  }
  return { type: "several", text: `Set “${name}” renamed to “${to}”`, changes };
}

function asking(rule: SetRule, name: string, to: string): SetRule {
  if ("set" in rule) return rule.set === name ? { set: to } : rule;
  const within = withinRule(rule).map((r) => asking(r, name, to));
  return "all" in rule ? { all: within } : "any" in rule ? { any: within } : "not" in rule ? { not: within[0]! } : rule;
}

/** Takes a set away. Refused while something names it. */
export function removeSet(job: JobState, name: string): NamedChange {
  const users = usersOfSet(job, name),
    old = job.sets.find((s) => s.name === name);
  if (!old) throw refusal("change-unknown", { what: `The set “${name}”` });
  if (users.length)
    throw refusal("request-wrong", {
      why: `The set “${name}” is used by ${users.join(", ")}: choose another there first`,
    });
  return { type: "named", part: "sets", name, old, new: null };
}

/** Whether some set of the job asks for what was found. */
export function asksForFindings(job: Pick<JobState, "sets">): boolean {
  return job.sets.some((s) => readsOfRule(s.rule, job.sets).includes("findingsAt"));
}
