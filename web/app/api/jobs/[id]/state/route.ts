import { getPool, versionOf } from "@bramble/db";
import { keptStates } from "../../../../../heavy/kept-states";
import { processes } from "../../../../../heavy/processes";
import { intakeLimit } from "../../../../../server/body";
import { jobId, respond } from "../../../../../server/respond";
import { BINARY, sent } from "../../../../../server/stored";

export const dynamic = "force-dynamic";

/**
 * All that a window needs of a job, of one version: definition, deliveries, points and the latest of the ledger,
 * packed.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const job = jobId(await params),
      now = await versionOf(getPool(), job),
      kept = keptStates().at(job, now);
    if (kept) return sent(kept, { ...BINARY, "x-version": String(now) });
    const asked = { job, intakeLimit: intakeLimit() },
      { head, size, body } = await processes().run("open", "state", asked, "Opening the job", {
        signal: request.signal,
      });
    return sent(
      { size, body: keptStates().keeping(job, head.version, size, body) },
      { ...BINARY, "x-version": String(head.version) },
    );
  });
}
