/** The moves of a job as a recipe's edits, which come after all others and move points of deliveries. */
import { writeNumbers } from "../../points/numbers";
import type { FitGiven } from "../../points/moved";
import type { Move, MoveMade } from "../../points/moves";
import type { RecipeEdit } from "../../points/edits";
import type { PointTable } from "../../points/table";
import { movedPoints } from "../model/moving";
import type { JobState } from "../model/model";

type Done = Exclude<MoveMade["done"], { problem: string }>;

/**
 * The edits, and the points of the job with all moves carried out: those that the office made are told where they stand.
 * A move that is not carried out is none.
 */
export function movesGiven(state: JobState): { edits: RecipeEdit[]; moved: PointTable } {
  const { points, movesMade } = movedPoints(state.points, state),
    edits = state.moves.flatMap((move, k) => {
      const { done } = movesMade[k]!;
      return "problem" in done ? [] : editsOf(move, done, state, k);
    }),
    { stored: _, ...moved } = points;
  return { edits, moved };
}

function editsOf(move: Move, done: Done, state: JobState, at: number): RecipeEdit[] {
  const { points: t, intakes } = state,
    numbers = (rows: Iterable<number>) =>
      [...rows].filter((i) => !t.deleted[i] && t.intake[i]! >= 0).map((i) => t.number[i]!),
    targets = new Set(done.fit?.residuals.map((r) => r.to)),
    whole =
      "intakes" in move.points &&
      (move.points.intakes.length === 1 || !move.fit) &&
      !move.points.intakes.some((id) => [...targets].some((i) => intakes[t.intake[i]!]?.id === id)),
    all = numbers(done.rows),
    which: Pick<RecipeEdit, "points" | "intake">[] = whole
      ? (move.points as { intakes: string[] }).intakes
          .filter((id) => intakes.some((k) => k.id === id))
          .map((intake) => ({ points: "*", intake }))
      : all.length
        ? [{ points: writeNumbers(all) }]
        : [];
  if (!done.fit) return which.map((w) => ({ ...w, transform: move.transform! }));
  const pairs = done.fit.residuals.filter((r) => !r.out);
  // Points that the office made are there only after all edits: what a fit to them came out as is told in its stead.
  if (pairs.every((p) => t.intake[p.from]! >= 0 && t.intake[p.to]! >= 0)) {
    const { scale, levels } = move.fit!,
      fit: FitGiven = {
        pairs: pairs.map((p) => [t.number[p.from]!, t.number[p.to]!]),
        ...(scale === undefined ? {} : { scale }),
        ...(levels === undefined ? {} : { levels }),
      };
    return which.map((w) => ({ ...w, fit }));
  }
  const { plan, rise } = done.movement,
    sloping = rise !== undefined && (rise.east !== 0 || rise.north !== 0),
    transform = {
      move: [plan.to[0] - plan.from[0], plan.to[1] - plan.from[1], sloping ? 0 : (rise?.up ?? 0)] as const,
      rotate: done.fit.rotation,
      scale: done.fit.scale,
      about: plan.from,
    };
  return [...which.map((w) => ({ ...w, transform })), ...(sloping ? levelsAfter(done, state, at) : [])];
}

/** Levels that no shift gives, point by point. */
function levelsAfter(done: Done, state: JobState, at: number): RecipeEdit[] {
  const { points: t } = state,
    { z } = movedPoints(t, { ...state, moves: state.moves.slice(0, at + 1) }).points;
  return [...done.rows]
    .filter((i) => !t.deleted[i] && t.intake[i]! >= 0 && !Number.isNaN(z[i]!))
    .map((i) => ({ points: writeNumbers([t.number[i]!]), set: { elevation: z[i]! } }));
}
