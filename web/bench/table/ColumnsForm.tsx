"use client";
/** Which columns the table has, and in which order; remembered by this browser. */
import { useMemo, useState } from "react";
import type { Column } from "./columns";
import { unless } from "../../controls/unless";
import { Tick } from "../../controls/fields/Tick";

/** Shown only when chosen: most jobs do without them. */
const HIDDEN_AT_FIRST: ReadonlySet<string> = new Set(["name", "crew", "setup", "time"]);
const KEPT = "points.columns";

/** Keys in their order, with those that are not shown; undefined until something was chosen. */
interface Choice {
  order: string[];
  hidden: string[];
}

function kept(): Choice | undefined {
  try {
    const choice = JSON.parse(localStorage.getItem(KEPT) ?? "null") as Choice | null;
    const isList = (x: unknown) => Array.isArray(x) && x.every((k) => typeof k === "string");
    return choice && isList(choice.order) && isList(choice.hidden) ? choice : undefined;
  } catch {
    return undefined;
  }
}

/** Columns that were never chosen about come at the end, as they are at first. */
export function arrange(columns: readonly Column[], choice: Choice | undefined): { all: Column[]; shown: Column[] } {
  const at = new Map(choice?.order.map((key, k) => [key, k])),
    all = columns.toSorted((a, b) => (at.get(a.key) ?? Infinity) - (at.get(b.key) ?? Infinity) || 0);
  const isHidden = (c: Column) => (at.has(c.key) ? choice!.hidden.includes(c.key) : HIDDEN_AT_FIRST.has(c.key));
  const ordered = choice ? all : [...columns];
  return { all: ordered, shown: ordered.filter((c) => !isHidden(c)) };
}

/** The columns as they were chosen. */
export function useColumns(columns: readonly Column[]) {
  const [choice, setChoice] = useState(kept);
  const arranged = useMemo(() => arrange(columns, choice), [columns, choice]);
  const keep = (all: readonly Column[], shown: readonly Column[]) => {
    const next = { order: all.map((c) => c.key), hidden: all.filter((c) => !shown.includes(c)).map((c) => c.key) };
    localStorage.setItem(KEPT, JSON.stringify(next));
    setChoice(next);
  };
  return { ...arranged, keep };
}

export function ColumnsForm({
  all,
  shown,
  keep,
}: {
  all: readonly Column[];
  shown: readonly Column[];
  keep: (all: readonly Column[], shown: readonly Column[]) => void;
}) {
  const move = (k: number, by: number) => {
    const next = [...all];
    next.splice(k + by, 0, ...next.splice(k, 1));
    keep(
      next,
      next.filter((c) => shown.includes(c)),
    );
  };
  return (
    <section aria-label="Columns of the table" className="mx-4 mb-2 border-l-2 border-bramble px-3">
      <ul className="grid max-h-52 grid-cols-2 gap-x-4 overflow-auto">
        {all.map((c, k) => (
          <li key={c.key} className="flex h-7 items-center gap-1">
            <Tick
              words={<span className="truncate">{c.title}</span>}
              on={shown.includes(c)}
              set={(on) => keep(all, on ? [...shown, c] : shown.filter((s) => s !== c))}
              className="flex min-w-0 flex-1 items-center gap-2"
              without={unless(c.key === "number" && "Points are known by their number: it stays.")}
            />
            <button
              className="button button-plain h-6 px-1"
              aria-label={`${c.title} earlier`}
              {...unless(k === 0 && "It is the first column.")}
              onClick={() => move(k, -1)}
            >
              ↑
            </button>
            <button
              className="button button-plain h-6 px-1"
              aria-label={`${c.title} later`}
              {...unless(k === all.length - 1 && "It is the last column.")}
              onClick={() => move(k, 1)}
            >
              ↓
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
