"use client";
/** How the file is read: format, table, delimiter, unit, what its points are, and the line that stations refer to. */
import { useState } from "react";
import {
  FORMATS,
  UNIT_NAMES,
  UNITS,
  type Format,
  type IntakeOptions,
  type Layout,
  type Look,
  type ReferenceLineGiven,
  type Unit,
} from "@bramble/core";
import { columnNames } from "@bramble/core/intake/delimited";
import { orderedNumbers } from "@bramble/core/points/numbers";
import { numberIndex } from "@bramble/core/points/index";
import { referencesOf } from "@bramble/core/job/model/reduce";
import { useParts } from "../../lib/store";
import { Choice } from "../../controls/Choice";
import { LengthField } from "../LengthField";
import { DELIMITERS, FORMAT_NAMES } from "./names";

export function LayoutForm({
  look,
  given,
  change,
  cut,
}: {
  look: Look;
  given: IntakeOptions;
  /** Other options; the layout stays. */
  change: (part: Partial<IntakeOptions>) => void;
  /** A part of the layout that asks for a new guess of the columns. */
  cut: (part: Layout, format?: Format) => void;
}) {
  const { job } = useParts("job");
  const { layout } = look,
    text = look.format === "delimited" || look.format === "fixed";
  const columns = layout ? columnNames(layout) : [],
    saysUnit = look.format === "landxml" || look.format === "dxf";
  const formats = text ? (["delimited", "fixed"] as const) : FORMATS.filter((f) => f === look.format);
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2 pb-3">
      <Choice
        label="Format"
        value={look.format}
        onChange={(f) => cut({ skipRows: layout?.skipRows, comment: layout?.comment }, f as Format)}
        options={formats.map((f) => [f, FORMAT_NAMES[f]])}
      />
      {look.tables.length > 1 && (
        <Choice
          label={look.format === "xlsx" ? "Sheet" : "Table"}
          value={layout?.table ?? ""}
          onChange={(table) => cut({ table })}
          options={look.tables.map((t) => [t.name, `${t.name} (${t.rows} rows)`])}
        />
      )}
      {look.format === "delimited" && layout && (
        <Choice
          label="Delimiter"
          value={layout.delimiter}
          onChange={(v) => cut({ delimiter: v, skipRows: layout.skipRows })}
          options={DELIMITERS}
        />
      )}
      {text && layout && (
        <Choice
          label="Decimal sign"
          value={layout.decimal}
          onChange={(v) =>
            cut({
              delimiter: layout.delimiter,
              decimal: v as "." | ",",
              ...(look.format === "fixed" ? { columns: layout.columns } : {}),
            })
          }
          options={[
            [".", "point"],
            [",", "comma"],
          ]}
        />
      )}
      {layout && (
        <label className="block">
          <span className="label block">Lines before the rows</span>
          <input
            type="number"
            min={0}
            className="field mt-0.5 w-16"
            value={layout.skipRows}
            onChange={(event) =>
              change({ layout: { ...layout, skipRows: Math.max(0, Math.floor(Number(event.target.value))) } })
            }
          />
        </label>
      )}
      <Choice
        label="Unit of the file"
        value={given.unit ?? ""}
        onChange={(v) => change({ unit: (v || undefined) as Unit | undefined })}
        options={[
          ["", saysUnit ? "as the file says" : `the job's, ${UNIT_NAMES[job.unit]}`],
          ...UNITS.filter((u) => saysUnit || u !== job.unit).map((u) => [u, UNIT_NAMES[u]] as const),
        ]}
      />
      {look.format !== "dxf" && (
        <Choice
          label="Kind of points"
          value={given.kind ?? "measured"}
          onChange={(v) => change({ kind: v as IntakeOptions["kind"] })}
          options={["measured", "control", "design", "computed"].map((k) => [k, k])}
        />
      )}
      <label className="block">
        <span className="label block">Crew</span>
        <input
          className="field mt-0.5 w-14"
          list="crews"
          value={given.crew ?? ""}
          maxLength={80}
          onChange={(event) => change({ crew: event.target.value || undefined })}
        />
        <datalist id="crews">
          {(job.crews ?? []).map((c) => (
            <option key={c.crew} value={c.crew}>{`${c.from} to ${c.to}`}</option>
          ))}
        </datalist>
      </label>
      {text && layout && (
        <Comment key={layout.comment} layout={layout} change={(part) => change({ layout: { ...layout, ...part } })} />
      )}
      {layout && (
        <NoElevation
          key={layout.noElevation.join()}
          layout={layout}
          change={(part) => change({ layout: { ...layout, ...part } })}
        />
      )}
      {columns.includes("height") && (
        <Choice
          label="Heights are of"
          value={given.heightAt ?? "mark"}
          onChange={(v) => change({ heightAt: v as "mark" | "antenna" })}
          options={[
            ["mark", "the mark"],
            ["antenna", "the antenna"],
          ]}
        />
      )}
      {columns.includes("station") && <ReferenceLineChoice given={given.line} change={(line) => change({ line })} />}
    </div>
  );
}

