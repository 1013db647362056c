import { refusal } from "@bramble/core";
import { turnOneIntake } from "@bramble/db";
import { processes } from "../../../../../../heavy/processes";
import { readIntakeOptions, requestName } from "../../../../../../server/edge";
import { author, download, jobId, readJson, respond } from "../../../../../../server/respond";
import { JSON_TYPE, sent, storedBeside, turnOf } from "../../../../../../server/stored";

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

/**
 * `{"action":"restore"}` brings a withdrawn intake back; `{"action":"rehearse","options":{…}}` tells what would become of
 * the job if the file were read again so, and stores nothing.
 */
export function POST(request: Request, { params }: Params) {
  return respond(request, async () => {
    const p = await params,
      job = jobId(p),
      who = author(request),
      name = requestName(request.headers.get("x-change"));
    const body = (await readJson(request)) as { action?: unknown; options?: unknown } | null;
    if (body?.action === "restore") return Response.json(await turnOneIntake(job, who, p.key, "take", name));
    if (body?.action !== "rehearse")
      throw refusal("request-wrong", { why: "An intake can be restored, or its reading rehearsed, nothing else" });
    const { file: _, ...options } = await readIntakeOptions(body.options),
      asked = { job, author: who, key: p.key, options };
    const what = "Rehearsing the reading of this file";
    return sent(
      await processes().run("long", "rehearseReading", asked, what, { signal: request.signal, turn: turnOf(job, who) }),
      JSON_TYPE,
    );
  });
}
