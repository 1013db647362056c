"use client";
/** What would become of the job if a delivery were read in another way: before and after, then taken or left. */
import { useEffect, useState } from "react";
import type { StoredIntake } from "@bramble/db";
import { Overlay } from "../../controls/Overlay";
import { ComparedStates } from "../states/ComparedStates";
import { postJson } from "../../lib/client";
import type { JobCompared } from "../../sent/job-compared";
import { useParts } from "../../lib/store";
import { unless } from "../../controls/unless";

export function RehearseReading({
  intake,
  options,
  take,
  close,
}: {
  intake: StoredIntake;
  options: object;
  take: () => void;
  close: () => void;
}) {
  const { jobId } = useParts("jobId"),
    [seen, setSeen] = useState<JobCompared | { problem: string }>();
  useEffect(() => {
    let isWanted = true;
    postJson<JobCompared>(`/api/jobs/${jobId}/intakes/${encodeURIComponent(intake.id)}`, {
      action: "rehearse",
      options,
    }).then(
      (told) => isWanted && setSeen(told),
      (e: Error) => isWanted && setSeen({ problem: e.message }),
    );
    return () => {
      isWanted = false;
    };
  }, [jobId, intake.id, options]);
  return (
    <Overlay open close={close} title={`“${intake.file}” read again: a rehearsal`} width={920}>
      <div className="min-h-40 overflow-auto pt-3">
        {seen === undefined ? (
          <p className="text-soft">It is read, and lines, surfaces and volumes are worked out; nothing is stored …</p>
        ) : "problem" in seen ? (
          <p role="alert" className="text-red">
            {seen.problem}
          </p>
        ) : (
          <ComparedStates told={seen} />
        )}
      </div>
      <div className="flex justify-end gap-2 border-t border-rule pt-3">
        <button className="button" onClick={close}>
          Drop it
        </button>
        <button
          className="button button-main"
          {...unless(!seen ? "It is being worked out." : "problem" in seen && "It cannot be read so.")}
          onClick={take}
        >
          Take it
        </button>
      </div>
    </Overlay>
  );
}
