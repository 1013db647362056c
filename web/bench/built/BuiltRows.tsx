"use client";
/** The points of an as-built check, those farthest off first; the row leads to the point. */
import { useMemo, useState } from "react";
import { settingOf, type AsBuilt } from "@bramble/core";
import { stationText } from "@bramble/core/math/station-text";
import { formatFixed } from "@bramble/core/math/round";
import { PointButton } from "../../controls/PointButton";
import { useParts } from "../../lib/store";
import { decimalsOf, grouped } from "../../lib/units-shown";
import { told } from "../../sheet/built";
import { Tick } from "../../controls/fields/Tick";

/** Rows shown before more are asked for. */
const FIRST = 100;

/** Of pairs the level alone may be within its tolerance. */
const isBeyond = (a: AsBuilt, k: number) => a.outside[k] === 1 && (!a.pairs || Math.abs(a.level[k]!) > a.tolerance);

export function BuiltRows({ of: a }: { of: AsBuilt }) {
  const { job, view } = useParts("job", "view"),
    [only, setOnly] = useState(false),
    [most, setMost] = useState(FIRST),
    t = job.points,
    d = decimalsOf(job.unit),
    { pairs } = a;
  const order = useMemo(() => {
    const far = (k: number) => {
      const x = Math.max(Math.abs(told(a, k)), pairs?.plan[k] ?? 0);
      return Number.isNaN(x) ? -1 : x;
    };
    return Array.from(a.rows.keys())
      .filter((k) => !only || a.outside[k] === 1)
      .sort((p, q) => far(q) - far(p) || p - q);
  }, [a, only, pairs]);
  const text = (x: number) => (Number.isNaN(x) ? "" : `${x > 0 ? "+" : ""}${formatFixed(x, d).replace("-", "−")}`);
  const isLine = a.against === "line";
  return (
    <>
      <Tick words="Only those beyond the tolerance" on={only} set={setOnly} className="mt-3 flex items-center gap-2" />
      <table className="plain mt-1" aria-label="Points as built">
        <thead>
          <tr>
            <th>Point</th>
            <th>Code</th>
            {pairs && <th>Designed</th>}
            {pairs && ["dE", "dN", "Plan"].map((x) => <th key={x} className="num">{`${x}, ${job.unit}`}</th>)}
            {isLine && <th className="num">Station, {job.unit}</th>}
            {isLine && <th className="num">Right, {job.unit}</th>}
            <th className="num">
              {pairs ? "dZ" : "Above"}, {job.unit}
            </th>
            <th>{isLine || pairs ? "" : "To do"}</th>
          </tr>
        </thead>
        <tbody>
          {order.slice(0, most).map((k) => {
            const row = a.rows[k]!,
              isOut = a.outside[k] === 1;
            return (
              <tr key={t.id[row]}>
                <td>
                  <PointButton row={row} />
                </td>
                <td>{view.codes[view.code[row]!]}</td>
                {pairs && (
                  <td>
                    <PointButton row={pairs.designed[k]!} />
                  </td>
                )}
                {pairs &&
                  [pairs.dE, pairs.dN, pairs.plan].map((column, c) => (
                    <td
                      key={c}
                      className={`num ${c === 2 && column[k]! > pairs.tolerance ? "font-semibold text-amber" : ""}`}
                    >
                      {c === 2 ? formatFixed(column[k]!, d) : text(column[k]!)}
                    </td>
                  ))}
                {isLine && (
                  <td className="num">
                    {Number.isNaN(a.station[k]!)
                      ? ""
                      : stationText(a.station[k]!, job.unit, settingOf(job, "stations"))}
                  </td>
                )}
                {isLine && <td className="num">{text(a.offset[k]!)}</td>}
                <td className={`num ${isBeyond(a, k) ? "font-semibold text-amber" : ""}`}>{text(a.level[k]!)}</td>
                <td className="text-soft">
                  {isOut
                    ? isLine || pairs
                      ? "beyond"
                      : a.level[k]! > 0
                        ? "cut"
                        : "fill"
                    : Number.isNaN(told(a, k)) && !pairs
                      ? "off it"
                      : ""}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {order.length === 0 && <p className="py-2 text-leaf">None is beyond the tolerance.</p>}
      {order.length > most && (
        <button className="button mt-2" onClick={() => setMost(most + 10 * FIRST)}>
          Show more of {grouped(order.length)}
        </button>
      )}
    </>
  );
}
