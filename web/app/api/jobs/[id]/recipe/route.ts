import { strToU8, zipSync } from "fflate";
import { download, jobId, respond } from "../../../../../lib/respond";
import { loadRecipe } from "../../../../../lib/job-server";

export const dynamic = "force-dynamic";

/** The recipe alone, or with `?with=files` a zip of it and the files of its intakes, ready for ./bramble run. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const { recipe, files } = await loadRecipe(jobId(await params));
    const text = `${JSON.stringify(recipe, null, 2)}\n`;
    if (new URL(request.url).searchParams.get("with") !== "files")
      return download(text, "recipe.json", "application/json");
    // A fixed time keeps the package a function of the job alone. As if packed on Unix (3), plain files: some programs
    // read names as UTF-8 only then.
    const zip = zipSync(
      { "recipe.json": strToU8(text), ...Object.fromEntries(files) },
      { mtime: new Date("2000-01-01T00:00:00"), os: 3, attrs: (0o100644 << 16) >>> 0 },
    );
    return download(zip, "recipe.zip", "application/zip");
  });
}
