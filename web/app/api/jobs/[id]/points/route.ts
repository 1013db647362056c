import { encodeTable } from "@bramble/core/points/columns";
import { loadPoints, reading } from "@bramble/db";
import { jobId, respond } from "../../../../../lib/respond";

export const dynamic = "force-dynamic";

/** The points in binary columns, with the version of the job that they belong to. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params);
    return reading(async (client) => {
      const version = (await client.query("SELECT version FROM jobs WHERE id = $1", [id])).rows[0]?.version ?? 0;
      return new Response(encodeTable(await loadPoints(client, id)), {
        headers: { "content-type": "application/octet-stream", "x-version": String(version) },
      });
    });
  });
}
