/** What a job gives the next one to begin with. */
import { findPoints, refByNumber } from "../../points/refs";
import { templateFields, type JobState } from "../model/model";
import { NAMED_PARTS, type NamedPart } from "../model/parts";
import { AS_IT_IS, passed } from "../model/references";

/**
 * The settings and named things of a job that do not belong to it alone. Points of the next one are others: they are
 * known by their numbers at most. Surfaces of files stay behind, as the files do.
 */
export function templateOf(job: JobState): Record<string, unknown> {
  const { numberOf } = findPoints(job.points, job.intakes),
    passing = { ...AS_IT_IS, point: (ref: string) => refByNumber(numberOf(ref)) },
    isPart = (field: string): field is NamedPart => NAMED_PARTS.includes(field as NamedPart),
    isOfFile = (thing: object) => "file" in thing && thing.file !== undefined;
  const given = templateFields().map((field): [string, unknown] => {
    if (!isPart(field)) return [field, job[field as keyof JobState]];
    const things: readonly object[] = job[field].map((thing) => passed(field, thing as never, passing));
    return [field, field === "surfaces" ? things.filter((s) => !isOfFile(s)) : things];
  });
  return Object.fromEntries(given.filter(([, value]) => value !== undefined));
}
