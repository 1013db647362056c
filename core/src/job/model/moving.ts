/** The points where the job's moves bring them, before constructions follow them. */
import { sameColumn } from "../../math/columns";
import { carryOut, type MoveMade } from "../../points/moves";
import type { PointTable } from "../../points/table";
import type { JobState } from "./model";
import { withPositions } from "./reduce";

/** What moves change. */
export const MOVED_COLUMNS = ["e", "n", "z", "deleted", "follows"] as const;

export type Moving = Pick<JobState, "moves" | "computed" | "intakes" | "delivered" | "setups" | "book"> &
  Pick<JobState, "unit" | "tolerance" | "curvature" | "scaleFactor">;

export interface Moved {
  points: PointTable;
  movesMade: readonly MoveMade[];
}
export const NOT_MOVED: readonly MoveMade[] = [];

/** Ids of points whose position in plan follows others. */
export const constructedIn = ({ computed }: Pick<JobState, "computed">): ReadonlySet<number> =>
  new Set(computed.flatMap((c) => (c.by ? [c.point] : [])));

/** The state's points with its moves carried out. They keep beside them what is stored (PointTable.stored). */
export function movedPoints(points: PointTable, job: Moving): Moved {
  if (job.moves.length === 0) return { points, movesMade: NOT_MOVED };
  const constructed = constructedIn(job),
    settled = (t: PointTable) => withPositions({ ...job, points: t }).points,
    { points: t, moves } = carryOut(points, job.moves, { intakes: job.intakes, constructed, settled });
  const { e, n, z, follows, shotAt } = points,
    done = moves.flatMap((m) => ("problem" in m.done ? [] : [m.done])),
    columns = Object.fromEntries(
      MOVED_COLUMNS.map((key) => [key, sameColumn<never>(points[key] as never, t[key] as never)]),
    );
  return {
    points: { ...t, ...columns, stored: { e, n, z, follows, ...(shotAt ? { shotAt } : {}), moves: done } },
    movesMade: moves,
  };
}
