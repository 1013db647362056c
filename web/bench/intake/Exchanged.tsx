"use client";
import { plural, someOf } from "@bramble/core/math/words";
import { grouped } from "../../lib/units-shown";

/** Axes that look exchanged are said aloud, with the one key that puts them right. */
export function Exchanged({
  rows,
  points,
  can,
  exchange,
}: {
  rows: readonly number[];
  points: number;
  can: boolean;
  exchange: () => void;
}) {
  const most = rows.length > points / 2;
  return (
    <div
      role="alert"
      className="mb-3 flex items-center gap-3 border-l-2 border-amber bg-amber-wash px-3 py-2 text-amber"
    >
      <p className="min-w-0 flex-1">
        {most ? (
          <>
            <strong>Northing and easting look exchanged.</strong> {grouped(rows.length)} of {plural(points, "point")}{" "}
            lie with the job only the other way round.
          </>
        ) : (
          <>
            {rows.length === 1 ? "Row" : "Rows"} {someOf(rows.map(String), 6)}: northing and easting look exchanged
            there. The other rows are as they should be; correct {rows.length === 1 ? "this one" : "these"} in the
            points table.
          </>
        )}
      </p>
      {most && can && (
        <button className="button h-7 text-ink" onClick={exchange}>
          Exchange them <kbd className="text-[11px] text-soft">E</kbd>
        </button>
      )}
    </div>
  );
}
