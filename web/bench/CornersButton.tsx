"use client";
/** Asks for the corners of a ring to be moved on the sheet. */
import { useEffect, useRef } from "react";
import type { Corner } from "@bramble/core/math/ring";
import { useParts } from "../lib/store";

/** `of` tells whose ring it is, among those of the form. */
export function CornersButton(props: {
  of: string;
  ring: [number, number][];
  take: (ring: [number, number][]) => void;
}) {
  const { of, ring, take } = props,
    { corners, set } = useParts("corners", "set"),
    mine = corners?.of === of,
    latest = useRef(take);
  // Undone, or another's change: the sheet has the ring that there is.
  useEffect(() => {
    latest.current = take;
    if (!mine) return;
    const kept = (next: readonly Corner[]) => latest.current(next.map(([e, n]) => [e, n]));
    if (corners.ring !== ring) set({ corners: { of, ring, take: kept } });
  });
  useEffect(() => () => set({ corners: undefined }), [set]);
  return (
    <button
      type="button"
      className={`button ${mine ? "button-main" : ""}`}
      aria-pressed={mine}
      onClick={() => set({ corners: mine ? undefined : { of, ring: [], take: () => undefined } })}
    >
      {mine ? "Corners are right" : "Move its corners"}
    </button>
  );
}
