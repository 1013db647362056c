"use client";
/** What the worker knows of the chosen finding. */
import { useEffect, useState } from "react";
import type { Finding } from "@bramble/core";
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
