import { refusal, runChain, writeFile } from "@bramble/core";
import { download, jobId, respond } from "../../../../../lib/respond";
import { loadState } from "../../../../../lib/job-server";

export const dynamic = "force-dynamic";

const TYPES = { csv: "text/csv; charset=utf-8", dxf: "image/vnd.dxf" } as const;

/** One handover file, made from the stored state by the same chain as on the screen. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const name = new URL(request.url).searchParams.get("file") ?? "";
    const state = await loadState(jobId(await params));
    const file = state.handover.find((h) => h.file === name);
    if (!file) throw refusal("change-unknown", { what: `The file “${name}”` });
    return download(writeFile(file, state, runChain(state)), file.file, TYPES[file.format]);
  });
}
