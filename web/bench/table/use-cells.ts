"use client";
/** The active cell of the points table and what the keyboard, the clipboard and the mouse do to it. */
import type { MouseEvent } from "react";
import { useParts } from "../../lib/store";
import { useActiveCell, type CellsInput } from "./use-active-cell";
import { useArrival } from "./use-arrival";
import { useBlock } from "./use-block";
import { useCellKeys } from "./use-cell-keys";
import { useOpenCell } from "./use-open-cell";

export function useCells(input: CellsInput) {
  const { rows, columns, reveal, focus } = input,
    { job } = useParts("job"),
    t = job.points;
  const active = useActiveCell(rows, columns, reveal),
    open = useOpenCell(active),
    block = useBlock(rows, columns, active, open),
    onKeyDown = useCellKeys(input, active, open, block);
  useArrival(input, active);
  const { cell, setCell, nth, beganRef, ledRef } = active;

  const onCellClick = (event: MouseEvent, which: number, k: number) => {
    // The second click of two is about the cell of the first, whatever came to lie under the pointer meanwhile.
    if (event.detail > 1) return;
    if (open.editing !== undefined && !open.keep()) return;
    ledRef.current = false;
    beganRef.current = undefined;
    // In one column Shift chooses whole rows, across columns a block of cells.
    if (event.shiftKey && !(event.ctrlKey || event.metaKey) && nth >= 0 && k !== cell.column) {
      active.stretch(rows.indexOf(which), k);
      return focus();
    }
    active.oneCell();
    active.pickRow(which, event.ctrlKey || event.metaKey, event.shiftKey);
    setCell({ at: t.id[which]!, column: k });
    focus();
  };

  const { editing, meanwhile, problem, asked, keep, begin, setText } = open;
  return {
    cell,
    nth,
    block: active.block,
    editing,
    meanwhile,
    problem,
    asked,
    ownRef: active.ownRef,
    keep,
    begin,
    onKeyDown,
    onCellClick,
    onPaste: block.onPaste,
    onCopy: block.onCopy,
    onFocus() {
      if (cell.at === "none" && rows.length > 0) setCell({ at: t.id[rows[0]!]!, column: cell.column });
    },
    answer(yes: boolean) {
      open.answer(yes);
      focus();
    },
    setText,
  };
}
