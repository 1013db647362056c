import { pack } from "@bramble/core/math/pack";
import { listLedger, loadDelivered, loadJob, loadPoints, reading } from "@bramble/db";
import { intakeLimit, jobId, respond } from "../../../../../lib/respond";
import type { JobSent } from "../../../../../lib/job-sent";

export const dynamic = "force-dynamic";

/**
 * All that a window needs of a job, of one version: definition, deliveries, points and the latest of the ledger,
 * packed.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params);
    return reading(async (client) => {
      const job = await loadJob(client, id);
      const sent: JobSent = {
        ...job,
        points: await loadPoints(client, id),
        delivered: await loadDelivered(client, job.intakes),
        ledger: await listLedger(id, 200, undefined, client),
        intakeLimit: intakeLimit(),
      };
      return new Response(pack(sent), {
        headers: { "content-type": "application/octet-stream", "x-version": String(job.version) },
      });
    });
  });
}
