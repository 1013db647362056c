"use client";
/** The report of comparisons: which of them, as what, and the reports that were made with the state they are of. */
import { useState, type ReactNode } from "react";
import { plainName } from "@bramble/core";
import { useParts } from "../../lib/store";
import { Bench } from "../Bench";
import { about } from "@bramble/core/volumes/words";
import { MadeFilesTable } from "../made/MadeFiles";
import { useMadeFiles } from "../made/use-made-files";
import { unless } from "../../controls/unless";
import { Tick } from "../../controls/fields/Tick";

export function ReportBench({ head }: { head: ReactNode }) {
  const { job, waiting, held } = useParts("job", "waiting", "held"),
    [left, setLeft] = useState<ReadonlySet<string>>(new Set()),
    made = useMadeFiles();
  const chosen = job.volumes.map((v) => v.name).filter((name) => !left.has(name)),
    wait = held
      ? "A rehearsal is not stored: take or drop it first."
      : waiting.length > 0
        ? "Once all is saved."
        : chosen.length === 0 && "Choose a comparison first.";
  const turn = (name: string) => {
    const next = new Set(left);
    if (!next.delete(name)) next.add(name);
    setLeft(next);
  };
  const make = (format: "pdf" | "xlsx") =>
    void made.order({ what: "volumes", format, file: `${plainName(job.name)}-volumes.${format}`, comparisons: chosen });
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
                    <Tick
                      label="All comparisons"
                      on={left.size === 0}
                      set={() => setLeft(new Set(left.size ? [] : job.volumes.map((v) => v.name)))}
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
                      <Tick label={v.name} on={!left.has(v.name)} set={() => turn(v.name)} />
                    </td>
                    <td className="font-medium">{v.name}</td>
                    <td className="text-soft">{about(v)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <div className="mt-3 flex items-center gap-2">
              <button className="button button-main" {...unless(wait)} onClick={() => make("pdf")}>
                Make it as PDF
              </button>
              <button className="button" {...unless(wait)} onClick={() => make("xlsx")}>
                Make it as a spreadsheet
              </button>
              <span className="text-soft">{wait}</span>
            </div>
          </>
        )}
        <MadeFilesTable made={made} what="volumes" title="Reports made" />
      </div>
    </Bench>
  );
}
