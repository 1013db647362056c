import { refusal } from "@bramble/core";
import { turnOneIntake } from "@bramble/db";
import { processes } from "../../../../../../heavy/processes";
import { readIntakeOptions, requestName } from "../../../../../../lib/edge";
import { author, download, jobId, readJson, respond } from "../../../../../../lib/respond";
import { storedBeside } from "../../../../../../lib/stored";

export const dynamic = "force-dynamic";
type Params = { params: Promise<{ id: string; key: string }> };

/** The file as it came. */
export function GET(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      asked = { job: jobId(p), key: p.key },
      { head, body } = await processes().run("open", "intake", asked, "Fetching the file", { signal: request.signal });
    return download(body, head.file, "application/octet-stream");
  });
}

/** Reads the file again with other options: the body is those, as when it was taken in. */
export function PUT(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      asked = { job: jobId(p), author: author(request), name: requestName(request.headers.get("x-change")) };
    const { file: _, ...options } = await readIntakeOptions(await readJson(request));
    return storedBeside("long", "readAgain", { ...asked, key: p.key, options }, "Reading this file again");
  });
}

/** Withdraws the intake whole. */
export function DELETE(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      name = requestName(request.headers.get("x-change"));
    return Response.json(await turnOneIntake(jobId(p), author(request), p.key, "withdraw", name));
  });
}

/** `{"action":"restore"}` brings a withdrawn intake back. */
export function POST(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      who = author(request),
      name = requestName(request.headers.get("x-change"));
    const body = (await readJson(request)) as { action?: unknown } | null;
    if (body?.action !== "restore")
      throw refusal("request-wrong", { why: "A withdrawn intake can be restored, nothing else" });
    return Response.json(await turnOneIntake(jobId(p), who, p.key, "take", name));
  });
}
