"use client";
/** One row of the points table, and the field in which its active cell is edited. */
import { useEffect, useRef } from "react";
import { useJob } from "../../lib/store";
import type { Column } from "./columns";
import type { Cells } from "./use-cells";

export function GridRow({
  place,
  id,
  index,
  top,
  width,
  columns,
  chosen,
  unsaved,
  cells,
}: {
  place: number;
  id: number;
  index: number;
  top: number;
  width: number;
  columns: Column[];
  chosen: boolean;
  unsaved: ReadonlySet<string>;
  cells: Cells;
}) {
  const here = cells.cell.at === id;
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={chosen}
      className={`absolute flex h-7 border-b border-rule-soft ${chosen ? "bg-bramble-wash" : "hover:bg-paper"}`}
      style={{ transform: `translateY(${top}px)`, width }}
    >
      {columns.map((c, k) => {
        const active = here && cells.cell.column === k,
          notStored = c.field !== undefined && unsaved.has(`${id} ${c.field}`);
        return (
          <div
            key={c.key}
            id={`cell-${id}-${k}`}
            role="gridcell"
            aria-colindex={k + 1}
            style={{ width: c.width }}
            onClick={(event) => cells.onCellClick(event, place, k)}
            onDoubleClick={() => cells.begin()}
            {...(notStored ? { "data-unsaved": true, title: "Not saved yet" } : {})}
            className={`${notStored ? "bg-amber-wash text-amber " : ""}flex items-center px-2 ${c.numeric ? "justify-end tabular-nums" : ""} ${active ? "outline-2 -outline-offset-2 outline-bramble" : ""}`}
          >
            {active && cells.editing !== undefined ? (
              <CellField column={c} cells={cells} place={place} />
            ) : (
              <span className="truncate">{c.text(place)}</span>
            )}
          </div>
        );
      })}
    </div>
  );
}

function CellField({ column, cells, place }: { column: Column; cells: Cells; place: number }) {
  const field = useRef<HTMLInputElement & HTMLSelectElement>(null);
  const number = useJob((s) => s.job.points.number[place]);
  useEffect(() => field.current?.focus(), []);
  const { text } = cells.editing!;
  const common = {
    ref: field,
    value: text,
    onChange: (event: { target: { value: string } }) => cells.setText(event.target.value),
    onBlur: () => void cells.keep(),
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
    <input
      {...common}
      aria-invalid={cells.problem !== ""}
      className={`-mx-1 w-[calc(100%+8px)] bg-sheet px-1 outline-none ${column.numeric ? "text-right" : ""}`}
    />
  );
}
