"use client";
/** Volumes: comparisons with their figures, what defends them, and the map of cut and fill. */
import { useState, type ReactNode } from "react";
import { kindOf } from "@bramble/core/volumes/model";
import { Coming } from "../../controls/Coming";
import { useJob, useParts } from "../../lib/store";
import { volumeFigure, volumeUnitShort } from "../../lib/units-shown";
import { sayMade } from "../../lib/say-made";
import { useKept } from "../../lib/use-kept";
import { BEFORE, useKnown } from "../../lib/use-known";
import { Bench } from "../Bench";
import { BuiltBench } from "../built/BuiltBench";
import { NewComparison } from "./NewComparison";
import { OneComparison } from "./OneComparison";
import { ReportBench } from "./ReportBench";
import { useLookHere } from "./use-look";

export function VolumesBench() {
  const { job } = useParts("job"),
    [tab, setTab] = useKept("volumes.tab", "compared");
  const tabs = [
    ["compared", "Comparisons", job.volumes.length],
    ["built", "As built", job.differences.length],
    ["report", "Report", undefined],
  ] as const;
  const head = (
    <div role="tablist" aria-label="Volumes, as-built checks and their report" className="flex flex-wrap gap-x-4">
      {tabs.map(([value, name, count]) => (
        <button
          key={value}
          role="tab"
          className="tab h-7 whitespace-nowrap"
          aria-selected={tab === value}
          data-state={tab === value ? "active" : "inactive"}
          onClick={() => setTab(value)}
        >
          {name} {count !== undefined && <span className="text-soft tabular-nums">{count}</span>}
        </button>
      ))}
    </div>
  );
  if (tab === "built") return <BuiltBench head={head} />;
  return tab === "report" ? <ReportBench head={head} /> : <Comparisons head={head} />;
}

function Comparisons({ head }: { head: ReactNode }) {
  const { job, view, volume, set } = useParts("job", "view", "volume", "set");
  const { known, before } = useKnown(),
    [making, setMaking] = useState(false);
  useLookHere(volume);
  const recipe = job.volumes.find((v) => v.name === volume);
  if (job.surfaces.length === 0)
    return (
      <Bench title="Volumes" about={head}>
        <p className="px-4 text-soft">
          A volume compares a surface with another, or with a level. Make a{" "}
          <a className="text-bramble underline" href={`/jobs/${useJob.getState().jobId}/surface`}>
            surface
          </a>{" "}
          first.
        </p>
      </Bench>
    );
  const short = volumeUnitShort(job.unit, job.volumeUnit);
  return (
    <Bench
      title="Volumes"
      about={head}
      figures
      actions={
        job.volumes.length > 0 && (
          <button className="button" onClick={() => setMaking(true)}>
            New comparison
          </button>
        )
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {(making || job.volumes.length === 0) && (
          <NewComparison
            made={(name) => {
              set({ volume: name });
              setMaking(false);
              sayMade(name, `Comparison “${name}” is made.`);
            }}
            leave={job.volumes.length ? () => setMaking(false) : undefined}
          />
        )}
        {job.volumes.length > 0 && (
          <table className="plain">
            <thead>
              <tr>
                <th>Comparison</th>
                <th className="num">Cut, {short}</th>
                <th className="num">Fill, {short}</th>
                <th className="num">Net, fill − cut, {short}</th>
              </tr>
            </thead>
            <tbody>
              {job.volumes.map((v) => {
                const result = known?.comparisons.find((x) => x.name === v.name),
                  text = (x: number) => volumeFigure(x, job.unit, job.volumeUnit);
                return (
                  <tr
                    key={v.name}
                    aria-selected={v.name === volume}
                    className={`cursor-pointer ${before ? BEFORE : ""}`}
                    onClick={() => set({ volume: v.name })}
                  >
                    <td>
                      <button className="text-left font-medium" onClick={() => set({ volume: v.name })}>
                        {v.name}
                      </button>
                    </td>
                    {!result ? (
                      <td colSpan={3}>
                        <Coming failure={view.volumes.find((x) => x.name === v.name)?.failure} />
                      </td>
                    ) : result.holds !== undefined || kindOf(v) === "heap" ? (
                      <td colSpan={3} className="num">
                        {result.holds === undefined ? `a heap of ${text(-result.net)}` : `holds ${text(result.holds)}`}
                      </td>
                    ) : (
                      <>
                        <td className="num">{text(result.cut)}</td>
                        <td className="num">{text(result.fill)}</td>
                        <td className="num">{text(result.net)}</td>
                      </>
                    )}
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
        {recipe && !making && <OneComparison key={recipe.name} recipe={recipe} />}
      </div>
    </Bench>
  );
}
