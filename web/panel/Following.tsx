"use client";
/** Over the sheet: that what is drawn is of before, while what follows from a change is being made, or was stopped. */
import { useParts } from "../lib/store";

export function Following() {
  const { deriving, stage, stopped, status, stop, goOn } = useParts(
    "deriving",
    "stage",
    "stopped",
    "status",
    "stop",
    "goOn",
  );
  if (status !== "ready" || !(deriving || stopped)) return null;
  return (
    <div
      role="status"
      data-testid="following"
      className={[
        "absolute top-3 left-1/2 z-[6] flex -translate-x-1/2 items-center justify-between gap-3 print:hidden",
        // One width whatever it says: the button stays under the pointer while the words change.
        "w-[31rem] max-w-[calc(100%-1.5rem)]",
        "rounded-sm border border-rule bg-paper px-3 py-1 text-[12px] whitespace-nowrap shadow-sm",
        stopped ? "" : "late",
      ].join(" ")}
    >
      {stopped ? (
        <>
          <span className="min-w-0 truncate text-amber">Stopped: what is drawn is of before the last change.</span>
          <button className="button h-6 shrink-0" onClick={goOn}>
            Go on
          </button>
        </>
      ) : (
        <>
          <span className="min-w-0 truncate">
            Being made{stage ? `: ${stage}` : ""} … <span className="text-soft">what is drawn is of before</span>
          </span>
          <button className="button h-6 shrink-0" onClick={stop}>
            Stop
          </button>
        </>
      )}
    </div>
  );
}
