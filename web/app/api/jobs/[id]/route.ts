import { getPool, listLedger, loadJob, shelveJob } from "@bramble/db";
import { shelfSchema } from "../../../../server/edge";
import { intakeLimit } from "../../../../server/body";
import { author, jobId, readJson, respond } from "../../../../server/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params);
    const job = await loadJob(getPool(), id);
    return Response.json({ ...job, ledger: await listLedger(id), intakeLimit: intakeLimit() });
  });
}

/** Puts the job away, removes it, or brings it back. */
export function PATCH(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request);
    await shelveJob(id, who, await shelfSchema.validate(await readJson(request), { strict: true }));
    return Response.json({ id });
  });
}
