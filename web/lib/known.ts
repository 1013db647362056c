/**
 * The figures of a job that lists and headings show, small enough to be kept in the browser: while what they follow from
 * is being made, at a change or when the job is opened again, they are the last that were known, and marked so.
 */
import { homeOf, type PlaceName } from "./places";
import type { View } from "./view";

export interface ComparisonKnown {
  name: string;
  cut: number;
  fill: number;
  net: number;
  /** Of storage what it holds at its highest level. */
  holds?: number;
}

export interface CheckKnown {
  name: string;
  count: number;
  outside: number;
  mean: number;
  rms: number;
}

export interface Known {
  lines: number;
  byHand: number;
  /** Findings that are not accepted, and those of them that are no mere notes, in all and by place. */
  open: number;
  serious: number;
  at: Partial<Record<PlaceName, number>>;
  sets: { name: string; points: number }[];
  comparisons: ComparisonKnown[];
  checks: CheckKnown[];
}

const ofViews = new WeakMap<View, Known>();

/** The figures of a view, made once for it. */
export function knownOf(view: View): Known {
  let known = ofViews.get(view);
  if (!known) ofViews.set(view, (known = madeOf(view)));
  return known;
}

function madeOf(view: View): Known {
  const open = view.findings.filter((f) => f.accepted === undefined),
    serious = open.filter((f) => f.severity !== "note"),
    at: Known["at"] = {};
  for (const f of serious) at[homeOf(f.kind)] = (at[homeOf(f.kind)] ?? 0) + 1;
  return {
    lines: view.lines.length,
    byHand: view.lines.filter((l) => l.hand !== undefined && !l.companion).length,
    open: open.length,
    serious: serious.length,
    at,
    sets: view.sets.flatMap(({ name, value }) => (value === undefined ? [] : [{ name, points: value }])),
    comparisons: view.volumes.flatMap(({ name, value: v }) =>
      v ? [{ name, cut: v.cut, fill: v.fill, net: v.net, ...(v.storage && { holds: v.storage.at(-1)!.volume }) }] : [],
    ),
    checks: view.differences.flatMap(({ name, value: v }) =>
      v
        ? [
            {
              name,
              count: v.figures.count,
              outside: v.outside.reduce((sum, o) => sum + o, 0),
              mean: v.figures.mean,
              rms: v.figures.rms,
            },
          ]
        : [],
    ),
  };
}

const keyOf = (jobId: number) => `known ${jobId}`;
/** No more than so many characters are kept of one job. */
const MOST = 100_000;

/** What was known of a job when it was open last in this browser. */
export function keptKnown(jobId: number): Known | undefined {
  try {
    const known = JSON.parse(localStorage.getItem(keyOf(jobId)) ?? "null") as Known | null;
    const lists = known && [known.sets, known.comparisons, known.checks];
    return known && typeof known.lines === "number" && known.at && lists?.every(Array.isArray) ? known : undefined;
  } catch {
    return undefined;
  }
}

export function keepKnown(jobId: number, known: Known): void {
  const text = JSON.stringify(known);
  try {
    if (text.length <= MOST) localStorage.setItem(keyOf(jobId), text);
  } catch {
    // A browser that keeps nothing shows no figures until they are made.
  }
}
