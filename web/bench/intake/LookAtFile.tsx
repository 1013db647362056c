"use client";
/**
 * The look before commit: how the file is read, what would come of it, and every question answered before anything is
 * stored.
 */
import { useEffect, useMemo, useState } from "react";
import { beforeTurn } from "@bramble/core/points/giving-way";
import { KINDS, type FixedColumn, type Format, type IntakeOptions, type Layout, type Look } from "@bramble/core";
import { columnNames } from "@bramble/core/intake/delimited";
import { plural } from "@bramble/core/math/words";
import { extentOf } from "@bramble/core/points/table";
import type { StoredIntake } from "@bramble/db";
import type { Incoming } from "../../lib/incoming";
import { useJob, useParts } from "../../lib/store";
import { when } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { Bench, Failed } from "../Bench";
import { meanEdits, stopping, withAnswers } from "./answers";
import { Clashes, RepeatedDelivery } from "./Clashes";
import { Codes } from "./Codes";
import { Exchanged } from "./Exchanged";
import { FixedRulers } from "./FixedRulers";
import { KeepLayout } from "./KeepLayout";
import { LayoutForm } from "./LayoutForm";
import { exchanged, FORMAT_NAMES, withMeaning } from "./names";
import { OnlySome } from "./OnlySome";
import { RehearseReading } from "./RehearseReading";
import { RowsTable } from "./RowsTable";
import { LookedSetups } from "./LookedSetups";
import { useLook } from "./use-look";
import { useLookKeys } from "./use-look-keys";
import { useSameFile } from "./use-same-file";
import { WhatComes } from "./WhatComes";
import { unless } from "../../controls/unless";

/** What was answered about the file so far. */
interface Begun {
  given: IntakeOptions;
  /** The kept layout that it was recognised by. */
  layoutName?: string;
  setup?: string;
  /** Numbers used twice that become the mean of both. */
  means?: readonly string[];
}

