import { getPool, intakeBytes, withdrawIntake } from "@bramble/db";
import { author, download, jobId, respond } from "../../../../../../lib/respond";

export const dynamic = "force-dynamic";

/** The file as it came. */
export function GET(request: Request, { params }: { params: Promise<{ id: string; key: string }> }) {
  return respond(request, async () => {
    const p = await params;
    const { file, bytes } = await intakeBytes(getPool(), jobId(p), decodeURIComponent(p.key));
    return download(bytes, file, "application/octet-stream");
  });
}

/** Withdraws the intake whole. */
export function DELETE(request: Request, { params }: { params: Promise<{ id: string; key: string }> }) {
  return respond(request, async () => {
    const p = await params;
    return Response.json(await withdrawIntake(jobId(p), author(request), decodeURIComponent(p.key)));
  });
}
