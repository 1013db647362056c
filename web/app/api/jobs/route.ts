import { GENERAL_BOOK } from "@bramble/core";
import { createJob, listJobs } from "@bramble/db";
import { newJobSchema } from "../../../lib/edge";
import { readJson, respond } from "../../../lib/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request) {
  return respond(request, async () => Response.json(await listJobs()));
}

export function POST(request: Request) {
  return respond(request, async () => {
    const job = await newJobSchema.validate(await readJson(request), { strict: true });
    const id = await createJob({ ...job, book: job.book === "general" ? GENERAL_BOOK : {} });
    return Response.json({ id }, { status: 201 });
  });
}
