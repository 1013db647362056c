"use client";
/** The active cell of the points table and what the keyboard, the clipboard and the mouse do to it. */
import { useEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent, type MouseEvent } from "react";
import { Refusal, type EditableChange, type Follower } from "@bramble/core";
import { fieldValue, OBSERVED } from "@bramble/core/points/edits";
import { rowOf } from "@bramble/core/points/table";
import { plural } from "@bramble/core/math/words";
import { mark } from "../../lib/marks";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { copyCells, copyRows, readPaste } from "./clipboard";
import { changeOfCells, type NewCell } from "./change";
import { cellText, readCell, refusedAttribute, type Column, type TableData } from "./columns";

/** The active cell: a point by its id, the line of headings, or none while the keyboard is elsewhere. */
export interface Cell {
  at: number | "headings" | "none";
  column: number;
}

const NO_CELL: Cell = { at: "none", column: 0 };

export interface CellsInput {
  rows: Int32Array;
  columns: Column[];
  sortBy(key: string, more: boolean): void;
  /** Brings a row into sight. */
  reveal(nth: number): void;
  /** Rows that fit in the window. */
  page(): number;
  focus(): void;
}

/** Keys that keep what was typed over a cell and go on, as long as the text itself was not entered. */
const ONWARD: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** A block of cells: rows of the table as it is sorted, and columns, both ends included. */
export interface Block {
  from: number;
  to: number;
  left: number;
  right: number;
}
const ONE_CELL = { rows: 1, columns: 1 };

/** The open cell: what is in its field, whether it was typed over, what stood in the cell when it was opened. */
interface Editing {
  text: string;
  typed: boolean;
  was: string;
  /** What another made of the cell meanwhile, which was said before Enter was pressed once more. */
  warned?: string;
  /** The person was led to the cell: one key alone may have been meant for the list that they came from. */
  led: boolean;
  /** That was said, and Enter once more means it. */
  sure?: boolean;
}

/** What waits for a word: what it does besides what is seen. */
export interface Asked {
  change: EditableChange | undefined;
  follows: Follower[];
  warnings: string[];
}

