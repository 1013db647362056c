"use client";
/** What each key means in the points table: in an open cell, on a heading, on a cell. */
import { useRef, type KeyboardEvent } from "react";
import { useParts } from "../../lib/store";
import type { ActiveCell, CellsInput } from "./use-active-cell";
import type { BlockActs } from "./use-block";
import type { OpenCell } from "./use-open-cell";

/** Keys that keep what was typed over a cell and go on, as long as the text itself was not entered. */
const ONWARD: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** Where a key goes from a cell, by its row in the table's order and its column; undefined for keys that go nowhere. */
function stepOf(
  { key, ctrlKey }: KeyboardEvent,
  from: { nth: number; column: number; rows: number; last: number; page: () => number },
): [number, number] | undefined {
  const { nth, column, rows, last, page } = from,
    steps: Record<string, [number, number]> = {
      ArrowUp: [nth - 1, column],
      ArrowDown: [nth + 1, column],
      ArrowLeft: [nth, column - 1],
      ArrowRight: [nth, column + 1],
      PageUp: [Math.max(0, nth - page()), column],
      PageDown: [nth + page(), column],
      Home: ctrlKey ? [0, column] : [nth, 0],
      End: ctrlKey ? [rows - 1, column] : [nth, last],
    };
  return steps[key];
}

export function useCellKeys(
  { rows, columns, sortBy, page, focus }: CellsInput,
  active: ActiveCell,
  open: OpenCell,
  { paste, fillDown }: BlockActs,
) {
  const { select } = useParts("select"),
    { cell, row, nth, column, block, beganRef, goTo } = active;
  /** After Escape, until a key means the table again. */
  const atRest = useRef(false);

  /** Where Tab goes from the active cell: on in the row, then to the next; undefined beyond the table. */
  const byTab = (back: boolean): [number, number] | undefined => {
    const k = nth * columns.length + cell.column + (back ? -1 : 1);
    return k < 0 || k >= rows.length * columns.length
      ? undefined
      : [Math.floor(k / columns.length), k % columns.length];
  };

  const onwards = (event: KeyboardEvent): boolean => {
    if (event.key === "Enter") {
      goTo(Math.max(0, nth + (event.shiftKey ? -1 : 1)), beganRef.current ?? cell.column);
      beganRef.current = undefined;
      return true;
    }
    if (event.key !== "Tab") return false;
    const to = byTab(event.shiftKey);
    if (!to) return false;
    if (!event.shiftKey) beganRef.current ??= cell.column;
    goTo(...to);
    return true;
  };

  const onEditKey = (event: KeyboardEvent) => {
    const step = open.editing!.typed ? ONWARD[event.key] : undefined;
    if (event.key === "Escape") {
      open.close();
      focus();
    } else if (step || event.key === "Enter" || event.key === "Tab") {
      if (open.keep()) {
        focus();
        if (step) goTo(nth + step[0], cell.column + step[1]);
        else onwards(event);
      }
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const onHeadingKey = (event: KeyboardEvent): boolean => {
    if (event.key === "ArrowDown") goTo(0, cell.column);
    else if (event.key === "ArrowLeft" || event.key === "ArrowRight")
      goTo(-1, cell.column + (event.key === "ArrowLeft" ? -1 : 1));
    else if (event.key === "Enter" || event.key === " ") sortBy(column.key, event.shiftKey);
    else return false;
    return true;
  };

  /** Steps over the table, and blocks of cells. */
  const onStepKey = (event: KeyboardEvent, ctrl: boolean): boolean => {
    const last = columns.length - 1;
    if (event.shiftKey && event.key.startsWith("Arrow") && nth >= 0) {
      const [r, c] = active.end,
        [down, right] = ONWARD[event.key]!;
      active.stretch(
        ctrl && down ? (down < 0 ? 0 : rows.length - 1) : r + down,
        ctrl && right ? (right < 0 ? 0 : last) : c + right,
      );
      return true;
    }
    const to = stepOf(event, { nth, column: cell.column, rows: rows.length, last, page });
    if (!to) return false;
    beganRef.current = undefined;
    goTo(...to);
    return true;
  };

  const onCellKey = (event: KeyboardEvent): boolean => {
    const ctrl = event.ctrlKey || event.metaKey,
      clears = event.key === "Delete" || event.key === "Backspace";
    if (ctrl && event.key.toLowerCase() === "a") active.selectAll();
    else if (ctrl && event.key.toLowerCase() === "d") fillDown();
    else if (onStepKey(event, ctrl)) return true;
    else if (nth < 0) return false;
    else if (event.key === "F2") open.begin();
    else if (event.key === " ") active.pickRow(row, true, false);
    else if (block && clears) paste("");
    else if (clears) {
      if (column.field) open.put(column.key === "surface" ? "auto" : "");
    } else if (event.key.length === 1 && !ctrl && !event.altKey) {
      // A number is opened deliberately, with F2 or the mouse: it names the point everywhere.
      if (!column.field || column.choices || column.key === "number") return false;
      beganRef.current ??= cell.column;
      open.begin(event.key);
    } else return onwards(event);
    return true;
  };

  return (event: KeyboardEvent) => {
    if (open.editing !== undefined) return onEditKey(event);
    if (event.key === "Escape") {
      active.oneCell();
      select({});
      open.hush();
      atRest.current = true;
    } else if (event.key === "Tab" && atRest.current) {
      // After Escape Tab leaves the table, as everywhere on the page.
      return;
    } else if (!(cell.at === "headings" ? onHeadingKey(event) : onCellKey(event))) return;
    if (event.key !== "Escape") atRest.current = false;
    event.preventDefault();
  };
}