export function LookAtFile({
  incoming,
  others,
  leave,
}: {
  incoming: Incoming;
  /** Files that wait behind this one. */
  others: number;
  leave: () => void;
}) {
  const { job, jobId, takeIn, readAgain, set, show, saving } = useParts(
    "job",
    "jobId",
    "takeIn",
    "readAgain",
    "set",
    "show",
    "saving",
  );
  const { again } = incoming;
  // The look and all its answers are still there after a visit to another place.
  const [begun, setBegun] = useKept<Begun | undefined>("intake.look", undefined);
  // The very same options as long as nothing is answered: each other ones ask for another look.
  const first = useMemo((): Begun => ({ given: again ? optionsOf(again) : {} }), [again]);
  const { given, layoutName: kept, setup, means = NO_MEANS } = begun ?? first;
  const put = (part: Partial<Begun>) => setBegun((now) => ({ ...(now ?? { given }), ...part }));
  const setGiven = (next: (g: IntakeOptions) => IntakeOptions) =>
    setBegun((now) => ({ ...now, given: next(now?.given ?? given) }));
  // A file is read in its turn: the last, or where it was when it is read again.
  const base = useMemo(() => {
    const at = again ? job.intakes.findIndex((k) => k.id === again.id) : -1;
    return beforeIntake(job, at < 0 ? job.intakes.length : at);
  }, [job, again]);
  const { looked, problem, progress, stop } = useLook(incoming, base, jobId, given, (k) => {
    if (again || begun) return;
    put({ layoutName: k.name });
    setGiven((g) => ({ ...g, format: k.format, layout: k.layout, ...(k.unit ? { unit: k.unit } : {}) }));
  });
  const look = looked?.look;
  const sameFile = useSameFile(incoming);
  const existing = useMemo(() => extentOf(base.points), [base.points]);
  const control = useMemo(() => controlOf(base.points), [base.points]);
  const attributes = useMemo(
    () => [...new Set((job.book.codes ?? []).flatMap((c) => (c.attributes ?? []).map((a) => a.name)))].sort(),
    [job.book],
  );

  useEffect(() => {
    if (!look || look.problem) return;
    set({ incoming: look.positions });
    show(look.box);
  }, [look, set, show]);
  useEffect(() => () => set({ incoming: undefined }), [set]);

  const change = (part: Partial<IntakeOptions>) =>
    setGiven((g) => ({ ...g, ...(look?.layout && !part.layout ? { layout: look.layout } : {}), ...part }));
  const cut = (layout: Layout, format?: Format) =>
    setGiven((g) => ({
      ...g,
      format: format ?? g.format ?? look?.format,
      layout: { noElevation: look?.layout?.noElevation, ...layout },
    }));
  const exchange = () => look?.layout && change({ layout: exchanged(look.layout) });
  const answered = { given, means },
    answers = look ? stopping(look.clashes, answered) : [];
  const nothing = look && look.points === 0 && !look.reference;
  const blocked =
    !look || progress !== undefined
      ? "The file is being read."
      : problem !== ""
        ? "It cannot be read so: see below."
        : nothing
          ? "No point and no line would come of it."
          : saving > 0
            ? "It is being taken in."
            : answers.length > 0 && "Answer first what becomes of numbers that are there already.";
  const optionsOfLook = ({ clashes, format, layout }: NonNullable<typeof look>) => ({
    ...withAnswers(clashes, answered),
    format,
    ...(layout ? { layout } : {}),
  });
  const commit = async () => {
    if (blocked || !look) return;
    const options = optionsOfLook(look),
      { clashes } = look;
    if (
      again ? await readAgain(again.id, options) : await takeIn(incoming.file!, { ...options, file: incoming.name })
    ) {
      const edits = meanEdits(useJob.getState().job.points, clashes, means);
      if (edits.length) useJob.getState().change({ type: "points", edits });
      leave();
    }
  };

  const [rehearsal, setRehearsed] = useState<object>();
  useLookKeys({ exchange, commit, look });

  const meanings = look?.layout ? columnNames(look.layout) : [],
    stations = meanings.includes("station"),
    satellite = meanings.includes("latitude");
  const what = !look
    ? ""
    : look.points > 0 || !look.reference
      ? plural(look.points, "point")
      : plural(look.reference.lines + look.reference.surfaces.length, "reference");
  const about = [
    look ? `${FORMAT_NAMES[look.format]}, ` : "",
    `${(incoming.size / 1000).toFixed(1)} kB, ${again ? "to be read again" : "not taken in yet"}`,
  ];
  return (
    <Bench
      title={incoming.name}
      about={[...about, ...(others > 0 ? [`; ${plural(others, "more file waits", "more files wait")}`] : [])].join("")}
      actions={
        <div className="flex gap-1.5">
          <button className="button" onClick={leave}>
            {again ? "Leave it as it is" : "Leave it"}
          </button>
          {again && (
            <button
              className="button"
              title="See what becomes of lines, findings and volumes; nothing is stored"
              onClick={() => look && setRehearsed({ ...optionsOfLook(look), file: incoming.name })}
              {...unless(blocked)}
            >
              Rehearse it
            </button>
          )}
          <button className="button button-main" title="Ctrl Enter" onClick={() => void commit()} {...unless(blocked)}>
            {saving > 0
              ? "Taking in …"
              : look && !problem
                ? `${again ? "Read again" : "Take in"} ${what}`
                : again
                  ? "Read again"
                  : "Take in"}
          </button>
        </div>
      }
    >
      {again && rehearsal && (
        <RehearseReading
          intake={again}
          options={rehearsal}
          close={() => setRehearsed(undefined)}
          take={() => {
            setRehearsed(undefined);
            void commit();
          }}
        />
      )}
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-6">
        {progress !== undefined && (
          <ReadingOn
            progress={progress}
            cancel={() => {
              stop();
              leave();
            }}
          />
        )}
        {problem && (
          <div className="mb-3">
            <Failed>{problem}</Failed>
          </div>
        )}
        {sameFile && (
          <p role="alert" className="mb-3 border-l-2 border-amber bg-amber-wash px-3 py-2 text-amber">
            This very file was taken in already, as “{sameFile.file}” on {when(sameFile.taken)} by {sameFile.author}.
          </p>
        )}
        {look?.repeated && !again && !sameFile && <RepeatedDelivery repeated={look.repeated} />}
        {look && !problem && look.exchanged.length > 0 && (
          <Exchanged rows={look.exchanged} points={look.points} can={look.layout !== undefined} exchange={exchange} />
        )}
        {look && !problem && <FarAway values={look.values.filter((v) => v.what === "position")} />}
        {answers.length > 0 && (
          <p role="alert" className="mb-3 border-l-2 border-amber bg-amber-wash px-3 py-2 text-amber">
            {plural(answers.length, "number is", "numbers are")} used twice, first {answers[0]!.number} in row{" "}
            {answers[0]!.row}. Say below what happens then.
          </p>
        )}
        {look && (
          <>
            <LayoutForm look={look} given={given} change={change} cut={cut} />
            <FirstRows look={look} attributes={attributes} change={change} />
            {look.layout && (
              <div className="flex flex-wrap items-center gap-x-4 pt-1.5">
                {!stations && (
                  <button className="button button-plain -ml-1.5" onClick={exchange}>
                    Exchange {satellite ? "latitude and longitude" : "northing and easting"}{" "}
                    <kbd className="text-[11px] text-soft">E</kbd>
                  </button>
                )}
                <KeepLayout key={kept} look={look} given={given} likeness={looked!.likeness} kept={kept} />
              </div>
            )}
            {look.layout && <OnlySome only={given.only} hasTimes={meanings.includes("time")} change={change} />}
            {!problem && (
              <>
                <WhatComes
                  look={look}
                  refusedText={looked!.refusedText}
                  existing={existing}
                  control={control}
                  file={incoming.name}
                  unit={job.unit}
                />
                {look.clashes.length > 0 && (
                  <Clashes
                    clashes={look.clashes}
                    answers={answered}
                    unit={job.unit}
                    change={change}
                    setMeans={(list) => put({ means: list })}
                  />
                )}
                {look.setups.length > 0 && (
                  <LookedSetups look={look} selected={setup} select={(id) => put({ setup: id })} />
                )}
                <Codes codes={look.codes} words={look.words} />
              </>
            )}
          </>
        )}
        {!look && !problem && progress === undefined && <p className="text-soft">Reading …</p>}
      </div>
    </Bench>
  );
}

