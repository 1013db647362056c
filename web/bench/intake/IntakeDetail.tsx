"use client";
/** One delivery: what came of it, its rows and bytes as received, its setups; read again, withdrawn. */
import { useMemo, useState } from "react";
import { Tabs } from "radix-ui";
import { lengthText, settingOf, setupName, type SetupEdit } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { orderedNumbers, writeNumbers } from "@bramble/core/points/numbers";
import { withSight } from "@bramble/core/points/setups";
import type { SetupReport } from "@bramble/core/points/setup-report";
import type { StoredIntake } from "@bramble/db";
import { boxOfPoints } from "../../lib/box";
import { surfaceOfFile, takeFileSurface } from "../../lib/file-surface";
import { useParts } from "../../lib/store";
import { decimalsOf, grouped } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { LengthField } from "../../controls/fields/fields";
import { Aside } from "./Aside";
import { BytesView, LinesView } from "./AsReceived";
import { FORMAT_NAMES } from "./names";
import { OtherSights } from "./OtherSights";
import { SetupReportView, SetupsTable } from "./SetupsTable";
import { TakenText } from "../../controls/fields/TakenText";
import { Tick } from "../../controls/fields/Tick";

const TEXT = ["delimited", "fixed", "landxml", "geojson", "dxf"];

