/** The report of comparisons of a job, in the format asked for. */
import { refusal } from "@bramble/core";
import { volumeReport } from "@bramble/core/report/volumes";
import { stateInWords, type PaperJob, type Tell } from "../state";
import { reportPdf } from "./pdf";
import { reportXlsx } from "./xlsx";

/** Share after which the report is put together and is only to be written. */
const TOLD = 2 / 3;

/** Throws a Refusal when none of the comparisons is in the job. */
export async function reportBytes(
  format: "pdf" | "xlsx",
  wanted: readonly string[],
  { state, derived, author, at, version }: PaperJob,
  tell?: Tell,
): Promise<Uint8Array> {
  const comparisons = wanted.filter((name) => state.volumes.some((v) => v.name === name));
  if (comparisons.length === 0) throw refusal("report-empty", {});
  const of =
      version === undefined ? stateInWords({ state, version }) : `${stateInWords({ state, version })} of its ledger`,
    steps = volumeReport(state, derived, { comparisons, author, at, of });
  let step = steps.next();
  for (; !step.done; step = steps.next()) await tell?.(step.value.what, TOLD * step.value.share);
  await tell?.("writing it", TOLD);
  return format === "xlsx"
    ? reportXlsx(step.value)
    : reportPdf(step.value, async (share) => tell?.("writing it", TOLD + (1 - TOLD) * share));
}
