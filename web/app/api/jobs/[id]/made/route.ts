import { listMadeFiles, orderFile } from "@bramble/db";
import { readFileWanted, requestName } from "../../../../../lib/edge";
import { author, jobId, readJson, respond } from "../../../../../lib/respond";

export const dynamic = "force-dynamic";

/** The files that were made of the job or are under way, the latest first. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => Response.json(await listMadeFiles(jobId(await params))));
}

/** Orders a file: the queue makes it. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request),
      { file, ...wanted } = await readFileWanted(await readJson(request));
    const order = await orderFile(id, who, file, wanted, requestName(request.headers.get("x-change")));
    return Response.json(order, { status: 201 });
  });
}
