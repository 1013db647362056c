/** A file of the handover made of the job as it is stored now: what the core writes, and what only the server can. */
import { createHash } from "node:crypto";
import {
  asItStands,
  asksForFindings,
  Chain,
  parseRecipe,
  refusal,
  writeHandover,
  type BroughtFile,
  type Derived,
  type HandoverFile,
  type HandoverMade,
  type JobState,
  type JobThen,
  type Written,
} from "@bramble/core";
import { lastHandover, statesBetween } from "@bramble/db";
import { unzipSync } from "fflate";
import { loadState } from "./job-state";
import { ledgerText } from "./ledger-text";
import { loadPackage, RECIPE_FILE } from "./package";
import { writePlan, writeReport, type Tell } from "@bramble/paper";

export type Progress = (doing: string, share: number) => Promise<void>;

export interface Left {
  file: HandoverFile;
  /** The entry of the ledger that the job is after. */
  version: number;
  made: HandoverMade;
}

/** Share of the whole after which all that follows from the job is worked out. */
const DERIVED = 0.4;

export async function leave(job: number, name: string, author: string, tell?: Progress): Promise<Left> {
  await tell?.("reading the job", 0);
  const { state: stored, version } = await loadState(job);
  const file = stored.handover.find((h) => h.file === name);
  if (!file) throw refusal("change-unknown", { what: `The file “${name}”` });
  await tell?.("lines, surfaces, checks", 0.05);
  // What levels say of one another takes long and is in no file but a manifest and reports, unless a set asks for it.
  const tells =
      file.format === "package" || file.format === "report" || (file.format === "list" && file.of === "questions"),
    quick = !tells && !asksForFindings(stored),
    derived = new Chain().run(stored, quick),
    state = asItStands(stored, derived);
  const made = await writeHandover(file, state, derived, {
    sha256: (bytes) => createHash("sha256").update(bytes).digest("hex"),
    entry: version,
    states: state.states.filter((s) => s.seq === version).map((s) => s.name),
    last: (of) => lastJob(job, of, author, version, state),
    progress: (what, share) => tell?.(what, DERIVED + (1 - DERIVED) * share),
    brought: (of) =>
      brought(of, { job, author, version, state, derived }, file.format === "package" ? undefined : within(tell)),
  });
  return { file, version, made };
}

/** The job as it was when a file of changes left last; undefined for other files, and where it never left. */
async function lastJob(
  job: number,
  name: string,
  author: string,
  version: number,
  { handover }: JobState,
): Promise<JobThen | undefined> {
  const file = handover.find((f) => f.file === name);
  if (!file || !("only" in file) || file.only !== "changed") return undefined;
  const seq = await lastHandover(job, name);
  if (seq === undefined) return undefined;
  const { stops } = await statesBetween(job, author, Math.min(seq, version), version),
    { state: stored } = stops[0]!,
    derived = new Chain().run(stored, true);
  return { state: asItStands(stored, derived), derived };
}

/** Progress of one file within that of the whole. */
const within = (tell: Progress | undefined): Tell | undefined =>
  tell && ((doing, share) => tell(doing, DERIVED + (1 - DERIVED) * share));

export const nowInWords = () => new Date().toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });

interface Brought {
  job: number;
  author: string;
  version: number;
  state: JobState;
  derived: Derived;
}

/** Files that the core cannot write by itself, looked through once more before they leave. */
async function brought(file: BroughtFile, { job, ...of }: Brought, tell?: Tell): Promise<Written> {
  switch (file.format) {
    case "ledger": {
      const { text, entries } = await ledgerText(job);
      return { bytes: new TextEncoder().encode(text), proof: { counts: { entries }, difference: 0 } };
    }
    case "recipe": {
      const bytes = await loadPackage(job, file.with === "files"),
        text = file.with ? unzipSync(bytes)[RECIPE_FILE]! : bytes,
        recipe = parseRecipe(new TextDecoder().decode(text), file.file);
      return {
        bytes,
        proof: { counts: { intakes: recipe.intakes?.length ?? 0, edits: recipe.edits?.length ?? 0 }, difference: 0 },
      };
    }
    case "report":
      return writeReport(file, { ...of, at: nowInWords() }, tell);
    case "pdf":
      return writePlan(file, { ...of, at: nowInWords() }, tell);
  }
}
