"use client";
/** The report of comparisons: which of them, as what, and the reports that were made with the state they are of. */
import { useState, type ReactNode } from "react";
import type { MadeFile } from "@bramble/db";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { plainName } from "../../lib/plain-name";
import { when } from "../../lib/units-shown";
import { Bench } from "../Bench";
import { about } from "@bramble/core/volumes/words";
import { useMadeFiles } from "./use-made-files";

export function ReportBench({ head }: { head: ReactNode }) {
  const { job, waiting, held } = useParts("job", "waiting", "held"),
    [left, setLeft] = useState<ReadonlySet<string>>(new Set()),
    { files, problem, order, forget, addressOf } = useMadeFiles();
  const chosen = job.volumes.map((v) => v.name).filter((name) => !left.has(name)),
    unsaved = waiting.length > 0 || held !== undefined;
  const turn = (name: string) => {
    const next = new Set(left);
    if (!next.delete(name)) next.add(name);
    setLeft(next);
  };
  const make = (format: "pdf" | "xlsx") =>
    void order({ what: "volumes", format, file: `${plainName(job.name)}-volumes.${format}`, comparisons: chosen });
  return (
    <Bench title="Volumes" about={head}>
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {job.volumes.length === 0 ? (
          <p className="text-soft">There is no comparison yet that a report could tell of. Make one first.</p>
        ) : (
          <>
            <p className="text-soft">
              What was compared, from which points and lines, by which method; figures with their ± and second opinions,
              map, sections, shots that move them most, open findings, lines to sign.
            </p>
            <table className="plain mt-3" aria-label="Comparisons of the report">
              <thead>
                <tr>
                  <th className="w-8">
                    <input
                      type="checkbox"
                      aria-label="All comparisons"
                      checked={left.size === 0}
                      onChange={() => setLeft(new Set(left.size ? [] : job.volumes.map((v) => v.name)))}
                    />
                  </th>
                  <th>Comparison</th>
                  <th>What is compared</th>
                </tr>
              </thead>
              <tbody>
                {job.volumes.map((v) => (
                  <tr key={v.name}>
                    <td>
                      <input
                        type="checkbox"
                        aria-label={v.name}
                        checked={!left.has(v.name)}
                        onChange={() => turn(v.name)}
                      />
                    </td>
                    <td className="font-medium">{v.name}</td>
                    <td className="text-soft">{about(v)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <div className="mt-3 flex items-center gap-2">
              <button
                className="button button-main"
                disabled={chosen.length === 0 || unsaved}
                onClick={() => make("pdf")}
              >
                Make it as PDF
              </button>
              <button className="button" disabled={chosen.length === 0 || unsaved} onClick={() => make("xlsx")}>
                Make it as a spreadsheet
              </button>
              <span className="text-soft">
                {held ? "A rehearsal is not stored: take or drop it first." : unsaved ? "Once all is saved." : ""}
              </span>
            </div>
          </>
        )}
        <h2 className="heading mt-6">Reports made</h2>
        {problem && (
          <p role="alert" className="text-red">
            {problem}
          </p>
        )}
        {files?.length === 0 && <p className="text-soft">None yet. Each is kept here with the state that it is of.</p>}
        {files === undefined && !problem && <p className="late text-soft">Looking for them …</p>}
        {files && files.length > 0 && (
          <table className="plain mt-1" aria-label="Reports made">
            <thead>
              <tr>
                <th>File</th>
                <th>When</th>
                <th>Who</th>
                <th>Of the job</th>
                <th>
                  <span className="sr-only">Take away</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {files.map((f) => (
                <FileRow key={f.id} file={f} address={addressOf(f.id)} forget={() => void forget(f.id)} />
              ))}
            </tbody>
          </table>
        )}
      </div>
    </Bench>
  );
}

function FileRow({ file: f, address, forget }: { file: MadeFile; address: string; forget: () => void }) {
  const under = f.state === "waiting" || f.state === "making";
  return (
    <tr>
      <td>
        {f.state === "made" ? (
          <a className="text-bramble underline" href={address} download>
            {f.file}
          </a>
        ) : (
          f.file
        )}
        <span className="block text-soft">
          {f.size !== null && `${Math.ceil(f.size / 1000)} kB, `}
          {plural(f.wanted.comparisons.length, "comparison")}
        </span>
      </td>
      <td className="whitespace-nowrap">{when(f.made ?? f.asked)}</td>
      <td className="max-w-28 truncate">{f.author}</td>
      <td>
        {under ? (
          <span role="status" className="flex items-center gap-2">
            <progress className="h-2 w-24 accent-(--bramble)" value={f.share} max={1} aria-label={`Making ${f.file}`} />
            <span className="text-soft">{f.state === "waiting" ? "waits for its turn" : f.doing}</span>
          </span>
        ) : f.state === "failed" ? (
          <span className="text-red">{f.why}</span>
        ) : (
          <StateOf file={f} />
        )}
      </td>
      <td className="text-right">
        <button
          className="button button-plain h-6"
          aria-label={`${under ? "Stop" : "Take away"} ${f.file}`}
          onClick={forget}
        >
          {under ? "Stop" : "Take away"}
        </button>
      </td>
    </tr>
  );
}

/** Of which state a file is, and how far the job has moved on since. */
function StateOf({ file }: { file: MadeFile }) {
  const { job, version } = useParts("job", "version"),
    seq = file.seq ?? 0,
    names = job.states.filter((s) => s.seq === seq).map((s) => `“${s.name}”`);
  return (
    <>
      {[...names, `after entry ${seq}`].join(", ")}
      {version > seq && (
        <span className="ml-2 text-amber">moved on since by {plural(version - seq, "entry", "entries")}</span>
      )}
    </>
  );
}
