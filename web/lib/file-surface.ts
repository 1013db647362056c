/** Surfaces that files brought, as surfaces of the job. */
import type { JobState } from "@bramble/core";
import type { NamedChange } from "@bramble/core/job/change/change";

/** The job's surface that is a file's. */
export const surfaceOfFile = (job: Pick<JobState, "surfaces">, file: string, surface: string) =>
  job.surfaces.find((s) => s.file === file && s.surface === surface);

/** What takes a file's surface as it is, under its own name where nobody has that. */
export function takeFileSurface(job: Pick<JobState, "surfaces">, file: string, surface: string): NamedChange {
  const names = new Set(job.surfaces.map((s) => s.name));
  let name = surface;
  for (let k = 1; names.has(name); k++) name = `${surface} (${k === 1 ? file : `${file}, ${k}`})`;
  return { type: "named", part: "surfaces", name, old: null, new: { name, file, surface } };
}
