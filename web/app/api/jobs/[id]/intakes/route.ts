import { refusal, type RecipeIntake } from "@bramble/core";
import { takeIntake } from "@bramble/db";
import { readIntakeOptions } from "../../../../../lib/edge";
import { author, jobId, readBody, respond } from "../../../../../lib/respond";

/** The largest file taken in, in bytes; set by BRAMBLE_INTAKE_LIMIT. */
const LIMIT = Number(process.env.BRAMBLE_INTAKE_LIMIT ?? 512e6);

/** The body is the file as it is; how to read it stands in the header x-intake as JSON. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params), who = author(request);
    const options = await readIntakeOptions(parseHeader(request.headers.get("x-intake")));
    const bytes = await readBody(request, options.file, LIMIT);
    const { entry, info } = await takeIntake(id, who, options as Omit<RecipeIntake, "id">, bytes);
    return Response.json({ entry, info }, { status: 201 });
  });
}

function parseHeader(text: string | null): unknown {
  try {
    return JSON.parse(decodeURIComponent(text ?? ""));
  } catch {
    throw refusal("request-wrong", { why: "The request does not say how to read the file" });
  }
}
