/** How the job is drawn, as a change of the job: what says nothing is not kept. */
import type { DrawingSettings, EditableChange, JobState } from "@bramble/core";

export function drawingChange(job: JobState, next: DrawingSettings): EditableChange {
  const said = Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined));
  return { type: "setting", field: "drawing", old: job.drawing ?? null, new: Object.keys(said).length ? said : null };
}
