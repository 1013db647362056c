"use client";
/** The cell that is open: what is typed in it, what is wrong with it, what it became meanwhile, and what it would change. */
import { useRef, useState } from "react";
import { Refusal, type EditableChange, type Follower } from "@bramble/core";
import { changeOfCells, readCell, refusedAttribute, type NewCell } from "@bramble/core/job/edit/cells";
import { mark } from "../../lib/marks";
import { useParts } from "../../lib/store";
import { cellText, type TableData } from "./columns";
import type { ActiveCell } from "./use-active-cell";

/** What is in the field, whether it was typed over, what stood in the cell when it was opened. */
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

export type OpenCell = ReturnType<typeof useOpenCell>;

export function useOpenCell({ row, nth, column, ledRef }: ActiveCell) {
  const { job, view, change } = useParts("job", "view", "change"),
    t = job.points,
    data: TableData = { job, view };
  const [editing, setEditing] = useState<Editing>(),
    [problem, setProblem] = useState(""),
    /** A change that does more than what is seen waits for a word. */
    [asked, setAsked] = useState<Asked>();
  /** Set while a cell is open: leaving it by a key takes the focus away as well, and it is kept once. */
  const isOpen = useRef(false);

  const close = () => {
    isOpen.current = false;
    setEditing(undefined);
    setProblem("");
  };
  /** What is said of the table is of something else now. */
  const hush = () => {
    setProblem("");
    setAsked(undefined);
  };
  /** Whether the point of the active cell is deleted, which is then said. */
  const gone = (): boolean => {
    if (!t.deleted[row]) return false;
    setProblem(`Point ${t.number[row]} is deleted: bring it back to change it.`);
    return true;
  };
  /** What another made of the open cell meanwhile; undefined where it is as it was. */
  const theirs = (): string | undefined => {
    const now = editing && row >= 0 ? cellText(column, data, row) : undefined;
    return now === editing?.was ? undefined : now;
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

  /** Stores a text as the value of the active cell; true when the cell may be left. */
  const put = (text: string): boolean => {
    if (gone()) return false;
    const { field, attribute } = column,
      read = readCell(field!, text, job),
      why = "problem" in read ? read.problem : attribute && refusedAttribute(data, row, attribute, text.trim());
    if ("problem" in read || why) {
      setProblem(why!);
      return false;
    }
    return putCells([{ row, field: field!, value: read.value, ...(attribute ? { attribute } : {}) }], []);
  };

  return {
    data,
    editing,
    problem,
    asked,
    /** What another made of the open cell, and whether Enter will overwrite it. */
    meanwhile:
      editing && theirs() !== undefined ? { theirs: theirs()!, warned: editing.warned === theirs() } : undefined,
    say: setProblem,
    hush,
    close,
    put,
    putCells,
    setText: (text: string) => setEditing((now) => now && { ...now, text }),
    begin(text?: string) {
      if (!column.field || nth < 0 || gone()) return;
      hush();
      isOpen.current = true;
      const was = cellText(column, data, row);
      setEditing({ text: text ?? was, typed: text !== undefined, was, led: ledRef.current });
    },
    /** Keeps what is in the open cell; true when it may be left. */
    keep(): boolean {
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
    },
    /** The word that was asked for. */
    answer(yes: boolean) {
      if (yes && asked?.change) change(asked.change);
      setAsked(undefined);
    },
  };
}
