"use client";
/** What is told of the way of a number list: where it jumps, and where another order is shorter. */
import { useMemo } from "react";
import { lengthText } from "@bramble/core";
import { nearestPath, pathLength, stretchesOf } from "@bramble/core/lines/order";
import { formatFixed } from "@bramble/core/math/round";
import { boxOfPoints } from "../../lib/box";
import { useParts } from "../../lib/store";

/** Where the numbers jump from one stretch to another, and a line for each in its stead. */
export function Jumps({
  rows,
  whole,
  take,
}: {
  rows: readonly number[];
  /** Every number has its point. */
  whole: boolean;
  take: (stretches: readonly (readonly [number, number])[]) => void;
}) {
  const { job, show } = useParts("job", "show"),
    { points: t, unit } = job,
    at = rows.join(" ");
  const stretches = useMemo(() => {
    const list = at === "" ? [] : at.split(" ").map(Number);
    return stretchesOf(
      list.map((i) => t.e[i]!),
      list.map((i) => t.n[i]!),
    );
  }, [at, t]);
  if (stretches.length < 2 || !whole) return null;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-amber">
      {stretches.slice(1, 4).map(([from]) => {
        const [a, b] = [rows[from - 1]!, rows[from]!];
        return (
          <button key={from} type="button" className="underline" onClick={() => show(boxOfPoints(t, [a, b]))}>
            From {t.number[a]} to {t.number[b]} it jumps{" "}
            {lengthText(Math.hypot(t.e[b]! - t.e[a]!, t.n[b]! - t.n[a]!), unit)}
          </button>
        );
      })}
      {stretches.length > 4 && <span>and {stretches.length - 4} more</span>}
      <button type="button" className="button h-6" onClick={() => take(stretches)}>
        One line a stretch
      </button>
    </div>
  );
}

/** Numbers that zigzag, and the nearest order in their stead. */
export function Zigzag({
  rows,
  decimals,
  put,
}: {
  rows: readonly number[];
  decimals: number;
  put: (numbers: string[]) => void;
}) {
  const { job } = useParts("job"),
    { points: t, unit } = job;
  const at = rows.join(" ");
  const shorter = useMemo(() => {
    const list = at === "" ? [] : at.split(" ").map(Number);
    if (list.length < 4 || list.length > 3000) return undefined;
    const e = list.map((i) => t.e[i]!),
      n = list.map((i) => t.n[i]!);
    const given = pathLength(
        e,
        n,
        list.map((_, k) => k),
      ),
      order = nearestPath(e, n),
      length = pathLength(e, n, order);
    return length < 0.9 * given ? { order, length, given } : undefined;
  }, [at, t]);
  if (!shorter) return null;
  return (
    <p className="mt-1 flex items-center gap-2 text-amber">
      <span>
        The numbers zigzag: in nearest order the way is {formatFixed(shorter.length, decimals)} instead of{" "}
        {formatFixed(shorter.given, decimals)} {unit}.
      </span>
      <button type="button" className="button h-6" onClick={() => put(shorter.order.map((k) => t.number[rows[k]!]!))}>
        Take the nearest order
      </button>
    </p>
  );
}
