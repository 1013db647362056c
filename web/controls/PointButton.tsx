"use client";
/** The number of a point in a list: looking at it shows it in the plan, Enter opens its story. */
import { useParts } from "../lib/store";
import { openStory } from "../lib/subjects";

/** A button for the point of a row of the job's table. */
export function PointButton({ row }: { row: number }) {
  const { job, select, show } = useParts("job", "select", "show"),
    t = job.points;
  const look = () => {
    select({ points: [t.id[row]!] });
    show({ minE: t.e[row]!, maxE: t.e[row]!, minN: t.n[row]!, maxN: t.n[row]! });
  };
  return (
    <button
      className="font-medium text-bramble underline"
      title="Enter opens its story"
      onFocus={look}
      onClick={() => openStory(row)}
    >
      {t.number[row]}
    </button>
  );
}
