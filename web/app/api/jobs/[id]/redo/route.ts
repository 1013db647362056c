import { stepOne, redoLast } from "@bramble/db";
import { author, jobId, respond } from "../../../../../lib/respond";

/**
 * Does again what the person took back last; with `?entry=` that entry of the ledger, where nothing that came after
 * stands in the way. A delivery only with `?delivery=yes`.
 */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      asked = new URL(request.url).searchParams,
      delivery = asked.get("delivery") === "yes",
      entry = Number(asked.get("entry") ?? NaN);
    return Response.json(
      Number.isSafeInteger(entry)
        ? await stepOne(id, author(request), "redo", entry, delivery)
        : await redoLast(id, author(request), delivery),
    );
  });
}
