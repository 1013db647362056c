import { refusal } from "@bramble/core";
import { readGeoid } from "@bramble/core/intake/geoid";
import { getPool, keepJobFile, writing } from "@bramble/db";
import { fileName } from "../../../../../lib/edge";
import { readBody } from "../../../../../lib/body";
import { author, download, jobId, respond } from "../../../../../lib/respond";

const LARGEST_GRID = 200e6;

/** A geoid grid that the settings may name: the body is the file, its name stands in the query. Refused when it is no grid. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request);
    const name = fileName(new URL(request.url).searchParams.get("name") ?? "");
    const bytes = await readBody(request, name, LARGEST_GRID);
    if (bytes.length === 0) throw refusal("file-empty", { file: name });
    readGeoid(name, bytes);
    await writing(id, who, (client) => keepJobFile(client, id, name, bytes));
    return Response.json({ name }, { status: 201 });
  });
}

export const dynamic = "force-dynamic";

/** The bytes of a grid, for the look before commit. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const { rows } = await getPool().query("SELECT bytes FROM job_files WHERE job_id = $1 AND name = $2", [
      jobId(await params),
      name,
    ]);
    if (!rows[0])
      throw refusal("file-geoid", { file: name, why: "its bytes are not in the job; choose it again in the settings" });
    return download(new Uint8Array(rows[0].bytes as Buffer), name, "application/octet-stream");
  });
}
