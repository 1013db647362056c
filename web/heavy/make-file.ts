/** Makes a file that was ordered, of the job as it is stored now, telling how far it is. */
import { asItStands, Chain, refusal } from "@bramble/core";
import { keepMade, tellProgress, type Attempt, type FileWanted } from "@bramble/db";
import { loadState } from "./job-state";
import { leave, nowInWords } from "./leave";
import { reportBytes } from "@bramble/paper";

export interface FileOrder extends Attempt {
  job: number;
  author: string;
  wanted: FileWanted;
}

/** Share of the whole after which all that follows from the job is worked out. */
const DERIVED = 0.4;

export async function makeFile({ id, attempt, job, author, wanted }: FileOrder): Promise<void> {
  const order = { id, attempt };
  const tell = async (doing: string, share: number) => {
    if (!(await tellProgress(order, doing, share))) throw refusal("file-unwanted", {});
  };
  if (wanted.what === "handover") {
    const { version, made } = await leave(job, wanted.name, author, tell);
    return keepMade(order, version, made.bytes, made.told);
  }
  await tell("reading the job", 0);
  const { state: stored, version } = await loadState(job);
  await tell("lines, surfaces, volumes", 0.05);
  const derived = new Chain().run(stored),
    of = { state: asItStands(stored, derived), derived, author, version, at: nowInWords() };
  const bytes = await reportBytes(wanted.format, wanted.comparisons, of, (doing, share) =>
    tell(doing, DERIVED + (1 - DERIVED) * share),
  );
  await keepMade(order, version, bytes);
}
