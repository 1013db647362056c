"use client";
import type { Column } from "./columns";
import type { Sorted } from "./rows";

/** The titles of the columns, which sort by them. */
export function Headings({
  columns,
  sort,
  sortBy,
  width,
  active,
}: {
  columns: readonly Column[];
  sort: readonly Sorted[];
  sortBy: (key: string, more: boolean) => void;
  width: number;
  /** The column whose title has the keyboard; −1 for none. */
  active: number;
}) {
  return (
    <div role="row" className="sticky top-0 z-10 flex h-7 border-b border-rule bg-paper" style={{ width }}>
      {columns.map((c, k) => {
        const at = sort.findIndex((by) => by.key === c.key),
          by = sort[at];
        return (
          <div
            key={c.key}
            id={`heading-${k}`}
            role="columnheader"
            aria-sort={by ? (by.down ? "descending" : "ascending") : "none"}
            style={{ width: c.width }}
            title={`Sort by ${c.title.toLowerCase()}; with Shift after the others`}
            className={`flex cursor-pointer items-center px-2 text-[11.5px] font-medium text-soft hover:text-bramble ${c.numeric ? "justify-end" : ""} ${active === k ? "outline-2 -outline-offset-2 outline-bramble" : ""}`}
            onClick={(event) => sortBy(c.key, event.shiftKey)}
          >
            <span className="truncate">{c.title}</span>
            {by && (
              <span aria-hidden>
                {by.down ? " ↓" : " ↑"}
                {sort.length > 1 && at + 1}
              </span>
            )}
          </div>
        );
      })}
    </div>
  );
}
