"use client";
/** A rehearsal: what was changed in it, and what becomes of findings, lines, surfaces and volumes; to be taken or dropped. */
import { useState } from "react";
import { describeChange, type Trial } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../lib/store";
import { area } from "../lib/units-shown";
import { Findings, Lines, Row, Volumes } from "../bench/states/Effect";

export function Rehearsal() {
  const { held, view, endRehearsal } = useParts("held", "view", "endRehearsal"),
    [open, setOpen] = useState(true);
  if (!held) return null;
  const trial = view.rehearsal;
  return (
    <section
      aria-label="Rehearsal"
      className="border-t border-bramble bg-bramble-wash px-4 py-1.5 text-[13px] shadow-sm print:hidden"
    >
      <div className="flex min-h-7 flex-wrap items-center gap-3">
        <span className="font-semibold text-bramble">Rehearsal</span>
        <span className="min-w-40 flex-1">
          {held.length === 0
            ? "Change what you like: nothing is stored until you take it."
            : `${plural(held.length, "change")}, not stored: ${listed(held.map((w) => describeChange(w.change)))}.`}
        </span>
        {held.length > 0 && (
          <button className="button h-6" aria-expanded={open} onClick={() => setOpen(!open)}>
            Before and after
          </button>
        )}
        {held.length > 0 && (
          <button className="button button-main h-6" onClick={() => endRehearsal(true)}>
            Take {held.length === 1 ? "it" : "all"}
          </button>
        )}
        <button className="button h-6" onClick={() => endRehearsal(false)}>
          {held.length === 0 ? "End it" : `Drop ${held.length === 1 ? "it" : "all"}`}
        </button>
      </div>
      {open && held.length > 0 && trial && <BeforeAndAfter trial={trial} />}
    </section>
  );
}

function listed(deeds: string[]): string {
  return deeds.length > 4 ? `${deeds.slice(0, 3).join("; ")} and ${deeds.length - 3} more` : deeds.join("; ");
}

function BeforeAndAfter({ trial: t }: { trial: Trial }) {
  const { job } = useParts("job"),
    none =
      t.lines.length + t.gone.length + t.come.length + t.surfaces.length === 0 &&
      t.volumes.every((v) => v.was?.net === v.now?.net);
  if (none) return <p className="pb-1 text-soft">Lines, findings, surfaces and volumes stay as they are.</p>;
  return (
    <div className="flex max-h-44 flex-wrap items-start gap-x-10 gap-y-2 overflow-auto pb-1 [&>*]:max-w-[34rem] [&>*]:min-w-72">
      <table aria-label="Volumes and surfaces in the rehearsal">
        <tbody className="align-top">
          <Volumes trial={t} />
          {t.surfaces.map((s) => (
            <Row
              key={s.name}
              what={`Surface ${s.name}`}
              from={
                s.was && s.now && s.was.area === s.now.area
                  ? ""
                  : s.was
                    ? area(s.was.area, job.unit, job.areaUnit)
                    : "none"
              }
              to={
                s.was && s.now && s.was.area === s.now.area
                  ? "other levels"
                  : s.now
                    ? area(s.now.area, job.unit, job.areaUnit)
                    : "none"
              }
            />
          ))}
        </tbody>
      </table>
      <table aria-label="Lines in the rehearsal">
        <tbody className="align-top">
          <Lines trial={t} />
        </tbody>
      </table>
      <div>
        <Findings title="Findings that go" list={t.gone} tone="text-leaf" />
        <Findings title="Findings that come" list={t.come} tone="text-amber" />
      </div>
    </div>
  );
}
