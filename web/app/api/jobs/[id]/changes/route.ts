import { storeChange } from "@bramble/db";
import { changeName, readChange } from "../../../../../lib/edge";
import { author, jobId, readJson, respond } from "../../../../../lib/respond";

/** Stores a change. The header x-change names it: the same name sent again gives the entry that was stored. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request),
      name = changeName(request.headers.get("x-change"));
    return Response.json(await storeChange(id, who, await readChange(await readJson(request)), name));
  });
}
