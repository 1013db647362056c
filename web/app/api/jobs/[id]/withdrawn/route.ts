import { withdrawnPoints } from "@bramble/db";
import { jobId, respond } from "../../../../../server/respond";

export const dynamic = "force-dynamic";

/** Points called `number` that came with deliveries withdrawn since: what go-to says of them. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const number = new URL(request.url).searchParams.get("number") ?? "";
    return Response.json(await withdrawnPoints(jobId(await params), number));
  });
}