export function IntakeDetail({ intake: k, readAgain }: { intake: StoredIntake; readAgain: () => void }) {
  const { jobId, job, view, select, show, withdraw } = useParts("jobId", "job", "view", "select", "show", "withdraw");
  const row = job.intakes.findIndex((x) => x.id === k.id);
  const setups = useMemo(() => view.setups.filter((s) => s.intake === row), [view.setups, row]);
  const goTo = () => {
    const t = job.points;
    const rows: number[] = [];
    for (let i = 0; i < t.count; i++) if (t.intake[i] === row && !t.deleted[i]) rows.push(i);
    select({ points: rows.map((i) => t.id[i]!) });
    show(boxOfPoints(t, rows));
  };
  const [wanted, setTab] = useKept("intake.tab", "came");
  const isText = TEXT.includes(k.format ?? "delimited");
  const tabs = [
    ["came", "What came"],
    ...(k.setups ? [["setups", `Setups ${k.setups}`]] : []),
    ...(isText ? [["rows", "Rows"]] : []),
    ["bytes", "Bytes"],
  ] as const;
  const tab = tabs.some(([value]) => value === wanted) ? wanted : "came";
  const facts: [string, string | number][] = [
    ["Format", FORMAT_NAMES[k.format ?? "delimited"]],
    ["Kind", k.kind ?? "measured"],
    ["Unit", k.unit ?? (k.format === "landxml" ? "as in the file" : job.unit)],
    ["Refused", k.refused.length],
    ["Number clashes", k.clashes.length],
    ["Without elevation", missingIn(job.points, row)],
    ["Size", `${(k.bytes / 1000).toFixed(1)} kB`],
    ["Reference lines", k.reference?.lines ?? 0],
    ["Reference surfaces", k.reference?.surfaces.length ?? 0],
  ];
  return (
    <article className="mt-5" aria-label={`Intake ${k.id}`}>
      <div>
        <h2 className="heading min-w-0 truncate">{k.file}</h2>
        <div className="-ml-1.5 flex gap-3">
          <button className="button button-plain" onClick={goTo}>
            Show its points
          </button>
          <button className="button button-plain" onClick={readAgain}>
            Read again
          </button>
          <a className="button button-plain" href={`/api/jobs/${jobId}/intakes/${encodeURIComponent(k.id)}`}>
            Save as received
          </a>
          <button className="button button-plain" onClick={() => void withdraw(k.id)}>
            Withdraw
          </button>
        </div>
      </div>
      <Tabs.Root value={tab} onValueChange={setTab} className="mt-1">
        <Tabs.List className="flex gap-4 border-b border-rule" aria-label="Of this intake">
          {tabs.map(([value, name]) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="-mb-px h-7 border-b-2 border-transparent text-soft hover:text-bramble data-[state=active]:border-bramble data-[state=active]:font-medium data-[state=active]:text-bramble"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="came">
          <dl className="grid grid-cols-3 gap-x-6">
            {facts.map(([name, value]) => (
              <div key={name} className="row justify-between gap-2">
                <dt className="text-soft">{name}</dt>
                <dd className="truncate tabular-nums">{typeof value === "number" ? grouped(value) : value}</dd>
              </div>
            ))}
          </dl>
          {k.notes.map((n) => (
            <p key={n} className="mt-1 text-soft">
              {n}
            </p>
          ))}
          {k.refused.slice(0, 8).map((r) => (
            <p key={`${r.row} ${r.reason}`} className="mt-1 text-amber">
              Row {r.row}: {r.reason}.
            </p>
          ))}
          {k.refused.length > 8 && (
            <p className="mt-1 text-soft">
              and {grouped(k.refused.length - 8)} more refused rows; they stand marked among the rows.
            </p>
          )}
          {k.clashes.slice(0, 8).map((c) => (
            <p key={c.row} className="mt-1 text-amber">
              Row {c.row}: number {c.number} was there already,{" "}
              {c.became === "passed over" || c.became === "replaced" ? c.became : `taken in as ${c.became}`}.
            </p>
          ))}
          {k.clashes.length > 8 && (
            <p className="mt-1 text-soft">and {grouped(k.clashes.length - 8)} more numbers used twice.</p>
          )}
          <Aside intake={k} />
          <Surfaces intake={k} />
        </Tabs.Content>
        {k.setups > 0 && (
          <Tabs.Content value="setups">
            <Setups intake={k.id} setups={setups} />
          </Tabs.Content>
        )}
        {isText && (
          <Tabs.Content value="rows">
            <LinesView intake={k} />
          </Tabs.Content>
        )}
        <Tabs.Content value="bytes">
          <BytesView intake={k} />
        </Tabs.Content>
      </Tabs.Root>
    </article>
  );
}

/** Surfaces that a file brings become surfaces of the job at a press. */
function Surfaces({ intake: k }: { intake: StoredIntake }) {
  const { job, change } = useParts("job", "change");
  if (!k.reference?.surfaces.length) return null;
  return (
    <div className="mt-2">
      {k.reference.surfaces.map((name) => {
        const used = surfaceOfFile(job, k.file, name);
        return (
          <div key={name} className="row justify-between gap-3">
            <span className="truncate">Surface “{name}”</span>
            {used ? (
              <span className="text-leaf">used as surface “{used.name}”</span>
            ) : (
              <button className="button h-6" onClick={() => void change(takeFileSurface(job, k.file, name))}>
                Use as a surface
              </button>
            )}
          </div>
        );
      })}
    </div>
  );
}

function Setups({ intake, setups }: { intake: string; setups: readonly SetupReport[] }) {
  const { job } = useParts("job");
  const [chosen, setChosen] = useKept<string | undefined>("intake.setup", undefined);
  const one = setups.find((s) => s.id === chosen);
  return (
    <>
      <SetupsTable
        setups={setups}
        unit={job.unit}
        angle={settingOf(job, "angle")}
        selected={chosen}
        onSelect={(id) => setChosen(id === chosen ? undefined : id)}
      />
      {one ? (
        <SetupForm key={one.id} intake={intake} setup={one} />
      ) : (
        <p className="mt-2 text-soft">
          Choose a setup for its report, and to correct its instrument height or backsight.
        </p>
      )}
    </>
  );
}

/** Corrections of one setup: its observations are reduced again and all that follows changes. */
function SetupForm({ intake, setup }: { intake: string; setup: SetupReport }) {
  const { job, change } = useParts("job", "change");
  const name = setupName({ intake, setup: setup.id });
  const edit = job.setups.find((s) => setupName(s) === name);
  const store = (part: Partial<SetupEdit>) => {
    const next: SetupEdit = { ...edit, intake, setup: setup.id, ...part };
    for (const key of Object.keys(next) as (keyof SetupEdit)[]) if (next[key] === undefined) delete next[key];
    const empty = Object.keys(next).length === 2;
    if (empty && !edit) return;
    void change({ type: "named", part: "setups", name, old: edit ?? null, new: empty ? null : next });
  };
  // What the office named, also where it is not there; else what gave the orientation.
  const now = writeNumbers(edit?.backsights ?? setup.backsights.map((b) => b.number));
  const [typed, setTyped] = useState<number>();
  const takeSights = (text: string) => {
    const list = orderedNumbers(text.replaceAll(";", ","));
    if (list.length === 0 || writeNumbers(list) === now) return false;
    store({ backsights: list });
  };
  return (
    <section aria-label={`Setup ${setup.id}`} className="mt-3">
      <div className="flex flex-wrap items-end gap-3 pb-3">
        <LengthField
          label={`Instrument height ${job.unit}`}
          value={setup.instrumentHeight}
          unit={job.unit}
          width="w-28"
          typing={setTyped}
          onChange={(x) => store({ instrumentHeight: x })}
        />
        <label className="block">
          <span className="label block">Backsights{edit?.backsights ? "" : ", as received"}</span>
          <TakenText
            className="field mt-0.5 w-36"
            label="Backsights"
            hint="several with commas"
            value={now}
            take={takeSights}
          />
        </label>
        <Tick words="Take it out" on={setup.out} set={(on) => store({ out: on ? true : undefined })} />
        {edit && (
          <button
            className="button"
            onClick={() => void change({ type: "named", part: "setups", name, old: edit, new: null })}
          >
            As received
            {edit.instrumentHeight !== undefined && !Number.isNaN(setup.receivedHeight)
              ? `, ${formatFixed(setup.receivedHeight, decimalsOf(job.unit))}`
              : ""}
          </button>
        )}
      </div>
      {typed !== undefined && typed !== setup.instrumentHeight && setup.backsights.length > 0 && (
        <p role="status" className="pb-2 text-soft tabular-nums">
          With an instrument height of {lengthText(typed, job.unit)}:{" "}
          {setup.backsights
            .filter((b) => !Number.isNaN(b.level))
            .map(
              (b) =>
                `backsight ${b.number} level off ${lengthText(b.level + typed - setup.instrumentHeight, job.unit).replace("-", "−")}`,
            )
            .join(", ")}
          ; its shots {typed > setup.instrumentHeight ? "rise" : "fall"} by{" "}
          {lengthText(Math.abs(typed - setup.instrumentHeight), job.unit)}.
        </p>
      )}
      <OtherSights
        setup={setup}
        edit={edit}
        take={(was, is) => store({ renamed: withSight({ intake, setup: setup.id, ...edit }, was, is).renamed })}
      />
      <SetupReportView setup={setup} unit={job.unit} numberAt={(i) => job.points.number[i]} />
    </section>
  );
}

function missingIn(
  t: { count: number; intake: Int32Array; z: Float64Array; deleted: Uint8Array },
  row: number,
): number {
  let n = 0;
  for (let i = 0; i < t.count; i++) if (t.intake[i] === row && !t.deleted[i] && Number.isNaN(t.z[i]!)) n++;
  return n;
}
