"use client";
/** Intake: what the field has delivered, and the next delivery looked at before it is taken in. */
import { useRef, useState, type DragEvent } from "react";
import { boxOfPoints, useJob } from "../lib/store";
import { when } from "../lib/units-shown";
import { Bench } from "./Bench";
import { LookAtFile } from "./LookAtFile";

export function IntakeBench() {
  const { intakes, withdrawn, jobId, job, select, show, withdraw } = useJob();
  const [file, setFile] = useState<File>();
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  if (file) return <LookAtFile key={`${file.name} ${file.lastModified} ${file.size}`} file={file} leave={() => setFile(undefined)} />;

  const goTo = (place: number) => {
    const t = job.points;
    const places: number[] = [];
    for (let i = 0; i < t.count; i++) if (t.intake[i] === place && !t.deleted[i]) places.push(i);
    select({ points: places.map((i) => t.id[i]!) });
    show(boxOfPoints(t, places));
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [dropped] = event.dataTransfer.files;
    if (dropped) setFile(dropped);
  };
  return (
    <Bench title="Intake" about={intakes.length ? `${intakes.length} ${intakes.length === 1 ? "delivery" : "deliveries"} from the field` : "Nothing has come from the field yet"}>
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        <div
          className={`flex items-center gap-4 rounded-sm border border-dashed px-4 py-5 ${over ? "border-bramble bg-bramble-wash" : "border-rule"}`} data-testid="drop"
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)} onDrop={onDrop}
        >
          <div className="min-w-0 flex-1">
            <p className="font-medium">Take in a file of points</p>
            <p className="text-soft">Delimited text: drop it here or choose it. You see what was read before anything is stored.</p>
          </div>
          <input ref={input} type="file" className="sr-only" aria-label="File to take in" tabIndex={-1} onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            if (chosen) setFile(chosen);
            event.target.value = "";
          }} />
          <button className="button button-main" onClick={() => input.current?.click()}>Choose a file</button>
        </div>
        {intakes.map((k, place) => (
          <article key={k.id} className="mt-5" aria-label={`Intake ${k.id}`}>
            <div className="flex items-baseline gap-3">
              <h2 className="heading min-w-0 flex-1 truncate">{k.file}</h2>
              <span className="shrink-0 text-soft" suppressHydrationWarning>{when(k.taken)}, {k.author}</span>
            </div>
            <div className="-ml-1.5 flex gap-3">
              <button className="button button-plain" onClick={() => goTo(place)}>Show its points</button>
              <a className="button button-plain" href={`/api/jobs/${jobId}/intakes/${encodeURIComponent(k.id)}`}>Save as received</a>
              <button className="button button-plain" onClick={() => void withdraw(k.id)}>Withdraw</button>
            </div>
            <dl className="rows mt-1 grid grid-cols-3 gap-x-6">
              {([["Crew", k.crew ?? "–"], ["Kind", k.kind], ["Rows", k.rows], ["Points", k.points], ["Refused", k.refused.length], ["Number clashes", k.clashes.length], ["Without elevation", missingIn(job.points, place)], ["Size", `${(k.bytes / 1000).toFixed(1)} kB`], ["Unit", k.unit ?? job.unit]] as const).map(([name, value]) => (
                <div key={name} className="row justify-between"><dt className="text-soft">{name}</dt><dd className="tabular-nums">{value}</dd></div>
              ))}
            </dl>
            {k.notes.map((n) => <p key={n} className="mt-1 text-soft">{n}</p>)}
            {k.refused.slice(0, 5).map((r) => <p key={r.row} className="mt-1 text-amber">Row {r.row}: {r.reason}.</p>)}
            {k.clashes.slice(0, 5).map((c) => <p key={c.row} className="mt-1 text-amber">Row {c.row}: number {c.number} was there already, {c.became === "passed over" || c.became === "replaced" ? c.became : `taken in as ${c.became}`}.</p>)}
          </article>
        ))}
        {withdrawn.length > 0 && <p className="mt-5 text-soft">Withdrawn: {withdrawn.map((k) => k.file).join(", ")}. Undo in the ledger brings them back.</p>}
      </div>
    </Bench>
  );
}

function missingIn(t: { count: number; intake: Int32Array; z: Float64Array; deleted: Uint8Array }, place: number): number {
  let n = 0;
  for (let i = 0; i < t.count; i++) if (t.intake[i] === place && !t.deleted[i] && Number.isNaN(t.z[i]!)) n++;
  return n;
}
