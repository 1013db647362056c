"use client";
/** Asks for a ring drawn on the sheet. */
import { useEffect } from "react";
import { useParts } from "../lib/store";

export function RingButton({ name, take }: { name: string; take: (corners: [number, number][]) => void }) {
  const { ring, set } = useParts("ring", "set");
  const mine = ring?.hint.startsWith(name) === true;
  // Left behind, the form has no use for a ring any more.
  useEffect(() => () => set({ ring: undefined }), [set]);
  return (
    <button
      type="button"
      className={`button ${mine ? "button-main" : ""}`}
      aria-pressed={mine}
      onClick={() =>
        set({
          ring: mine
            ? undefined
            : {
                hint: `${name}: click its corners; the first one or Enter closes it, Backspace takes one back, Esc ends`,
                take: (corners) => take(corners.map(([e, n]) => [e, n])),
              },
        })
      }
    >
      {mine ? "Stop drawing" : name}
    </button>
  );
}
