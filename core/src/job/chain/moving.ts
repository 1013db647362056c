/** The job's moves as a stage of its chain. */
import type { PointTable } from "../../points/table";
import { MOVED_COLUMNS, movedPoints, NOT_MOVED, type Moved, type Moving } from "../model/moving";
import type { Kept } from "./stages";

/** What moves, the reduction of observations that follow them, and `past` ask for. */
const READS = [
  ...(["moves", "computed", "intakes", "delivered", "setups", "book"] as const),
  ...(["unit", "tolerance", "curvature", "scaleFactor"] as const),
  ...(["count", "id", "intake", "row", "number", "kind", "time", "targetHeight", "cameAs", "shotAt"] as const),
  ...(["e", "n", "z", "deleted", "follows", "texts", "description", "cues", "surface"] as const),
];

/** Points as moved: columns in which nothing became another are the last ones. */
export function movedStage(points: PointTable, given: Moving, kept: Kept): Moved {
  if (given.moves.length === 0) return { points, movesMade: NOT_MOVED };
  const made = kept.run("moved", READS, { ...given, ...points }, (v) => movedPoints(v as unknown as PointTable, v)),
    columns = Object.fromEntries(
      MOVED_COLUMNS.map((key) => [key, kept.run(`moved ${key}`, [key], made.points, (v) => v[key] as never)]),
    ),
    { shotAt, stored } = made.points,
    whole = { ...points, ...columns, shotAt, stored };
  if (shotAt === undefined) delete whole.shotAt;
  return {
    movesMade: made.movesMade,
    points: kept.run("moved points", Object.keys(whole) as (keyof PointTable)[], whole, () => whole),
  };
}
