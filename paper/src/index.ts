export { writePlan, writeReport } from "./brought";
export { reportBytes } from "./report/made";
export type { PaperJob, Tell } from "./state";