function ReadingOn({ progress, cancel }: { progress: number; cancel: () => void }) {
  return (
    <div className="mb-3 flex items-center gap-3">
      <progress className="h-1.5 flex-1 accent-(--bramble)" value={progress} aria-label="Reading the file" />
      <span className="text-soft tabular-nums">{Math.round(100 * progress)} %</span>
      <button className="button h-6" onClick={cancel}>
        Cancel
      </button>
    </div>
  );
}

/** The first rows as they are cut, with what each column means. */
function FirstRows({
  look,
  attributes,
  change,
}: {
  look: Look;
  attributes: string[];
  change: (part: Partial<IntakeOptions>) => void;
}) {
  const { layout } = look;
  if (!layout) return null;
  if (layout.columns.every((c) => typeof c === "object"))
    return (
      <FixedRulers
        lines={look.lines}
        firstLine={layout.skipRows}
        columns={layout.columns as FixedColumn[]}
        attributes={attributes}
        onChange={(columns) => change({ format: "fixed", layout: { ...layout, columns } })}
      />
    );
  return (
    <RowsTable
      look={look}
      attributes={attributes}
      onMeaning={(k, meaning) => change({ layout: { ...layout, columns: withMeaning(layout.columns, k, meaning) } })}
    />
  );
}

const NO_MEANS: readonly string[] = [];

const MOST_FAR = 3;

/** Points far from all others are said aloud: on the sheet they would be a dot beyond its edge. */
function FarAway({ values }: { values: Look["values"] }) {
  if (values.length === 0) return null;
  return (
    <div role="alert" className="mb-3 border-l-2 border-amber bg-amber-wash px-3 py-2 text-amber">
      {values.slice(0, MOST_FAR).map((v) => (
        <p key={v.row}>
          Point {v.number} (row {v.row}) {v.text}
        </p>
      ))}
      {values.length > MOST_FAR && <p>and {values.length - MOST_FAR} more, among the values below.</p>}
    </div>
  );
}

/** How an intake was read, as it can be given again. */
function optionsOf(k: StoredIntake): IntakeOptions {
  const { format, layout, line, heightAt, unit, encoding, clash, add, answers, crew, kind, only } = k;
  const options = { format, layout, line, heightAt, unit, encoding, clash, add, clashes: answers, crew, kind, only };
  return Object.fromEntries(Object.entries(options).filter(([, v]) => v !== undefined)) as IntakeOptions;
}

type Job = ReturnType<typeof useJob.getState>["job"];

/** The job as it was before a delivery had its turn. */
function beforeIntake(job: Job, intake: number): Job {
  return {
    ...job,
    points: { ...job.points, deleted: beforeTurn(job.points, job.intakes, intake) },
    delivered: job.delivered.map((d, i) => (i === intake ? {} : d)),
  };
}

const MOST_CONTROL = 200;

function controlOf(t: Job["points"]) {
  const out = [];
  for (let i = 0; i < t.count && out.length < MOST_CONTROL; i++)
    if (!t.deleted[i] && t.kind[i] === KINDS.indexOf("control"))
      out.push({ number: t.number[i]!, e: t.e[i]!, n: t.n[i]! });
  return out;
}
