/** Undo and redo of a job over the network: one handler, since they differ in their direction alone. */
import { requestName } from "./edge";
import { author, jobId, respond } from "./respond";
import { storedBeside } from "./stored";

/**
 * Takes the person's own last change back, or does again what they took back last; with `?entry=` that entry of the
 * ledger, where nothing that came after stands in the way. A delivery only with `?delivery=yes`.
 */
export function stepHandler(kind: "undo" | "redo") {
  return (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
    respond(request, async () => {
      const asked = new URL(request.url).searchParams,
        entry = Number(asked.get("entry") ?? NaN);
      const step = {
        job: jobId(await params),
        author: author(request),
        name: requestName(request.headers.get("x-change")),
        kind,
        delivery: asked.get("delivery") === "yes",
        ...(Number.isSafeInteger(entry) ? { entry } : {}),
      };
      return storedBeside("quick", "step", step, kind === "undo" ? "Taking this back" : "Doing this again");
    });
}
