import { kindOfFile } from "@bramble/core";
import { bytesOfFile, forgetFile } from "@bramble/db";
import { idOf } from "../../../../../../server/edge";
import { author, download, jobId, respond } from "../../../../../../server/respond";

export const dynamic = "force-dynamic";

interface Asked {
  params: Promise<{ id: string; file: string }>;
}

/** A file that is made, as it was made. */
export function GET(request: Request, { params }: Asked) {
  return respond(request, async () => {
    const { file, wanted, bytes } = await bytesOfFile(jobId(await params), idOf((await params).file));
    const { type } = wanted.what === "handover" ? wanted : kindOfFile({ file, format: "report", as: wanted.format });
    return download(bytes, file, type);
  });
}

/** Takes a file away, also one that is being made. */
export function DELETE(request: Request, { params }: Asked) {
  return respond(request, async () => {
    author(request);
    await forgetFile(jobId(await params), idOf((await params).file));
    return Response.json({});
  });
}
