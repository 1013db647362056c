"use client";
/** A point's story: as it came, what the office did to it, what uses it, and what was found about it. */
import { useEffect, useState } from "react";
import { changeDetails, namesIn, sentenceOf } from "@bramble/core";
import { detailNames } from "@bramble/core/job/change/details";
import { lineName } from "@bramble/core/lines/model";
import { rowOf } from "@bramble/core/points/table";
import type { LedgerEntry } from "@bramble/db";
import { getJson } from "../../lib/client";
import { goToFinding } from "../../lib/findings";
import { surfaceUse } from "../../lib/point-facts";
import { useParts } from "../../lib/store";
import { openLine } from "../../lib/subjects";
import { Constructed } from "../maker/Constructed";
import { when } from "../../lib/units-shown";

export function Story({ id, close }: { id: number; close: () => void }) {
  const { job, view, jobId, ledger } = useParts("job", "view", "jobId", "ledger");
  const { entries, failure } = useEntries(jobId, id, ledger[0]?.seq);
  const t = job.points,
    i = rowOf(t, id);
  if (i < 0) return null;
  const names = namesIn(t, view.lines),
    intake = job.intakes[t.intake[i]!],
    came = t.cameAs?.[id],
    setups = view.pointSetups.get(i) ?? [],
    use = surfaceUse(job, view, i),
    lines = view.lines.filter((l) => l.shots.includes(i)),
    surfaces = view.surfaces.filter((s) => use.used && s.value?.surface.point.includes(i)),
    findings = view.findings.filter((f) => f.points.includes(id));
  return (
    <section
      aria-label={`Story of point ${t.number[i]}`}
      className="flex max-h-[45%] min-h-32 shrink-0 flex-col border-t border-rule bg-bench"
      onKeyDown={(event) => event.key === "Escape" && close()}
    >
      <div className="flex items-center gap-3 px-4 pt-2">
        <h2 className="heading flex-1">Point {t.number[i]}</h2>
        <button className="button button-plain h-6" onClick={close}>
          Close
        </button>
      </div>
      <dl className="grid min-h-0 grid-cols-[6.5rem_1fr] gap-x-3 gap-y-1 overflow-auto px-4 pt-1 pb-3">
        <dt className="label pt-0.5">Came</dt>
        <dd>
          {intake ? `with ${intake.file}, row ${t.row[i]}` : "from the office"}
          {came !== undefined && `, as ${came}`}
          {intake?.crew && `, crew ${intake.crew}`}
          {setups.length > 0 && `; observed from ${setups.join(", ")}`}
          {t.follows[i] ? (intake ? ", and follows what was observed" : ", and follows its construction") : ""}
        </dd>
        {!intake && (
          <>
            <dt className="label pt-0.5">Made</dt>
            <dd>
              <Constructed id={id} />
            </dd>
          </>
        )}
        <dt className="label pt-0.5">Surfaces</dt>
        <dd>
          {use.used ? "in" : "out"}: {use.why}
          {surfaces.length > 0 && `; used by ${surfaces.map((s) => s.name).join(", ")}`}
        </dd>
        <dt className="label pt-0.5">Lines</dt>
        <dd>
          {lines.length === 0
            ? "none"
            : lines.map((l) => (
                <button key={l.key} className="mr-3 text-bramble underline" onClick={() => openLine(l.key)}>
                  {lineName(l)}
                </button>
              ))}
        </dd>
        <dt className="label pt-0.5">Findings</dt>
        <dd>
          {findings.length === 0
            ? "none"
            : findings.map((f) => (
                <button key={f.key} className="block text-left hover:text-bramble" onClick={() => goToFinding(f)}>
                  {sentenceOf(f, names)}
                  {f.accepted !== undefined && <span className="text-leaf"> Accepted: {f.accepted}</span>}
                </button>
              ))}
        </dd>
        <dt className="label pt-0.5">Edits</dt>
        <dd>
          {failure ??
            (entries === undefined
              ? "being looked up …"
              : entries.length === 0
                ? "none: it is as it came"
                : entries.map((l) => <Edit key={l.seq} entry={l} />))}
        </dd>
      </dl>
    </section>
  );
}

function Edit({ entry }: { entry: LedgerEntry }) {
  const { job } = useParts("job"),
    { details } = changeDetails(entry.change, detailNames(job.points, job.intakes, job.unit), 8);
  return (
    <p className={entry.undone ? "text-soft line-through" : ""}>
      <span className="text-soft">
        {when(entry.at)}, {entry.author}:{" "}
      </span>
      {details.length === 0
        ? entry.text
        : details.map((d) => `${d.what.slice(d.what.indexOf(", ") + 2)} ${d.from} → ${d.to}`).join("; ")}
    </p>
  );
}

/** The entries that did something to the point; asked for again when the ledger goes on. */
function useEntries(jobId: number, id: number, latest: number | undefined) {
  const [seen, setSeen] = useState<{ id: number; entries?: LedgerEntry[]; failure?: string }>();
  useEffect(() => {
    let current = true;
    getJson<LedgerEntry[]>(`/api/jobs/${jobId}/ledger?point=${id}`)
      .then((entries) => current && setSeen({ id, entries }))
      .catch((e: unknown) => current && setSeen({ id, failure: e instanceof Error ? e.message : String(e) }));
    return () => {
      current = false;
    };
  }, [jobId, id, latest]);
  return seen?.id === id ? seen : { id, entries: undefined, failure: undefined };
}
