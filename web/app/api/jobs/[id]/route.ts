import { getPool, listLedger, loadJob } from "@bramble/db";
import { intakeLimit, jobId, respond } from "../../../../lib/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params);
    const job = await loadJob(getPool(), id);
    return Response.json({ ...job, ledger: await listLedger(id), intakeLimit: intakeLimit() });
  });
}
