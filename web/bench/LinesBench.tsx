"use client";
/** Lines: all that the codes drew, and the facts of the one selected. */
import Link from "next/link";
import { useMemo, useState } from "react";
import { formatFixed, formatGrouped } from "@bramble/core/math/round";
import { lineName } from "@bramble/core/lines/model";
import { boxOf, boxOfPoints, goToFinding, useJob } from "../lib/store";
import { area, decimalsOf } from "../lib/units-shown";
import { EMPTY_VIEW, type LineShown } from "../lib/view";
import { Bench, Fact } from "./Bench";
import { joinChange, LineShots } from "./LineEdits";

export function LinesBench() {
  const { view, job, jobId, lines: chosen, select, show, change } = useJob();
  const [filter, setFilter] = useState("");
  const findings = useMemo(() => {
    const per = new Map<number, number>();
    for (const f of view.findings) for (const l of f.lines) per.set(l, (per.get(l) ?? 0) + 1);
    return per;
  }, [view.findings]);
  const d = decimalsOf(job.unit), t = job.points;
  const list = view.lines.map((l, k) => ({ l, k })).filter(({ l }) => !filter || `${lineName(l)} ${l.name}`.toLowerCase().includes(filter.toLowerCase()));
  // Lines are known by their place: after a change some may be gone.
  const both = [...chosen].flatMap((k) => view.lines[k] ?? []);
  const pair = chosen.size === 2 && both.length === 2 ? (both as [LineShown, LineShown]) : undefined;
  const joining = pair?.every((l) => !l.companion && l.intake >= 0) ? joinChange(job, pair[0], pair[1]) : undefined;
  const one = chosen.size === 1 ? view.lines[[...chosen][0]!] : undefined;
  const pickLine = (k: number) => {
    const l = view.lines[k]!;
    select({ lines: [k], points: l.shots.map((s) => t.id[s]!) });
    const { xyz, starts } = view.chains, from = starts[k]!;
    show(boxOf(starts[k + 1]! - from, (v) => xyz[3 * (from + v)]!, (v) => xyz[3 * (from + v) + 1]!) ?? boxOfPoints(t, l.shots));
  };
  /** A second line beside the one selected, for joining. */
  const addLine = (k: number) => {
    const lines = chosen.has(k) ? [...chosen].filter((x) => x !== k) : [...chosen, k];
    select({ lines, points: lines.flatMap((l) => view.lines[l]!.shots.map((i) => t.id[i]!)) });
  };
  if (view === EMPTY_VIEW) return <Bench title="Lines"><p className="px-4 text-soft">Reading the codes …</p></Bench>;
  if (view.lines.length === 0) {
    return (
      <Bench title="Lines">
        <p className="px-4 text-soft">No lines yet. Shots whose code is a line or an area in the code book are joined by themselves when they are taken in.</p>
      </Bench>
    );
  }
  return (
    <Bench title="Lines" about={`${view.lines.length} drawn from the codes`} actions={<><input className="field w-36" aria-label="Filter lines" placeholder="Code or name" value={filter} onChange={(event) => setFilter(event.target.value)} /><Link className="button" href={`/jobs/${jobId}/book`}>Code book</Link></>}>
      <div className="min-h-0 flex-1 overflow-auto border-t border-rule">
        <table className="plain [&_td]:px-1.5 [&_th]:px-1.5 [&_td:first-child]:pl-4 [&_th:first-child]:pl-4">
          <thead className="sticky top-0 bg-paper"><tr><th>Line</th><th>Name</th><th className="num">Shots</th><th>Runs</th><th className="num">Length {job.unit}</th><th className="num">Area</th><th className="num">Findings</th></tr></thead>
          <tbody>
            {list.map(({ l, k }) => (
              <tr key={k} data-clickable aria-selected={chosen.has(k)} className="cursor-pointer hover:bg-paper" onClick={(event) => (event.ctrlKey || event.metaKey ? addLine(k) : pickLine(k))}>
                <td className="whitespace-nowrap">
                  <button className="flex items-center gap-2 font-medium"><span aria-hidden className="inline-block h-[3px] w-4" style={{ background: l.color }} />{lineName(l)}</button>
                </td>
                <td className="max-w-28 truncate text-soft" title={l.name}>{l.name}</td><td className="num">{l.companion ? "" : l.shots.length}</td>
                <td className="whitespace-nowrap text-soft">{[l.companion ? "parallel" : l.closed ? "closed" : "open", l.arcs > 0 ? `${l.arcs} ${l.arcs === 1 ? "arc" : "arcs"}` : "", l.curves > 0 ? "curved" : ""].filter(Boolean).join(", ")}</td>
                <td className="num">{formatFixed(l.length, d)}</td><td className="num">{l.area === undefined ? "" : formatGrouped(l.area, 1)}</td>
                <td className="num text-amber">{findings.get(k) ?? ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {list.length === 0 && <p className="p-4 text-soft">No line is called that.</p>}
      </div>
      {one && (
        <div className="max-h-[45%] shrink-0 overflow-auto border-t border-rule px-4 py-3">
          <h2 className="heading">{lineName(one)} <span className="font-sans text-[13px] font-normal text-soft">{one.name}</span></h2>
          <dl className="rows mt-2 grid grid-cols-2 gap-x-8">
            <Fact name="Plan length" strong>{formatFixed(one.length, d)} {job.unit}</Fact>
            <Fact name="Slope length">{Number.isNaN(one.slopeLength) ? "a level is missing" : `${formatFixed(one.slopeLength, d)} ${job.unit}`}</Fact>
            {one.companion ? <Fact name="Parallel to">{lineName(view.lines[one.companion.of]!)}</Fact> : <Fact name="From, to">{t.number[one.shots[0]!]} to {t.number[one.shots.at(-1)!]}</Fact>}
            {one.companion && <Fact name={one.companion.right > 0 ? "To the right" : "To the left"}>{formatFixed(Math.abs(one.companion.right), d)} {job.unit}, {one.companion.up >= 0 ? "+" : "−"}{formatFixed(Math.abs(one.companion.up), d)} up</Fact>}
            <Fact name="Level difference">{levelDifference(one.ends[0], one.ends[1], d, job.unit)}</Fact>
            {one.area !== undefined && <Fact name="Area" strong>{area(one.area, job.unit, job.areaUnit)}</Fact>}
            <Fact name="In the terrain">{one.breakline === "none" ? "no breakline" : `${one.breakline} breakline`}</Fact>
          </dl>
          {!one.companion && <p className="mt-2 text-soft">{one.intake < 0 ? "Drawn by hand." : `From ${job.intakes[one.intake]?.file}.`}</p>}
          {view.findings.filter((f) => f.lines.includes([...chosen][0]!)).map((f, k) => (
            <p key={k} className="mt-1 text-amber">{f.message} <button className="underline" onClick={() => goToFinding(f)}>Zoom to it</button></p>
          ))}
          <LineShots line={one} />
        </div>
      )}
      {pair && (
        <div className="flex shrink-0 items-center gap-3 border-t border-rule px-4 py-3">
          <p className="min-w-0 flex-1">{lineName(pair[0])} and {lineName(pair[1])} are selected.</p>
          <button className="button" disabled={!joining} onClick={() => {
            if (!joining) return;
            select({});
            void change(joining);
          }}>Join them</button>
        </div>
      )}
    </Bench>
  );
}

function levelDifference(a: number, b: number, decimals: number, unit: string): string {
  return Number.isNaN(a) || Number.isNaN(b) ? "a level is missing" : `${b > a ? "+" : ""}${formatFixed(b - a, decimals).replace("-", "−")} ${unit}`;
}
