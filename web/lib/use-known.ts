"use client";
/** The figures to show, and whether they are of before: of the view, or while it is made for the first time as kept. */
import { useMemo } from "react";
import { keptKnown, knownOf, type Known } from "./known";
import { useParts } from "./store";
import { EMPTY_VIEW } from "./view";

export interface Figures {
  /** Undefined where nothing is known yet. */
  known: Known | undefined;
  /** What they follow from has changed since and is being made, or was stopped. */
  before: boolean;
}

export function useKnown(): Figures {
  const { view, jobId, deriving, stopped } = useParts("view", "jobId", "deriving", "stopped"),
    isEmpty = view === EMPTY_VIEW;
  const known = useMemo(
    () => (isEmpty ? (jobId ? keptKnown(jobId) : undefined) : knownOf(view)),
    [isEmpty, view, jobId],
  );
  return { known, before: isEmpty || deriving || stopped };
}

/** Class of figures that are of before. */
export const BEFORE = "of-before";
