/** Begins a move of what is selected; the form in the points' bench goes on with it. */
import type { PointsToMove } from "@bramble/core/points/moves";
import { refOf } from "@bramble/core/points/refs";
import { rowsOf } from "../../lib/rows";
import { useJob } from "../../lib/store";
import { freeMoveName, newDraft, type MoveDraft } from "./draft";

export const MOVE_DRAFT = "moves.draft";

/** The selected points as what is moved. */
export function selectedToMove(): PointsToMove {
  const { job, points } = useJob.getState();
  return { chosen: [...rowsOf(job.points, points)].map((i) => refOf(job.points, job.intakes, i)) };
}

/** The draft as it is now: what was asked of the worker comes back to it. */
export const draftNow = () => useJob.getState().kept[MOVE_DRAFT] as MoveDraft | undefined;

/** Opens a new move of what is selected, or of the first delivery. */
export function beginMove(): void {
  const { job, points, keep } = useJob.getState(),
    first = job.intakes[0];
  keep("points.tab", "moves");
  // One that is open is gone on with.
  if (draftNow()) return;
  keep(
    MOVE_DRAFT,
    newDraft(freeMoveName(job.moves), points.size || !first ? selectedToMove() : { intakes: [first.id] }),
  );
}
