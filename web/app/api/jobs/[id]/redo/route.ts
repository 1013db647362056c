import { redoLast } from "@bramble/db";
import { author, jobId, respond } from "../../../../../lib/respond";

/** Does again what the person took back last; a delivery only with `?delivery=yes`. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () =>
    Response.json(
      await redoLast(jobId(await params), author(request), new URL(request.url).searchParams.get("delivery") === "yes"),
    ),
  );
}
