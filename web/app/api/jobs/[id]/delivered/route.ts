import { pack } from "@bramble/core/math/pack";
import { loadDelivered, loadJob, reading } from "@bramble/db";
import { jobId, respond } from "../../../../../lib/respond";

export const dynamic = "force-dynamic";

/** What the standing intakes brought beside points (observations, reference geometry), packed, in their order. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params);
    return reading(async (client) => {
      const job = await loadJob(client, id);
      return new Response(pack(await loadDelivered(client, job.intakes)), { headers: { "content-type": "application/octet-stream", "x-version": String(job.version) } });
    });
  });
}
