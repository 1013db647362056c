"use client";
/** A small plan of where incoming points lie beside those of the job and its control: exchanged axes are seen at once. */
import { useMemo } from "react";
import type { Unit } from "@bramble/core";
import type { Extent } from "@bramble/core/points/table";
import { formatFixed } from "@bramble/core/math/round";

const SIZE = 206,
  MOST = 1500;

export interface PlanPoint {
  number: string;
  e: number;
  n: number;
}

export function ExtentPlan({
  incoming,
  existing,
  control,
  unit,
}: {
  incoming: Float64Array;
  existing: Extent | undefined;
  control: readonly PlanPoint[];
  unit: Unit;
}) {
  const plan = useMemo(() => {
    let minE = existing?.minE ?? Infinity,
      maxE = existing?.maxE ?? -Infinity,
      minN = existing?.minN ?? Infinity,
      maxN = existing?.maxN ?? -Infinity;
    for (let i = 0; i < incoming.length; i += 2) {
      minE = Math.min(minE, incoming[i]!);
      maxE = Math.max(maxE, incoming[i]!);
      minN = Math.min(minN, incoming[i + 1]!);
      maxN = Math.max(maxN, incoming[i + 1]!);
    }
    const scale = (SIZE - 20) / Math.max(maxE - minE, maxN - minN, 1e-9);
    const x = (e: number) => SIZE / 2 + (e - (minE + maxE) / 2) * scale,
      y = (n: number) => SIZE / 2 - (n - (minN + maxN) / 2) * scale;
    const step = Math.max(1, Math.ceil(incoming.length / 2 / MOST)) * 2;
    let dots = "";
    for (let i = 0; i < incoming.length; i += step)
      dots += `M${x(incoming[i]!).toFixed(1)} ${y(incoming[i + 1]!).toFixed(1)}h.01`;
    return { minE, maxE, minN, maxN, x, y, dots };
  }, [incoming, existing]);
  if (!(plan.minE <= plan.maxE)) return null;
  return (
    <figure>
      <svg
        width={SIZE}
        height={SIZE}
        role="img"
        aria-label={`Plan of ${incoming.length / 2} incoming points${existing ? " beside the job's points" : ""}${control.length ? ` and ${control.length} control points` : ""}`}
        className="border border-rule bg-sheet"
      >
        {existing && (
          <rect
            x={plan.x(existing.minE)}
            y={plan.y(existing.maxN)}
            width={Math.max(2, plan.x(existing.maxE) - plan.x(existing.minE))}
            height={Math.max(2, plan.y(existing.minN) - plan.y(existing.maxN))}
            fill="var(--rule-soft)"
            stroke="var(--ink-soft)"
            strokeDasharray="3 2"
          />
        )}
        <path
          d={plan.dots}
          stroke="var(--bramble)"
          strokeWidth={incoming.length < 200 ? 4 : 2}
          strokeLinecap="round"
          fill="none"
        />
        {control.map((c) => (
          <path
            key={c.number}
            d={`M${plan.x(c.e)} ${plan.y(c.n) - 4.5}l4.5 7.5h-9z`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.2"
          >
            <title>{c.number}</title>
          </path>
        ))}
      </svg>
      <figcaption className="label mt-1 leading-snug tabular-nums">
        {existing && (
          <>
            dashed: the job so far{control.length > 0 && ", triangles: control"}
            <br />
          </>
        )}
        E {formatFixed(plan.minE, 0)} to {formatFixed(plan.maxE, 0)} {unit}
        <br />N {formatFixed(plan.minN, 0)} to {formatFixed(plan.maxN, 0)} {unit}
      </figcaption>
    </figure>
  );
}
