import { getPool, ledgerAfter, ledgerOfPoint, listLedger, loadJob, loadPoints, type LedgerEntry } from "@bramble/db";
import { ledgerReport } from "@bramble/core";
import { rowOf } from "@bramble/core/points/table";
import { download, jobId, respond } from "../../../../../lib/respond";

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
    if (asked.get("as") === "text") return reportOf(id);
    const after = number("after"),
      point = number("point");
    if (point !== undefined) return Response.json(await ledgerOfPoint(id, point));
    return Response.json(
      after === undefined ? await listLedger(id, 200, number("before")) : await ledgerAfter(id, after),
    );
  });
}

/** Entries read from the database at a time. */
const AT_ONCE = 500;

async function reportOf(id: number): Promise<Response> {
  const job = await loadJob(getPool(), id),
    points = await loadPoints(getPool(), id),
    entries: LedgerEntry[] = [];
  for (let last = 0; ; last = entries.at(-1)!.seq) {
    const more = await ledgerAfter(id, last, AT_ONCE);
    entries.push(...more);
    if (more.length < AT_ONCE) break;
  }
  const { unit, name } = job.definition;
  const text = ledgerReport(name, entries, {
    unit,
    point(of) {
      const row = rowOf(points, of);
      return row < 0 ? undefined : points.number[row];
    },
  });
  return download(text, "ledger.txt", "text/plain; charset=utf-8");
}
