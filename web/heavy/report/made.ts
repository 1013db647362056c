/** The report of comparisons of a job, in the format asked for. */
import { refusal, type Derived, type JobState } from "@bramble/core";
import { volumeReport } from "@bramble/core/report/volumes";
import { reportPdf } from "./pdf";
import { reportXlsx } from "./xlsx";

export interface ReportOf {
  state: JobState;
  derived: Derived;
  author: string;
  /** The entry of the ledger that the job is after. */
  version: number;
}

/** Share after which the report is put together and is only to be written. */
const TOLD = 2 / 3;

/** Throws a Refusal when none of the comparisons is in the job. */
export async function reportBytes(
  format: "pdf" | "xlsx",
  wanted: readonly string[],
  { state, derived, author, version }: ReportOf,
  tell?: (doing: string, share: number) => Promise<void>,
): Promise<Uint8Array> {
  const comparisons = wanted.filter((name) => state.volumes.some((v) => v.name === name));
  if (comparisons.length === 0) throw refusal("report-empty", {});
  const at = new Date().toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" }),
    steps = volumeReport(state, derived, { comparisons, author, at, of: stateInWords(state, version) });
  let step = steps.next();
  for (; !step.done; step = steps.next()) await tell?.(step.value.what, TOLD * step.value.share);
  await tell?.("writing it", TOLD);
  return format === "xlsx"
    ? reportXlsx(step.value)
    : reportPdf(step.value, async (share) => tell?.("writing it", TOLD + (1 - TOLD) * share));
}

/** The names that the state has, and the entry that it follows. */
function stateInWords({ states }: JobState, version: number): string {
  const names = states.filter((s) => s.seq === version).map((s) => `“${s.name}”`);
  return [
    ...names,
    version === 0 ? "before the first entry of its ledger" : `after entry ${version} of its ledger`,
  ].join(", ");
}
