"use client";
/** Which rows of the points table are in sight: only those are there. */
import { useCallback, useEffect, useRef } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import type { Sorted } from "./rows";

/** Height of a row, and of the heading. */
export const ROW = 28;
const NONE: ReadonlySet<number> = new Set();

export function useScrolling(rows: Int32Array, sort: readonly Sorted[]) {
  const scroller = useRef<HTMLDivElement>(null),
    [scrolled, setScrolled] = useKept("points.scroll", 0);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
    initialOffset: scrolled,
    // The heading stays on top of the rows.
    scrollMargin: ROW,
    scrollPaddingStart: ROW,
  });
  const reveal = useCallback((nth: number) => virtual.scrollToIndex(nth, { align: "auto" }), [virtual]),
    focus = useCallback(() => scroller.current?.focus(), []);

  // Where the table was scrolled to is there again after a visit to another place.
  useEffect(() => {
    const el = scroller.current!;
    return () => setScrolled(el.scrollTop);
  }, [setScrolled]);

  // A table that is sorted anew begins with its first row.
  const sorted = useRef(sort);
  useEffect(() => {
    if (sort === sorted.current) return;
    sorted.current = sort;
    scroller.current!.scrollTop = 0;
  }, [sort]);

  return {
    scroller,
    virtual,
    reveal,
    focus,
    /** Rows that fit in the window. */
    page: () => Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / ROW) - 2),
  };
}

/** What is selected on the sheet comes into sight: a new selection moves the table, not a new sorting. */
export function useSelectedInSight(
  rows: Int32Array,
  reveal: (nth: number) => void,
  ownRef: { current: boolean },
): void {
  const { job, points } = useParts("job", "points"),
    [seen, setSeen] = useKept<ReadonlySet<number>>("points.seen", NONE),
    t = job.points;
  useEffect(() => {
    if (points === seen) return;
    setSeen(points);
    if (ownRef.current) {
      ownRef.current = false;
      return;
    }
    const first = points.size ? rows.findIndex((i) => points.has(t.id[i]!)) : -1;
    if (first >= 0) reveal(first);
  }, [points, seen, rows, t, ownRef, reveal, setSeen]);
}
