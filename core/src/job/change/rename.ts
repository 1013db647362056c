/** Things of a job under other names, with all that names them; and taken away, where nothing else needs them. */
import { withLook } from "../../drawing/surface-look";
import { refusal } from "../../errors";
import type { EditableChange, NamedChange, OneChange, SeveralChange } from "./change";
import type { JobDefinition } from "../model/model";
import { NAMED_PARTS, nameOf, type NamedPart } from "../model/parts";
import {
  AS_IT_IS,
  namesIn,
  passed,
  NAMING_SETTINGS,
  passedSetting,
  REFERRED,
  usersOf,
  type Passing,
  type Referred,
} from "../model/references";

const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);
const named = (part: NamedPart, name: string, old: unknown, next: unknown): NamedChange => ({
  type: "named",
  part,
  name,
  old,
  new: next,
});

/** The changes that pass on every thing of a job but one; a thing whose own name becomes another keeps its index. */
export function passedOn(job: JobDefinition, to: Passing, but?: unknown): OneChange[] {
  const changes: OneChange[] = [];
  for (const part of NAMED_PARTS)
    for (const [at, thing] of (job[part] as unknown[]).entries()) {
      const next = thing === but ? thing : passed(part, thing as never, to),
        [was, is] = [nameOf(part, thing), nameOf(part, next)];
      if (next === thing) continue;
      if (was === is) changes.push(named(part, was, thing, next));
      else changes.push({ ...named(part, was, thing, null), at }, { ...named(part, is, null, next), at });
    }
  for (const field of NAMING_SETTINGS) {
    const old = job[field],
      next = old && passedSetting(field, old, to);
    if (next !== old) changes.push({ type: "setting", field, old, new: next });
  }
  return changes;
}

/** A set, surface, comparison or file under another name, and all that names it with it. */
export function thingRenamed(job: JobDefinition, of: Referred, name: string, to: string): SeveralChange {
  const things: readonly unknown[] = job[of],
    at = things.findIndex((x) => nameOf(of, x) === name),
    thing = things[at] as object | undefined,
    words = REFERRED[of];
  if (!thing) throw refusal("change-unknown", { what: `The ${words} “${name}”` });
  if (to.trim() === "") throw refusal("request-wrong", { why: `A ${words} needs a name` });
  if (things.some((x) => nameOf(of, x) === to))
    throw refusal("request-wrong", { why: `There is a ${words} “${to}” already` });
  const own = of === "handover" ? { file: to } : { name: to },
    passing: Passing = {
      ...AS_IT_IS,
      name: (kind, x) => (kind === of && x === name ? to : x),
      selection: (given) => (of === "sets" && given === name ? (to as typeof given) : given),
    };
  return {
    type: "several",
    text: `${capital(words)} “${name}” renamed to “${to}”`,
    changes: [
      { ...named(of, name, thing, null), at },
      { ...named(of, to, null, { ...thing, ...own }), at },
      ...passedOn(job, passing, thing),
    ],
  };
}

/**
 * One change that takes a set, surface, comparison or file away, with what says nothing without it: contours of a surface
 * and how it is drawn. Refused where others use it: these say something of their own.
 */
export function thingRemoved(job: JobDefinition, of: Referred, name: string): EditableChange {
  const old = (job[of] as readonly unknown[]).find((x) => nameOf(of, x) === name),
    users = usersOf(job, of, name),
    words = REFERRED[of];
  if (!old) throw refusal("change-unknown", { what: `The ${words} “${name}”` });
  if (users.length)
    throw refusal("request-wrong", {
      why: `The ${words} “${name}” is used by ${users.join(", ")}: choose another there, or remove that first`,
    });
  const { drawing } = job,
    changes: OneChange[] = [];
  for (const r of namesIn(job, () => false)) {
    if (!r.goesWith || r.of !== of || r.name !== name) continue;
    if (r.part !== "drawing" && r.part !== "presets") changes.push(named(r.part, r.user, job[r.part][r.at], null));
    else {
      const next = withLook(drawing!, name, {});
      changes.push({ type: "setting", field: "drawing", old: drawing, new: Object.keys(next).length ? next : null });
    }
  }
  const removed = named(of, name, old, null);
  if (changes.length === 0) return removed;
  return { type: "several", text: `${capital(words)} “${name}” removed`, changes: [...changes, removed] };
}
