/** A new job, with what it takes from a template or from another job of the same client. */
import { bookIn, generalBook, KINDS, refusal, type AddedPoints, type Unit } from "@bramble/core";
import {
  pickGiven,
  SETTING_FIELDS,
  SETTINGS,
  type JobSettings,
  type Setting,
  type SettingField,
} from "@bramble/core/job/model/settings";
import { addedOf } from "@bramble/core/points/add";
import {
  bringOfficeFiles,
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
  type Template,
} from "@bramble/db";
import { newJobSchema } from "../server/edge";

/** What stays with the other job: it names things that do not come along, or is about its own field work. */
const NOT_LIKE: ReadonlySet<SettingField> = new Set(["drawing", "crew", "note", "nextNumber"]);

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
  const fromTemplate = kept && inUnit(kept, given.unit ?? kept.unit);
  const stated = Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined));
  // What the form says comes before the template; a job without either is metric, northing first.
  const whole = {
    unit: "m",
    order: "NE",
    ...fromTemplate,
    ...from?.settings,
    ...stated,
    // Control points keep their figures: the unit is that of the job they come from.
    ...(from ? { unit: from.settings.unit } : {}),
    name: job.name,
  } as NewJob;
  // A book is in the unit of its job, whatever it was in.
  whole.book =
    book === "general"
      ? generalBook(whole.unit)
      : book === "empty"
        ? {}
        : bookKept
          ? bookIn(bookKept.body, whole.unit).book
          : (from?.settings.book ?? fromTemplate?.book ?? generalBook(whole.unit));
  return transaction(async (client) => {
    const before = await jobMadeFor(client, request);
    if (before !== undefined) return before;
    const id = await createJob(whole, request);
    // Only of a job whose geoid it is: that of another job comes from there.
    if (kept?.geoid !== undefined && whole.geoid === kept.geoid && from?.settings.geoid === undefined)
      await bringOfficeFiles("template", job.template!, id);
    await from?.bring(id);
    return id;
  });
}

/**
 * What a template brings into a job of a unit: of another one than its own the book converted, and nothing else that is
 * a length.
 */
function inUnit(kept: Template, unit: Unit): Partial<Template> {
  if (kept.unit === unit) return kept;
  const { tolerance: _, levelPrecision: __, checks: ___, contours: ____, surfaces, book, presets, ...rest } = kept;
  return {
    ...rest,
    // A level of another unit is none of this one.
    ...(presets && { presets: presets.map(({ level: _level, ...preset }) => preset) }),
    ...(book && { book: bookIn({ unit: kept.unit, ...book }, unit).book }),
    ...(surfaces && { surfaces: surfaces.map(({ name, points }) => ({ name, ...(points && { points }) })) }),
  };
}

/** Settings that come from another job: all that a template brings too, but those of its own drawing and numbers. */
const LIKE = SETTING_FIELDS.filter((f) => !(SETTINGS[f] as Setting<unknown>).own && !NOT_LIKE.has(f));

/** Refused when there is no such job. */
async function likeJob(id: number, author: string) {
  const state = await reading(async (client) => loadJobState(client, await loadJob(client, id)));
  const { unit, geoid } = state,
    given = pickGiven(state as JobSettings, LIKE),
    t = state.points,
    control: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && t.kind[i] === KINDS.indexOf("control")) control.push(i);
  return {
    settings: { unit, ...given } as Partial<typeof state>,
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
