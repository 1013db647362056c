/** A job as the server sends it whole, and the state that it is: the same on the page and in the worker. */
import { withPositions, type Delivered, type JobState } from "@bramble/core";
import { unpack } from "@bramble/core/math/pack";
import type { PointTable } from "@bramble/core/points/table";
import type { ToldEntry, StoredJob } from "@bramble/db";

export interface JobSent extends StoredJob {
  points: PointTable;
  /** What each intake brought beside points, in their order. */
  delivered: Delivered[];
  /** The latest entries, newest first. */
  ledger: ToldEntry[];
  /** The largest file that the server takes, in bytes. */
  intakeLimit: number;
}

export function jobOfBytes(buffer: ArrayBuffer): { sent: JobSent; state: JobState } {
  const sent = unpack<JobSent>(buffer);
  return {
    sent,
    state: withPositions({ ...sent.definition, intakes: sent.intakes, delivered: sent.delivered, points: sent.points }),
  };
}
