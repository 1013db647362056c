"use client";
/** The list of lines; only the rows in sight are there, whatever their count. */
import { useEffect, useMemo, useRef } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { settingOf } from "@bramble/core";
import { lineName } from "@bramble/core/lines/model";
import { formatFixed } from "@bramble/core/math/round";
import { boxOf, boxOfPoints } from "../../lib/box";
import { useJob, useParts } from "../../lib/store";
import { area, decimalsOf } from "../../lib/units-shown";
import { lineAt, type LineShown } from "../../lib/view";
import { surveyColor } from "../book/Swatch";

/** Height of the table's head, which stays above the rows. */
const HEAD = 26;

/** A line and its index among all. */
export interface Listed {
  l: LineShown;
  k: number;
}

/** The line alone, with its shots, the sheet at it. */
function pickLine({ l, k }: Listed): void {
  const { view, job, select, show } = useJob.getState(),
    { xyz, starts } = view.chains,
    t = job.points,
    from = starts[k]!;
  select({ lines: [l.key], points: l.shots.map((s) => t.id[s]!) });
  show(
    boxOf(
      starts[k + 1]! - from,
      (v) => xyz[3 * (from + v)]!,
      (v) => xyz[3 * (from + v) + 1]!,
    ) ?? boxOfPoints(t, l.shots),
  );
}

/** A second line beside the one selected, or one of them no more. */
function addLine({ key, shots }: LineShown): void {
  const { view, job, lines: chosen, select } = useJob.getState(),
    has = chosen.has(key),
    others = [...chosen].filter((x) => x !== key).flatMap((x) => view.lines[lineAt(view, x) ?? -1] ?? []);
  select({
    lines: has ? [...chosen].filter((x) => x !== key) : [...chosen, key],
    points: [...others.flatMap((l) => l.shots), ...(has ? [] : shots)].map((i) => job.points.id[i]!),
  });
}

export function LinesTable({ list, short }: { list: readonly Listed[]; short: boolean }) {
  const { view, job, lines: chosen } = useParts("view", "job", "lines");
  const findings = useMemo(() => {
    const per = new Map<string, number>();
    for (const f of view.findings)
      if (f.accepted === undefined) for (const key of f.lines) per.set(key, (per.get(key) ?? 0) + 1);
    return per;
  }, [view.findings]);
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
  const only = chosen.size === 1 ? [...chosen][0]! : undefined;
  useEffect(() => {
    const at = only === undefined ? -1 : list.findIndex(({ l }) => l.key === only);
    if (at < 0) return;
    // The list gives room to the line's panel first.
    const soon = requestAnimationFrame(() => requestAnimationFrame(() => virtual.scrollToIndex(at, { align: "auto" })));
    return () => cancelAnimationFrame(soon);
    // Only a new selection moves the table, not a new filter.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [only]);
  return (
    <div
      ref={scroller}
      className={`min-h-24 overflow-auto border-t border-rule ${short ? "max-h-[34%] shrink-0" : "flex-1"}`}
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
          {rows.map(({ index }) => (
            <Row key={list[index]!.l.key} of={list[index]!} findings={findings.get(list[index]!.l.key)} />
          ))}
          {after > 0 && <tr aria-hidden style={{ height: after }} />}
        </tbody>
      </table>
      {list.length === 0 && <p className="p-4 text-soft">No line is called that.</p>}
    </div>
  );
}

function Row({ of, findings }: { of: Listed; findings: number | undefined }) {
  const { job, lines: chosen } = useParts("job", "lines"),
    { l } = of;
  const runs = [
    l.companion ? "parallel" : l.closed ? "closed" : "open",
    l.hand !== undefined && !l.companion ? "by hand" : "",
    l.arcs > 0 ? `${l.arcs} ${l.arcs === 1 ? "arc" : "arcs"}` : "",
    l.curves > 0 ? "curved" : "",
  ];
  return (
    <tr
      data-clickable
      aria-selected={chosen.has(l.key)}
      className="cursor-pointer hover:bg-paper"
      onClick={(event) => (event.ctrlKey || event.metaKey ? addLine(l) : pickLine(of))}
    >
      <td className="whitespace-nowrap">
        <button className="flex items-center gap-2 font-medium">
          <span aria-hidden className="inline-block h-[3px] w-4" style={{ background: surveyColor(l.color) }} />
          {lineName(l)}
        </button>
      </td>
      <td className={`max-w-28 truncate ${l.ownName === undefined ? "text-soft" : ""}`} title={l.ownName ?? l.name}>
        {l.ownName ?? l.name}
      </td>
      <td className="num">{l.companion ? "" : l.shots.length}</td>
      <td className="whitespace-nowrap text-soft">{runs.filter(Boolean).join(", ")}</td>
      <td className="num">{formatFixed(l.length, decimalsOf(job.unit))}</td>
      <td className="num whitespace-nowrap">
        {l.area === undefined ? "" : area(l.area, job.unit, settingOf(job, "areaUnit"))}
      </td>
      <td className="num text-amber">{findings ?? ""}</td>
    </tr>
  );
}
