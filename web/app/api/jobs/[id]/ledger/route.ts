import { listLedger } from "@bramble/db";
import { jobId, respond } from "../../../../../lib/respond";

export const dynamic = "force-dynamic";

export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const before = Number(new URL(request.url).searchParams.get("before") ?? Number.MAX_SAFE_INTEGER);
    return Response.json(await listLedger(jobId(await params), 200, Number.isSafeInteger(before) ? before : Number.MAX_SAFE_INTEGER));
  });
}
