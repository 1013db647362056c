"use client";
/** The setups of a file that is looked at, reduced, and the control that they do not meet. */
import { settingOf, type Look } from "@bramble/core";
import { useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { SetupReportView, SetupsTable } from "./SetupsTable";

export function LookedSetups({
  look,
  selected,
  select,
}: {
  look: Look;
  selected: string | undefined;
  select: (setup: string | undefined) => void;
}) {
  const { job } = useParts("job");
  const shown = look.setups.find((s) => s.id === selected);
  return (
    <section aria-label="Setups" className="mt-4">
      <h2 className="heading">
        Setups{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          reduced to {grouped(look.points)} points; choose one for its report
        </span>
      </h2>
      <SetupsTable
        setups={look.setups}
        unit={job.unit}
        angle={settingOf(job, "angle")}
        selected={selected}
        onSelect={(id) => select(id === selected ? undefined : id)}
      />
      {look.misclosures.map((text) => (
        <p key={text} role="alert" className="mt-1 border-l-2 border-amber px-3 text-amber">
          {text}
        </p>
      ))}
      {shown && (
        <div className="mt-2">
          <SetupReportView setup={shown} unit={job.unit} numberAt={(i) => look.numberAt[i]} />
        </div>
      )}
    </section>
  );
}
