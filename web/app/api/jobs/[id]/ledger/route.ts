import { ledgerPageAfter, listLedger } from "@bramble/db";
import { processes } from "../../../../../heavy/processes";
import { download, jobId, respond } from "../../../../../server/respond";
import { JSON_TYPE, sent } from "../../../../../server/stored";

export const dynamic = "force-dynamic";

/** Of one large entry. */
const MOST_DETAILS = 1000;

/**
 * The latest entries, newest first; with `before` those before one; with `after` those after one, oldest first: large
 * changes stay behind. With `entry` that one, with the first `most` of what it did; with `point` those that did something
 * to a point, each with that alone. As a text with `as=text`: all of it, oldest first.
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
      point = number("point"),
      seq = number("entry"),
      { signal } = request;
    if (seq !== undefined) {
      const most = Math.min(MOST_DETAILS, Math.max(1, number("most") ?? MOST_DETAILS));
      const one = { job: id, seq, most };
      return sent(await processes().run("open", "entry", one, "Reading an entry of the ledger", { signal }), JSON_TYPE);
    }
    if (point !== undefined) {
      const asked = { job: id, point };
      return sent(
        await processes().run("open", "story", asked, "Reading what was done to a point", { signal }),
        JSON_TYPE,
      );
    }
    return Response.json(
      after === undefined ? await listLedger(id, 200, number("before")) : await ledgerPageAfter(id, after),
    );
  });
}
