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
import { Choice } from "../../controls/fields/Choice";
import { LengthField, NumberField } from "../../controls/fields/fields";
import { textReading } from "../../controls/fields/reading";
import { Taken } from "../../controls/fields/Taken";
import { Typed } from "../../controls/fields/Typed";
import { DELIMITERS, FORMAT_NAMES } from "./names";

type LayoutRead = NonNullable<Look["layout"]>;

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
        onChange={(f) => cut({ skipRows: layout?.skipRows, comment: layout?.comment }, f)}
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
      {text && layout && <Signs format={look.format} layout={layout} cut={cut} />}
      {layout && (
        <NumberField
          label="Lines before the rows"
          width="w-16"
          value={layout.skipRows}
          allowed={(x) => Number.isInteger(x) && x >= 0 && x <= 1_000_000}
          hint="A whole number from 0 on."
          onChange={(skipRows) => change({ layout: { ...layout, skipRows } })}
        />
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
          onChange={(v) => change({ kind: v })}
          options={(["measured", "control", "design", "computed"] as const).map((k) => [k, k] as const)}
        />
      )}
      <Typed
        label="Crew"
        width="w-14"
        text={given.crew ?? ""}
        most={80}
        offers={(job.crews ?? []).map((c) => [c.crew, `${c.from} to ${c.to}`] as const)}
        onType={(crew) => change({ crew: crew || undefined })}
      />
      {layout && (
        <WordsOfFile isText={text} layout={layout} put={(part) => change({ layout: { ...layout, ...part } })} />
      )}
      {columns.includes("height") && (
        <Choice
          label="Heights are of"
          value={given.heightAt ?? "mark"}
          onChange={(v) => change({ heightAt: v })}
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

/** Signs by which the columns of a text are told apart, and decimals. */
function Signs({ format, layout, cut }: { format: Format; layout: LayoutRead; cut: (part: Layout) => void }) {
  return (
    <>
      {format === "delimited" && (
        <Choice
          label="Delimiter"
          value={layout.delimiter}
          onChange={(v) => cut({ delimiter: v, skipRows: layout.skipRows })}
          options={DELIMITERS}
        />
      )}
      <Choice
        label="Decimal sign"
        value={layout.decimal}
        onChange={(v) =>
          cut({ delimiter: layout.delimiter, decimal: v, ...(format === "fixed" ? { columns: layout.columns } : {}) })
        }
        options={[
          [".", "point"],
          [",", "comma"],
        ]}
      />
    </>
  );
}

/** What a file writes beside its rows, and where it has nothing to say. */
function WordsOfFile({ isText, layout, put }: { isText: boolean; layout: LayoutRead; put: (part: Layout) => void }) {
  return (
    <>
      {isText && (
        <Taken
          label="Comments from"
          width="w-12"
          most={8}
          reading={textReading()}
          value={layout.comment}
          onChange={(comment) => put({ comment })}
        />
      )}
      {/* What a file writes where it has no level, beside nothing at all. */}
      <Taken
        label="No elevation is"
        width="w-28"
        placeholder="blank"
        title="Besides a blank, such as -9999 or none; several with a blank between"
        reading={textReading()}
        value={layout.noElevation.filter((m) => m !== "").join(" ")}
        onChange={(marks) => put({ noElevation: ["", ...marks.split(/\s+/).filter(Boolean)] })}
      />
    </>
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
          <Typed
            label="Points of the line"
            width="w-32"
            placeholder="K1, K2"
            most={100_000}
            text={list}
            onType={setList}
            take={() => list && take()}
            problem={problem}
          />
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
