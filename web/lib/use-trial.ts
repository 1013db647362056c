"use client";
/** What a change would do, asked of the worker; the sheet and the table show it meanwhile. */
import { useEffect, useRef, useState } from "react";
import type { EditableChange, Trial } from "@bramble/core";
import { useJob } from "./store";

export type TrialSeen = Trial | { problem: string } | undefined;

/**
 * Undefined while that is found out. Of changes that follow one another quickly the last is tried, not each. With `stay`
 * what was seen last stays until the next is known.
 */
export function useTrial(change: EditableChange | undefined, stay = false): TrialSeen {
  const [seen, setSeen] = useState<{ change: EditableChange; is: TrialSeen }>();
  const wanted = useRef(change),
    asking = useRef(false);
  useEffect(() => {
    wanted.current = change;
    if (change && !asking.current) void askLatest();
    // What another change would do is none of this one.
    if (!change || !stay) clear();

    async function askLatest(): Promise<void> {
      asking.current = true;
      for (let asked: EditableChange | undefined; (asked = wanted.current);) {
        const is = await useJob.getState().ask({ what: "trial", change: asked });
        if (wanted.current !== undefined && is && (stay || wanted.current === asked)) {
          setSeen({ change: asked, is });
          if ("ways" in is) useJob.getState().set({ preview: is.ways, tried: is });
          else clear();
        }
        if (wanted.current === asked) break;
      }
      asking.current = false;
    }
  }, [change, stay]);
  useEffect(
    () => () => {
      wanted.current = undefined;
      clear();
    },
    [],
  );
  if (!change || !seen) return undefined;
  return stay || seen.change === change ? seen.is : undefined;
}

function clear(): void {
  const { tried, set } = useJob.getState();
  if (tried) set({ preview: [], tried: undefined });
}
