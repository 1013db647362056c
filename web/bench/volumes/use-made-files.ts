"use client";
/** The files that the queue makes of the job: those that are there, and how far the others are. */
import { useCallback, useEffect, useState } from "react";
import type { MadeFile } from "@bramble/db";
import { getJson, postJson, remove } from "../../lib/client";
import { useParts } from "../../lib/store";

/** Milliseconds between two looks while something is being made, and after one that failed. */
const LOOK_EVERY = 500,
  AGAIN = 3000;

export function useMadeFiles() {
  const { jobId, set } = useParts("jobId", "set"),
    [files, setFiles] = useState<MadeFile[]>(),
    [problem, setProblem] = useState(""),
    /** Counted up to look again. */
    [looks, setLooks] = useState(0);
  const look = useCallback(() => setLooks((n) => n + 1), []);
  useEffect(() => {
    const stop = new AbortController();
    let timer: ReturnType<typeof setTimeout> | undefined;
    getJson<MadeFile[]>(`/api/jobs/${jobId}/made`, stop.signal).then(
      (list) => {
        setFiles(list);
        setProblem("");
        if (list.some((f) => f.state === "waiting" || f.state === "making")) timer = setTimeout(look, LOOK_EVERY);
      },
      (e: Error) => {
        if (stop.signal.aborted) return;
        setProblem(e.message);
        timer = setTimeout(look, AGAIN);
      },
    );
    return () => {
      stop.abort();
      clearTimeout(timer);
    };
  }, [jobId, look, looks]);
  const say = (e: unknown) => set({ notice: { text: (e as Error).message, tone: "problem" } });
  return {
    files,
    problem,
    order: (body: object) => postJson(`/api/jobs/${jobId}/made`, body).then(look, say),
    forget: (id: number) => remove(`/api/jobs/${jobId}/made/${id}`).then(look, say),
    addressOf: (id: number) => `/api/jobs/${jobId}/made/${id}`,
  };
}
