/** A surface taken out of a job, with what is about it alone. */
import { withLook } from "../drawing/surface-look";
import { refusal } from "../errors";
import { surfacesOf } from "../volumes/model";
import type { EditableChange, OneChange } from "./change";
import type { JobDefinition } from "./model";

/**
 * One change that removes a surface, its contours and how it is drawn. Refused where comparisons or as-built checks use it:
 * these say something of their own.
 */
export function surfaceRemoved(job: JobDefinition, name: string): EditableChange {
  const old = job.surfaces.find((s) => s.name === name),
    users = [
      ...job.volumes.filter((v) => surfacesOf(v).includes(name)).map((v) => `the comparison “${v.name}”`),
      ...job.differences.filter((d) => d.surface === name).map((d) => `the as-built check “${d.name}”`),
    ];
  if (!old) throw refusal("change-unknown", { what: `The surface “${name}”` });
  if (users.length)
    throw refusal("request-wrong", {
      why: `The surface “${name}” is used by ${users.join(", ")}: choose another there, or remove that first`,
    });
  const contours = job.contours.find((c) => c.surface === name),
    { drawing } = job,
    changes: OneChange[] = [];
  if (contours) changes.push({ type: "named", part: "contours", name, old: contours, new: null });
  if (drawing?.surfaces?.some((s) => s.surface === name)) {
    const next = withLook(drawing, name, {});
    changes.push({ type: "setting", field: "drawing", old: drawing, new: Object.keys(next).length ? next : null });
  }
  const removed: OneChange = { type: "named", part: "surfaces", name, old, new: null };
  if (changes.length === 0) return removed;
  return { type: "several", text: `Surface “${name}” removed`, changes: [...changes, removed] };
}
