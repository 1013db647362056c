/** What in a job names something else of it, and would name nothing any more: asked before an older deed is taken back. */
import { append } from "../math/many";
import { orderedNumbers, readNumberList } from "../points/numbers";
import { GROUND } from "../sets/model";
import { setsAsked } from "../sets/sets";
import { surfacesOf } from "../volumes/model";
import { applyDefinition, type Change, type OneChange } from "./change";
import type { JobDefinition } from "./model";

/** References to sets and surfaces that are not there, each as a sentence. */
function unmet(d: JobDefinition, before?: ReadonlySet<string>): string[] {
  // Labels of all points say so by a star.
  const sets = new Set([GROUND, "*", ...d.sets.map((s) => s.name)]),
    surfaces = new Set(d.surfaces.map((s) => s.name)),
    out: string[] = [];
  const needSet = (who: string, name: string | undefined) => {
    if (name !== undefined && !sets.has(name)) out.push(`${who} uses the set “${name}”.`);
  };
  const needSurface = (who: string, name: string | undefined) => {
    if (name !== undefined && !surfaces.has(name)) out.push(`${who} uses the surface “${name}”.`);
  };
  for (const s of d.sets) for (const name of setsAsked(s.rule, [])) needSet(`The set “${s.name}”`, name);
  for (const s of d.surfaces) if (s.file === undefined) needSet(`The surface “${s.name}”`, s.points);
  for (const p of d.drawing?.points ?? []) needSet("A label of points", p.set);
  for (const x of d.differences) {
    if (x.surface !== undefined) needSurface(`The as-built check “${x.name}”`, x.surface);
    if (typeof x.points === "string" && before?.has(x.points)) needSet(`The as-built check “${x.name}”`, x.points);
  }
  for (const v of d.volumes) for (const s of surfacesOf(v)) needSurface(`The comparison “${v.name}”`, s);
  for (const c of d.contours) if (!surfaces.has(c.surface)) out.push(`Contours use the surface “${c.surface}”.`);
  return out;
}

/** What would be left without what it names once a change is made; nothing where all is as well as before. */
export function standingInTheWay(before: JobDefinition, change: Change): string[] {
  const ones: readonly OneChange[] =
    change.type === "several" ? change.changes : change.type === "intake" ? [] : [change];
  let after = before;
  const gone: string[] = [];
  for (const c of ones) {
    if (c.type === "named" || c.type === "setting") after = { ...after, ...applyDefinition(after, c) };
    if (c.type === "remove") append(gone, c.points.number);
  }
  // What the points of an as-built check are called is a set while there is one of that name, else numbers.
  const named = new Set(before.sets.map((s) => s.name)),
    known = new Set(unmet(before, named)),
    out = unmet(after, named).filter((x) => !known.has(x));
  for (const l of gone.length ? after.lines : []) {
    const list = readNumberList(l.points),
      through = gone.find((n) => list?.has(n) && (list.size > 0 || orderedNumbers(l.points).includes(n)));
    if (through !== undefined) out.push(`The line ${l.code} drawn by hand goes through point ${through}.`);
  }
  return out;
}
