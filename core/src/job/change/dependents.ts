/** What in a job names something else of it, and would name nothing any more: asked before an older deed is taken back. */
import { append } from "../../math/many";
import { isMade } from "../../points/refs";
import { applyDefinition, type Change, type OneChange } from "./change";
import type { JobDefinition } from "../model/model";
import { partOf } from "../model/parts";
import { namesIn, namesThere, pointsIn, REFERRED, userWords } from "../model/references";

/** References to what is not there, each as a sentence; what a selection was called before tells a set from numbers. */
function unmet(job: JobDefinition, sets: ReadonlySet<string>): string[] {
  const there = namesThere(job);
  return (
    [...namesIn(job, (name) => sets.has(name))]
      .filter((r) => !there[r.of].has(r.name) && !(r.goesWith && r.part === "drawing"))
      // Who says something of its own first.
      .sort((a, b) => Number(a.goesWith) - Number(b.goesWith))
      .map(
        (r) => `${capital(userWords(r))} ${r.part === "contours" ? "use" : "uses"} the ${REFERRED[r.of]} “${r.name}”.`,
      )
  );
}

const capital = (words: string) => (words === "contours" ? "Contours" : `The ${words}`);

/** What refers to points that the office made, each as a sentence. */
function* referring(job: JobDefinition, gone: readonly { id: number; number: string }[]): Generator<string> {
  for (const { part, user, ref } of pointsIn(job)) {
    const point = gone.find(({ id }) => isMade(ref, id));
    if (!point) continue;
    const line = part === "lines" && job.lines.find((l) => l.name === user);
    if (part === "computed") yield `A point that the office made follows point ${point.number}.`;
    else
      yield line
        ? `The line ${line.code} drawn by hand goes through point ${point.number}.`
        : `The ${partOf(part).words} “${user}” refers to point ${point.number}.`;
  }
}

/** What would be left without what it names once a change is made; nothing where all is as well as before. */
export function standingInTheWay(before: JobDefinition, change: Change): string[] {
  const ones: readonly OneChange[] =
    change.type === "several" ? change.changes : change.type === "intake" ? [] : [change];
  let after = before;
  const gone: { id: number; number: string }[] = [];
  for (const c of ones) {
    if (c.type === "named" || c.type === "setting") after = { ...after, ...applyDefinition(after, c) };
    if (c.type === "remove")
      append(
        gone,
        c.points.id.map((id, k) => ({ id, number: c.points.number[k]! })),
      );
  }
  // What the points of an as-built check are called is a set while there is one of that name, else numbers.
  const named = new Set(before.sets.map((s) => s.name)),
    known = new Set(unmet(before, named)),
    out = unmet(after, named).filter((x) => !known.has(x));
  if (gone.length) append(out, [...new Set(referring(after, gone))]);
  return out;
}
