import { undoLast } from "@bramble/db";
import { author, jobId, respond } from "../../../../../lib/respond";

/** Takes back the person's own last change; a delivery only with `?delivery=yes`. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () =>
    Response.json(
      await undoLast(jobId(await params), author(request), new URL(request.url).searchParams.get("delivery") === "yes"),
    ),
  );
}
