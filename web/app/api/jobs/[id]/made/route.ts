import { kindOfFile, filesOf, leavingName, refusal } from "@bramble/core";
import { getPool, listMadeFiles, loadJob, orderFile, type FileWanted } from "@bramble/db";
import { readFileWanted, requestName } from "../../../../../server/edge";
import { author, jobId, readJson, respond } from "../../../../../server/respond";

export const dynamic = "force-dynamic";

/** The files that were made of the job or are under way, the latest first. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => Response.json(await listMadeFiles(jobId(await params))));
}

/** Orders a file: the queue makes it. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request),
      asked = await readFileWanted(await readJson(request)),
      { file, wanted } = asked.what === "handover" ? await ofHandover(id, asked.name) : ofReport(asked);
    const order = await orderFile(id, who, file, wanted, requestName(request.headers.get("x-change")));
    return Response.json(order, { status: 201 });
  });
}

const ofReport = ({ file, ...wanted }: Extract<Awaited<ReturnType<typeof readFileWanted>>, { what: "volumes" }>) => ({
  file,
  wanted: wanted as FileWanted,
});

/** A file of the handover as it stands there now, under the name that it would leave by. */
async function ofHandover(id: number, name: string): Promise<{ file: string; wanted: FileWanted }> {
  const { definition, version } = await loadJob(getPool(), id),
    file = definition.handover.find((f) => f.file === name);
  if (!file) throw refusal("change-unknown", { what: `The file “${name}”` });
  const holds = file.format === "package" ? filesOf(file, definition.handover).map((f) => f.file) : undefined,
    wanted = { what: "handover" as const, format: file.format, name, type: kindOfFile(file).type };
  return { file: leavingName(file.file, definition, version), wanted: holds ? { ...wanted, holds } : wanted };
}
