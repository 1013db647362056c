/** The change that takes a move, new or changed, also under another name. */
import { sameJson } from "../../math/json";
import type { Move } from "../../points/moves";
import type { EditableChange, NamedChange } from "../change/change";
import type { JobState } from "../model/model";

/** Undefined where nothing becomes another. `old` is the name of the move that is changed. */
export function moveTaken(
  { moves }: Pick<JobState, "moves">,
  old: string | undefined,
  move: Move,
): EditableChange | undefined {
  const at = moves.findIndex((m) => m.name === old),
    was = moves[at] ?? null;
  if (was && sameJson(was, move)) return undefined;
  const made = (name: string, from: Move | null, to: Move | null): NamedChange => ({
    type: "named",
    part: "moves",
    name,
    old: from,
    new: to,
    ...(at >= 0 ? { at } : {}),
  });
  if (!was || was.name === move.name) return made(move.name, was, move);
  // It stays where it is among the others: they are carried out in their order.
  return {
    type: "several",
    text: `Move “${was.name}” changed, and called “${move.name}”`,
    changes: [made(was.name, was, null), made(move.name, null, move)],
  };
}
