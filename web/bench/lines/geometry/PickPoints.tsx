"use client";
/** Points clicked on the sheet instead of typed. */
import { useRef } from "react";
import { useJob, useParts } from "../../../lib/store";

/** Tells the numbers of so many points, clicked one after another. */
export function PickPoints({
  count = 1,
  hint,
  take,
}: {
  count?: number;
  hint: string;
  take: (numbers: string[]) => void;
}) {
  const { picking, set } = useParts("picking", "set"),
    clicked = useRef<string[]>([]);
  const begin = () => {
    if (picking) return set({ picking: undefined });
    clicked.current = [];
    set({
      picking: {
        hint,
        points: true,
        take(snap) {
          if (snap.point === undefined) return;
          clicked.current = [...clicked.current, useJob.getState().job.points.number[snap.point]!];
          if (clicked.current.length < count) return;
          set({ picking: undefined });
          take(clicked.current);
        },
      },
    });
  };
  return (
    <button
      type="button"
      className={`button ${picking ? "button-main" : ""}`}
      aria-pressed={picking !== undefined}
      onClick={begin}
    >
      {picking ? "Stop picking" : "Pick"}
    </button>
  );
}
