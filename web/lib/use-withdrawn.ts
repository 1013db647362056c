"use client";
/** Points of withdrawn deliveries that are called so: the page has them no more, the server is asked. */
import { useEffect, useState } from "react";
import type { WithdrawnPoint } from "@bramble/db";
import { getJson } from "./client";
import type { Choice } from "./go-to";
import { openPlace } from "./navigate";
import { useParts } from "./store";

/** Not at every letter of a word. */
const PAUSE = 150;

export function useWithdrawn(wanted: string): Choice[] {
  const { jobId, withdrawn } = useParts("jobId", "withdrawn"),
    number = wanted.trim();
  const [found, setFound] = useState<{ number: string; points: WithdrawnPoint[] }>();
  useEffect(() => {
    if (number === "" || withdrawn.length === 0) return;
    let current = true;
    const asking = setTimeout(() => {
      getJson<WithdrawnPoint[]>(`/api/jobs/${jobId}/withdrawn?number=${encodeURIComponent(number)}`)
        .then((points) => current && setFound({ number, points }))
        // Without the server nothing is known of them.
        .catch(() => undefined);
    }, PAUSE);
    return () => {
      current = false;
      clearTimeout(asking);
    };
  }, [jobId, withdrawn, number]);
  if (found?.number !== number || withdrawn.length === 0) return [];
  return found.points.map((p) => ({
    kind: "Point",
    name: `${p.number}, in ${p.file}, which is withdrawn`,
    go: () => openPlace("intake"),
  }));
}
