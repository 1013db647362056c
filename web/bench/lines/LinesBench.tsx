"use client";
/** Lines: all that is drawn from codes and by hand, the selected one with its facts and edits, and new ones. */
import { useEffect, useMemo, useRef, useState } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { formatFixed } from "@bramble/core/math/round";
import { lineName } from "@bramble/core/lines/model";
import { plural } from "@bramble/core/math/words";
import { settingOf, trimLine, type HandLine } from "@bramble/core";
import type { LineCrossing } from "@bramble/core/lines/snap";
import { nextFreeNumber } from "@bramble/core/job/change/next-number";
import { PlaceLink } from "../../controls/PlaceLink";
import { boxOf, boxOfPoints } from "../../lib/box";
import { useParts } from "../../lib/store";
import { area, decimalsOf } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { BEFORE, useKnown } from "../../lib/use-known";
import { EMPTY_VIEW, lineAt, type LineShown } from "../../lib/view";
import { Bench } from "../Bench";
import { surveyColor } from "../book/Swatch";
import { AddedMaker } from "./AddedMaker";
import { HandLineForm } from "./HandLineForm";
import { JoinForm } from "./JoinForm";
import { LinePanel } from "./LinePanel";
import { make } from "./make";
import { PointMaker } from "./PointMaker";

type Making = { what: "line"; line?: HandLine } | { what: "point" } | { what: "added" } | undefined;

