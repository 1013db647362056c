"use client";
/** Breaklines whose shots do not all have a level: between the known ones they are taken as straight. */
import { largest, smallest } from "@bramble/core/math/many";
import { useMemo } from "react";
import { lineName } from "@bramble/core/lines/model";
import { formatFixed } from "@bramble/core/math/round";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { openLine } from "../../lib/subjects";
import { decimalsOf } from "../../lib/units-shown";

/** Lines listed at most. */
const MOST = 50;

export function Unlevelled() {
  const { job, view } = useParts("job", "view"),
    d = decimalsOf(job.unit);
  const lines = useMemo(() => {
    const { z } = job.points;
    return view.lines.flatMap((l) => {
      if (l.breakline !== "fixed" || l.companion) return [];
      const levels = l.shots.filter((i) => i >= 0).map((i) => z[i]!),
        known = levels.filter((x) => !Number.isNaN(x));
      return known.length === levels.length ? [] : [{ line: l, missing: levels.length - known.length, known, levels }];
    });
  }, [view.lines, job.points]);
  if (lines.length === 0) return null;
  return (
    <details className="mt-3">
      <summary className="cursor-default hover:text-bramble">
        {plural(lines.length, "breakline")} without full levels
      </summary>
      <ul className="rows mt-1" aria-label="Breaklines without full levels">
        {lines.slice(0, MOST).map(({ line, missing, known, levels }) => (
          <li key={line.key} className="row gap-3">
            <button
              className="min-w-0 truncate text-left text-bramble hover:underline"
              onClick={() => openLine(line.key)}
            >
              {lineName(line)}
            </button>
            <span className="flex-1 text-soft">
              {missing} of {plural(levels.length, "shot")} without a level
            </span>
            <span className="tabular-nums">
              {known.length === 0
                ? "no level at all"
                : `${formatFixed(smallest(known), d)} to ${formatFixed(largest(known), d)} ${job.unit}`}
            </span>
          </li>
        ))}
        {lines.length > MOST && <li className="row text-soft">and {lines.length - MOST} more</li>}
      </ul>
    </details>
  );
}
