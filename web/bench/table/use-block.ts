"use client";
/** What is done to many cells at once: pasted, filled down, cleared, copied. */
import type { ClipboardEvent } from "react";
import { readPaste } from "@bramble/core/job/edit/pasted";
import { plural } from "@bramble/core/math/words";
import { cellValue } from "@bramble/core/points/differing";
import { useParts } from "../../lib/store";
import { copyCells, copyRows } from "./clipboard";
import type { Column } from "./columns";
import type { ActiveCell } from "./use-active-cell";
import type { OpenCell } from "./use-open-cell";

const ONE_CELL = { rows: 1, columns: 1 };

export type BlockActs = ReturnType<typeof useBlock>;

export function useBlock(rows: Int32Array, columns: Column[], active: ActiveCell, open: OpenCell) {
  const { job, points } = useParts("job", "points"),
    t = job.points,
    { cell, row, nth, column, block } = active,
    { data } = open;

  /** Fills the cells from the active one on, in one change; what cannot be taken is named first. */
  const paste = (text: string) => {
    const repeat = block ? { rows: block.to - block.from + 1, columns: block.right - block.left + 1 } : ONE_CELL,
      [first, left] = [block?.from ?? nth, block?.left ?? cell.column],
      { cells, beyond, refused, refusedCount } = readPaste(text, repeat, data, rows, first, columns, left);
    open.hush();
    if (cells.length === 0 && refusedCount > 0) return open.say(`${refused.join(" ")} Nothing was changed.`);
    const over = [
      beyond.rows ? plural(beyond.rows, "row") : "",
      beyond.columns ? plural(beyond.columns, "column") : "",
    ].filter(Boolean);
    open.putCells(cells, [
      ...(over.length ? [`${over.join(" and ")} of what was pasted would fall beyond the table.`] : []),
      ...(refusedCount
        ? [
            `${plural(refusedCount, "cell")} cannot be taken, ${plural(cells.length, "other", "others")} can.`,
            ...refused,
          ]
        : []),
      ...(refusedCount > refused.length ? [`and ${refusedCount - refused.length} more`] : []),
    ]);
  };

  return {
    paste,
    /** The value of the uppermost selected row goes into the same column of those below it. */
    fillDown() {
      const [first, ...below] = rows.filter((i) => points.has(t.id[i]!)),
        { field, attribute } = column;
      if (first === undefined || below.length === 0)
        return open.say("Select the rows to fill, the one with the value on top.");
      if (!field || field === "number") return open.say(`${column.title} cannot be filled down.`);
      // The value itself, which may have more digits than are shown; what is observed there is a number elsewhere.
      const value = attribute ? column.text(data, first) : cellValue(t, first, field);
      open.putCells(
        below.filter((i) => !t.deleted[i]).map((i) => ({ row: i, field, value, ...(attribute ? { attribute } : {}) })),
        [],
      );
    },
    onPaste(event: ClipboardEvent) {
      if (open.editing !== undefined || nth < 0) return;
      event.preventDefault();
      paste(event.clipboardData.getData("text/plain"));
    },
    onCopy(event: ClipboardEvent) {
      if (open.editing !== undefined) return;
      const copy = (text: string) => {
        event.preventDefault();
        event.clipboardData.setData("text/plain", text);
      };
      if (block && (block.left < block.right || block.from < block.to))
        return copy(copyCells(data, rows.slice(block.from, block.to + 1), columns.slice(block.left, block.right + 1)));
      const chosen = points.size > 1 ? rows.filter((i) => points.has(t.id[i]!)) : [];
      if (chosen.length) copy(copyRows(data, chosen, columns));
      else if (nth >= 0) copy(column.text(data, row));
    },
  };
}
