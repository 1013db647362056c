/** Keeps a set of the open job; why it cannot be is said, and the answer is false. */
import { keepSet, type PointSet } from "@bramble/core";
import { attempt } from "../../lib/attempt";
import { useJob } from "../../lib/store";

export const keptSet = (set: PointSet): boolean => attempt(() => keepSet(useJob.getState().job, set));
