/** What a job's sets are tested on, and how one is renamed or taken away with all that names it. */
import { refusal } from "../../errors";
import type { SetContext } from "../../sets/conditions";
import type { PointSet } from "../../sets/model";
import { readsOfRule, setsAsked } from "../../sets/sets";
import type { NamedChange, SeveralChange } from "../change/change";
import type { JobState } from "../model/model";
import { thingRenamed } from "../change/rename";
import type { Derived } from "../chain/values";

export function setContext(
  state: Pick<JobState, "points" | "intakes" | "sets">,
  d: Pick<Derived, "coded" | "findingsAt" | "pointSetups">,
): SetContext {
  const { coded, findingsAt, pointSetups } = d;
  return { table: state.points, intakes: state.intakes, sets: state.sets, coded, findingsAt, pointSetups };
}

/** `*` is every point, and names that begin with it are the program's own. */
function checkName(name: string): void {
  if (name.trim() === "" || name.startsWith("*"))
    throw refusal("request-wrong", { why: "A set needs a name of its own, which does not begin with *" });
}

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
  checkName(to);
  return thingRenamed(job, "sets", name, to);
}

/** Whether some set of the job asks for what was found. */
export function asksForFindings(job: Pick<JobState, "sets">): boolean {
  return job.sets.some((s) => readsOfRule(s.rule, job.sets).includes("findingsAt"));
}
