"use client";
/** How many points the conditions of a rule leave, one after another: an empty set says which of them is to blame. */
import type { Tally } from "@bramble/core/sets/explain";
import { plural } from "@bramble/core/math/words";
import { grouped } from "../../lib/units-shown";

export function Counts({ tally, total, any }: { tally: readonly Tally[]; total: number; any: boolean }) {
  return (
    <div className="pt-2" data-testid="set-counts">
      <p className="tabular-nums">
        {total === 0 ? <span className="text-amber">No point is in it.</span> : `${plural(total, "point")} in it.`}
      </p>
      {tally.length > 1 && (
        <ul className="text-soft tabular-nums">
          {tally.map((t, k) => (
            <li key={k}>
              {t.says}: {grouped(t.alone)}
              {k > 0 && `, ${any ? "together" : "left with those before"} ${grouped(t.left)}`}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
