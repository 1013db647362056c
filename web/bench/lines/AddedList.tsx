"use client";
/** All that was added to the drawing, and texts placed by hand: what has lost its point or line, and what meets. */
import { nameOfAdded } from "@bramble/core/drawing/added/name";
import type { Added } from "@bramble/core/drawing/added/model";
import { findPoints } from "@bramble/core/points/refs";
import { useMemo, useRef } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useParts } from "../../lib/store";
import { openAdded } from "../../lib/subjects";

export function AddedList() {
  const { job, layout, change } = useParts("job", "layout", "change"),
    { added, points, intakes } = job;
  const names = useMemo(() => {
    if (added.length === 0) return new Map<string, string>();
    const { rowOf } = findPoints(points, intakes),
      number = (ref: string) => {
        const row = rowOf(ref);
        return row < 0 ? undefined : points.number[row];
      };
    return new Map(added.map((a) => [a.name, nameOfAdded(a, number)]));
  }, [added, points, intakes]);
  const told = useMemo(() => {
    const of = new Map<string, string>();
    for (const [a, b] of layout?.collisions ?? [])
      for (const [x, y] of [
        [a, b],
        [b, a],
      ] as const)
        of.set(x, `meets ${names.get(y) ?? y}`);
    for (const name of layout?.lost ?? []) of.set(name, "what it speaks of is gone");
    return of;
  }, [layout, names]);
  // What asks for a look stands first.
  const list = useMemo(
    () => [...added].sort((a, b) => Number(told.has(b.name)) - Number(told.has(a.name))),
    [added, told],
  );
  const scroller = useRef<HTMLDivElement>(null),
    virtual = useVirtualizer({
      count: list.length,
      getScrollElement: () => scroller.current,
      estimateSize: () => 28,
      overscan: 10,
    });
  if (list.length === 0) return null;
  return (
    <div ref={scroller} className="mt-1 max-h-36 overflow-auto border-t border-rule">
      <ul aria-label="Added to the drawing" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const a = list[index]!,
            name = names.get(a.name)!,
            tell = told.get(a.name) ?? (isHidden(a) ? "hidden" : undefined);
          return (
            <li
              key={a.name}
              className="absolute inset-x-0 flex h-7 items-center gap-3"
              style={{ transform: `translateY(${start}px)` }}
            >
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left first-letter:uppercase"
                onClick={() => openAdded(a.name)}
              >
                {name}
              </button>
              {tell && (
                <span className={`max-w-56 truncate ${told.has(a.name) ? "text-amber" : "text-soft"}`} title={tell}>
                  {tell}
                </span>
              )}
              <button
                type="button"
                className="button button-plain h-6"
                aria-label={`${"text" in a ? "Put back" : "Remove"} ${name}`}
                onClick={() => void change({ type: "named", part: "added", name: a.name, old: a, new: null })}
              >
                {"text" in a ? "Put back" : "Remove"}
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

const isHidden = (a: Added) => "text" in a && a.hidden === true;
