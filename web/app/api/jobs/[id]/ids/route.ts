import { inTurn, reserveIds, transaction } from "@bramble/db";
import { readIdCount } from "../../../../../server/edge";
import { author, jobId, readJson, respond } from "../../../../../server/respond";

/** Reserves ids for points that a window is going to make: `{ "count": 20 }` gives the first of as many. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request),
      count = await readIdCount(await readJson(request));
    const first = await inTurn(id, who, () => transaction((client) => reserveIds(client, id, count)));
    return Response.json({ first });
  });
}
