import { download, jobId, respond } from "../../../../../server/respond";
import { processes } from "../../../../../heavy/processes";

export const dynamic = "force-dynamic";

/** One handover file, made from the stored state by the same chain as on the screen. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const file = new URL(request.url).searchParams.get("file") ?? "",
      job = jobId(await params);
    const made = await processes().run("make", "handover", { job, file }, `Making “${file}”`, {
      signal: request.signal,
    });
    return download(made.body, made.head.file, made.head.type);
  });
}
