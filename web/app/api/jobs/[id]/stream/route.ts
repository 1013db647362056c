import { refusal } from "@bramble/core";
import { getPool, loadJob } from "@bramble/db";
import { live } from "../../../../../server/live";
import { jobId, respond } from "../../../../../server/respond";

export const dynamic = "force-dynamic";

/**
 * Every change of a job as it is stored, from the entry after `after` on, as server-sent events; and who else is here.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      asked = new URL(request.url).searchParams;
    const after = Number(asked.get("after") ?? NaN),
      who = (asked.get("who") ?? "").trim(),
      windowName = asked.get("window") ?? "";
    if (!Number.isSafeInteger(after) || after < 0 || who.length > 80 || windowName.length > 80)
      throw refusal("request-wrong", { why: "The stream needs the number of the last entry that is known" });
    await loadJob(getPool(), id);
    return new Response(live().subscribe(id, after, { who, window: windowName }, request.signal), {
      headers: {
        "content-type": "text/event-stream; charset=utf-8",
        "cache-control": "no-store, no-transform",
        "x-accel-buffering": "no",
      },
    });
  });
}
