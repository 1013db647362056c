"use client";
/** What a rule takes of the job as it is now: asked of the worker whenever the rule or what follows from the job is new. */
import { useEffect, useState } from "react";
import type { SetRule } from "@bramble/core";
import { useJob, useParts } from "../../lib/store";
import type { RuleTaken } from "../../workers/chain.worker";

/** Undefined without a rule, and until the first answer; then the last answer until the next. */
export function useRule(rule: SetRule | undefined): RuleTaken | undefined {
  const { view, job } = useParts("view", "job");
  const [taken, setTaken] = useState<{ ids: Int32Array; is: RuleTaken }>(),
    ids = job.points.id;
  useEffect(() => {
    if (!rule) return;
    let current = true;
    void useJob
      .getState()
      .ask({ what: "rule", rule })
      .then((is) => current && is && setTaken({ ids, is }));
    return () => {
      current = false;
    };
  }, [rule, view, job.points, job.sets, ids]);
  // Rows of a table with other points would name the wrong ones.
  return rule && taken?.ids === ids ? taken.is : undefined;
}
