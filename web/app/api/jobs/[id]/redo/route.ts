import { redoLast } from "@bramble/db";
import { author, jobId, respond } from "../../../../../lib/respond";

export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => Response.json(await redoLast(jobId(await params), author(request))));
}
