"use client";
/** Intake: what the field has delivered, one delivery looked into, and the next looked at before it is taken in. */
import { useEffect, useMemo, useRef } from "react";
import { unplacedPerIntake } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { getBytes } from "../../lib/client";
import { lookAgain, nextFile, offerFiles, WAITING, type Incoming } from "../../lib/incoming";
import { useParts } from "../../lib/store";
import { grouped, when } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { Bench } from "../Bench";
import { IntakeDetail } from "./IntakeDetail";
import { KeptLayouts } from "./KeptLayouts";
import { LookAtFile } from "./LookAtFile";
import { FileInput } from "../../controls/FileInput";

export function IntakeBench() {
  const { intakes, withdrawn, jobId } = useParts("intakes", "withdrawn", "jobId");
  const [waiting] = useKept<readonly Incoming[]>(WAITING, NONE);
  const [chosen, setChosen] = useKept<string | undefined>("intake.chosen", undefined);
  const input = useRef<HTMLInputElement>(null),
    chooser = useRef<HTMLButtonElement>(null),
    looked = useRef(false);
  const incoming = waiting[0];
  // The look went with whatever had the keyboard in it.
  useEffect(() => {
    if (looked.current && !incoming && document.activeElement === document.body) chooser.current?.focus();
    looked.current = incoming !== undefined;
  }, [incoming]);
  if (incoming)
    return (
      <LookAtFile
        key={`${incoming.name} ${incoming.size} ${incoming.file?.lastModified ?? "again"}`}
        incoming={incoming}
        others={waiting.length - 1}
        leave={nextFile}
      />
    );
  const shown = intakes.find((k) => k.id === chosen) ?? intakes.at(-1);
  return (
    <Bench
      title="Intake"
      about={
        intakes.length
          ? `${intakes.length} ${intakes.length === 1 ? "delivery" : "deliveries"} from the field`
          : "Nothing has come from the field yet"
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        <div
          className={`flex items-center gap-4 rounded-sm border border-dashed border-rule px-4 ${intakes.length ? "py-3" : "py-8"}`}
          data-testid="drop"
        >
          <div className="min-w-0 flex-1">
            <p className="font-medium">Take in files</p>
            <p className="text-soft">
              Text, LandXML, GeoJSON, SQLite or GeoPackage, DXF or a spreadsheet. Drop them anywhere or choose them; you
              see what was read of each before anything is stored.
            </p>
          </div>
          <FileInput input={input} label="File to take in" many take={offerFiles} />
          <button ref={chooser} className="button button-main" onClick={() => input.current?.click()}>
            Choose files
          </button>
        </div>
        {intakes.length > 0 && <Intakes shown={shown?.id} choose={setChosen} />}
        {shown && (
          <IntakeDetail
            key={`${shown.id} ${shown.rowId}`}
            intake={shown}
            readAgain={() =>
              lookAgain(
                shown,
                async () => (await getBytes(`/api/jobs/${jobId}/intakes/${encodeURIComponent(shown.id)}`)).buffer,
              )
            }
          />
        )}
        <KeptLayouts />
        {withdrawn.length > 0 && <Withdrawn />}
      </div>
    </Bench>
  );
}

const NONE: readonly Incoming[] = [];

function Intakes({ shown, choose }: { shown: string | undefined; choose: (id: string) => void }) {
  const { job, intakes, view } = useParts("job", "intakes", "view"),
    unplaced = useMemo(() => unplacedPerIntake(job.points, job.intakes.length), [job.points, job.intakes.length]);
  return (
    <table className="plain mt-4" aria-label="Intakes">
      <thead>
        <tr>
          <th>File</th>
          <th>Taken in</th>
          <th>Crew</th>
          <th className="num">Rows</th>
          <th className="num">Points</th>
          <th className="num">Findings</th>
        </tr>
      </thead>
      <tbody>
        {intakes.map((k, i) => (
          <tr
            key={k.id}
            aria-selected={k.id === shown}
            className="cursor-pointer hover:bg-bench"
            onClick={() => choose(k.id)}
          >
            <td className="max-w-52 truncate">
              <button className="w-full truncate text-left font-medium hover:text-bramble" title={k.file}>
                {k.file}
              </button>
            </td>
            <td className="whitespace-nowrap text-soft" suppressHydrationWarning>
              {when(k.taken)}, {k.author}
            </td>
            <td>{k.crew ?? "–"}</td>
            <td className="num">{grouped(k.rows)}</td>
            <td
              className={`num ${unplaced[i] ? "text-amber" : ""}`}
              title={
                unplaced[i]
                  ? `${plural(unplaced[i], "observed point has", "observed points have")} no position yet: look at the setups`
                  : undefined
              }
            >
              {grouped(k.points - (unplaced[i] ?? 0))}
            </td>
            <td className={`num ${view.findingsOf[i] ? "text-amber" : "text-soft"}`}>{view.findingsOf[i] ?? 0}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Withdrawn() {
  const { withdrawn, restore } = useParts("withdrawn", "restore");
  return (
    <section aria-label="Withdrawn" className="mt-6">
      <h2 className="label">Withdrawn</h2>
      {withdrawn.map((k) => (
        <div key={k.rowId} className="row justify-between gap-3">
          <span className="truncate text-soft">
            {k.file}, {grouped(k.points)} points
          </span>
          <button className="button h-6" onClick={() => void restore(k.id)}>
            Restore
          </button>
        </div>
      ))}
    </section>
  );
}
