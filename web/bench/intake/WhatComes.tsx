"use client";
/** What would come: counts, refused rows to be saved, values out of the ordinary, lines that will be drawn. */
import { useState } from "react";
import type { Look, Unit } from "@bramble/core";
import { columnNames } from "@bramble/core/intake/delimited";
import type { Extent } from "@bramble/core/points/table";
import { formatFixed } from "@bramble/core/math/round";
import { plural, someOf } from "@bramble/core/math/words";
import { grouped } from "../../lib/units-shown";
import { ExtentPlan, type PlanPoint } from "./ExtentPlan";

const STEP = 50;

export function WhatComes({
  look,
  refusedText,
  existing,
  control,
  file,
  unit,
}: {
  look: Look;
  refusedText: ReadonlyMap<number, string>;
  existing: Extent | undefined;
  control: readonly PlanPoint[];
  file: string;
  unit: Unit;
}) {
  const counts: [string, number, boolean?][] = [
    ["Rows read", look.rows],
    ["Points", look.points],
    ["Rows refused", look.refused.length, true],
    ["Without elevation", look.withoutElevation, true],
    ["Numbers used twice", look.clashes.length, true],
    ["Values out of the ordinary", look.values.length, true],
    ...(look.setups.length ? [["Setups", look.setups.length] as [string, number]] : []),
    ...(look.reference
      ? ([
          ["Reference lines", look.reference.lines],
          ["Reference surfaces", look.reference.surfaces.length],
        ] as [string, number][])
      : []),
  ];
  return (
    <div className="mt-4 grid grid-cols-[minmax(0,1fr)_208px] gap-6">
      <div>
        <h2 className="heading">What would come</h2>
        <dl className="rows mt-1">
          {counts.map(([name, value, watch]) => (
            <div key={name} className="row justify-between">
              <dt className="text-soft">{name}</dt>
              <dd className={`num ${watch && value ? "font-semibold text-amber" : ""}`}>{grouped(value)}</dd>
            </div>
          ))}
        </dl>
        {look.points > 0 && look.withoutElevation === look.points && (
          <p role="alert" className="mt-2 text-amber">
            {noElevations(look)}
          </p>
        )}
        {look.notes.map((n) => (
          <p key={n} className="mt-2 text-soft">
            {n}
          </p>
        ))}
        {look.refused.length > 0 && <Refused look={look} refusedText={refusedText} file={file} />}
        {look.values.length > 0 && <Values look={look} />}
        {look.alone.length > 0 && (
          <p className="mt-2 text-amber">
            {look.alone.length === 1 ? "Point" : "Points"} {someOf(look.alone)}: a line of a single shot.
          </p>
        )}
      </div>
      <ExtentPlan incoming={look.positions} existing={existing} control={control} unit={unit} />
      {look.drawn.length > 0 && (
        <section aria-label="Lines that will come" className="col-span-2 -mt-2">
          <h2 className="heading">
            Lines that will come{" "}
            <span className="font-sans text-[13px] font-normal text-soft">
              {grouped(look.drawn.reduce((sum, l) => sum + l.count, 0))} of {plural(look.drawn.length, "code")}
            </span>
          </h2>
          <ul className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(168px,1fr))] gap-x-6 border-t border-rule">
            {look.drawn.map((l) => (
              <li
                key={l.code}
                className="flex h-6 items-center gap-1.5 border-b border-rule-soft"
                title={l.closed ? `${l.name}, ${l.closed} closed` : l.name}
              >
                <span
                  aria-hidden
                  className="h-0.5 w-3.5 shrink-0"
                  style={{ background: l.color ?? "var(--ink-soft)" }}
                />
                <span className="min-w-0 flex-1 truncate">{l.code}</span>
                <span className="num">{l.count}</span>
                <span className="num min-w-14 whitespace-nowrap text-soft">
                  {formatFixed(l.length, 0)} {unit}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** Why no point would have an elevation, and which columns may hold them. */
function noElevations(look: Look): string {
  const names = look.layout ? columnNames(look.layout) : [],
    unused = names.flatMap((is, k) => (is === "skip" && look.head?.[k] ? [`“${look.head[k]}”`] : []));
  if (names.length === 0) return "No point would have an elevation: the file gives none.";
  if (names.some((is) => is === "elevation" || is === "height"))
    return "No point would have an elevation: its column is blank in every row.";
  return (
    "No point would have an elevation: no column gives one." +
    (unused.length ? ` Not used ${unused.length === 1 ? "is" : "are"} ${someOf(unused)}: say above if that is it.` : "")
  );
}

function Refused({ look, refusedText, file }: { look: Look; refusedText: ReadonlyMap<number, string>; file: string }) {
  const [most, setMost] = useState(STEP);
  const save = () => {
    const quoted = (s: string) => `"${s.replaceAll('"', '""')}"`;
    const text = `row,reason,text\n${look.refused.map((r) => `${r.row},${quoted(r.reason)},${quoted(refusedText.get(r.row) ?? "")}`).join("\n")}\n`;
    const url = URL.createObjectURL(new Blob([text], { type: "text/csv" })),
      a = document.createElement("a");
    a.href = url;
    a.download = `${file.replace(/\.[^.]*$/, "")}-refused.csv`;
    a.click();
    URL.revokeObjectURL(url);
  };
  return (
    <details className="mt-3" open={look.refused.length <= 6}>
      <summary className="text-amber">
        {grouped(look.refused.length)} refused {look.refused.length === 1 ? "row" : "rows"}
      </summary>
      <ul className="mt-1">
        {look.refused.slice(0, most).map((r) => (
          <li key={`${r.row} ${r.reason}`} className="min-h-6 tabular-nums">
            Row {r.row}: {r.reason}
            {refusedText.get(r.row) ? (
              <span className="block truncate font-mono text-[11.5px] text-soft">{refusedText.get(r.row)}</span>
            ) : null}
          </li>
        ))}
      </ul>
      <div className="mt-1 flex gap-2">
        <button className="button" onClick={save}>
          Save the refused rows
        </button>
        {look.refused.length > most && (
          <button className="button button-plain" onClick={() => setMost(most + 10 * STEP)}>
            Show more
          </button>
        )}
      </div>
    </details>
  );
}

function Values({ look }: { look: Look }) {
  const [most, setMost] = useState(STEP);
  return (
    <details className="mt-3" open={look.values.length <= 6}>
      <summary className="text-amber">{plural(look.values.length, "value")} out of the ordinary</summary>
      <ul className="mt-1">
        {look.values.slice(0, most).map((v) => (
          <li key={`${v.row} ${v.what}`} className="min-h-6 tabular-nums">
            Point {v.number}, row {v.row}: {v.text}
          </li>
        ))}
      </ul>
      {look.values.length > most && (
        <button className="button button-plain mt-1" onClick={() => setMost(most + 10 * STEP)}>
          Show more
        </button>
      )}
    </details>
  );
}
