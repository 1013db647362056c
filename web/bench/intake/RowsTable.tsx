"use client";
/** The first rows of a file cut into columns, with what each column means over them. */
import type { Column, Look } from "@bramble/core";
import { ColumnMeaning } from "./ColumnMeaning";
import { meaningOf } from "./names";

export function RowsTable({
  look,
  attributes,
  onMeaning,
}: {
  look: Look;
  attributes: readonly string[];
  onMeaning: (k: number, meaning: Column) => void;
}) {
  const columns = look.layout!.columns;
  const width = Math.max(columns.length, look.head?.length ?? 0, ...look.sample.map((r) => r.fields.length));
  const refused = new Set(look.refused.map((r) => r.row));
  return (
    <div className="overflow-x-auto border border-rule">
      <table className="w-full border-collapse" aria-label="First rows of the file">
        <thead>
          <tr className="border-b border-rule bg-paper">
            <th className="num w-10 px-2 text-[11.5px] font-medium text-soft">Row</th>
            {Array.from({ length: width }, (_, k) => (
              <th key={k} className="p-1 text-left font-normal">
                <ColumnMeaning
                  k={k}
                  value={meaningOf(columns[k])}
                  attributes={attributes}
                  head={look.head?.[k]}
                  onChange={(c) => onMeaning(k, c)}
                />
              </th>
            ))}
          </tr>
          {look.head && (
            <tr className="h-6 border-b border-rule-soft text-[11.5px] text-soft">
              <td />
              {Array.from({ length: width }, (_, k) => (
                <th key={k} className="max-w-56 truncate px-2 text-left font-normal">
                  {look.head![k] ?? ""}
                </th>
              ))}
            </tr>
          )}
        </thead>
        <tbody>
          {look.sample.slice(0, 8).map((r) => (
            <tr
              key={r.row}
              className={`h-6 border-b border-rule-soft last:border-0 ${refused.has(r.row) ? "text-amber" : ""}`}
            >
              <td className="num px-2 text-soft">{r.row}</td>
              {Array.from({ length: width }, (_, k) => (
                <td
                  key={k}
                  className={`max-w-56 truncate px-2 tabular-nums ${meaningOf(columns[k]) === "skip" ? "text-soft opacity-60" : ""}`}
                  title={r.fields[k]}
                >
                  {r.fields[k] ?? ""}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
