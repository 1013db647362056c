/** A new job, with what it takes from a template or from another job of the same client. */
import { GENERAL_BOOK, KINDS, refusal, type AddedPoints } from "@bramble/core";
import { addedOf } from "@bramble/core/points/add";
import {
  copyJobFile,
  createJob,
  jobMadeFor,
  listOffice,
  loadJob,
  loadJobState,
  reading,
  reserveIds,
  storeChange,
  transaction,
  type NewJob,
} from "@bramble/db";
import { newJobSchema } from "../lib/edge";

/** Makes the job that a form asks for, whole or not at all; its number. `request` names what asks for it. */
export async function makeJob(asked: unknown, author: string, request: string | null): Promise<number> {
  const job = await newJobSchema.validate(asked, { strict: true });
  const kept =
    job.template === undefined ? undefined : (await listOffice("template")).find((t) => t.name === job.template)?.body;
  if (job.template !== undefined && !kept) throw refusal("change-unknown", { what: `The template “${job.template}”` });
  const { template: _, like, book, officeBook, ...given } = job;
  const bookKept = officeBook === undefined ? undefined : (await listOffice("book")).find((b) => b.name === officeBook);
  if (officeBook !== undefined && !bookKept) throw refusal("change-unknown", { what: `The code book “${officeBook}”` });
  const from = like === undefined ? undefined : await likeJob(like, author);
  // Tolerances of another unit mean nothing here.
  if (kept && given.unit !== undefined && given.unit !== kept.unit) delete (kept as Partial<typeof kept>).tolerance;
  const stated = Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined));
  // What the form says comes before the template; a job without either is metric, northing first.
  const whole = {
    unit: "m",
    order: "NE",
    ...kept,
    ...from?.settings,
    ...stated,
    // Control points keep their figures: the unit is that of the job they come from.
    ...(from ? { unit: from.settings.unit } : {}),
    name: job.name,
    book:
      book === "general"
        ? GENERAL_BOOK
        : book === "empty"
          ? {}
          : (bookKept?.body ?? from?.settings.book ?? kept?.book ?? GENERAL_BOOK),
  } as NewJob;
  return transaction(async (client) => {
    const before = await jobMadeFor(client, request);
    if (before !== undefined) return before;
    const id = await createJob(whole, request);
    await from?.bring(id);
    return id;
  });
}

/** Refused when there is no such job. */
async function likeJob(id: number, author: string) {
  const state = await reading(async (client) => loadJobState(client, await loadJob(client, id)));
  const { unit, order, book, system, geoid, scaleFactor, curvature, crews, client } = state;
  const given = Object.entries({ unit, order, book, system, geoid, scaleFactor, curvature, crews, client });
  const t = state.points,
    control: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && t.kind[i] === KINDS.indexOf("control")) control.push(i);
  return {
    settings: Object.fromEntries(given.filter(([, v]) => v !== undefined)) as Partial<typeof state>,
    /** Brings what is not a setting: the geoid's grid, and the control points as the first entry of the ledger. */
    async bring(job: number): Promise<void> {
      if (geoid !== undefined) await copyJobFile(id, job, geoid);
      if (control.length === 0) return;
      const first = await transaction((db) => reserveIds(db, job, control.length));
      const points: AddedPoints = { ...addedOf(t, control), id: control.map((_, k) => first + k) };
      await storeChange(job, author, { type: "add", points });
    },
  };
}
