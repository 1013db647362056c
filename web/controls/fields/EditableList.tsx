"use client";
/** Rows that a person adds, changes in place, moves and takes out: one table for all lists of that kind. */
import type { ReactNode } from "react";

export interface ListColumn<T> {
  title: string;
  is?: "num" | "center";
  width?: string;
  /** The field of a row in this column; `put` changes parts of the row, what becomes undefined or blank is left out. */
  field: (row: T, put: (part: Partial<T>) => void, k: number) => ReactNode;
}

export function EditableList<T extends object>({
  label,
  rows,
  columns,
  put,
  named,
  add,
  moves,
  width = "",
}: {
  label: string;
  rows: readonly T[];
  columns: readonly ListColumn<NoInfer<T>>[];
  put: (rows: T[]) => void;
  /** What a row is called where it is removed or moved. */
  named: (row: T, k: number) => string;
  /** What adds one, and the row that it adds; undefined where rows are added elsewhere. */
  add?: { words: string; row: () => T };
  /** Whether their order is a person's. */
  moves?: boolean;
  width?: string;
}) {
  return (
    <>
      {rows.length > 0 && (
        <table className={`plain [&_td]:px-0.5 [&_th]:px-1 ${width}`} aria-label={label}>
          <thead>
            <tr>
              {columns.map((c) => (
                <th key={c.title} className={`${c.is === "num" ? "num" : ""} ${c.width ?? ""}`}>
                  {c.title}
                </th>
              ))}
              <th>
                <span className="sr-only">What may be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, k) => (
              <tr key={k}>
                {columns.map((c) => (
                  <td key={c.title} className={c.is === "num" ? "num" : c.is === "center" ? "text-center" : ""}>
                    {c.field(row, (part) => put(rows.map((r, i) => (i === k ? said({ ...r, ...part }) : r))), k)}
                  </td>
                ))}
                <td className="text-right whitespace-nowrap">
                  {moves && k > 0 && (
                    <button
                      type="button"
                      className="button button-plain h-6 px-1"
                      aria-label={`${named(row, k)} up`}
                      onClick={() => put(moved(rows, k, -1))}
                    >
                      Up
                    </button>
                  )}
                  <button
                    type="button"
                    className="button button-plain h-6 px-1"
                    title="Remove it"
                    aria-label={`Remove ${named(row, k)}`}
                    onClick={() => put(rows.filter((_, i) => i !== k))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {add && (
        <button type="button" className="button mt-1 h-6" onClick={() => put([...rows, add.row()])}>
          {add.words}
        </button>
      )}
    </>
  );
}

/** A list with one of it moved down, or up by −1. */
export function moved<T>(list: readonly T[], k: number, by: number): T[] {
  const next = [...list];
  next.splice(k + by, 0, ...next.splice(k, 1));
  return next;
}

/** What is blank, or not said, is left out of a row. */
function said<T extends object>(row: T): T {
  return Object.fromEntries(Object.entries(row).filter(([, v]) => v !== undefined && v !== "" && v !== false)) as T;
}
