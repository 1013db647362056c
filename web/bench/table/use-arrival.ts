"use client";
import { useEffect } from "react";
import { rowOf } from "@bramble/core/points/table";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import type { ActiveCell, CellsInput } from "./use-active-cell";

/** A point whose row is asked for has the keyboard, also when the table comes only now. */
export function useArrival({ rows, columns, reveal, focus }: CellsInput, { setCell, ledRef }: ActiveCell): void {
  const { job, arrival } = useParts("job", "arrival"),
    [arrived, setArrived] = useKept("points.arrived", 0),
    t = job.points;
  useEffect(() => {
    if (!arrival || arrival.serial === arrived) return;
    const at = rows.indexOf(rowOf(t, arrival.point));
    if (at < 0) return;
    setArrived(arrival.serial);
    const wanted = columns.findIndex((c) => c.field !== undefined && c.field === arrival.field);
    // Typing is to edit: the elevation, unless a cell that can be edited was the active one.
    const level = columns.findIndex((c) => c.field === "elevation");
    // Who goes to a point by its number means its cell; who is led to where a finding is mended has other keys in mind.
    ledRef.current = arrival.field !== undefined;
    setCell(({ column: now }) => ({
      at: arrival.point,
      column: wanted >= 0 ? wanted : now > 0 && columns[now]?.field ? now : level,
    }));
    // The go-to field lets the focus go first.
    requestAnimationFrame(() => {
      reveal(at);
      focus();
    });
  }, [arrival, arrived, rows, t, columns, reveal, focus, setArrived, setCell, ledRef]);
}
