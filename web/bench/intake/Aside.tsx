"use client";
/** What of a delivery is not among the points: what gives way to others, and what an earlier version lost, offered back. */
import { plural } from "@bramble/core/math/words";
import { orderedNumbers, writeNumbers } from "@bramble/core/points/numbers";
import { GONE_DELETED, GONE_GAVE_WAY, rowOf } from "@bramble/core/points/table";
import type { StoredIntake } from "@bramble/db";
import { useParts } from "../../lib/store";

export function Aside({ intake: k }: { intake: StoredIntake }) {
  const { job, change } = useParts("job", "change"),
    t = job.points,
    at = job.intakes.findIndex((x) => x.id === k.id),
    numbersOf = (rows: readonly number[]) => writeNumbers(orderedNumbers(rows.map((i) => t.number[i]!)));
  const aside: number[] = [];
  for (let i = 0; i < t.count; i++) if (t.intake[i] === at && t.deleted[i]! & GONE_GAVE_WAY) aside.push(i);
  const lost = (k.lost ?? []).map((id) => rowOf(t, id)).filter((i) => i >= 0 && t.deleted[i]! & GONE_DELETED);
  return (
    <>
      {aside.length > 0 && (
        <p className="mt-1 text-soft">
          {plural(aside.length, "shot")} of it {aside.length === 1 ? "gives" : "give"} way to{" "}
          {aside.length === 1 ? "another" : "others"} of the same number: {numbersOf(aside)}.
        </p>
      )}
      {lost.length > 0 && (
        <div role="status" className="mt-2 flex items-baseline gap-3 border-l-2 border-amber pl-2">
          <p className="text-amber">
            {plural(lost.length, "shot")} of it {lost.length === 1 ? "was" : "were"} lost when it was read again, by an
            earlier version of this application: {numbersOf(lost)}.
          </p>
          <button
            className="button shrink-0"
            onClick={() =>
              change({
                type: "points",
                edits: lost.map((i) => ({ id: t.id[i]!, field: "deleted", old: true, new: false })),
              })
            }
          >
            Bring {lost.length === 1 ? "it" : "them"} back
          </button>
        </div>
      )}
    </>
  );
}
