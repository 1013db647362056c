"use client";
/** The look before commit: layout over the first rows, counts, codes, clashes and a plan of where the points would lie. */
import { useEffect, useMemo, useRef, useState } from "react";
import { COLUMNS, UNIT_NAMES, UNITS, type ClashPolicy, type Column, type Layout, type Unit } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { extentOf } from "@bramble/core/points/table";
import { boxOf, useJob } from "../lib/store";
import type { Look, LookRequest } from "../workers/look.worker";
import { Bench, Failed } from "./Bench";
import { ExtentPlan } from "./ExtentPlan";

const COLUMN_NAMES: Record<(typeof COLUMNS)[number], string> = {
  number: "number", northing: "northing", easting: "easting", elevation: "elevation", description: "description", code: "code", note: "note", precision: "precision",
  targetHeight: "target height", time: "time", skip: "(skip)",
};
const DELIMITERS: [string, string][] = [[",", "comma"], [";", "semicolon"], ["\t", "tab"], [" ", "blanks"], ["|", "bar"]];
const CLASHES: [ClashPolicy, string][] = [["stop", "stop"], ["keep-first", "keep the first"], ["replace", "replace by the new"], ["add", "keep both, add to the new number"]];

export function LookAtFile({ file, leave }: { file: File; leave: () => void }) {
  const { job, takeIn, set, show, saving } = useJob();
  const [layout, setLayout] = useState<Layout>({});
  const [unit, setUnit] = useState<Unit>(job.unit);
  const [kind, setKind] = useState<"measured" | "control" | "design" | "computed">("measured");
  const [clash, setClash] = useState<ClashPolicy>("stop");
  const [add, setAdd] = useState(1000);
  const [crew, setCrew] = useState("");
  const [look, setLook] = useState<Look>();
  const [problem, setProblem] = useState("");
  const bytes = useRef<ArrayBuffer>(undefined), worker = useRef<Worker>(undefined), serial = useRef(0);
  const existing = useMemo(() => extentOf(job.points), [job.points]);

  useEffect(() => {
    const w = (worker.current = new Worker(new URL("../workers/look.worker.ts", import.meta.url), { type: "module" }));
    w.onmessage = ({ data }: MessageEvent<Look | { serial: number; problem: string }>) => {
      if (data.serial !== serial.current) return;
      if ("layout" in data) {
        setLook(data);
        setProblem(data.problem ?? "");
        set({ incoming: data.places });
        show(boxOf(data.places.length / 2, (k) => data.places[2 * k]!, (k) => data.places[2 * k + 1]!));
      } else setProblem(data.problem);
    };
    w.onerror = () => setProblem("The file could not be read through. Take another one.");
    return () => {
      w.terminate();
      set({ incoming: undefined });
    };
  }, [set, show]);

  useEffect(() => {
    const ask = async () => {
      try {
        bytes.current ??= await file.arrayBuffer();
      } catch {
        return setProblem(`“${file.name}” cannot be opened. Choose it again.`);
      }
      const t = job.points, taken: string[] = [];
      for (let i = 0; i < t.count; i++) if (!t.deleted[i]) taken.push(t.number[i]!);
      worker.current?.postMessage({
        serial: ++serial.current, file: file.name, bytes: bytes.current, layout, order: job.order, unit, jobUnit: job.unit, book: job.book, taken,
      } satisfies LookRequest);
    };
    void ask();
  }, [file, layout, unit, job]);

  const columns = look?.layout.columns ?? [];
  const setColumn = (k: number, meaning: Column) => {
    // A meaning stands over one column only: the other one becomes skipped.
    setLayout({ ...layout, columns: columns.map((c, i) => (i === k ? meaning : c === meaning && meaning !== "skip" ? "skip" : c)) });
  };
  /** A new way of cutting rows asks for a new guess of the columns. */
  const cut = (part: Layout) => setLayout({ ...layout, ...part, columns: undefined });
  const exchange = () => setLayout({ ...layout, columns: columns.map((c) => (c === "northing" ? "easting" : c === "easting" ? "northing" : c)) });
  const commit = async () => {
    if (await takeIn(file, { file: file.name, layout: look!.layout, unit, kind, clash, ...(clash === "add" ? { add } : {}), ...(crew.trim() ? { crew: crew.trim() } : {}) })) leave();
  };
  const unknown = look?.codes.filter((c) => c.by === "unknown") ?? [];
  const width = Math.max(columns.length, ...(look?.sample.map((r) => r.fields.length) ?? [0]));
  const stops = clash === "stop" && (look?.clashes.length ?? 0) > 0;

  return (
    <Bench
      title={file.name} about={`${(file.size / 1000).toFixed(1)} kB, not taken in yet`}
      actions={
        <div className="flex gap-1.5">
          <button className="button" onClick={leave}>Leave it</button>
          <button className="button button-main" disabled={!look || problem !== "" || look.points === 0 || saving > 0 || stops} onClick={() => void commit()}>
            {saving > 0 ? "Taking in …" : look && !problem ? `Take in ${plural(look.points, "point")}` : "Take in"}
          </button>
        </div>
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {problem && <Failed>{problem}</Failed>}
        {look && (
          <>
            <div className="flex flex-wrap items-end gap-3 pb-3">
              <Choice label="Delimiter" value={look.layout.delimiter} onChange={(v) => cut({ delimiter: v })} options={DELIMITERS} />
              <Choice label="Decimal sign" value={look.layout.decimal} onChange={(v) => cut({ decimal: v as "." | "," })} options={[[".", "point"], [",", "comma"]]} />
              <label className="block"><span className="label block">Lines before the rows</span>
                <input type="number" min={0} className="field mt-0.5 w-24" value={look.layout.skipRows} onChange={(event) => setLayout({ ...layout, skipRows: Math.max(0, Math.floor(Number(event.target.value))), columns })} />
              </label>
              <Choice label="Unit of the file" value={unit} onChange={(v) => setUnit(v as Unit)} options={UNITS.map((u) => [u, UNIT_NAMES[u]])} />
              <Choice label="Kind of points" value={kind} onChange={(v) => setKind(v as typeof kind)} options={["measured", "control", "design", "computed"].map((k) => [k, k])} />
              <label className="block"><span className="label block">Crew</span><input className="field mt-0.5 w-20" value={crew} maxLength={80} onChange={(event) => setCrew(event.target.value)} /></label>
              <button className="button" onClick={exchange}>Exchange northing and easting</button>
            </div>
            <div className="overflow-x-auto border border-rule">
              <table className="w-full border-collapse" aria-label="First rows of the file">
                <thead>
                  <tr className="border-b border-rule bg-paper">
                    <th className="num w-10 px-2 text-[11.5px] font-medium text-soft">Row</th>
                    {Array.from({ length: width }, (_, k) => (
                      <th key={k} className="p-1 text-left font-normal">
                        <select
                          aria-label={`Meaning of column ${k + 1}`} value={columns[k] ?? "skip"} onChange={(event) => setColumn(k, event.target.value as Column)}
                          className={`field h-6 w-full min-w-24 px-1 ${(columns[k] ?? "skip") === "skip" ? "text-soft" : "font-medium text-bramble"}`}
                        >
                          {COLUMNS.map((c) => <option key={c} value={c}>{COLUMN_NAMES[c]}</option>)}
                          <option value={columns[k]?.startsWith("attr:") ? columns[k] : `attr:column ${k + 1}`}>{columns[k]?.startsWith("attr:") ? `attribute ${columns[k]!.slice(5)}` : "attribute"}</option>
                        </select>
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {look.sample.slice(0, 8).map((r) => (
                    <tr key={r.row} className="h-6 border-b border-rule-soft last:border-0">
                      <td className="num px-2 text-soft">{r.row}</td>
                      {Array.from({ length: width }, (_, k) => <td key={k} className={`max-w-56 truncate px-2 tabular-nums ${(columns[k] ?? "skip") === "skip" ? "text-soft opacity-60" : ""}`}>{r.fields[k] ?? ""}</td>)}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <div className="mt-4 grid grid-cols-[minmax(0,1fr)_208px] gap-6">
              <div>
                <h2 className="heading">What would come</h2>
                <dl className="rows mt-1">
                  {([["Rows read", look.rows], ["Points", look.points], ["Rows refused", look.refused.length], ["Without elevation", look.withoutElevation], ["Numbers used twice", look.clashes.length]] as const).map(([name, value]) => (
                    <div key={name} className="row justify-between"><dt className="text-soft">{name}</dt><dd className={`num ${(name === "Rows refused" || name === "Numbers used twice") && value ? "font-semibold text-amber" : ""}`}>{value.toLocaleString("en-GB").replaceAll(",", "\u202f")}</dd></div>
                  ))}
                </dl>
                {look.notes.map((n) => <p key={n} className="mt-2 text-soft">{n}</p>)}
                {look.clashes.length > 0 && (
                  <div className="mt-3 flex flex-wrap items-end gap-2">
                    <Choice label="Numbers that are there already" value={clash} onChange={(v) => setClash(v as ClashPolicy)} options={CLASHES} />
                    {clash === "add" && <label className="block"><span className="label block">Add</span><input type="number" min={1} className="field mt-0.5 w-24" value={add} onChange={(event) => setAdd(Math.max(1, Math.floor(Number(event.target.value))))} /></label>}
                    {stops && <p className="w-full text-amber">{plural(look.clashes.length, "number is", "numbers are")} used twice, first {look.clashes[0]!.number} in row {look.clashes[0]!.row}. Choose what happens then.</p>}
                  </div>
                )}
                {look.refused.length > 0 && (
                  <details className="mt-3" open={look.refused.length <= 6}>
                    <summary className="text-amber">{look.refused.length} refused {look.refused.length === 1 ? "row" : "rows"}</summary>
                    <ul className="mt-1">{look.refused.slice(0, 100).map((r) => <li key={r.row} className="min-h-6 tabular-nums">Row {r.row}: {r.reason}</li>)}</ul>
                    {look.refused.length > 100 && <p className="text-soft">and {look.refused.length - 100} more</p>}
                  </details>
                )}
              </div>
              <ExtentPlan incoming={look.places} existing={existing} unit={job.unit} />
            </div>
            <h2 className="heading mt-4">Codes <span className="font-sans text-[13px] font-normal text-soft">{look.codes.length - unknown.length} known to the book{unknown.length ? `, ${unknown.length} not` : ""}</span></h2>
            <table className="plain mt-1">
              <thead><tr><th>Written</th><th className="num w-20">Shots</th><th>Read as</th></tr></thead>
              <tbody>
                {look.codes.slice(0, 60).map((c) => (
                  <tr key={`${c.by} ${c.written} ${c.code}`}>
                    <td className="font-medium">{c.written}</td><td className="num">{c.count}</td>
                    <td className={c.by === "unknown" ? "text-amber" : "text-soft"}>
                      {c.by === "unknown" ? `not in the book, plain points${c.nearest ? `; nearest is ${c.nearest}` : ""}` : c.by === "code" ? c.code : `${c.code}, ${c.by === "alias" ? "by its alias" : "a name cut short"}`}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
        {!look && !problem && <p className="text-soft">Reading …</p>}
      </div>
    </Bench>
  );
}

function Choice({ label, value, onChange, options }: { label: string; value: string; onChange: (v: string) => void; options: readonly (readonly [string, string])[] }) {
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <select className="field mt-0.5" value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map(([v, name]) => <option key={v} value={v}>{name}</option>)}
      </select>
    </label>
  );
}
