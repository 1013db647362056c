/** The whole ledger as a text, oldest first. */
import { ledgerReport } from "@bramble/core";
import { detailNames } from "@bramble/core/job/change/details";
import { getPool, ledgerAfter, loadJob, loadPoints, type LedgerEntry } from "@bramble/db";

/** Entries read from the database at a time. */
const ENTRIES_AT_ONCE = 500;

/** With the count of its entries. */
export async function ledgerText(id: number): Promise<{ text: string; entries: number }> {
  const job = await loadJob(getPool(), id),
    points = await loadPoints(getPool(), id),
    entries: LedgerEntry[] = [];
  for (let last = 0; ; last = entries.at(-1)!.seq) {
    const more = await ledgerAfter(id, last, ENTRIES_AT_ONCE);
    entries.push(...more);
    if (more.length < ENTRIES_AT_ONCE) break;
  }
  const { unit, name } = job.definition;
  const text = ledgerReport(name, entries, detailNames(points, job.intakes, unit));
  return { text, entries: entries.length };
}
