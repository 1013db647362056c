import { GENERAL_BOOK, refusal } from "@bramble/core";
import { createJob, listJobs, listOffice, type NewJob } from "@bramble/db";
import { newJobSchema } from "../../../lib/edge";
import { readJson, respond } from "../../../lib/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request) {
  return respond(request, async () => Response.json(await listJobs()));
}

export function POST(request: Request) {
  return respond(request, async () => {
    const job = await newJobSchema.validate(await readJson(request), { strict: true });
    const kept =
      job.template === undefined
        ? undefined
        : (await listOffice("template")).find((t) => t.name === job.template)?.body;
    if (job.template !== undefined && !kept)
      throw refusal("change-unknown", { what: `The template “${job.template}”` });
    const { template: _, book, ...given } = job;
    // Tolerances of another unit mean nothing here.
    if (kept && given.unit !== undefined && given.unit !== kept.unit) delete (kept as Partial<typeof kept>).tolerance;
    const stated = Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined));
    // What the form says comes before the template; a job without either is metric, northing first.
    const id = await createJob({
      unit: "m",
      order: "NE",
      ...kept,
      ...stated,
      name: job.name,
      book: book === "general" ? GENERAL_BOOK : book === "empty" ? {} : (kept?.book ?? GENERAL_BOOK),
    } as NewJob);
    return Response.json({ id }, { status: 201 });
  });
}