function Comment({ layout, change }: { layout: Layout; change: (part: Layout) => void }) {
  return (
    <label className="block">
      <span className="label block">Comments from</span>
      <input
        className="field mt-0.5 w-12"
        defaultValue={layout.comment}
        maxLength={8}
        onBlur={(event) => event.target.value !== layout.comment && change({ comment: event.target.value })}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}

/** What a file writes where it has no level, beside nothing at all. */
function NoElevation({ layout, change }: { layout: Layout; change: (part: Layout) => void }) {
  const marks = (layout.noElevation ?? []).filter((m) => m !== "").join(" ");
  return (
    <label className="block">
      <span className="label block">No elevation is</span>
      <input
        className="field mt-0.5 w-20"
        placeholder="blank"
        defaultValue={marks}
        title="Besides a blank, such as -9999 or none; several with a blank between"
        onBlur={(event) =>
          event.target.value.trim() !== marks &&
          change({ noElevation: ["", ...event.target.value.trim().split(/\s+/).filter(Boolean)] })
        }
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}

/** A line of a file of the job, or one through points of the job. */
function ReferenceLineChoice({
  given,
  change,
}: {
  given: ReferenceLineGiven | undefined;
  change: (line: ReferenceLineGiven | undefined) => void;
}) {
  const { job } = useParts("job");
  const lines = referencesOf(job).flatMap(({ file, reference }) =>
    reference.lines.map((l) => ({ file, alignment: l.name })),
  );
  const [list, setList] = useState(""),
    [problem, setProblem] = useState("");
  const start = given && "points" in given ? (given.start ?? 0) : 0;
  const value = given && "file" in given ? JSON.stringify(given) : "points";
  const take = () => {
    const index = numberIndex(job.points),
      numbers = orderedNumbers(list);
    const missing = numbers.filter((n) => !index.has(n));
    if (numbers.length < 2 || missing.length)
      return setProblem(missing.length ? `There is no point ${missing[0]}.` : "Two points at least, such as K1, K2.");
    setProblem("");
    change({
      points: numbers.map((n): [number, number] => [job.points.e[index.get(n)!]!, job.points.n[index.get(n)!]!]),
      start,
    });
  };
  return (
    <>
      <Choice
        label="Stations run along"
        value={value}
        onChange={(v) => change(v === "points" ? undefined : (JSON.parse(v) as ReferenceLineGiven))}
        options={[
          ["points", "a line through points"],
          ...lines.map((l) => [JSON.stringify(l), `${l.alignment} (${l.file})`] as const),
        ]}
        width="max-w-56"
      />
      {value === "points" && (
        <>
          <label className="block">
            <span className="label block">Points of the line</span>
            <input
              className="field mt-0.5 w-32"
              placeholder="K1, K2"
              value={list}
              aria-invalid={problem !== ""}
              onChange={(event) => setList(event.target.value)}
              onBlur={() => list && take()}
              onKeyDown={(event) => event.key === "Enter" && take()}
            />
            {problem && (
              <span role="alert" className="block text-[11.5px] text-red">
                {problem}
              </span>
            )}
          </label>
          <LengthField
            label="Station at its start"
            value={start}
            unit={job.unit}
            width="w-24"
            onChange={(x) => given && "points" in given && change({ ...given, start: x })}
          />
        </>
      )}
    </>
  );
}
