/** What joined or left a set, by which entry of the ledger: the latest are taken back one after another and looked at. */
import { Refusal } from "../../errors";
import { applyChange, inverse, type EditableChange, type ToldChange } from "../change/change";
import type { Chain } from "../chain/chain";
import type { JobState } from "../model/model";

export interface MembershipStep {
  /** The entry's number in the ledger. */
  seq: number;
  /** Ids of points. */
  joined: number[];
  left: number[];
}

export interface MembershipHistory {
  steps: MembershipStep[];
  /** The entry before which nothing is known: a delivery, a large change, or one that cannot be taken back alone. */
  end?: number;
}

/**
 * `entries` are the latest, newest first, with what each did. Only those that changed who is in are told. The chain is
 * left as it was.
 */
export function membershipHistory(
  chain: Chain,
  state: JobState,
  set: string,
  entries: readonly { seq: number; change: ToldChange }[],
): MembershipHistory {
  const steps: MembershipStep[] = [];
  try {
    let now = state,
      members = membersOf(chain, now, set);
    for (const { seq, change } of entries) {
      if (change.type === "intake" || change.type === "large") return { steps, end: seq };
      let before: JobState;
      try {
        before = applyChange(now, inverse(change) as EditableChange);
      } catch (e) {
        if (e instanceof Refusal) return { steps, end: seq };
        throw e;
      }
      const were = membersOf(chain, before, set);
      const joined = [...members].filter((id) => !were.has(id)),
        left = [...were].filter((id) => !members.has(id));
      if (joined.length || left.length) steps.push({ seq, joined, left });
      now = before;
      members = were;
    }
    return { steps };
  } finally {
    chain.run(state, true);
  }
}

/** Ids of the points in a set; none where it is not there. */
function membersOf(chain: Chain, state: JobState, set: string): Set<number> {
  const made = chain.run(state, true).madeSets.find((s) => s.name === set);
  return new Set(made?.ok ? Array.from(made.value, (i) => state.points.id[i]!) : []);
}