export function useCells({ rows, columns, sortBy, reveal, page, focus }: CellsInput) {
  const { job, view, points, select, change } = useParts("job", "view", "points", "select", "change");
  const t = job.points,
    data: TableData = { job, view };
  const [cell, setCell] = useKept<Cell>("points.cell", NO_CELL);
  const [editing, setEditing] = useState<Editing>();
  const [problem, setProblem] = useState("");
  /** A change that does more than what is seen waits for a word. */
  const [asked, setAsked] = useState<Asked>();
  /** Set while a cell is open: leaving it by a key takes the focus away as well, and it is kept once. */
  const isOpen = useRef(false);
  /** The column in which a walk by Tab began: Enter goes on below it. */
  const began = useRef<number>(undefined);
  /** The other corner of the chosen block of cells; none while one cell alone is meant. */
  const [corner, setCorner] = useState<{ at: number; column: number }>();
  /** After Escape, until a key means the table again. */
  const atRest = useRef(false);
  /** The cell was gone to for the person, not by them: a key alone is not meant for its whole value. */
  const led = useRef(false);
  const row = typeof cell.at === "number" ? rowOf(t, cell.at) : -1,
    nth = row < 0 ? -1 : rows.indexOf(row),
    column = columns[Math.min(cell.column, columns.length - 1)]!;

  const cornerNth = corner ? rows.indexOf(rowOf(t, corner.at)) : -1;
  /** The chosen block, by rows of the table as it is sorted and by columns, both ends included. */
  const block: Block | undefined =
    corner && cornerNth >= 0 && nth >= 0
      ? {
          from: Math.min(nth, cornerNth),
          to: Math.max(nth, cornerNth),
          left: Math.min(cell.column, corner.column),
          right: Math.max(cell.column, corner.column),
        }
      : undefined;

  /** The corner goes on; the rows between are selected as they are by the mouse. */
  const stretch = (toRow: number, toColumn: number) => {
    if (nth < 0) return;
    const r = Math.max(0, Math.min(rows.length - 1, toRow)),
      c = Math.max(0, Math.min(columns.length - 1, toColumn));
    setCorner({ at: t.id[rows[r]!]!, column: c });
    own.current = true;
    select({ points: Array.from(rows.slice(Math.min(nth, r), Math.max(nth, r) + 1), (i) => t.id[i]!) });
    reveal(r);
  };

  const goTo = (toRow: number, toColumn: number) => {
    setCorner(undefined);
    led.current = false;
    if (rows.length === 0) return;
    const c = Math.max(0, Math.min(columns.length - 1, toColumn));
    if (toRow < 0) return setCell({ at: "headings", column: c });
    const r = Math.min(rows.length - 1, toRow);
    setCell({ at: t.id[rows[r]!]!, column: c });
    reveal(r);
  };

  /** Whether the point of the active cell is deleted, which is then said. */
  const gone = (): boolean => {
    if (!t.deleted[row]) return false;
    setProblem(`Point ${t.number[row]} is deleted: bring it back to change it.`);
    return true;
  };

  const begin = (text?: string) => {
    if (!column.field || nth < 0) return;
    if (gone()) return;
    setProblem("");
    setAsked(undefined);
    isOpen.current = true;
    const was = cellText(column, data, row);
    setEditing({ text: text ?? was, typed: text !== undefined, was, led: led.current });
  };

  /** What another made of the open cell meanwhile; undefined where it is as it was. */
  const theirs = (): string | undefined => {
    const now = editing && row >= 0 ? cellText(column, data, row) : undefined;
    return now === editing?.was ? undefined : now;
  };

  const close = () => {
    isOpen.current = false;
    setEditing(undefined);
    setProblem("");
  };

  /** Stores a text as the value of the active cell; true when the cell may be left. */
  const put = (text: string): boolean => {
    if (gone()) return false;
    const read = readCell(column.field!, text, job);
    if ("problem" in read) {
      setProblem(read.problem);
      return false;
    }
    const { field, attribute } = column,
      why = attribute && refusedAttribute(data, row, attribute, text.trim());
    if (why) {
      setProblem(why);
      return false;
    }
    return putCells([{ row, field: field!, value: read.value, ...(attribute ? { attribute } : {}) }], []);
  };

  /** Stores values, or asks first where more than they would change; false when it cannot be, and says why. */
  const putCells = (cells: NewCell[], warnings: string[]): boolean => {
    try {
      const { change: made, follows } = changeOfCells(data, cells);
      close();
      if (follows.length || warnings.length) setAsked({ change: made, follows, warnings });
      else if (made) {
        mark("edited");
        change(made);
      }
      return true;
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      setProblem(e.message);
      return false;
    }
  };

  /** Keeps what is in the open cell; true when it may be left. */
  const keep = (): boolean => {
    if (!isOpen.current || editing === undefined) return true;
    const now = theirs();
    if (now !== undefined && now !== editing.text && editing.warned !== now) {
      // Theirs is not overwritten unseen: it is said, and Enter once more means it.
      setEditing({ ...editing, warned: now });
      return false;
    }
    if (editing.led && editing.typed && editing.text.length === 1 && !editing.sure) {
      setEditing({ ...editing, sure: true });
      setProblem(
        `Only “${editing.text}” was typed, which may have been meant for the list: Enter once more stores it, Escape leaves ${editing.was || "the cell blank"}.`,
      );
      return false;
    }
    if (editing.text !== cellText(column, data, row)) return put(editing.text);
    close();
    return true;
  };

  const leave = () => {
    close();
    focus();
  };

  /** Where Tab goes from the active cell: on in the row, then to the next; undefined beyond the table. */
  const byTab = (back: boolean): [number, number] | undefined => {
    const k = nth * columns.length + cell.column + (back ? -1 : 1);
    return k < 0 || k >= rows.length * columns.length
      ? undefined
      : [Math.floor(k / columns.length), k % columns.length];
  };

  const onwards = (event: KeyboardEvent): boolean => {
    if (event.key === "Enter") {
      goTo(Math.max(0, nth + (event.shiftKey ? -1 : 1)), began.current ?? cell.column);
      began.current = undefined;
      return true;
    }
    if (event.key !== "Tab") return false;
    const to = byTab(event.shiftKey);
    if (!to) return false;
    if (!event.shiftKey) began.current ??= cell.column;
    goTo(...to);
    return true;
  };

  const onEditKey = (event: KeyboardEvent) => {
    const step = editing!.typed ? ONWARD[event.key] : undefined;
    if (event.key === "Escape") leave();
    else if (step || event.key === "Enter" || event.key === "Tab") {
      if (keep()) {
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

  /** The value of the uppermost selected row goes into the same column of those below it. */
  const fillDown = () => {
    const chosen = rows.filter((i) => points.has(t.id[i]!)),
      [first, ...below] = chosen,
      { field } = column;
    if (first === undefined || below.length === 0)
      return setProblem("Select the rows to fill, the one with the value on top.");
    if (!field || field === "number") return setProblem(`${column.title} cannot be filled down.`);
    // The value itself, which may have more digits than are shown; what is observed there is a number elsewhere.
    const kept = fieldValue(t, first, field),
      { attribute } = column,
      value = attribute ? column.text(data, first) : kept === OBSERVED ? (column.sort(data, first) as number) : kept,
      into = [...below].filter((i) => !t.deleted[i]);
    putCells(
      into.map((i) => ({ row: i, field, value, ...(attribute ? { attribute } : {}) })),
      [],
    );
  };

  const onCellKey = (event: KeyboardEvent): boolean => {
    const last = columns.length - 1;
    const steps: Record<string, [number, number]> = {
      ArrowUp: [nth - 1, cell.column],
      ArrowDown: [nth + 1, cell.column],
      ArrowLeft: [nth, cell.column - 1],
      ArrowRight: [nth, cell.column + 1],
      PageUp: [Math.max(0, nth - page()), cell.column],
      PageDown: [nth + page(), cell.column],
      Home: event.ctrlKey ? [0, cell.column] : [nth, 0],
      End: event.ctrlKey ? [rows.length - 1, cell.column] : [nth, last],
    };
    const ctrl = event.ctrlKey || event.metaKey;
    if (ctrl && event.key.toLowerCase() === "a") {
      own.current = true;
      select({ points: Array.from(rows, (i) => t.id[i]!) });
      return true;
    }
    if (ctrl && event.key.toLowerCase() === "d") {
      fillDown();
      return true;
    }
    if (event.shiftKey && event.key.startsWith("Arrow") && nth >= 0) {
      const [r, c] = [block ? cornerNth : nth, corner?.column ?? cell.column],
        [down, right] = ONWARD[event.key]!;
      stretch(
        ctrl && down ? (down < 0 ? 0 : rows.length - 1) : r + down,
        ctrl && right ? (right < 0 ? 0 : last) : c + right,
      );
      return true;
    }
    if (steps[event.key]) {
      began.current = undefined;
      goTo(...steps[event.key]!);
      return true;
    }
    if (nth < 0) return false;
    if (event.key === "F2") begin();
    else if (event.key === " ") pickRow(row, true, false);
    else if (block && (event.key === "Delete" || event.key === "Backspace")) paste("");
    else if (event.key === "Delete" || event.key === "Backspace") {
      if (column.field) put(column.key === "surface" ? "auto" : "");
    } else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey) {
      // A number is opened deliberately, with F2 or the mouse: it names the point everywhere.
      if (!column.field || column.choices || column.key === "number") return false;
      began.current ??= cell.column;
      begin(event.key);
    } else return onwards(event);
    return true;
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (editing !== undefined) return onEditKey(event);
    if (event.key === "Escape") {
      setCorner(undefined);
      select({});
      setProblem("");
      setAsked(undefined);
      atRest.current = true;
    } else if (event.key === "Tab" && atRest.current) {
      // After Escape Tab leaves the table, as everywhere on the page.
      return;
    } else if (!(cell.at === "headings" ? onHeadingKey(event) : onCellKey(event))) return;
    if (event.key !== "Escape") atRest.current = false;
    event.preventDefault();
  };

  /** Set while the selection comes from here: the table stays where it is. */
  const own = useRef(false);
  const pickRow = (which: number, add: boolean, range: boolean) => {
    own.current = true;
    const id = t.id[which]!;
    if (range && nth >= 0) {
      const to = rows.indexOf(which);
      const between = Array.from(rows.slice(Math.min(nth, to), Math.max(nth, to) + 1), (i) => t.id[i]!);
      select({ points: add ? [...points, ...between] : between });
    } else if (add) select({ points: points.has(id) ? [...points].filter((p) => p !== id) : [...points, id] });
    else select({ points: [id] });
  };

  const onCellClick = (event: MouseEvent, which: number, k: number) => {
    // The second click of two is about the cell of the first, whatever came to lie under the pointer meanwhile.
    if (event.detail > 1) return;
    if (editing !== undefined && !keep()) return;
    led.current = false;
    began.current = undefined;
    // In one column Shift chooses whole rows, across columns a block of cells.
    if (event.shiftKey && !(event.ctrlKey || event.metaKey) && nth >= 0 && k !== cell.column) {
      stretch(rows.indexOf(which), k);
      return focus();
    }
    setCorner(undefined);
    pickRow(which, event.ctrlKey || event.metaKey, event.shiftKey);
    setCell({ at: t.id[which]!, column: k });
    focus();
  };

  /** Lines and tabs of the clipboard fill the cells from the active one on, in one change. */
  const onPaste = (event: ClipboardEvent) => {
    if (editing !== undefined || nth < 0) return;
    event.preventDefault();
    paste(event.clipboardData.getData("text/plain"));
  };

  const paste = (text: string) => {
    const repeat = block ? { rows: block.to - block.from + 1, columns: block.right - block.left + 1 } : ONE_CELL;
    const { cells, beyond, refused, refusedCount } = readPaste(
      text,
      repeat,
      data,
      rows,
      block?.from ?? nth,
      columns,
      block?.left ?? cell.column,
    );
    setProblem("");
    setAsked(undefined);
    if (cells.length === 0 && refusedCount > 0) return setProblem(`${refused.join(" ")} Nothing was changed.`);
    const over = [
      beyond.rows ? plural(beyond.rows, "row") : "",
      beyond.columns ? plural(beyond.columns, "column") : "",
    ].filter(Boolean);
    putCells(cells, [
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

  const answer = (yes: boolean) => {
    if (yes && asked?.change) change(asked.change);
    setAsked(undefined);
    focus();
  };

  const onCopy = (event: ClipboardEvent) => {
    if (editing !== undefined) return;
    if (block && (block.left < block.right || block.from < block.to)) {
      event.preventDefault();
      const shown = columns.slice(block.left, block.right + 1);
      return event.clipboardData.setData("text/plain", copyCells(data, rows.slice(block.from, block.to + 1), shown));
    }
    const chosen = points.size > 1 ? rows.filter((i) => points.has(t.id[i]!)) : [];
    if (chosen.length === 0 && nth < 0) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", chosen.length ? copyRows(data, chosen, columns) : column.text(data, row));
  };

  const onFocus = () => {
    if (cell.at === "none" && rows.length > 0) setCell({ at: t.id[rows[0]!]!, column: cell.column });
  };

  // A point whose row is asked for has the keyboard, also when the table comes only now.
  const { arrival } = useParts("arrival");
  const [arrived, setArrived] = useKept("points.arrived", 0);
  useEffect(() => {
    if (!arrival || arrival.serial === arrived) return;
    const at = rows.indexOf(rowOf(t, arrival.point));
    if (at < 0) return;
    setArrived(arrival.serial);
    const wanted = columns.findIndex((c) => c.field !== undefined && c.field === arrival.field);
    // Typing is to edit: the elevation, unless a cell that can be edited was the active one.
    const level = columns.findIndex((c) => c.field === "elevation");
    // Who goes to a point by its number means its cell; who is led to where a finding is mended has other keys in mind.
    led.current = arrival.field !== undefined;
    setCell(({ column: now }) => ({
      at: arrival.point,
      column: wanted >= 0 ? wanted : now > 0 && columns[now]?.field ? now : level,
    }));
    // The go-to field lets the focus go first.
    requestAnimationFrame(() => {
      reveal(at);
      focus();
    });
  }, [arrival, arrived, rows, t, columns, reveal, focus, setArrived, setCell]);

  return {
    cell,
    nth,
    block,
    editing,
    /** What another made of the open cell, and whether Enter will overwrite it. */
    meanwhile:
      editing && theirs() !== undefined ? { theirs: theirs()!, warned: editing.warned === theirs() } : undefined,
    problem,
    asked,
    own,
    keep,
    begin,
    onKeyDown,
    onCellClick,
    onPaste,
    onCopy,
    onFocus,
    answer,
    setText: (text: string) => setEditing((now) => now && { ...now, text }),
  };
}
