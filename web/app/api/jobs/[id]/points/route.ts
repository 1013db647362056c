import { processes } from "../../../../../heavy/processes";
import { jobId, respond } from "../../../../../server/respond";
import { BINARY, sent } from "../../../../../server/stored";

export const dynamic = "force-dynamic";

/** The points in binary columns, with the version of the job that they belong to. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const job = jobId(await params),
      read = await processes().run("open", "points", { job }, "Reading the points", { signal: request.signal });
    return sent(read, { ...BINARY, "x-version": String(read.head.version) });
  });
}
