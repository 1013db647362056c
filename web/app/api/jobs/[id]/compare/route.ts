import { processes } from "../../../../../heavy/processes";
import { readStatesAsked } from "../../../../../server/edge";
import { jobId, respond } from "../../../../../server/respond";
import { JSON_TYPE, sent } from "../../../../../server/stored";

export const dynamic = "force-dynamic";

/** What became of the job from its state after the entry `from` to that after `to`; to what it is now without `to`. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const { searchParams } = new URL(request.url),
      asked = { job: jobId(await params), ...(await readStatesAsked(Object.fromEntries(searchParams))) };
    const told = await processes().run("make", "compare", asked, "Comparing two states of the job", {
      signal: request.signal,
    });
    return sent(told, JSON_TYPE);
  });
}
