import { processes } from "../../../../../heavy/processes";
import { withBody } from "../../../../../server/body";
import { fileName } from "../../../../../server/edge";
import { author, download, jobId, respond } from "../../../../../server/respond";
import { JSON_TYPE, sent, turnOf } from "../../../../../server/stored";

const LARGEST_GRID = 200e6;

/**
 * A geoid grid that the settings may name: the body is the file, its name stands in the query. Refused when it is no
 * grid. Sent twice it is kept once.
 */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const job = jobId(await params),
      who = author(request),
      file = fileName(new URL(request.url).searchParams.get("name") ?? "");
    return withBody(request, file, LARGEST_GRID, async (path) => {
      const asked = { job, author: who, file, path };
      return sent(
        await processes().run("long", "keepFile", asked, `Reading “${file}”`, { turn: turnOf(job, who) }),
        JSON_TYPE,
        201,
      );
    });
  });
}

export const dynamic = "force-dynamic";

/** The bytes of a grid, for the look before commit. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "",
      job = jobId(await params),
      { body } = await processes().run("open", "file", { job, name }, "Fetching the file", { signal: request.signal });
    return download(body, name, "application/octet-stream");
  });
}
