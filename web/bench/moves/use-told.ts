"use client";
/** What a move that is being typed would do. */
import { useEffect, useState } from "react";
import type { MoveTold } from "@bramble/core/job/told/moving";
import type { Move } from "@bramble/core/points/moves";
import { useParts } from "../../lib/store";
import type { MoveDraft } from "./draft";

/** Undefined while it is not known; where the move is another the last goes on being told until the next is there. */
export function useMoveTold(draft: Pick<MoveDraft, "old">, move: Move | undefined): MoveTold | undefined {
  const { ask, view, job } = useParts("ask", "view", "job"),
    [told, setTold] = useState<MoveTold>(),
    how = move && JSON.stringify([move.transform, move.fit]);
  useEffect(() => {
    let current = true;
    if (move) void ask({ what: "move", move, old: draft.old }).then((x) => current && setTold(x));
    return () => {
      current = false;
    };
    // What is said of it tells whether it is another.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [how, move?.points, draft.old, ask, view.standing, job.moves]);
  return move && told;
}
