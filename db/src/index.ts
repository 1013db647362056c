export { closePool, connectionString, databaseRefusal, getPool, reading, transaction } from "./pool.ts";
export { inTurn, writing } from "./turns.ts";
export { migrate } from "./migrate.ts";
export {
  createJob,
  jobMadeFor,
  listJobs,
  loadJob,
  versionOf,
  type JobListed,
  type StoredIntake,
  type StoredJob,
  type NewJob,
} from "./queries/jobs.ts";
export { copyJob, copyJobFile, KEPT_DAYS, purgeRemoved, shelveJob } from "./queries/shelves.ts";
export { loadPoints, withdrawnPoints, type WithdrawnPoint } from "./queries/points.ts";
export {
  CHANNEL,
  ledgerAfter,
  ledgerEntry,
  ledgerPageAfter,
  ledgerOfPoint,
  lookUpEntry,
  stepOne,
  listLedger,
  redoLast,
  storeChange,
  undoLast,
  type LedgerEntry,
  type ToldEntry,
} from "./queries/ledger.ts";
export { notKept, rehearsed, statesBetween, type StatesBetween } from "./queries/history.ts";
export { prepareQueue, serveQueue } from "./queue.ts";
export {
  bytesOfMade,
  forgetFile,
  keepMade,
  madeFile,
  putBack,
  lastHandover,
  listMadeFiles,
  orderFile,
  stillMaking,
  takeOrder,
  takeUpOrders,
  tellFailed,
  tellProgress,
  type Attempt,
  type FileWanted,
  type LeavingFile,
  type MadeFile,
  type ReportWanted,
} from "./queries/made-files.ts";
export { reserveIds } from "./queries/point-edits.ts";
export {
  takeIntake,
  readIntakeAgain,
  turnOneIntake,
  withdrawIntake,
  intakeBytes,
  loadDelivered,
  loadJobState,
  geoidOf,
  keepJobFile,
  takenBefore,
  type TakenIntake,
  type ReadAgain,
} from "./queries/intakes.ts";
export {
  listOffice,
  bringOfficeFiles,
  keepInOffice,
  forgetInOffice,
  type Template,
  type KeptLayout,
  type OfficeBodies,
} from "./queries/office.ts";
