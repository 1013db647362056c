import { refusal } from "@bramble/core";
import { readGeoid } from "@bramble/core/intake/geoid";
import { keepJobFile, loadJob, transaction } from "@bramble/db";
import { fileName } from "../../../../../lib/edge";
import { author, jobId, readBody, respond } from "../../../../../lib/respond";

const LARGEST_GRID = 200e6;

/** A geoid grid that the settings may name: the body is the file, its name stands in the query. Refused when it is no grid. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params);
    author(request);
    const name = fileName(new URL(request.url).searchParams.get("name") ?? "");
    const bytes = await readBody(request, name, LARGEST_GRID);
    if (bytes.length === 0) throw refusal("file-empty", { file: name });
    readGeoid(name, bytes);
    await transaction(async (client) => {
      await loadJob(client, id, true);
      await keepJobFile(client, id, name, bytes);
    });
    return Response.json({ name }, { status: 201 });
  });
}
