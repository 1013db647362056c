import { refusal } from "@bramble/core";
import { lookUpEntry, storeChange } from "@bramble/db";
import { readChange, requestName } from "../../../../../server/edge";
import { author, jobId, respond, withJson } from "../../../../../server/respond";
import { storedBeside } from "../../../../../server/stored";

export const dynamic = "force-dynamic";
type Params = { params: Promise<{ id: string }> };

/** Stores a change. The header x-change names it: the same name sent again gives the entry that was stored. */
export function POST(request: Request, { params }: Params) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request),
      name = requestName(request.headers.get("x-change"));
    return withJson(
      request,
      async (asked) => Response.json(await storeChange(id, who, await readChange(asked), name)),
      (path) => storedBeside("long", "change", { job: id, author: who, name, path }, "This change"),
    );
  });
}

/** The entry of a request whose answer was lost, by `?name=`; refused when nothing of it was stored. */
export function GET(request: Request, { params }: Params) {
  return respond(request, async () => {
    const id = jobId(await params),
      name = requestName(new URL(request.url).searchParams.get("name")),
      entry = await lookUpEntry(id, "somebody who looks a change up", name);
    if (!entry) throw refusal("change-unstored", {});
    return Response.json(entry);
  });
}
