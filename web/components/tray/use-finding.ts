"use client";
/** What the worker knows of the chosen finding, and what a repair would do; the sheet shows its lines meanwhile. */
import { useEffect, useState } from "react";
import type { EditableChange, Finding, Trial } from "@bramble/core";
import { useJob, useParts } from "../../lib/store";
import type { FindingFacts } from "../../workers/chain.worker";

/** Undefined until they are known; then those of this finding as the job is now. */
export function useFacts(f: Finding | undefined): FindingFacts | undefined {
  const { view } = useParts("view");
  const [facts, setFacts] = useState<{ key: string; is: FindingFacts }>();
  useEffect(() => {
    if (!f) return;
    let current = true;
    void useJob
      .getState()
      .ask({ what: "finding", key: f.key })
      .then((is) => current && is && setFacts({ key: f.key, is }));
    return () => {
      current = false;
    };
  }, [f, view.findings]);
  return f && facts?.key === f.key ? facts.is : undefined;
}

export type TrialSeen = Trial | { problem: string } | undefined;

/** What a change would do; undefined while that is found out. */
export function useTrial(change: EditableChange | undefined): TrialSeen {
  const [seen, setSeen] = useState<{ change: EditableChange; is: TrialSeen }>();
  useEffect(() => {
    if (!change) return;
    let current = true;
    void useJob
      .getState()
      .ask({ what: "trial", change })
      .then((is) => {
        if (!current || !is) return;
        setSeen({ change, is });
        if ("ways" in is) useJob.getState().set({ preview: is.ways, tried: is });
      });
    return () => {
      current = false;
      useJob.getState().set({ preview: [], tried: undefined });
    };
  }, [change]);
  return change && seen?.change === change ? seen.is : undefined;
}
