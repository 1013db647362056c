import { processes } from "../../../../../heavy/processes";
import { download, jobId, respond } from "../../../../../server/respond";

export const dynamic = "force-dynamic";

/**
 * The recipe alone, or with `?with=files` a package of it and the files of its intakes: for ./bramble run, and for
 * another office, where it becomes a job.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const withFiles = new URL(request.url).searchParams.get("with") === "files",
      job = jobId(await params);
    const { body } = await processes().run("make", "recipe", { job, withFiles }, "Writing the recipe", {
      signal: request.signal,
    });
    return withFiles
      ? download(body, "recipe.zip", "application/zip")
      : download(body, "recipe.json", "application/json");
  });
}
