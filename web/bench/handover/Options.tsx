"use client";
/** What each format lets one choose, as its description says it (handover/files.ts), and the forms of those that have their own. */
import { sayingsOf, needsSystem, pointsOf, wordsOfFile, type HandoverFile } from "@bramble/core";
import type { Holds } from "@bramble/core/handover/model";
import type { Saying } from "@bramble/core/handover/files";
import { useParts } from "../../lib/store";
import { Choice } from "../../controls/fields/Choice";
import type { Edit } from "./edit";
import { PlanOptions } from "./PlanOptions";
import { PointsWanted } from "./PointsWanted";
import { Tick } from "../../controls/fields/Tick";
import { unless } from "../../controls/unless";

type Of<F extends HandoverFile["format"]> = Extract<HandoverFile, { format: F }>;

export function Options({ file, edit }: { file: HandoverFile; edit: Edit }) {
  const { job } = useParts("job");
  return (
    <div className="mt-3 flex flex-wrap items-end gap-3">
      {sayingsOf(file).map((saying) => (
        <OneOption key={saying.said} file={file} saying={saying} edit={edit} />
      ))}
      {file.format === "pdf" && <PlanOptions file={file} edit={edit as Edit<Of<"pdf">>} />}
      {file.format === "package" && <PackageFiles file={file} edit={edit as Edit<Of<"package">>} />}
      {needsSystem(file) && !job.system && (
        <p className="w-full text-amber">
          The job has no coordinate system: set it in the settings, or this file cannot be made.
        </p>
      )}
    </div>
  );
}

function OneOption({ file, saying, edit }: { file: HandoverFile; saying: Saying; edit: Edit }) {
  const { job } = useParts("job"),
    { said, control, must } = saying,
    all: Readonly<Record<string, unknown>> = { ...file },
    value = all[said];
  if (control.when && !control.when(all)) return null;
  switch (control.as) {
    case "points":
      return <PointsWanted value={pointsOf(file) ?? "*"} choose={(points) => edit({ points })} />;
    case "holds":
      return <Held may={control.of} value={value as Holds[] | undefined} edit={edit} />;
    case "decimals":
      return (
        <Choice
          label="Decimals"
          value={String(value ?? control.usual)}
          onChange={(v) => edit({ [said]: Number(v) })}
          options={[0, 1, 2, 3, 4, 5, 6].map((k) => [String(k), String(k)])}
        />
      );
    case "tick": {
      const { usual, on, off } = control;
      return (
        <Tick
          words={control.words}
          on={value === undefined ? usual : value === on}
          set={(wanted) => edit({ [said]: wanted === usual ? undefined : wanted ? on : off })}
          {...(control.title ? { title: control.title } : {})}
        />
      );
    }
    case "choice": {
      const usual = typeof control.usual === "string" ? control.usual : control.usual(job);
      return (
        <Choice
          label={control.label}
          value={String(value ?? usual)}
          onChange={(v) => edit({ [said]: v === usual && !must ? undefined : v, ...control.along?.(v, all) })}
          options={control.options}
        />
      );
    }
  }
}

const HELD_WORDS = {
  points: "Points",
  lines: "Lines and areas",
  surfaces: "Surfaces",
  contours: "Contours",
  survey: "Raw observations",
} as const;

function Held({ may, value, edit }: { may: readonly Holds[]; value: Holds[] | undefined; edit: Edit }) {
  const held = value ?? may;
  return (
    <fieldset className="flex flex-wrap gap-x-4" aria-label="What it holds">
      {may.map((x) => (
        <Tick
          key={x}
          words={HELD_WORDS[x]}
          on={held.includes(x)}
          set={(on) => {
            const next = may.filter((y) => (y === x ? on : held.includes(y)));
            if (next.length) edit({ holds: next.length === may.length ? undefined : next });
          }}
        />
      ))}
    </fieldset>
  );
}

function PackageFiles({ file, edit }: { file: Of<"package">; edit: Edit<Of<"package">> }) {
  const { job } = useParts("job"),
    singles = job.handover.filter((f) => f.format !== "package"),
    held = file.files ?? singles.map((f) => f.file);
  if (singles.length === 0) return <p className="text-amber">There is no other file yet that it could hold.</p>;
  return (
    <fieldset className="w-full" aria-label="Files in the package">
      {singles.map((f) => (
        <Tick
          key={f.file}
          words={
            <>
              <span className="font-medium">{f.file}</span>
              <span className="text-soft">{wordsOfFile(f)}</span>
            </>
          }
          on={held.includes(f.file)}
          set={(on) => {
            const next = singles.map((x) => x.file).filter((x) => (x === f.file ? on : held.includes(x)));
            edit({ files: next.length === singles.length ? undefined : next });
          }}
          without={unless(held.length === 1 && held.includes(f.file) && "A package holds one file at least.")}
        />
      ))}
      <p className="mt-1 text-soft">
        With a manifest: sizes, SHA-256, what was counted when each was read back, and the state of the job.
      </p>
    </fieldset>
  );
}
