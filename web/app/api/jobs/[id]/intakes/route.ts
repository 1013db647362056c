import { refusal, type RecipeIntake } from "@bramble/core";
import { takeIntake } from "@bramble/db";
import { readIntakeOptions } from "../../../../../lib/edge";
import { author, intakeLimit, jobId, jsonOf, readBody, respond } from "../../../../../lib/respond";

const LONGEST_HEAD = 8e6;

/** The body is JSON that says how to read the file, of as many bytes as the header x-head tells, and then the file as it is. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      who = author(request);
    const head = Number(request.headers.get("x-head") ?? NaN);
    if (!Number.isInteger(head) || head < 2 || head > LONGEST_HEAD)
      throw refusal("request-wrong", { why: "The request does not say how to read the file" });
    const body = await readBody(request, "The file", intakeLimit() + head);
    const options = await readIntakeOptions(jsonOf(body.subarray(0, head)));
    const { entry, info } = await takeIntake(id, who, options as Omit<RecipeIntake, "id">, body.subarray(head));
    return Response.json({ entry, info }, { status: 201 });
  });
}
