"use client";
/** Which cell of the points table is the active one, and which block of cells is chosen with it. */
import { useRef, useState } from "react";
import { rowOf } from "@bramble/core/points/table";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import type { Column } from "./columns";

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

/** The active cell: a point by its id, the line of headings, or none while the keyboard is elsewhere. */
export interface Cell {
  at: number | "headings" | "none";
  column: number;
}

const NO_CELL: Cell = { at: "none", column: 0 };

/** A block of cells: rows of the table as it is sorted, and columns, both ends included. */
export interface Block {
  from: number;
  to: number;
  left: number;
  right: number;
}

export type ActiveCell = ReturnType<typeof useActiveCell>;

const between = (x: number, most: number) => Math.max(0, Math.min(most, x));

export function useActiveCell(rows: Int32Array, columns: readonly Column[], reveal: (nth: number) => void) {
  const { job, points, select } = useParts("job", "points", "select"),
    t = job.points;
  const [cell, setCell] = useKept<Cell>("points.cell", NO_CELL),
    /** The other corner of the chosen block of cells; none while one cell alone is meant. */
    [corner, setCorner] = useState<{ at: number; column: number }>();
  /** The column in which a walk by Tab began: Enter goes on below it. */
  const beganRef = useRef<number>(undefined),
    /** The cell was gone to for the person, not by them: a key alone is not meant for its whole value. */
    ledRef = useRef(false),
    /** Set while the selection comes from here: the table stays where it is. */
    ownRef = useRef(false);
  const row = typeof cell.at === "number" ? rowOf(t, cell.at) : -1,
    nth = row < 0 ? -1 : rows.indexOf(row),
    column = columns[Math.min(cell.column, columns.length - 1)]!,
    cornerNth = corner ? rows.indexOf(rowOf(t, corner.at)) : -1;
  const block: Block | undefined =
    corner && cornerNth >= 0 && nth >= 0
      ? {
          from: Math.min(nth, cornerNth),
          to: Math.max(nth, cornerNth),
          left: Math.min(cell.column, corner.column),
          right: Math.max(cell.column, corner.column),
        }
      : undefined;
  const idsFrom = (a: number, b: number) => Array.from(rows.slice(Math.min(a, b), Math.max(a, b) + 1), (i) => t.id[i]!);

  return {
    cell,
    setCell,
    /** Row of the table of points; −1 where there is none. */
    row,
    /** Row of the table as it is sorted and filtered. */
    nth,
    column,
    block,
    beganRef,
    ledRef,
    ownRef,
    /** Where the corner stands, or the active cell itself. */
    end: block ? ([cornerNth, corner!.column] as const) : ([nth, cell.column] as const),
    oneCell: () => setCorner(undefined),
    /** The corner goes on; the rows between are selected as they are by the mouse. */
    stretch(toRow: number, toColumn: number) {
      if (nth < 0) return;
      const r = between(toRow, rows.length - 1);
      setCorner({ at: t.id[rows[r]!]!, column: between(toColumn, columns.length - 1) });
      ownRef.current = true;
      select({ points: idsFrom(nth, r) });
      reveal(r);
    },
    goTo(toRow: number, toColumn: number) {
      setCorner(undefined);
      ledRef.current = false;
      if (rows.length === 0) return;
      const c = between(toColumn, columns.length - 1);
      if (toRow < 0) return setCell({ at: "headings", column: c });
      const r = Math.min(rows.length - 1, toRow);
      setCell({ at: t.id[rows[r]!]!, column: c });
      reveal(r);
    },
    selectAll() {
      ownRef.current = true;
      select({ points: Array.from(rows, (i) => t.id[i]!) });
    },
    pickRow(which: number, add: boolean, range: boolean) {
      ownRef.current = true;
      const id = t.id[which]!;
      if (range && nth >= 0) {
        const chosen = idsFrom(nth, rows.indexOf(which));
        select({ points: add ? [...points, ...chosen] : chosen });
      } else if (add) select({ points: points.has(id) ? [...points].filter((p) => p !== id) : [...points, id] });
      else select({ points: [id] });
    },
  };
}
