import { GENERAL_BOOK, refusal } from "@bramble/core";
import { copyJob, createJob, listJobs, listOffice, type NewJob } from "@bramble/db";
import { likeJob } from "../../../lib/like-job";
import { copyJobSchema, newJobSchema } from "../../../lib/edge";
import { author, readJson, respond } from "../../../lib/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request) {
  return respond(request, async () => Response.json(await listJobs()));
}

export function POST(request: Request) {
  return respond(request, async () => {
    const asked = await readJson(request);
    if (typeof asked === "object" && asked !== null && "copy" in asked) {
      const { copy, name } = await copyJobSchema.validate(asked, { strict: true });
      return Response.json({ id: await copyJob(copy, name) }, { status: 201 });
    }
    const job = await newJobSchema.validate(asked, { strict: true });
    const kept =
      job.template === undefined
        ? undefined
        : (await listOffice("template")).find((t) => t.name === job.template)?.body;
    if (job.template !== undefined && !kept)
      throw refusal("change-unknown", { what: `The template “${job.template}”` });
    const { template: _, like, book, officeBook, ...given } = job;
    const bookKept =
      officeBook === undefined ? undefined : (await listOffice("book")).find((b) => b.name === officeBook);
    if (officeBook !== undefined && !bookKept)
      throw refusal("change-unknown", { what: `The code book “${officeBook}”` });
    const from = like === undefined ? undefined : await likeJob(like, author(request));
    // Tolerances of another unit mean nothing here.
    if (kept && given.unit !== undefined && given.unit !== kept.unit) delete (kept as Partial<typeof kept>).tolerance;
    const stated = Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined));
    // What the form says comes before the template; a job without either is metric, northing first.
    const id = await createJob({
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
    } as NewJob);
    await from?.bring(id);
    return Response.json({ id }, { status: 201 });
  });
}
