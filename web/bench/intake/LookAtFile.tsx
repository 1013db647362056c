"use client";
/**
 * The look before commit: how the file is read, what would come of it, and every question answered before anything is
 * stored.
 */
import { useMemo, useState } from "react";
import type { FixedColumn, IntakeOptions, Look } from "@bramble/core";
import { columnNames } from "@bramble/core/intake/delimited";
import { plural } from "@bramble/core/math/words";
import { unless } from "../../controls/unless";
import type { Incoming } from "../../lib/incoming";
import { useParts } from "../../lib/store";
import { Bench } from "../Bench";
import { Clashes } from "./Clashes";
import { Codes } from "./Codes";
import { FixedRulers } from "./FixedRulers";
import { KeepLayout } from "./KeepLayout";
import { LayoutForm } from "./LayoutForm";
import { LookedSetups } from "./LookedSetups";
import { FORMAT_NAMES, withMeaning } from "./names";
import { Noticed } from "./Noticed";
import { OnlySome } from "./OnlySome";
import { RehearseReading } from "./RehearseReading";
import { RowsTable } from "./RowsTable";
import { useLookKeys } from "./use-look-keys";
import { optionsOfLook, takeLooked, useLooking, type Looking } from "./use-looking";
import { WhatComes } from "./WhatComes";

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
  const of = useLooking(incoming),
    { look, problem, progress, blocked, exchange, answered } = of,
    { again } = incoming;
  const [rehearsal, setRehearsed] = useState<object>();
  const commit = async () => {
    if (await takeLooked(of, incoming)) leave();
  };
  useLookKeys({ exchange, commit, look });
  const about = [
    look ? `${FORMAT_NAMES[look.format]}, ` : "",
    `${(incoming.size / 1000).toFixed(1)} kB, ${again ? "to be read again" : "not taken in yet"}`,
    ...(others > 0 ? [`; ${plural(others, "more file waits", "more files wait")}`] : []),
  ];
  return (
    <Bench
      title={incoming.name}
      about={about.join("")}
      actions={
        <div className="flex gap-1.5">
          <button className="button" onClick={leave}>
            {again ? "Leave it as it is" : "Leave it"}
          </button>
          {again && (
            <button
              className="button"
              title="See what becomes of lines, findings and volumes; nothing is stored"
              onClick={() => look && setRehearsed({ ...optionsOfLook(look, answered), file: incoming.name })}
              {...unless(blocked)}
            >
              Rehearse it
            </button>
          )}
          <TakeIt of={of} again={again !== undefined} commit={() => void commit()} />
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
        <Noticed of={of} incoming={incoming} leave={leave} />
        {look && <HowItIsRead of={of} look={look} />}
        {look && !problem && <WhatItHolds of={of} look={look} file={incoming.name} />}
        {!look && !problem && progress === undefined && <p className="text-soft">Reading …</p>}
      </div>
    </Bench>
  );
}

function TakeIt({
  of: { look, problem, blocked },
  again,
  commit,
}: {
  of: Looking;
  again: boolean;
  commit: () => void;
}) {
  const { saving } = useParts("saving"),
    does = again ? "Read again" : "Take in",
    what = !look
      ? ""
      : look.points > 0 || !look.reference
        ? plural(look.points, "point")
        : plural(look.reference.lines + look.reference.surfaces.length, "reference");
  return (
    <button className="button button-main" title="Ctrl Enter" onClick={commit} {...unless(blocked)}>
      {saving > 0 ? "Taking in …" : look && !problem ? `${does} ${what}` : does}
    </button>
  );
}

/** The layout, the first rows by it, and which rows are wanted. */
function HowItIsRead({ of, look }: { of: Looking; look: Look }) {
  const { job } = useParts("job"),
    { given, change, cut, exchange, layoutName, looked } = of,
    meanings = look.layout ? columnNames(look.layout) : [];
  const attributes = useMemo(
    () => [...new Set((job.book.codes ?? []).flatMap((c) => (c.attributes ?? []).map((a) => a.name)))].sort(),
    [job.book],
  );
  return (
    <>
      <LayoutForm look={look} given={given} change={change} cut={cut} />
      <FirstRows look={look} attributes={attributes} change={change} />
      {look.layout && (
        <div className="flex flex-wrap items-center gap-x-4 pt-1.5">
          {!meanings.includes("station") && (
            <button className="button button-plain -ml-1.5" onClick={exchange}>
              Exchange {meanings.includes("latitude") ? "latitude and longitude" : "northing and easting"}{" "}
              <kbd className="text-[11px] text-soft">E</kbd>
            </button>
          )}
          <KeepLayout key={layoutName} look={look} given={given} likeness={looked!.likeness} kept={layoutName} />
        </div>
      )}
      {look.layout && <OnlySome only={given.only} hasTimes={meanings.includes("time")} change={change} />}
    </>
  );
}

/** What would come of it, and every question about that. */
function WhatItHolds({ of, look, file }: { of: Looking; look: Look; file: string }) {
  const { job } = useParts("job"),
    { looked, existing, control, answered, setup, change, put } = of;
  return (
    <>
      <WhatComes
        look={look}
        refusedText={looked!.refusedText}
        existing={existing}
        control={control}
        file={file}
        unit={job.unit}
      />
      {look.clashes.length > 0 && (
        <Clashes
          clashes={look.clashes}
          answers={answered}
          unit={job.unit}
          change={change}
          setMeans={(means) => put({ means })}
        />
      )}
      {look.setups.length > 0 && <LookedSetups look={look} selected={setup} select={(id) => put({ setup: id })} />}
      <Codes codes={look.codes} words={look.words} />
    </>
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
