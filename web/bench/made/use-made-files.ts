"use client";
/** The files that the queue makes of the job: those that are there, and how far the others are. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { MadeFile } from "@bramble/db";
import { getJson, postJson, remove } from "../../lib/client";
import { useParts } from "../../lib/store";

/** Milliseconds between two looks while something is being made, and after one that failed. */
const LOOK_EVERY = 500,
  AGAIN = 3000;

export type MadeFiles = ReturnType<typeof useMadeFiles>;

export function useMadeFiles() {
  const { jobId, set } = useParts("jobId", "set"),
    [files, setFiles] = useState<MadeFile[]>(),
    [problem, setProblem] = useState(""),
    /** Counted up to look again. */
    [looks, setLooks] = useState(0);
  const look = useCallback(() => setLooks((n) => n + 1), []),
    /** Ordered here, and saved on this machine as soon as they are made. */
    toSave = useRef(new Set<number>());
  useEffect(() => {
    const stop = new AbortController();
    let timer: ReturnType<typeof setTimeout> | undefined;
    getJson<MadeFile[]>(`/api/jobs/${jobId}/made`, stop.signal).then(
      (list) => {
        setFiles(list);
        setProblem("");
        for (const f of list)
          if (f.state === "made" && toSave.current.delete(f.id)) saveFrom(`/api/jobs/${jobId}/made/${f.id}`);
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
    /** Orders a file, which is saved on this machine when it is made. */
    orderAndSave: (body: object) =>
      postJson<MadeFile>(`/api/jobs/${jobId}/made`, body).then(({ id }) => {
        toSave.current.add(id);
        look();
      }, say),
    forget: (id: number) => remove(`/api/jobs/${jobId}/made/${id}`).then(look, say),
    addressOf: (id: number) => `/api/jobs/${jobId}/made/${id}`,
  };
}

/** Lets the browser save what an address gives, under the name that comes with it. */
function saveFrom(address: string): void {
  const link = document.createElement("a");
  link.href = address;
  link.download = "";
  link.click();
}
