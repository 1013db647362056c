"use client";
/** The cells that a repair would change, shown in the table as they would be while it is looked at. */
import { useMemo } from "react";
import { rowOf } from "@bramble/core/points/table";
import { withEdits, type CellEdit } from "@bramble/core/points/edits";
import { useParts } from "../../lib/store";
import type { TableData } from "./columns";

export interface Tried {
  /** Fields by point, with blanks between them. */
  fields: ReadonlyMap<number, string>;
  data: TableData;
}

export function useTried({ job, view }: TableData): Tried {
  const { tried } = useParts("tried");
  return useMemo(() => {
    const fields = new Map<number, string>();
    if (!tried?.cells.length) return { fields, data: { job, view } };
    // What stands in the table is where the points are, however they came there.
    const { shotAt: _, ...points } = job.points;
    const edits: CellEdit[] = [],
      codes = view.codes.slice(),
      code = view.code.slice();
    for (const { id, field, value } of tried.cells) {
      const row = rowOf(job.points, id);
      if (row < 0) continue;
      fields.set(id, `${fields.get(id) ?? ""} ${field}`);
      if (field === "code") code[row] = codes.push(String(value)) - 1;
      else edits.push({ row, field, value });
    }
    return { fields, data: { job: { ...job, points: withEdits(points, edits) }, view: { ...view, codes, code } } };
  }, [tried, job, view]);
}
