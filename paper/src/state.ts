/** What papers are written of. */
import type { Derived, JobState } from "@bramble/core";

export interface PaperJob {
  state: JobState;
  derived: Derived;
  /** Whose report it is; nobody's where no person asked for it. */
  author: string;
  /** When, in words; the job's date where a recipe is run. */
  at: string;
  /** The entry of the ledger that the job is after; a recipe has none. */
  version: number | undefined;
}

export type Tell = (doing: string, share: number) => void | Promise<void>;

/** The names that the state has, and the entry that it follows. */
export function stateInWords({ state: { states }, version }: Pick<PaperJob, "state" | "version">): string {
  if (version === undefined) return "as the recipe has it";
  const names = states.filter((s) => s.seq === version).map((s) => `“${s.name}”`);
  return [...names, version === 0 ? "before the first entry" : `after entry ${version}`].join(", ");
}
