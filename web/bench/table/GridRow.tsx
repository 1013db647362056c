"use client";
/** One row of the points table, and the field in which its active cell is edited. */
import { memo, useEffect, useRef, type MouseEvent } from "react";
import { useJob } from "../../lib/store";
import { definitionAt } from "@bramble/core/job/edit/cells";
import { type Column } from "./columns";

/** Stands in no text of a point. */
export const BETWEEN = "\u0000";

/** What is done to a cell; the same functions for as long as the table is there. */
export interface CellActs {
  click(event: MouseEvent, row: number, column: number): void;
  begin(): void;
  setText(text: string): void;
  keep(): void;
}

interface RowProps {
  row: number;
  id: number;
  index: number;
  top: number;
  width: number;
  columns: Column[];
  /** What stands in its cells, with BETWEEN between them. */
  texts: string;
  chosen: boolean;
  /** Deleted: shown where it is asked for, to be brought back. */
  gone: boolean;
  /** The fields whose change is not stored, with blanks between them. */
  unsaved: string;
  /** The columns whose text is that of a repair looked at, with blanks between them. */
  tried: string;
  /** The column of the active cell; −1 where the row has none. */
  active: number;
  /** The columns of the chosen block of cells, both included; −1 where the row has none. */
  blockFrom: number;
  blockTo: number;
  /** What stands in the open field of the active cell, and whether it was refused. */
  editing: string | undefined;
  refused: boolean;
  act: CellActs;
}

/** Rendered again only when something of its own became another. */
export const GridRow = memo(function GridRow(props: RowProps) {
  const { row, id, index, top, width, columns, chosen, gone, active, blockFrom, blockTo, editing, refused, act } =
    props;
  const texts = props.texts.split(BETWEEN),
    unsaved = props.unsaved.split(" "),
    tried = props.tried.split(" ");
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={chosen}
      className={`absolute flex h-7 ${gone ? "text-soft line-through" : ""} border-b border-rule-soft ${chosen ? "bg-bramble-wash" : "hover:bg-paper"}`}
      style={{ transform: `translateY(${top}px)`, width }}
    >
      {columns.map((c, k) => {
        const notStored = c.field !== undefined && unsaved.includes(c.field),
          wouldBe = tried.includes(c.field ?? c.key);
        return (
          <div
            key={c.key}
            id={`cell-${id}-${k}`}
            role="gridcell"
            aria-colindex={k + 1}
            style={{ width: c.width }}
            onClick={(event) => act.click(event, row, k)}
            onDoubleClick={() => act.begin()}
            {...(notStored ? { "data-unsaved": true, title: "Not saved yet" } : {})}
            {...(wouldBe ? { "data-tried": true, title: "As the repair would make it" } : {})}
            {...(k >= blockFrom && k <= blockTo && blockFrom >= 0 ? { "data-block": true } : {})}
            className={`${k >= blockFrom && k <= blockTo && blockFrom >= 0 ? "bg-bramble/15 " : ""}${notStored ? "bg-amber-wash text-amber " : ""}${wouldBe ? "text-bramble italic " : ""}flex items-center px-2 ${c.numeric ? "justify-end tabular-nums" : ""} ${active === k ? "outline-2 -outline-offset-2 outline-bramble" : ""}`}
          >
            {active === k && editing !== undefined ? (
              <CellField column={c} text={editing} refused={refused} row={row} act={act} />
            ) : (
              <span className="truncate">{texts[k]}</span>
            )}
          </div>
        );
      })}
    </div>
  );
});

function CellField({
  column,
  text,
  refused,
  row,
  act,
}: {
  column: Column;
  text: string;
  refused: boolean;
  row: number;
  act: CellActs;
}) {
  const field = useRef<HTMLInputElement & HTMLSelectElement>(null);
  const number = useJob((s) => s.job.points.number[row]);
  // What the point's code offers for the attribute.
  const offered = useJob((s) => column.attribute && definitionAt(s, row, column.attribute)?.choices);
  useEffect(() => field.current?.focus(), []);
  const common = {
    ref: field,
    value: text,
    onChange: (event: { target: { value: string } }) => act.setText(event.target.value),
    onBlur: () => act.keep(),
    // A click into the field is about its text, not about the row.
    onClick: (event: { stopPropagation(): void }) => event.stopPropagation(),
    onDoubleClick: (event: { stopPropagation(): void }) => event.stopPropagation(),
    "aria-label": `${column.title} of point ${number}`,
  };
  return column.choices ? (
    <select {...common} className="-mx-1 w-full bg-sheet">
      {column.choices.map((x) => (
        <option key={x} value={x}>
          {x === "auto" ? "by code" : x}
        </option>
      ))}
    </select>
  ) : (
    <>
      <input
        {...common}
        aria-invalid={refused}
        list={offered ? "cell-choices" : undefined}
        className={`-mx-1 w-[calc(100%+8px)] bg-sheet px-1 outline-none ${column.numeric ? "text-right" : ""}`}
      />
      {offered && (
        <datalist id="cell-choices">
          {offered.map((x) => (
            <option key={x} value={x} />
          ))}
        </datalist>
      )}
    </>
  );
}
