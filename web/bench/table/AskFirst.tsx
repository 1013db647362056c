"use client";
/** What a change of cells would do besides what is seen, before it is made. */
import type { Follower } from "@bramble/core";
import type { Asked } from "./use-open-cell";
import { unless } from "../../controls/unless";

export function AskFirst({ asked, answer }: { asked: Asked; answer: (yes: boolean) => void }) {
  const { change, follows, warnings } = asked;
  return (
    <div role="alert" className="mx-4 mb-2 border-l-2 border-amber px-3 py-1">
      {warnings.map((w) => (
        <p key={w} className="text-amber">
          {w}
        </p>
      ))}
      <Follows follows={follows} />
      <div className="flex gap-2 pt-1">
        <button className="button h-6" onClick={() => answer(true)} {...unless(!change && "Nothing of it fits.")}>
          {warnings.length ? "Paste what fits" : "Renumber with all that follows"}
        </button>
        <button className="button h-6" onClick={() => answer(false)}>
          Leave it
        </button>
      </div>
    </div>
  );
}

const MOST = 6;

/** What follows points that get another number, and what they leave by it. */
export function Follows({ follows }: { follows: readonly Follower[] }) {
  if (follows.length === 0) return null;
  const following = follows.filter((f) => !f.leaves).length;
  return (
    <div className="text-amber">
      <p>
        {following > 0 &&
          (following === 1
            ? "1 thing that names it by number follows."
            : `${following} things that name it by number follow.`)}
        {follows.length > following && " A range does not follow: some are left or entered."}
      </p>
      <ul className="max-h-28 overflow-auto text-ink">
        {follows.slice(0, MOST).map((f, k) => (
          <li key={k}>
            {f.what}: {f.from || "not named"} → {f.to || "not named"}
          </li>
        ))}
        {follows.length > MOST && <li>and {follows.length - MOST} more</li>}
      </ul>
    </div>
  );
}
