/** Moves of points that cannot be carried out. */
import { notice, say, type Noticed } from "../finding";
import { plural } from "../math/words";
import type { MoveMade } from "../points/moves";
import type { PointTable } from "../points/table";

/** Told where the first of its points is. */
export function lostMoves(moves: readonly MoveMade[], t: Pick<PointTable, "e" | "n">): Noticed[] {
  return moves.flatMap(({ name, rows, done }): Noticed[] => {
    if (!("problem" in done)) return [];
    const first = rows[0];
    return [
      notice(
        "move-lost",
        "warning",
        say`“${name}” is not carried out, ${plural(rows.length, "point")} ${rows.length === 1 ? "stands" : "stand"} as received: ${done.problem}.`,
        {
          points: first === undefined ? [] : [first],
          ...(first === undefined ? {} : { at: [t.e[first]!, t.n[first]!] }),
        },
      ),
    ];
  });
}
