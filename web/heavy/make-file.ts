/** Makes a file that was ordered, of the job as it is stored now, telling how far it is. */
import { Chain, refusal, type JobState } from "@bramble/core";
import { volumeReport } from "@bramble/core/report/volumes";
import { keepMade, loadJob, loadJobState, reading, tellProgress, type FileWanted } from "@bramble/db";
import { reportPdf } from "./report/pdf";
import { reportXlsx } from "./report/xlsx";

export interface FileOrder {
  id: number;
  job: number;
  author: string;
  wanted: FileWanted;
}

/** Shares of the whole: all that follows from the job is worked out, the report is put together, it is written. */
const DERIVED = 0.4,
  TOLD = 0.8;

export async function makeFile({ id, job, author, wanted }: FileOrder): Promise<void> {
  const tell = async (doing: string, share: number) => {
    if (!(await tellProgress(id, doing, share))) throw refusal("file-unwanted", {});
  };
  await tell("reading the job", 0);
  const { state, version } = await reading(async (client) => {
    const stored = await loadJob(client, job);
    return { state: await loadJobState(client, stored), version: stored.version };
  });
  const comparisons = wanted.comparisons.filter((name) => state.volumes.some((v) => v.name === name));
  if (comparisons.length === 0) throw refusal("report-empty", {});
  await tell("lines, surfaces, volumes", 0.05);
  const derived = new Chain().run(state),
    at = new Date().toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" }),
    steps = volumeReport(state, derived, { comparisons, author, at, of: stateInWords(state, version) });
  let step = steps.next();
  for (; !step.done; step = steps.next()) await tell(step.value.what, DERIVED + (TOLD - DERIVED) * step.value.share);
  await tell("writing it", TOLD);
  const bytes =
    wanted.format === "xlsx"
      ? await reportXlsx(step.value)
      : await reportPdf(step.value, (share) => tell("writing it", TOLD + (1 - TOLD) * share));
  await keepMade(id, version, bytes);
}

/** The names that the state has, and the entry that it follows. */
function stateInWords({ states }: JobState, version: number): string {
  const names = states.filter((s) => s.seq === version).map((s) => `“${s.name}”`);
  return [
    ...names,
    version === 0 ? "before the first entry of its ledger" : `after entry ${version} of its ledger`,
  ].join(", ");
}
