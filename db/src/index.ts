export { getPool, closePool, transaction } from "./pool.ts";
export { migrate } from "./migrate.ts";
export { createJob, listJobs, loadJob, type JobListed, type StoredIntake, type StoredJob, type NewJob } from "./queries/jobs.ts";
export { loadPoints } from "./queries/points.ts";
export { storeChange, undoLast, redoLast, listLedger, type LedgerEntry } from "./queries/ledger.ts";
export { takeIntake, withdrawIntake, intakeBytes, type TakenIntake } from "./queries/intakes.ts";
export * from "./queries/office.ts";
