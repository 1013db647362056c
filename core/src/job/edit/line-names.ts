/** Names and colours of lines given, taken away, and carried along where a line becomes another. */
import { lineNamed, type LineName, type LinesNamed, type OwnName } from "../../lines/names";
import { lineRefOf, type ReferredLine } from "../../lines/refs";
import { settledRef } from "../../points/refs";
import { sameJson } from "../../math/json";
import type { NamedChange } from "../change/change";
import type { JobState } from "../model/model";
import { AS_IT_IS, passed } from "../model/references";

type Named = NamedChange & { part: "names" };
type Job = Pick<JobState, "names" | "points" | "intakes">;

const change = (old: LineName | null, next: LineName | null): Named => ({
  type: "named",
  part: "names",
  name: lineNamed((old ?? next)!.line),
  old,
  new: next,
});

/** What names this very line, however its first shot is referred to. */
export function nameOfLine(job: Job, line: ReferredLine): LineName | undefined {
  const ref = lineRefOf(line, { table: job.points, intakes: job.intakes });
  if (!ref) return undefined;
  const settled = settledRef(job.points, job.intakes);
  return job.names.find((n) => sameJson(passed("names", n, { ...AS_IT_IS, point: settled }).line, ref));
}

/** Gives the line a name and a colour of its own, or takes what is empty away; undefined where it changes nothing. */
export function nameLine(job: Job, line: ReferredLine, { name, color }: OwnName): Named | undefined {
  const ref = lineRefOf(line, { table: job.points, intakes: job.intakes });
  if (!ref) return undefined;
  const old = nameOfLine(job, line) ?? null,
    next = name || color ? { line: old?.line ?? ref, ...(name ? { name } : {}), ...(color ? { color } : {}) } : null;
  return sameJson(old, next) ? undefined : change(old, next);
}

/** The changes by which the line's name goes on as that of another reference. */
export function nameGoesOn(job: Job, line: ReferredLine, to: LinesNamed): Named[] {
  const old = nameOfLine(job, line);
  if (!old || job.names.some((n) => lineNamed(n.line) === lineNamed(to))) return [];
  return [{ ...change(old, null), at: job.names.indexOf(old) }, change(null, { ...old, line: to })];
}

/** The change that takes a name away whose line is not drawn any more. */
export const nameGone = (name: LineName): Named => change(name, null);