export function LinesBench() {
  const { view, job, lines: chosen, select, show } = useParts("view", "job", "lines", "select", "show"),
    { known, before: isBefore } = useKnown();
  const [filter, setFilter] = useKept("lines.filter", ""),
    [making, setMaking] = useKept<Making>("lines.making", undefined);
  const findings = useMemo(() => {
    const per = new Map<string, number>();
    for (const f of view.findings)
      if (f.accepted === undefined) for (const key of f.lines) per.set(key, (per.get(key) ?? 0) + 1);
    return per;
  }, [view.findings]);
  const d = decimalsOf(job.unit),
    t = job.points;
  const list = view.lines
    .map((l, k) => ({ l, k }))
    .filter(({ l }) => !filter || `${lineName(l)} ${l.name}`.toLowerCase().includes(filter.toLowerCase()));
  // Only the rows in sight are there, whatever their count.
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: list.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 28,
    overscan: 20,
    scrollMargin: HEAD,
    scrollPaddingStart: HEAD,
  });
  const rows = virtual.getVirtualItems(),
    before = (rows[0]?.start ?? HEAD) - HEAD,
    after = virtual.getTotalSize() + HEAD - (rows.at(-1)?.end ?? HEAD);
  // A line selected elsewhere comes into sight.
  const firstChosen = chosen.size === 1 ? [...chosen][0]! : undefined;
  useEffect(() => {
    const at = firstChosen === undefined ? -1 : list.findIndex(({ l }) => l.key === firstChosen);
    if (at < 0) return;
    // The list gives room to the line's panel first.
    const soon = requestAnimationFrame(() => requestAnimationFrame(() => virtual.scrollToIndex(at, { align: "auto" })));
    return () => cancelAnimationFrame(soon);
    // Only a new selection moves the table, not a new filter.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [firstChosen]);
  // After a change some of those selected may be gone.
  const both = [...chosen].flatMap((key) => view.lines[lineAt(view, key) ?? -1] ?? []);
  const pair = chosen.size === 2 && both.length === 2 ? (both as [LineShown, LineShown]) : undefined;
  const one = chosen.size === 1 ? both[0] : undefined;
  const pickLine = (k: number) => {
    const l = view.lines[k]!;
    select({ lines: [l.key], points: l.shots.map((s) => t.id[s]!) });
    const { xyz, starts } = view.chains,
      from = starts[k]!;
    show(
      boxOf(
        starts[k + 1]! - from,
        (v) => xyz[3 * (from + v)]!,
        (v) => xyz[3 * (from + v) + 1]!,
      ) ?? boxOfPoints(t, l.shots),
    );
  };
  /** A second line beside the one selected. */
  const addLine = ({ key, shots }: LineShown) => {
    const lines = chosen.has(key) ? [...chosen].filter((x) => x !== key) : [...chosen, key];
    select({
      lines,
      points: [...both.filter((l) => l.key !== key).flatMap((l) => l.shots), ...(chosen.has(key) ? [] : shots)].map(
        (i) => t.id[i]!,
      ),
    });
  };
  const about = known && (
    <span className={isBefore ? BEFORE : ""}>
      {plural(known.lines, "line")}
      {known.byHand ? `, ${known.byHand} by hand` : ""}
    </span>
  );
  if (view === EMPTY_VIEW)
    return (
      <Bench title="Lines" about={about} figures>
        <p className="px-4 text-soft">Reading the codes …</p>
      </Bench>
    );
  const actions = (
    <>
      <button
        className={`button ${making?.what === "line" ? CHOSEN : ""}`}
        aria-pressed={making?.what === "line"}
        onClick={() => setMaking({ what: "line" })}
      >
        Draw a line
      </button>
      <button
        className={`button ${making?.what === "point" ? CHOSEN : ""}`}
        aria-pressed={making?.what === "point"}
        onClick={() => setMaking({ what: "point" })}
      >
        Make a point
      </button>
      <button
        className={`button ${making?.what === "added" ? CHOSEN : ""}`}
        aria-pressed={making?.what === "added"}
        onClick={() => setMaking({ what: "added" })}
      >
        Add to drawing
      </button>
    </>
  );
  return (
    <Bench title="Lines" about={about} figures actions={actions}>
      {making?.what === "added" && <AddedMaker leave={() => setMaking(undefined)} />}
      {making?.what === "line" && (
        <HandLineForm key={making.line?.name ?? "new"} line={making.line} leave={() => setMaking(undefined)} />
      )}
      {making?.what === "point" && <PointMaker leave={() => setMaking(undefined)} />}
      {view.lines.length === 0 && isBefore ? (
        <p className="px-4 text-soft">Reading the codes …</p>
      ) : view.lines.length === 0 ? (
        <p className="px-4 text-soft">
          No lines yet. Shots whose code is a line or an area in the{" "}
          <PlaceLink className="underline" place="book">
            Code book
          </PlaceLink>{" "}
          are joined by themselves when they are taken in. Others can be drawn by hand.
        </p>
      ) : (
        <>
          <div className="flex shrink-0 items-center px-4 py-2">
            <input
              className="field w-44 shrink-0"
              aria-label="Filter lines"
              placeholder="Code or name"
              value={filter}
              onChange={(event) => setFilter(event.target.value)}
            />
            <span className="mx-3 min-w-0 truncate text-soft">
              {filter ? `${list.length} of ${view.lines.length}` : "Ctrl-click a second one to join or trim"}
            </span>
            <PlaceLink className="button ml-auto shrink-0" place="book">
              Code book
            </PlaceLink>
          </div>
          <div
            ref={scroller}
            className={`min-h-24 overflow-auto border-t border-rule ${one ? "max-h-[34%] shrink-0" : "flex-1"}`}
          >
            <table className="plain [&_td]:px-1.5 [&_th]:px-1.5 [&_td:first-child]:pl-4 [&_th:first-child]:pl-4">
              <thead className="sticky top-0 bg-paper">
                <tr>
                  <th>Line</th>
                  <th>Name</th>
                  <th className="num">Shots</th>
                  <th>Runs</th>
                  <th className="num">Length {job.unit}</th>
                  <th className="num">Area</th>
                  <th className="num">Findings</th>
                </tr>
              </thead>
              <tbody>
                {before > 0 && <tr aria-hidden style={{ height: before }} />}
                {rows
                  .map(({ index }) => list[index]!)
                  .map(({ l, k }) => (
                    <tr
                      key={l.key}
                      data-clickable
                      aria-selected={chosen.has(l.key)}
                      className="cursor-pointer hover:bg-paper"
                      onClick={(event) => (event.ctrlKey || event.metaKey ? addLine(l) : pickLine(k))}
                    >
                      <td className="whitespace-nowrap">
                        <button className="flex items-center gap-2 font-medium">
                          <span
                            aria-hidden
                            className="inline-block h-[3px] w-4"
                            style={{ background: surveyColor(l.color) }}
                          />
                          {lineName(l)}
                        </button>
                      </td>
                      <td className="max-w-28 truncate text-soft" title={l.name}>
                        {l.name}
                      </td>
                      <td className="num">{l.companion ? "" : l.shots.length}</td>
                      <td className="whitespace-nowrap text-soft">
                        {[
                          l.companion ? "parallel" : l.closed ? "closed" : "open",
                          l.hand !== undefined && !l.companion ? "by hand" : "",
                          l.arcs > 0 ? `${l.arcs} ${l.arcs === 1 ? "arc" : "arcs"}` : "",
                          l.curves > 0 ? "curved" : "",
                        ]
                          .filter(Boolean)
                          .join(", ")}
                      </td>
                      <td className="num">{formatFixed(l.length, d)}</td>
                      <td className="num whitespace-nowrap">
                        {l.area === undefined ? "" : area(l.area, job.unit, settingOf(job, "areaUnit"))}
                      </td>
                      <td className="num text-amber">{findings.get(l.key) ?? ""}</td>
                    </tr>
                  ))}
                {after > 0 && <tr aria-hidden style={{ height: after }} />}
              </tbody>
            </table>
            {list.length === 0 && <p className="p-4 text-soft">No line is called that.</p>}
          </div>
          {one && <LinePanel line={one} change={(line) => setMaking({ what: "line", line })} />}
          {pair && <Pair pair={pair} />}
        </>
      )}
    </Bench>
  );
}

/** What is made now. */
const CHOSEN = "border-bramble text-bramble";

/** Height of the table's head, which stays above the rows. */
const HEAD = 26;

/** Two lines: joined into one, or the first cut where it crosses the second. */
function Pair({ pair: [first, second] }: { pair: [LineShown, LineShown] }) {
  const { job, ask, pointToMake } = useParts("job", "ask", "pointToMake");
  const [found, setFound] = useState<LineCrossing[]>(),
    [joining, setJoining] = useState(false);
  const look = async () => setFound(await ask({ what: "crossings", line: first.key, other: second.key }));
  /** The point at the crossing and what becomes of the line are one change. */
  const trim = async (c: LineCrossing, keep: "before" | "after") => {
    const t = job.points;
    // A point that stands there already is taken; else one is made at the crossing.
    const there = first.shots.find((i) => Math.hypot(t.e[i]! - c.e, t.n[i]! - c.n) < job.tolerance.coincident);
    const number = there === undefined ? nextFreeNumber(job) : t.number[there]!,
      edit = trimLine(job, first, c.after, number, keep);
    if ("refused" in edit || there !== undefined) return make(edit) && setFound(undefined);
    const points = await pointToMake({ number, e: c.e, n: c.n, z: c.z, description: "" });
    if (!points) return;
    const text = `${lineName(first)} trimmed at ${lineName(second)}`,
      ones = edit.change.type === "several" ? edit.change.changes : [edit.change];
    if (make({ change: { type: "several", text, changes: [{ type: "add", points }, ...ones] } })) setFound(undefined);
  };
  return (
    <div className="shrink-0 border-t border-rule px-4 py-3" data-testid="pair">
      <div className="flex flex-wrap items-center gap-2">
        <p className="min-w-0 flex-1">
          {lineName(first)} and {lineName(second)} are selected.
        </p>
        <button className="button" aria-expanded={joining} onClick={() => setJoining(!joining)}>
          Join them
        </button>
        <button className="button" onClick={() => void look()}>
          Trim {lineName(first)} at {lineName(second)}
        </button>
      </div>
      {joining && (
        <JoinForm key={`${first.key} ${second.key}`} first={first} second={second} leave={() => setJoining(false)} />
      )}
      {found?.length === 0 && <p className="mt-2 text-soft">They do not cross.</p>}
      {found?.map((c, k) => (
        <div key={k} className="row mt-1 gap-2">
          <span className="min-w-0 flex-1">
            Crossing{c.after >= 0 ? ` after ${job.points.number[first.shots[c.after]!]}` : ""}, level{" "}
            {Number.isNaN(c.z) ? "not known" : `${formatFixed(c.z, decimalsOf(job.unit))} ${job.unit}`}
          </span>
          <button className="button h-6" onClick={() => void trim(c, "before")}>
            Keep what comes before
          </button>
          <button className="button h-6" onClick={() => void trim(c, "after")}>
            Keep what comes after
          </button>
        </div>
      ))}
    </div>
  );
}
