"use client";
/** A virtual table edited from the keyboard: only the rows in sight are there, whatever their count. */
import { useEffect, useMemo, useRef, useState, type ClipboardEvent, type KeyboardEvent, type MouseEvent } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import type { EditableChange, PointEdit } from "@bramble/core";
import { boxOfPoints, useJob } from "../lib/store";
import { editsFor, readCell, type Column } from "./columns";

const ROW = 28;

/** Edits of cells within a change. */
function editsIn(change: EditableChange): readonly PointEdit[] {
  return change.type === "points" ? change.edits : change.type === "several" ? change.changes.flatMap(editsIn) : [];
}

export function Grid({
  rows,
  columns,
  sort,
  setSort,
}: {
  rows: Int32Array;
  columns: Column[];
  sort: { key: string; down: boolean } | undefined;
  setSort: (s: { key: string; down: boolean } | undefined) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null),
    field = useRef<HTMLInputElement & HTMLSelectElement>(null);
  const { job, points, select, show, change, waiting, clashes } = useJob();
  const t = job.points;
  /** The active cell: which point, which column. */
  const [cell, setCell] = useState<{ place: number; column: number }>({ place: -1, column: 0 });
  const [editing, setEditing] = useState<string>();
  const [problem, setProblem] = useState("");
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const width = columns.reduce((s, c) => s + c.width, 0) + 8;
  const at = rows.indexOf(cell.place);

  // What is selected on the sheet comes into sight.
  const own = useRef(false);
  useEffect(() => {
    if (own.current) {
      own.current = false;
      return;
    }
    const first = points.size ? rows.findIndex((i) => points.has(t.id[i]!)) : -1;
    if (first >= 0) virtual.scrollToIndex(first, { align: "auto" });
    // Only a new selection moves the table, not a new sorting.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [points]);

  useEffect(() => {
    if (editing !== undefined) field.current?.focus();
  }, [editing]);

  const move = (row: number, column: number) => {
    if (rows.length === 0) return;
    const r = Math.max(0, Math.min(rows.length - 1, row));
    setCell({ place: rows[r]!, column: Math.max(0, Math.min(columns.length - 1, column)) });
    virtual.scrollToIndex(r, { align: "auto" });
  };

  const begin = (text?: string) => {
    const column = columns[cell.column];
    if (!column?.field || at < 0) return;
    setProblem("");
    isOpen.current = true;
    setEditing(text ?? (column.choices ? fieldText(column) : column.text(cell.place)));
  };
  const fieldText = (column: Column) =>
    column.key === "surface" ? ["auto", "in", "out"][t.surface[cell.place]!]! : column.text(cell.place);

  /** Set while a cell is open: leaving it by a key takes the focus away as well, and it is kept once. */
  const isOpen = useRef(false);
  const unsaved = useMemo(
    () => new Set([...waiting, ...clashes].flatMap((w) => editsIn(w.change)).map((e) => `${e.id} ${e.field}`)),
    [waiting, clashes],
  );

  /** Stores what is in the field; true when the cell may be left. */
  const keep = (text: string): boolean => {
    if (!isOpen.current) return true;
    const column = columns[cell.column]!;
    if (text === column.text(cell.place)) {
      close();
      return true;
    }
    const read = readCell(column.field!, text, job);
    if ("problem" in read) {
      setProblem(read.problem);
      return false;
    }
    const edits = editsFor(job, cell.place, column.field!, read.value);
    close();
    if (edits.length) void change({ type: "points", edits });
    return true;
  };

  const close = () => {
    isOpen.current = false;
    setEditing(undefined);
    setProblem("");
  };

  const leave = () => {
    close();
    scroller.current?.focus();
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (editing !== undefined) {
      if (event.key === "Escape") leave();
      else if (event.key === "Enter" || event.key === "Tab") {
        if (keep(editing)) {
          scroller.current?.focus();
          if (event.key === "Enter") move(at + 1, cell.column);
          else move(at, cell.column + (event.shiftKey ? -1 : 1));
        }
      } else return;
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / ROW) - 2);
    const steps: Record<string, [number, number]> = {
      ArrowUp: [at - 1, cell.column],
      ArrowDown: [at + 1, cell.column],
      ArrowLeft: [at, cell.column - 1],
      ArrowRight: [at, cell.column + 1],
      PageUp: [at - page, cell.column],
      PageDown: [at + page, cell.column],
      Home: event.ctrlKey ? [0, cell.column] : [at, 0],
      End: event.ctrlKey ? [rows.length - 1, cell.column] : [at, columns.length - 1],
    };
    if (steps[event.key]) move(...steps[event.key]!);
    else if (event.key === "Enter" || event.key === "F2") begin();
    else if (event.key === " " && at >= 0) pickRow(cell.place, true, false);
    else if (event.key === "Escape") select({});
    else if ((event.key === "Delete" || event.key === "Backspace") && columns[cell.column]?.field) begin("");
    else if (
      event.key.length === 1 &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey &&
      columns[cell.column]?.field &&
      !columns[cell.column]?.choices
    )
      begin(event.key);
    else return;
    event.preventDefault();
  };

  const pickRow = (place: number, add: boolean, range: boolean) => {
    own.current = true;
    const id = t.id[place]!;
    if (range && at >= 0) {
      const to = rows.indexOf(place);
      const between = Array.from(rows.slice(Math.min(at, to), Math.max(at, to) + 1), (x) => t.id[x]!);
      select({ points: add ? [...points, ...between] : between });
    } else if (add) select({ points: points.has(id) ? [...points].filter((p) => p !== id) : [...points, id] });
    else select({ points: [id] });
  };

  const onCellClick = (event: MouseEvent, place: number, column: number) => {
    if (editing !== undefined && !keep(editing)) return;
    pickRow(place, event.ctrlKey || event.metaKey, event.shiftKey);
    setCell({ place, column });
    scroller.current?.focus();
  };

  /** Lines and tabs of the clipboard fill the cells from the active one on, in one change. */
  const onPaste = (event: ClipboardEvent) => {
    if (editing !== undefined || at < 0) return;
    event.preventDefault();
    const block = event.clipboardData
      .getData("text/plain")
      .replace(/\r?\n$/, "")
      .split(/\r?\n/)
      .map((l) => l.split("\t"));
    const edits = [];
    for (const [r, values] of block.entries()) {
      for (const [c, text] of values.entries()) {
        const place = rows[at + r],
          column = columns[cell.column + c];
        if (place === undefined || !column?.field) continue;
        const read = readCell(column.field, text, job);
        if ("problem" in read)
          return setProblem(`Row ${r + 1} of what was pasted: ${read.problem} Nothing was changed.`);
        edits.push(...editsFor(job, place, column.field, read.value));
      }
    }
    if (edits.length) void change({ type: "points", edits });
  };

  const onCopy = (event: ClipboardEvent) => {
    if (editing !== undefined || at < 0) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", columns[cell.column]!.text(cell.place));
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      {problem && (
        <p role="alert" className="mx-4 mb-2 border-l-2 border-red px-3 text-red">
          {problem}
        </p>
      )}
      <div
        ref={scroller}
        role="grid"
        aria-label="Points"
        aria-rowcount={rows.length + 1}
        aria-colcount={columns.length}
        tabIndex={0}
        aria-activedescendant={at >= 0 ? `cell-${cell.place}-${cell.column}` : undefined}
        className="min-h-0 flex-1 overflow-auto border-t border-rule -outline-offset-2"
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        onCopy={onCopy}
        onFocus={(event) =>
          event.target === event.currentTarget &&
          cell.place < 0 &&
          rows.length > 0 &&
          setCell({ place: rows[0]!, column: 0 })
        }
      >
        <div role="row" className="sticky top-0 z-10 flex h-7 border-b border-rule bg-paper" style={{ width }}>
          {columns.map((c) => (
            <button
              key={c.key}
              role="columnheader"
              aria-sort={sort?.key === c.key ? (sort.down ? "descending" : "ascending") : "none"}
              style={{ width: c.width }}
              tabIndex={-1}
              className={`truncate px-2 text-[11.5px] font-medium text-soft hover:text-bramble ${c.numeric ? "text-right" : "text-left"}`}
              onClick={() =>
                setSort(
                  sort?.key !== c.key
                    ? { key: c.key, down: false }
                    : sort.down
                      ? undefined
                      : { key: c.key, down: true },
                )
              }
            >
              {c.title}
              {sort?.key === c.key && (sort.down ? " ↓" : " ↑")}
            </button>
          ))}
        </div>
        <div style={{ height: virtual.getTotalSize(), width, position: "relative" }}>
          {virtual.getVirtualItems().map((item) => {
            const place = rows[item.index]!,
              chosen = points.has(t.id[place]!);
            return (
              <div
                key={t.id[place]}
                role="row"
                aria-rowindex={item.index + 2}
                aria-selected={chosen}
                className={`absolute flex h-7 border-b border-rule-soft ${chosen ? "bg-bramble-wash" : "hover:bg-paper"}`}
                style={{ transform: `translateY(${item.start}px)`, width }}
                onDoubleClick={() => show(boxOfPoints(t, [place]))}
              >
                {columns.map((c, k) => {
                  const active = cell.place === place && cell.column === k,
                    notStored = c.field !== undefined && unsaved.has(`${t.id[place]!} ${c.field}`);
                  return (
                    <div
                      key={c.key}
                      id={`cell-${place}-${k}`}
                      role="gridcell"
                      aria-colindex={k + 1}
                      style={{ width: c.width }}
                      onClick={(event) => onCellClick(event, place, k)}
                      {...(notStored ? { "data-unsaved": true, title: "Not saved yet" } : {})}
                      className={`${notStored ? "bg-amber-wash text-amber " : ""}flex items-center px-2 ${c.numeric ? "justify-end tabular-nums" : ""} ${active ? "outline-2 -outline-offset-2 outline-bramble" : ""}`}
                    >
                      {active && editing !== undefined ? (
                        c.choices ? (
                          <select
                            ref={field}
                            aria-label={c.title}
                            className="-mx-1 w-full bg-sheet"
                            value={editing}
                            onChange={(event) => setEditing(event.target.value)}
                            onBlur={() => editing !== undefined && keep(editing)}
                          >
                            {c.choices.map((x) => (
                              <option key={x} value={x}>
                                {x === "auto" ? "by code" : x}
                              </option>
                            ))}
                          </select>
                        ) : (
                          <input
                            ref={field}
                            aria-label={`${c.title} of point ${t.number[place]}`}
                            aria-invalid={problem !== ""}
                            value={editing}
                            className={`-mx-1 w-[calc(100%+8px)] bg-sheet px-1 outline-none ${c.numeric ? "text-right" : ""}`}
                            onChange={(event) => setEditing(event.target.value)}
                            onBlur={() => editing !== undefined && keep(editing)}
                          />
                        )
                      ) : (
                        <span className="truncate">{c.text(place)}</span>
                      )}
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
        {rows.length === 0 && <p className="p-4 text-soft">No point is like that. Take something out of the filter.</p>}
      </div>
    </div>
  );
}
