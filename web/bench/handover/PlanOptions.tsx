"use client";
/** How a plan sheet is composed: paper, scale, turn, and what stands round the plan. */
import { useState } from "react";
import { PAPER_NAMES, type PlanFile } from "@bramble/core";
import { PLAN_SCALES } from "@bramble/core/drawing/scales";
import { useParts } from "../../lib/store";
import { Choice } from "../../controls/fields/Choice";
import { LengthField, TextField } from "../../controls/fields/fields";
import { numberReading, orNothing } from "../../controls/fields/reading";
import { Taken } from "../../controls/fields/Taken";
import type { Edit } from "./edit";
import { PointsWanted } from "./PointsWanted";
import { Tick } from "../../controls/fields/Tick";

export function PlanOptions({ file, edit }: { file: PlanFile; edit: Edit<PlanFile> }) {
  const { job } = useParts("job");
  const scales = [...new Set([...PLAN_SCALES, ...(file.scale ? [file.scale] : [])])].sort((a, b) => a - b),
    tables = (of: "points" | "areas", on: boolean) => {
      const next = (["points", "areas"] as const).filter((x) => (x === of ? on : file.tables?.includes(x)));
      edit({ tables: next.length ? next : undefined });
    };
  return (
    <>
      {file.tables?.includes("points") && (
        <PointsWanted value={file.points ?? "*"} choose={(points) => edit({ points })} />
      )}
      <Choice
        label="Paper"
        value={file.paper ?? "A3"}
        onChange={(paper) => edit({ paper: paper })}
        options={PAPER_NAMES.map((p) => [p, p])}
      />
      <Choice
        label="Laid"
        value={file.upright ? "upright" : "across"}
        onChange={(v) => edit({ upright: v === "upright" ? true : undefined })}
        options={[
          ["across", "across"],
          ["upright", "upright"],
        ]}
      />
      <Choice
        label="Scale"
        value={String(file.scale ?? "")}
        onChange={(v) => edit({ scale: v === "" ? undefined : Number(v) })}
        options={[["", "as it fits"], ...scales.map((s) => [String(s), `1 : ${s}`] as const)]}
      />
      <Turn file={file} edit={edit} />
      <Choice
        label="Sheets"
        value={file.several ? "several" : "one"}
        onChange={(v) => edit({ several: v === "several" ? true : undefined })}
        options={[
          ["one", "one"],
          ["several", "as many as the job needs"],
        ]}
      />
      <TextField
        label="Title under the job’s name"
        value={file.title ?? ""}
        width="w-56"
        placeholder="Plan"
        onChange={(title) => edit({ title: title || undefined })}
      />
      <div className="flex w-full flex-wrap items-end gap-x-4">
        <Tick words="North point" on={file.north !== false} set={(on) => edit({ north: on ? undefined : false })} />
        <Tick words="Scale bar" on={file.bar !== false} set={(on) => edit({ bar: on ? undefined : false })} />
        <Tick words="Legend" on={file.legend !== false} set={(on) => edit({ legend: on ? undefined : false })} />
        <Tick words="Grid" on={file.grid !== false} set={(on) => edit({ grid: on ? undefined : false })} />
        <Tick
          words="Table of points"
          on={file.tables?.includes("points") ?? false}
          set={(on) => tables("points", on)}
        />
        <Tick words="Table of areas" on={file.tables?.includes("areas") ?? false} set={(on) => tables("areas", on)} />
        {typeof file.grid === "number" && (
          <LengthField
            label="Grid every"
            value={file.grid}
            unit={job.unit}
            positive
            onChange={(grid) => edit({ grid })}
          />
        )}
      </div>
    </>
  );
}

const DEGREES = orNothing(numberReading((x) => Math.abs(x) <= 360, "Degrees as a number, such as 12.5 or -30."));

/** Degrees to the right, or as the job fits the paper best. */
function Turn({ file, edit }: { file: PlanFile; edit: Edit<PlanFile> }) {
  const given = typeof file.turn === "number" ? file.turn : undefined,
    [asked, setAsked] = useState(given !== undefined),
    typed = asked || given !== undefined;
  return (
    <>
      <Choice
        label="Turned"
        value={typed ? "typed" : file.turn === "fit" ? "fit" : "not"}
        onChange={(v) => {
          setAsked(v === "typed");
          if (v !== "typed") edit({ turn: v === "fit" ? "fit" : undefined });
        }}
        options={[
          ["not", "north up"],
          ["fit", "to fit the paper"],
          ["typed", "by degrees …"],
        ]}
      />
      {typed && (
        <Taken
          label="Degrees to the right"
          width="num w-24"
          reading={DEGREES}
          value={given}
          onChange={(degrees) => edit({ turn: (degrees ?? 0) % 360 || undefined })}
        />
      )}
    </>
  );
}
