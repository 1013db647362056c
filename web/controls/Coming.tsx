"use client";
/** Where a figure will stand that was never made yet: that it is coming, or was stopped; and why, where it cannot be. */
import { useParts } from "../lib/store";
import { EMPTY_VIEW } from "../lib/view";

export function Coming({ failure, what = "" }: { failure?: { message: string } | undefined; what?: string }) {
  const { deriving, stopped, view } = useParts("deriving", "stopped", "view");
  if (failure && !deriving)
    return (
      <span className="text-amber" title={failure.message}>
        cannot be made
      </span>
    );
  if (stopped) return <span className="text-amber">{what}not made: it was stopped</span>;
  return (
    <span className="text-soft">
      {what}
      {deriving || view === EMPTY_VIEW ? "being made …" : "not made yet"}
    </span>
  );
}
