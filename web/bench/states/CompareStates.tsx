"use client";
/** Two states of the job side by side: figures with the entries that moved them, points, lines and findings. */
import { useEffect, useState } from "react";
import type { JobCompared } from "../../sent/job-compared";
import { getJson } from "../../lib/client";
import { useParts } from "../../lib/store";
import { Overlay } from "../../controls/Overlay";
import { ComparedStates } from "./ComparedStates";
import { Choice } from "../../controls/fields/Choice";

/** The job as it is now, whatever comes. */
const NOW = -1;

export function CompareStates({ first, close }: { first: number; close: () => void }) {
  const { job, jobId, version } = useParts("job", "jobId", "version");
  const [from, setFrom] = useState(first),
    [to, setTo] = useState(NOW);
  const named = [...job.states].sort((a, b) => a.seq - b.seq),
    last = to === NOW ? version : to;
  const seen = useCompared(jobId, Math.min(from, last), Math.max(from, last));
  const options = [
    ...(named.some((s) => s.seq === 0) ? [] : [{ seq: 0, name: "before the first entry" }]),
    ...named.map((s) => ({ ...s, name: `${s.name} (after entry ${s.seq})` })),
    ...(named.some((s) => s.seq === first) || first === 0 ? [] : [{ seq: first, name: `after entry ${first}` }]),
  ];
  const choice = (label: string, value: number, set: (seq: number) => void, more: typeof options) => (
    <Choice
      label={label}
      width="w-72"
      value={value}
      onChange={set}
      options={[...options, ...more].map((o) => [o.seq, o.name] as const)}
    />
  );
  return (
    <Overlay open close={close} title="Two states of the job" width={920}>
      <div className="mt-3 flex flex-wrap items-end gap-4 border-b border-rule pb-3">
        {choice("From", from, setFrom, [])}
        {choice("To", to, setTo, [{ seq: NOW, name: "as it is now" }])}
        <span className="flex-1" />
        <button className="button" onClick={close}>
          Close
        </button>
      </div>
      <div className="min-h-40 overflow-auto pt-3">
        {seen === undefined ? (
          <p className="late text-soft">The two states are being worked out …</p>
        ) : "problem" in seen ? (
          <p role="alert" className="text-red">
            {seen.problem}
          </p>
        ) : (
          <ComparedStates told={seen} here={last === version} />
        )}
      </div>
    </Overlay>
  );
}

/** Asked again when the job moves on; given up when nobody looks any more. */
function useCompared(jobId: number, from: number, to: number): JobCompared | { problem: string } | undefined {
  const [seen, setSeen] = useState<{ key: string; is: JobCompared | { problem: string } }>(),
    key = `${from} ${to}`;
  useEffect(() => {
    const stop = new AbortController();
    getJson<JobCompared>(`/api/jobs/${jobId}/compare?from=${from}&to=${to}`, stop.signal).then(
      (is) => setSeen({ key, is }),
      (e: Error) => {
        if (!stop.signal.aborted) setSeen({ key, is: { problem: e.message } });
      },
    );
    return () => stop.abort();
  }, [jobId, from, to, key]);
  return seen?.key === key ? seen.is : undefined;
}
