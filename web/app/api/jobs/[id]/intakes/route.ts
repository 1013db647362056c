import { refusal } from "@bramble/core";
import { intakeLimit, withBody } from "../../../../../server/body";
import { requestName } from "../../../../../server/edge";
import { author, jobId, respond } from "../../../../../server/respond";
import { storedBeside } from "../../../../../server/stored";

const LONGEST_HEAD = 8e6;
/** Bytes of a file that need not wait behind a large one. */
const SMALL_FILE = 2e6;

/**
 * The body is JSON that says how to read the file, of as many bytes as the header x-head tells, and then the file as it
 * is.
 */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const job = jobId(await params),
      who = author(request),
      name = requestName(request.headers.get("x-change"));
    const head = Number(request.headers.get("x-head") ?? NaN);
    if (!Number.isInteger(head) || head < 2 || head > LONGEST_HEAD)
      throw refusal("request-wrong", { why: "The request does not say how to read the file" });
    return withBody(request, "The file", intakeLimit() + head, (path, size) => {
      const asked = { job, author: who, name, path, head };
      return storedBeside(size <= SMALL_FILE ? "quick" : "long", "take", asked, "Reading this file", 201);
    });
  });
}
