"use client";
/** Points typed by their numbers, or clicked on the sheet one after another. */
import { useRef } from "react";
import { writeNumbers } from "@bramble/core";
import { Typed } from "../../../controls/fields/Typed";
import { useJob, useParts } from "../../../lib/store";

export function PointsField({
  label,
  text,
  set: setText,
  wrong,
  count = 1,
  hint,
}: {
  label: string;
  text: string;
  set: (text: string) => void;
  wrong: boolean;
  /** How many points it takes. */
  count?: number;
  /** What is said on the sheet while they are clicked. */
  hint: string;
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
          setText(count === 1 ? clicked.current[0]! : writeNumbers(clicked.current));
        },
      },
    });
  };
  return (
    <>
      <Typed
        label={label}
        width={`num ${count > 1 ? "w-44" : "w-24"}`}
        text={text}
        onType={setText}
        wrong={wrong}
        autoFocus
      />
      <button
        type="button"
        className={`button ${picking ? "button-main" : ""}`}
        aria-pressed={picking !== undefined}
        onClick={begin}
      >
        {picking ? "Stop picking" : "Pick"}
      </button>
    </>
  );
}
