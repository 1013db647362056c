import { refusal } from "@bramble/core";
import { getPool, intakeBytes, readIntakeAgain, turnOneIntake } from "@bramble/db";
import { readIntakeOptions } from "../../../../../../lib/edge";
import { author, download, jobId, readJson, respond } from "../../../../../../lib/respond";

export const dynamic = "force-dynamic";
type Params = { params: Promise<{ id: string; key: string }> };

/** The file as it came. */
export function GET(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params;
    const { file, bytes } = await intakeBytes(getPool(), jobId(p), p.key);
    return download(new Uint8Array(bytes), file, "application/octet-stream");
  });
}

/** Reads the file again with other options: the body is those, as when it was taken in. */
export function PUT(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      who = author(request);
    const { file: _, ...options } = await readIntakeOptions(await readJson(request));
    return Response.json(await readIntakeAgain(jobId(p), who, p.key, options));
  });
}

/** Withdraws the intake whole. */
export function DELETE(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params;
    return Response.json(await turnOneIntake(jobId(p), author(request), p.key, "withdraw"));
  });
}

/** `{"action":"restore"}` brings a withdrawn intake back. */
export function POST(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      who = author(request);
    const body = (await readJson(request)) as { action?: unknown } | null;
    if (body?.action !== "restore")
      throw refusal("request-wrong", { why: "A withdrawn intake can be restored, nothing else" });
    return Response.json(await turnOneIntake(jobId(p), who, p.key, "take"));
  });
}
