import { bytesOfFile, forgetFile } from "@bramble/db";
import { idOf } from "../../../../../../lib/edge";
import { author, download, jobId, respond } from "../../../../../../lib/respond";

export const dynamic = "force-dynamic";

interface Asked {
  params: Promise<{ id: string; file: string }>;
}

const TYPES = {
  pdf: "application/pdf",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
} as const;

/** A file that is made, as it was made. */
export function GET(request: Request, { params }: Asked) {
  return respond(request, async () => {
    const { file, wanted, bytes } = await bytesOfFile(jobId(await params), idOf((await params).file));
    return download(bytes, file, TYPES[wanted.format]);
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
