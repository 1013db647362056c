import { asksForFindings, Chain, refusal, writeFile } from "@bramble/core";
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
    // What levels say of one another takes long and is in no file, unless a set asks for it.
    const derived = new Chain().run(state, !asksForFindings(state));
    return download(writeFile(file, state, derived), file.file, TYPES[file.format]);
  });
}
