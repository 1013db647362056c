import { kindOfFile } from "@bramble/core";
import { forgetFile, madeFile } from "@bramble/db";
import { idOf } from "../../../../../../server/edge";
import { leaving } from "../../../../../../server/leaving";
import { author, jobId, respond } from "../../../../../../server/respond";

export const dynamic = "force-dynamic";

interface Asked {
  params: Promise<{ id: string; file: string }>;
}

/** A file that is made, as it was made; whole, or the bytes that are asked for. */
export function GET(request: Request, { params }: Asked) {
  return respond(request, async () => {
    const made = await madeFile(jobId(await params), idOf((await params).file)),
      { file, wanted } = made;
    const { type } = wanted.what === "handover" ? wanted : kindOfFile({ file, format: "report", as: wanted.format });
    return leaving(request, made, type);
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
