"use client";
/** What a setup wrote as one number and is another point: what the geometry says, what a person says, taken back at a press. */
import { useState } from "react";
import { fitOf } from "@bramble/core/checks/setups";
import { numberIndex } from "@bramble/core/points/index";
import type { SetupReport } from "@bramble/core/points/setup-report";
import type { SetupEdit } from "@bramble/core/points/setups";
import { useParts } from "../../lib/store";
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

export function OtherSights({
  setup,
  edit,
  take,
}: {
  setup: SetupReport;
  edit: SetupEdit | undefined;
  /** One number is another point; the number itself takes that back. */
  take: (was: string, is: string) => void;
}) {
  const { job } = useParts("job"),
    [open, setOpen] = useState(false);
  return (
    <div className="pb-2">
      {setup.likely.map((l) => (
        <p key={`${l.was} ${l.is}`} className="flex min-h-8 flex-wrap items-center gap-x-3 text-amber">
          <span>
            Sight {l.was} was likely point {l.is}: {fitOf(l, job.unit)}.
          </span>
          <button className="button h-6" onClick={() => take(l.was, l.is)}>
            {l.was} is {l.is}
          </button>
        </p>
      ))}
      {edit?.renamed?.map(({ was, is }) => (
        <p key={was} className="flex min-h-8 items-center gap-3">
          <span>
            What was written as {was} is point {is}.
          </span>
          <button
            className="button button-plain h-6"
            aria-label={`${was} is ${was} again`}
            onClick={() => take(was, was)}
          >
            As received
          </button>
        </p>
      ))}
      {open ? (
        <SightForm take={take} leave={() => setOpen(false)} setup={setup} />
      ) : (
        <button className="button button-plain h-6 px-0" onClick={() => setOpen(true)}>
          A number was mistyped here …
        </button>
      )}
    </div>
  );
}

function SightForm({
  setup,
  take,
  leave,
}: {
  setup: SetupReport;
  take: (was: string, is: string) => void;
  leave: () => void;
}) {
  const { job } = useParts("job");
  const [was, setWas] = useState(setup.sights[0] ?? ""),
    [is, setIs] = useState(""),
    [problem, setProblem] = useState("");
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      aria-label="A mistyped number"
      onSubmit={(event) => {
        event.preventDefault();
        const to = is.trim();
        if (!numberIndex(job.points).has(to)) return setProblem(`The job has no point “${to}”.`);
        take(was.trim(), to);
        leave();
      }}
    >
      <Typed
        label="Written as"
        width="w-28"
        text={was}
        onType={setWas}
        offers={setup.sights.map((s) => [s] as const)}
      />
      <Typed label="Is point" text={is} onType={setIs} wrong={problem !== ""} width="w-28" />
      <button className="button" {...unless((!was.trim() || !is.trim()) && "Type both numbers first.")}>
        Take it so
      </button>
      <button type="button" className="button button-plain" onClick={leave}>
        Leave it
      </button>
      {problem && (
        <span role="alert" className="basis-full text-[11.5px] text-red">
          {problem}
        </span>
      )}
    </form>
  );
}
