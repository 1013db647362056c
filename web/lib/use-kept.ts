"use client";
/** What is in progress in a place of a job, still there after a visit to another place. A reload begins anew. */
import { useCallback } from "react";
import { useJob } from "./store";

/** State like React's own, but of the job: `name` tells it from all other; undefined is what it began with. */
export function useKept<T>(name: string, initial: T): [T, (next: T | ((now: T) => T)) => void] {
  const value = useJob((s) => (s.kept[name] === undefined ? initial : (s.kept[name] as T)));
  const set = useCallback(
    (next: T | ((now: T) => T)) => {
      const { kept, keep } = useJob.getState();
      const now = kept[name] === undefined ? initial : (kept[name] as T);
      const to = typeof next === "function" ? (next as (now: T) => T)(now) : next;
      if (!Object.is(to, now)) keep(name, to);
    },
    // What it begins with is that of the first time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [name],
  );
  return [value, set];
}
