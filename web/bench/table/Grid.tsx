"use client";
/** A virtual table edited from the keyboard: only the rows in sight are there, whatever their count. */
import { useEffect, useLayoutEffect, useMemo, useRef } from "react";
import type { Change, PointEdit } from "@bramble/core";
import { mark } from "../../lib/marks";
import { useParts } from "../../lib/store";
import type { Column, TableData } from "./columns";
import { AskFirst } from "./AskFirst";
import { BETWEEN, GridRow, type CellActs } from "./GridRow";
import { Headings } from "./Headings";
import type { Sorted } from "./rows";
import { useCells } from "./use-cells";
import { ROW, useScrolling, useSelectedInSight } from "./use-scrolling";
import { useTried } from "./use-tried";

/** Edits of cells within a change. */
function editsIn(change: Change): readonly PointEdit[] {
  return change.type === "points" ? change.edits : change.type === "several" ? change.changes.flatMap(editsIn) : [];
}

type Cells = ReturnType<typeof useCells>;

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
  const { job, view, points } = useParts("job", "view", "points"),
    t = job.points,
    data: TableData = { job, view },
    tried = useTried(data),
    unsaved = useUnsaved();
  const { scroller, virtual, reveal, focus, page } = useScrolling(rows, sort),
    cells = useCells({ rows, columns, sortBy, reveal, page, focus }),
    { cell, nth, block, problem } = cells,
    act = useSameActs(cells);
  useSelectedInSight(rows, reveal, cells.ownRef);
  const width = columns.reduce((s, c) => s + c.width, 0) + 8,
    active =
      cell.at === "headings" ? `heading-${cell.column}` : nth >= 0 ? `cell-${cell.at}-${cell.column}` : undefined;
  const inBlock = (index: number) => block !== undefined && index >= block.from && index <= block.to;

  // Told when the browser has painted what was changed.
  useEffect(() => {
    const painted = requestAnimationFrame(() => setTimeout(() => mark("table painted")));
    return () => cancelAnimationFrame(painted);
  }, [t]);

  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <Said cells={cells} />
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
        <Headings
          columns={columns}
          sort={sort}
          sortBy={sortBy}
          width={width}
          active={cell.at === "headings" ? cell.column : -1}
        />
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
                blockFrom={inBlock(item.index) ? block!.left : -1}
                blockTo={inBlock(item.index) ? block!.right : -1}
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

/** The rows keep the same functions, whatever the table has become meanwhile. */
function useSameActs(cells: Cells): CellActs {
  const latest = useRef(cells);
  useLayoutEffect(() => {
    latest.current = cells;
  });
  return useMemo(
    (): CellActs => ({
      click: (event, row, column) => latest.current.onCellClick(event, row, column),
      begin: () => latest.current.begin(),
      setText: (text) => latest.current.setText(text),
      keep: () => void latest.current.keep(),
    }),
    [],
  );
}

/** Fields of points, by their ids, that are changed and not stored yet. */
function useUnsaved(): ReadonlyMap<number, string> {
  const { waiting, clashes } = useParts("waiting", "clashes");
  return useMemo(() => {
    const fields = new Map<number, string>();
    for (const { id, field } of [...waiting, ...clashes].flatMap((w) => editsIn(w.change)))
      fields.set(id, `${fields.get(id) ?? ""} ${field}`);
    return fields;
  }, [waiting, clashes]);
}

/** What is said of the active cell: over the last rows, not above the first, so that nothing moves under the pointer. */
function Said({ cells: { cell, problem, meanwhile, asked, answer } }: { cells: Cells }) {
  const { ledger } = useParts("ledger"),
    byWhom =
      meanwhile &&
      ledger.find(
        (l) =>
          l.change.type !== "intake" && l.change.type !== "large" && editsIn(l.change).some((e) => e.id === cell.at),
      )?.author;
  return (
    <div className="absolute inset-x-0 bottom-0 z-20 bg-bench empty:hidden">
      {problem && (
        <p role="alert" className="mx-4 my-2 border-l-2 border-red px-3 text-red">
          {problem}
        </p>
      )}
      {meanwhile && (
        <p role="alert" className="mx-4 my-2 border-l-2 border-amber px-3 text-amber">
          {byWhom ?? "Somebody"} changed this cell meanwhile: it is now{" "}
          {meanwhile.theirs === "" ? "blank" : `“${meanwhile.theirs}”`}.{" "}
          {meanwhile.warned ? "Enter once more stores yours in its place" : "Enter asks before yours takes its place"},
          Escape leaves theirs.
        </p>
      )}
      {asked && <AskFirst asked={asked} answer={answer} />}
    </div>
  );
}
