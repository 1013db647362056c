import { storeChange } from "@bramble/db";
import { readChange } from "../../../../../lib/edge";
import { author, jobId, readJson, respond } from "../../../../../lib/respond";

export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params), who = author(request);
    return Response.json(await storeChange(id, who, await readChange(await readJson(request))));
  });
}
