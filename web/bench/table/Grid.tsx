"use client";
/** A virtual table edited from the keyboard: only the rows in sight are there, whatever their count. */
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import type { Change, PointEdit } from "@bramble/core";
import { mark } from "../../lib/marks";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import type { Column, TableData } from "./columns";
import { AskFirst } from "./AskFirst";
import { BETWEEN, GridRow, type CellActs } from "./GridRow";
import type { Sorted } from "./rows";
import { useCells } from "./use-cells";
import { useTried } from "./use-tried";

const ROW = 28;

/** Edits of cells within a change. */
function editsIn(change: Change): readonly PointEdit[] {
  return change.type === "points" ? change.edits : change.type === "several" ? change.changes.flatMap(editsIn) : [];
}

export function Grid({
  rows,
  columns,
  sort,
  sortBy,
}: {
  rows: Int32Array;
  columns: Column[];
  sort: readonly Sorted[];
  sortBy: (key: string, more: boolean) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const { job, view, points, waiting, clashes, ledger } = useParts(
    "job",
    "view",
    "points",
    "waiting",
    "clashes",
    "ledger",
  );
  const t = job.points,
    data: TableData = { job, view },
    tried = useTried(data);
  const [scrolled, setScrolled] = useKept("points.scroll", 0);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
    initialOffset: scrolled,
    // The heading stays on top of the rows.
    scrollMargin: ROW,
    scrollPaddingStart: ROW,
  });
  const reveal = useCallback((nth: number) => virtual.scrollToIndex(nth, { align: "auto" }), [virtual]);
  const focus = useCallback(() => scroller.current?.focus(), []);
  const page = () => Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / ROW) - 2);
  const cells = useCells({ rows, columns, sortBy, reveal, page, focus });
  const { cell, nth, own, problem } = cells;
  // The rows keep the same functions, whatever the table has become meanwhile.
  const latest = useRef(cells);
  useLayoutEffect(() => {
    latest.current = cells;
  });
  const act = useMemo(
    (): CellActs => ({
      click: (event, row, column) => latest.current.onCellClick(event, row, column),
      begin: () => latest.current.begin(),
      setText: (text) => latest.current.setText(text),
      keep: () => void latest.current.keep(),
    }),
    [],
  );
  const byWhom =
    cells.meanwhile &&
    ledger.find((l) => l.change.type !== "intake" && editsIn(l.change).some((e) => e.id === cell.at))?.author;
  const inBlock = (index: number) => cells.block !== undefined && index >= cells.block.from && index <= cells.block.to;
  const width = columns.reduce((s, c) => s + c.width, 0) + 8;

  // Where the table was scrolled to is there again after a visit to another place.
  useEffect(() => {
    const el = scroller.current!;
    return () => setScrolled(el.scrollTop);
  }, [setScrolled]);

  // A table that is sorted anew begins with its first row.
  const sorted = useRef(sort);
  useEffect(() => {
    if (sort === sorted.current) return;
    sorted.current = sort;
    scroller.current!.scrollTop = 0;
  }, [sort]);

  // Told when the browser has painted what was changed.
  useEffect(() => {
    const painted = requestAnimationFrame(() => setTimeout(() => mark("table painted")));
    return () => cancelAnimationFrame(painted);
  }, [t]);

  // What is selected on the sheet comes into sight: a new selection moves the table, not a new sorting.
  const [seen, setSeen] = useKept<ReadonlySet<number>>("points.seen", NONE);
  useEffect(() => {
    if (points === seen) return;
    setSeen(points);
    if (own.current) {
      own.current = false;
      return;
    }
    const first = points.size ? rows.findIndex((i) => points.has(t.id[i]!)) : -1;
    if (first >= 0) reveal(first);
  }, [points, seen, rows, t, own, reveal, setSeen]);

  const unsaved = useMemo(() => {
    const fields = new Map<number, string>();
    for (const { id, field } of [...waiting, ...clashes].flatMap((w) => editsIn(w.change)))
      fields.set(id, `${fields.get(id) ?? ""} ${field}`);
    return fields;
  }, [waiting, clashes]);
  const active =
    cell.at === "headings" ? `heading-${cell.column}` : nth >= 0 ? `cell-${cell.at}-${cell.column}` : undefined;

  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      {/* Over the last rows, not above the first: nothing moves under the pointer. */}
      <div className="absolute inset-x-0 bottom-0 z-20 bg-bench empty:hidden">
        {problem && (
          <p role="alert" className="mx-4 my-2 border-l-2 border-red px-3 text-red">
            {problem}
          </p>
        )}
        {cells.meanwhile && (
          <p role="alert" className="mx-4 my-2 border-l-2 border-amber px-3 text-amber">
            {byWhom ?? "Somebody"} changed this cell meanwhile: it is now{" "}
            {cells.meanwhile.theirs === "" ? "blank" : `“${cells.meanwhile.theirs}”`}.{" "}
            {cells.meanwhile.warned
              ? "Enter once more stores yours in its place"
              : "Enter asks before yours takes its place"}
            , Escape leaves theirs.
          </p>
        )}
        {cells.asked && <AskFirst asked={cells.asked} answer={cells.answer} />}
      </div>
      <div
        ref={scroller}
        role="grid"
        aria-label="Points"
        aria-rowcount={rows.length + 1}
        aria-colcount={columns.length}
        tabIndex={0}
        aria-activedescendant={active}
        className="min-h-0 flex-1 overflow-auto border-t border-rule -outline-offset-2"
        onKeyDown={cells.onKeyDown}
        onPaste={cells.onPaste}
        onCopy={cells.onCopy}
        onFocus={(event) => event.target === event.currentTarget && cells.onFocus()}
      >
        <div role="row" className="sticky top-0 z-10 flex h-7 border-b border-rule bg-paper" style={{ width }}>
          {columns.map((c, k) => {
            const at = sort.findIndex((by) => by.key === c.key),
              by = sort[at];
            return (
              <div
                key={c.key}
                id={`heading-${k}`}
                role="columnheader"
                aria-sort={by ? (by.down ? "descending" : "ascending") : "none"}
                style={{ width: c.width }}
                title={`Sort by ${c.title.toLowerCase()}; with Shift after the others`}
                className={`flex cursor-pointer items-center px-2 text-[11.5px] font-medium text-soft hover:text-bramble ${c.numeric ? "justify-end" : ""} ${cell.at === "headings" && cell.column === k ? "outline-2 -outline-offset-2 outline-bramble" : ""}`}
                onClick={(event) => sortBy(c.key, event.shiftKey)}
              >
                <span className="truncate">{c.title}</span>
                {by && (
                  <span aria-hidden>
                    {by.down ? " ↓" : " ↑"}
                    {sort.length > 1 && at + 1}
                  </span>
                )}
              </div>
            );
          })}
        </div>
        <div style={{ height: virtual.getTotalSize(), width, position: "relative" }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!,
              id = t.id[row]!;
            return (
              <GridRow
                key={id}
                row={row}
                id={id}
                index={item.index}
                top={item.start - ROW}
                width={width}
                columns={columns}
                texts={columns.map((c) => c.text(tried.fields.has(id) ? tried.data : data, row)).join(BETWEEN)}
                chosen={points.has(id)}
                gone={t.deleted[row] !== 0}
                unsaved={unsaved.get(id) ?? ""}
                tried={tried.fields.get(id) ?? ""}
                active={cell.at === id ? cell.column : -1}
                blockFrom={inBlock(item.index) ? cells.block!.left : -1}
                blockTo={inBlock(item.index) ? cells.block!.right : -1}
                editing={cell.at === id ? cells.editing?.text : undefined}
                refused={cell.at === id && problem !== ""}
                act={act}
              />
            );
          })}
        </div>
        {rows.length === 0 && <p className="p-4 text-soft">No point is like that. Take something out of the filter.</p>}
      </div>
    </div>
  );
}

const NONE: ReadonlySet<number> = new Set();
