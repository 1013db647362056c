/** Undo and redo of a job over the network: one handler, since they differ in their direction alone. */
import { redoLast, stepOne, undoLast } from "@bramble/db";
import { author, jobId, respond } from "./respond";

/**
 * Takes the person's own last change back, or does again what they took back last; with `?entry=` that entry of the
 * ledger, where nothing that came after stands in the way. A delivery only with `?delivery=yes`.
 */
export function stepHandler(kind: "undo" | "redo") {
  return (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
    respond(request, async () => {
      const id = jobId(await params),
        who = author(request),
        asked = new URL(request.url).searchParams,
        delivery = asked.get("delivery") === "yes",
        entry = Number(asked.get("entry") ?? NaN);
      if (Number.isSafeInteger(entry)) return Response.json(await stepOne(id, who, kind, entry, delivery));
      return Response.json(await (kind === "undo" ? undoLast : redoLast)(id, who, delivery));
    });
}
