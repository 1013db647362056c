import { ledgerAfter, listLedger } from "@bramble/db";
import { jobId, respond } from "../../../../../lib/respond";

export const dynamic = "force-dynamic";

/** The latest entries, newest first; with `before` those before one; with `after` those after one, oldest first. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      asked = new URL(request.url).searchParams;
    const number = (name: string) =>
      Number.isSafeInteger(Number(asked.get(name) ?? NaN)) ? Number(asked.get(name)) : undefined;
    const after = number("after");
    return Response.json(
      after === undefined ? await listLedger(id, 200, number("before")) : await ledgerAfter(id, after),
    );
  });
}
