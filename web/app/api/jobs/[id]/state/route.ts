import { processes } from "../../../../../heavy/processes";
import { intakeLimit } from "../../../../../lib/body";
import { jobId, respond } from "../../../../../lib/respond";
import { BINARY, sent } from "../../../../../lib/stored";

export const dynamic = "force-dynamic";

/**
 * All that a window needs of a job, of one version: definition, deliveries, points and the latest of the ledger,
 * packed.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const asked = { job: jobId(await params), intakeLimit: intakeLimit() },
      read = await processes().run("open", "state", asked, "Opening the job", { signal: request.signal });
    return sent(read, { ...BINARY, "x-version": String(read.head.version) });
  });
}
