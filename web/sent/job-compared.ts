/** What the server tells of two states of a job. */
import type { StatesCompared } from "@bramble/core";
import type { LedgerEntry } from "@bramble/db";

export interface JobCompared extends StatesCompared {
  /** Numbers of the entries after which the states were; 0: before the first. */
  from: number;
  to: number;
  /** The entries between them, oldest first. */
  entries: Pick<LedgerEntry, "seq" | "author" | "text">[];
}
