import { ledgerOfPoint, ledgerPageAfter, listLedger } from "@bramble/db";
import { processes } from "../../../../../heavy/processes";
import { download, jobId, respond } from "../../../../../server/respond";

export const dynamic = "force-dynamic";

/**
 * The latest entries, newest first; with `before` those before one; with `after` those after one, oldest first; with
 * `point` those that did something to a point, each with that alone. As a text with `as=text`: all of it, oldest first.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return respond(request, async () => {
    const id = jobId(await params),
      asked = new URL(request.url).searchParams;
    const number = (name: string) =>
      Number.isSafeInteger(Number(asked.get(name) ?? NaN)) ? Number(asked.get(name)) : undefined;
    if (asked.get("as") === "text") {
      const { body } = await processes().run("make", "ledger", { job: id }, "Writing the ledger", {
        signal: request.signal,
      });
      return download(body, "ledger.txt", "text/plain; charset=utf-8");
    }
    const after = number("after"),
      point = number("point");
    if (point !== undefined) return Response.json(await ledgerOfPoint(id, point));
    return Response.json(
      after === undefined ? await listLedger(id, 200, number("before")) : await ledgerPageAfter(id, after),
    );
  });
}
